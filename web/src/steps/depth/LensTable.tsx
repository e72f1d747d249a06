import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { lensesQuery } from "../../api/queries";
import { percentInUse } from "../../lib/format/numbers";
import { plural } from "../../lib/format/spelling";
import { useAnswered } from "../../shots/useAnswered";
import type { ShotWork } from "../../shots/useShot";
import { ink } from "../../theme/system";
import { Button } from "../../ui/form/Button";
import { Take } from "../../ui/form/Take";
import { Section } from "../../ui/layout/Section";
import { Failed } from "../../ui/layout/States";

type LensChoice = Schemas["LensChoiceOut"];
const ROOM_WIDE = 96;

/** Every lens of the bag for this subject at this size: how far, how much room, what lies behind, how many frames. */
export function LensTable({ shot, set }: ShotWork) {
  const [open, setOpen] = useState(false);
  const query = useQuery({ ...lensesQuery(shot.id, useAnswered(shot.id)), enabled: open });
  const choices = query.data?.choices ?? [];
  const furthest = Math.max(1, ...choices.filter((item) => item.reached).map((item) => item.object_mm));
  return (
    <Section
      title="Which lens"
      fold="all lenses of the bag for this picture"
      aside={
        <Button look="quiet" py="0" fontSize="small" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? "close" : "compare the bag"}
        </Button>
      }
    >
      {open && query.error && <Failed error={query.error} retry={() => void query.refetch()} />}
      {open && query.data && (
        <>
          <Box fontSize="small" color="muted">
            {query.data.words}
          </Box>
          {choices.length > 0 && (
            <Box as="ul" aria-label="Lenses side by side">
              {choices.map((item) => (
                <LensRow
                  key={`${item.lens_id} ${item.focal_mm} ${item.rig}`}
                  item={item}
                  furthest={furthest}
                  take={() => set({ lens_id: item.lens_id, focal_mm: item.focal_mm })}
                />
              ))}
            </Box>
          )}
        </>
      )}
    </Section>
  );
}

function LensRow({ item, furthest, take }: { item: LensChoice; furthest: number; take: () => void }) {
  return (
    <Box
      as="li"
      py="5px"
      borderTop="1px solid"
      borderColor="line"
      color={item.reached ? "fg" : "muted"}
      bg={item.in_use ? "raised" : "transparent"}
      data-lens={item.reached ? "reached" : "short"}
    >
      <Box display="flex" justifyContent="space-between" gap="10px">
        <Take taken={item.in_use} possible={item.reached} onTake={take}>
          {item.name}, at <span className="figure">{item.focal_mm}</span> mm{item.rig && `, with ${item.rig}`}
        </Take>
        {item.reached ? (
          <Box as="span" whiteSpace="nowrap" fontFamily="mono" fontSize="small">
            {item.frames === null ? "none hold" : plural(item.frames, "frame")}, {item.f_number_label}
          </Box>
        ) : (
          <Box as="span" whiteSpace="nowrap" fontFamily="mono" fontSize="small">
            {item.smallest > 0 ? `${item.smallest.toFixed(2)} ` : ""}to {item.largest.toFixed(2)}:1
          </Box>
        )}
      </Box>
      {item.reached && (
        <Box
          display="grid"
          gridTemplateColumns="170px 1fr"
          gap="10px"
          fontSize="small"
          color="muted"
          alignItems="center"
        >
          <Room item={item} furthest={furthest} />
          <span>
            {item.working_label ? `${item.working_label} of room, ` : ""}
            {item.background_label} of background, blurred over {percentInUse(Math.min(9.99, item.blur_share))} of the
            width
            {item.cost_stops >= 0.05 ? `, costs ${item.cost_stops.toFixed(1)} EV` : ""}
          </span>
        </Box>
      )}
    </Box>
  );
}

/** The distance as a line to one scale: the subject at its left, the lens at its end, a tick where its front rim stands. */
function Room({ item, furthest }: { item: LensChoice; furthest: number }) {
  const at = (mm: number) => 4 + (Math.max(0, mm) / furthest) * (ROOM_WIDE - 12);
  return (
    <Box display="flex" gap="6px" alignItems="center" whiteSpace="nowrap">
      <svg width={ROOM_WIDE} height={16} aria-hidden="true">
        <circle cx={4} cy={8} r={2.5} fill={ink("accent")} />
        <line x1={4} x2={at(item.object_mm)} y1={8} y2={8} stroke={ink("edge")} />
        {item.working_mm !== null && item.working_mm > 0 && (
          <rect
            x={at(item.working_mm)}
            width={Math.max(1, at(item.object_mm) - at(item.working_mm))}
            y={3}
            height={10}
            fill={ink("muted")}
          />
        )}
        <line x1={at(item.object_mm)} x2={at(item.object_mm)} y1={1} y2={15} stroke={ink("fg")} strokeWidth={2} />
      </svg>
      {item.object_label}
    </Box>
  );
}
