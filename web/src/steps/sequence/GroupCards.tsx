import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { memo, useState } from "react";
import type { Schemas } from "../../api/client";
import { framePicturesQuery } from "../../api/queries";
import { plural } from "../../lib/format/spelling";
import { useAnswered } from "../../shots/useAnswered";
import type { Shot } from "../../shots/useShot";
import { Button } from "../../ui/form/Button";
import { Mark } from "../../ui/layout/Mark";

type Group = Schemas["PlannedGroupOut"];
type Frame = Schemas["SequenceFrameOut"];

// Groups of more frames than this are folded until one looks into them.
const FOLDED_FROM = 9;
const CARD = 168;
const GAP = 7;

/** The frames by group in the order in which they are taken, each with its small picture; a large group is folded into one card. */
export function GroupCards({ shot }: { shot: Shot }) {
  const { sequence } = shot.plan;
  const pictures = useQuery(framePicturesQuery(shot.id, useAnswered(shot.id))).data?.pictures ?? [];
  const [turned, setTurned] = useState<Record<number, boolean>>({});
  const taken = sequence.groups
    .filter((group) => group.taken !== null)
    .sort((one, other) => (one.taken ?? 0) - (other.taken ?? 0));
  const pictureOf = (frame: Frame) =>
    pictures.find(
      (item) => item.aim_label === frame.aim_label && Math.abs(item.brightest_ev - frame.brightest_ev) < 0.01,
    )?.picture;
  return (
    <Box
      as="ol"
      flex="1"
      minH="0"
      overflowY="auto"
      display="flex"
      flexWrap="wrap"
      alignContent="flex-start"
      gap="10px 14px"
      pr="4px"
      tabIndex={-1}
      css={{ scrollbarWidth: "thin" }}
    >
      {taken.map((group) => {
        const frames = sequence.frames.filter((frame) => frame.group === group.at);
        const folded = turned[group.at] ?? frames.length >= FOLDED_FROM;
        // Small groups stand side by side.
        const width = folded ? 2 * CARD + GAP : frames.length * (CARD + GAP) - GAP;
        return (
          <Box
            as="li"
            key={group.at}
            data-group={group.at}
            borderTop="1px solid"
            borderColor="line"
            pt="5px"
            width={taken.length > 1 ? `min(100%, ${width}px)` : "100%"}
          >
            <GroupHead group={group} folded={folded} turn={() => setTurned({ ...turned, [group.at]: !folded })} />
            <Box
              display="grid"
              gridTemplateColumns={`repeat(auto-fill, minmax(min(${CARD}px, 100%), 1fr))`}
              gap={`${GAP}px`}
              mt="5px"
            >
              {folded ? (
                <Folded group={group} frames={frames} picture={frames[0] && pictureOf(frames[0])} />
              ) : (
                frames.map((frame) => <Card key={frame.number} frame={frame} picture={pictureOf(frame)} />)
              )}
            </Box>
          </Box>
        );
      })}
    </Box>
  );
}

function GroupHead({ group, folded, turn }: { group: Group; folded: boolean; turn: () => void }) {
  return (
    <Box display="flex" alignItems="baseline" gap="9px" flexWrap="wrap" fontSize="body">
      <Box as="span" fontWeight="650">
        {group.called}
      </Box>
      {group.mark && group.mark !== "holds" && (
        <Box as="span" alignSelf="center" display="inline-flex">
          <Mark mark={group.mark} size={5} />
        </Box>
      )}
      <Box as="span" color="muted">
        {plural(group.frames, "frame")}
        {group.starts_clock
          ? `, from ${group.starts_clock}`
          : group.starts_label
            ? `, after ${group.starts_label}`
            : ""}
        {group.lasts_label ? `, takes ${group.lasts_label}` : ""}
        {group.filters.length > 0 && `, ${group.filters.join(" + ")}`}
      </Box>
      <Box as="span" flex="1" />
      {group.frames > 1 && (
        <Button look="quiet" fontSize="small" aria-expanded={!folded} onClick={turn}>
          {folded ? `show all ${group.frames}` : "fold"}
        </Button>
      )}
    </Box>
  );
}

/** One frame: number, when it opens, its picture in its own tones, and what is set. */
const Card = memo(function Card({ frame, picture }: { frame: Frame; picture: string | undefined }) {
  return (
    <Box
      data-frame={frame.number}
      border="1px solid"
      borderColor={frame.exposure_index === 0 ? "edge" : "line"}
      bg="panel"
      // Hundreds of them: those out of sight are not laid out.
      css={{ contentVisibility: "auto", containIntrinsicSize: "auto 158px" }}
    >
      <Picture picture={picture} />
      <Box px="8px" py="4px" lineHeight="1.3">
        <Box display="flex" justifyContent="space-between" gap="6px" fontFamily="mono" fontSize="small" color="muted">
          <span>{frame.number}</span>
          {frame.aim_label && <Box color="haze">{frame.aim_label}</Box>}
          <span>{frame.start_label}</span>
        </Box>
        <Box display="flex" justifyContent="space-between" alignItems="baseline" fontFamily="mono">
          <Box fontSize="heading" fontWeight="600">
            {frame.shutter_label}
          </Box>
          <Box fontSize="small">{frame.focus_label}</Box>
        </Box>
        <Box display="flex" justifyContent="space-between" fontFamily="mono" fontSize="small" color="muted">
          <span>
            {frame.f_number_label}, ISO {frame.iso}
          </span>
          <Box as="span" fontFamily="body">
            {frame.look}
          </Box>
        </Box>
      </Box>
    </Box>
  );
});

/** A whole group in one card: what is the same in all of its frames, and from where to where the rest goes. */
function Folded({ group, frames, picture }: { group: Group; frames: Frame[]; picture: string | undefined }) {
  return (
    <Box
      gridColumn="1 / -1"
      data-folded={group.at}
      display="grid"
      gridTemplateColumns="148px 1fr"
      gap="12px"
      border="1px solid"
      borderColor="edge"
      bg="panel"
      // The edges of the cards under it.
      boxShadow="3px 3px 0 -1px var(--lr-colors-panel), 3px 3px 0 0 var(--lr-colors-line), 6px 6px 0 -1px var(--lr-colors-panel), 6px 6px 0 0 var(--lr-colors-line)"
      mr="7px"
      mb="7px"
    >
      <Picture picture={picture} />
      <Box display="grid" alignContent="center" gap="2px" py="5px" fontSize="body">
        <Box fontFamily="mono" fontSize="heading" fontWeight="600">
          {group.first} to {group.last}
        </Box>
        <Box>
          <Box as="span" color="muted">
            focus{" "}
          </Box>
          <Box as="span" fontFamily="mono">
            {group.focus_words}
          </Box>
        </Box>
        <Box>
          <Box as="span" fontFamily="mono">
            {frames[0]?.f_number_label}, {group.exposure_words}
          </Box>
          {group.look && <Box as="span" color="muted">{`, ${group.look}`}</Box>}
        </Box>
      </Box>
    </Box>
  );
}

function Picture({ picture }: { picture: string | undefined }) {
  return (
    <Box bg="low" aspectRatio="1.5" lineHeight="0" overflow="hidden" display="flex" justifyContent="center">
      {picture && (
        // The picture lies on its white and darkens it: red alone at night.
        <Box bg="tonal" height="100%">
          <img src={picture} alt="" style={{ height: "100%", mixBlendMode: "multiply" }} />
        </Box>
      )}
    </Box>
  );
}
