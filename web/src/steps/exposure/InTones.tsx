import { Box } from "@chakra-ui/react";
import { useSearchParams } from "react-router";
import type { Schemas } from "../../api/client";
import { OPTIONS } from "../../api/facts";
import { ShotField } from "../../shots/ShotField";
import type { Patch, ShotWork } from "../../shots/useShot";
import type { Toned } from "../../tones/useTones";
import { Button } from "../../ui/form/Button";
import { Select } from "../../ui/form/Field";
import { Take } from "../../ui/form/Take";
import { MarkShape, markWords } from "../../ui/layout/Mark";
import { Row, Section } from "../../ui/layout/Section";
import { Cell, Table } from "../../ui/layout/Table";

type Way = Schemas["SkyWayOut"];

const takenAs = ({ bracket, bracket_count, filters }: Way): Patch => ({
  bracket,
  filters,
  ...(bracket_count === null ? {} : { bracket_count }),
});

/** What the picture in tones says, and what it is made from. */
export function InTones({ shot, set, toned, through }: ShotWork & { toned: Toned; through: string | undefined }) {
  const [, setParams] = useSearchParams();
  const { tones } = toned;
  const { facts } = shot;
  return (
    <Section
      title="What the picture says"
      fold="range, histogram, graduated filter"
      aside={
        tones.graduated && !tones.graduated.on_skyline ? (
          <Button look="quiet" fontSize="small" onClick={() => set({ graduated_at: null, graduated_tilt_deg: 0 })}>
            edge onto the skyline
          </Button>
        ) : undefined
      }
    >
      <Box as="ul" fontSize="body" display="grid" gap="5px" data-tone-reasons="">
        {tones.reasons.map((reason) => (
          <Box as="li" key={reason.text} display="grid" gridTemplateColumns="18px 1fr" alignItems="start">
            <svg width="14" height="18" viewBox="-7 -10 14 18" role="img" aria-label={markWords(reason.severity)}>
              <MarkShape mark={reason.severity} size={4.5} />
            </svg>
            <span>{reason.text}</span>
          </Box>
        ))}
      </Box>
      {tones.compensation_to_the_right !== null &&
        Math.abs(tones.compensation_to_the_right - facts.compensation_ev) >= 0.3 && (
          <Box>
            <Button
              onClick={() => set({ compensation_ev: Math.round(100 * (tones.compensation_to_the_right ?? 0)) / 100 })}
              fontSize="small"
            >
              expose to the right: {tones.compensation_to_the_right >= 0 ? "+" : "−"}
              {Math.abs(tones.compensation_to_the_right).toFixed(1)} EV
            </Button>
          </Box>
        )}
      {tones.ways.length > 0 && (
        <Table label="Ways to hold sky and land" heads={["Sky and land by", "frames", "takes", "risk"]}>
          {tones.ways.map((way) => (
            <tr key={way.name}>
              <Cell fontFamily="body">
                <Take taken={way.chosen} onTake={() => set(takenAs(way))}>
                  {way.holds ? "● " : "▲ "}
                  {way.name}
                </Take>
              </Cell>
              <Cell>{way.frames}</Cell>
              <Cell whiteSpace="nowrap">{way.total_label}</Cell>
              <Cell fontFamily="body">{way.risk}</Cell>
            </tr>
          ))}
        </Table>
      )}
      <Row least="120px">
        <Select
          label="The ground is"
          field="ground_material"
          value={facts.ground_material}
          options={OPTIONS.Material}
          choose={(ground_material) => ground_material && set({ ground_material })}
        />
        <Select
          label="In black and white, through"
          value={tones.monochrome.find((item) => item.filter === through)?.filter ?? null}
          options={OPTIONS.MonochromeFilter}
          empty="no filter"
          choose={(filter) =>
            setParams(filter ? { view: "picture", through: filter } : { view: "picture" }, { replace: true })
          }
        />
        {tones.graduated && (
          <>
            <ShotField
              label="Edge of the filter"
              name="graduated_at"
              optional
              placeholder={tones.graduated.at.toFixed(2)}
              unit="of height"
              step={0.01}
            />
            <ShotField label="Tilt" name="graduated_tilt_deg" unit="°" step={0.5} />
          </>
        )}
      </Row>
    </Section>
  );
}
