import { Box, chakra } from "@chakra-ui/react";
import { percent } from "../../../lib/format/numbers";
import { lengthText } from "../../../lib/format/spelling";
import { ShotField } from "../../../shots/ShotField";
import type { ShotWork } from "../../../shots/useShot";
import { Figure, Figures } from "../../../ui/layout/Figure";
import { Row, Section } from "../../../ui/layout/Section";
import { Cell, Table } from "../../../ui/layout/Table";
import { LightSketch } from "../finder/LightSketch";

/** The bench in millimetres: field, working distance, ways to get there, and what lies behind. */
export function CloseUpPanel({ shot }: ShotWork) {
  const close = shot.plan.frame.close_up;
  if (!close) return null;
  return (
    <>
      <Section title="Close up">
        <Row least="120px">
          <ShotField label="Magnification" name="magnification" optional unit=":1" step={0.1} />
        </Row>
        <Figures>
          <Figure
            name="the frame holds"
            value={`${close.field_width_mm.toFixed(1)} × ${close.field_height_mm.toFixed(1)}`}
            unit="mm"
            size="heading"
          />
          <Figure
            name={close.working_known ? "before the lens" : "from the principal plane"}
            term="working distance"
            value={close.working_mm.toFixed(0)}
            unit="mm"
            size="heading"
          />
        </Figures>
      </Section>
      <Section
        title="Behind the subject"
        aside={<Box fontSize="small">{close.background_melts ? "melts" : "stays to be read"}</Box>}
      >
        <Figures>
          <Figure
            name={close.background_name ?? "nothing noted"}
            value={
              close.background_times === null
                ? "∞"
                : close.background_times.toFixed(close.background_times < 10 ? 1 : 0)
            }
            unit="× as far"
            size="heading"
          />
          <Figure
            name="its blur, of the width"
            value={percent(Math.min(9.99, close.background_blur_share))}
            size="heading"
          />
          {close.background_width_mm !== null && (
            <Figure name="of it the frame holds" value={lengthText(close.background_width_mm / 1000)} size="heading" />
          )}
        </Figures>
      </Section>
      <Section title="Light around it">
        <LightSketch sketch={close.sketch} />
      </Section>
      {close.drawn_mm !== null && (
        <Section
          title="Bellows"
          term="extension"
          aside={<Box fontSize="small">{close.drawn_mm.toFixed(0)} mm from lens to film</Box>}
        >
          <Table label="What the draw of the bellows costs" heads={["Counted by", "factor", "costs"]}>
            {close.drawn.map((way) => (
              <tr key={way.words}>
                <Cell fontFamily="body">{way.words}</Cell>
                <Cell>{way.factor.toFixed(2)}×</Cell>
                <Cell>{way.stops.toFixed(2)} EV</Cell>
              </tr>
            ))}
          </Table>
        </Section>
      )}
      <Section title="Ways to this magnification" term="magnification">
        <Table
          label="Ways to this magnification"
          heads={["With", "reaches", "working distance", "costs", "background"]}
        >
          {close.setups.map((setup) => (
            <chakra.tr
              key={setup.name}
              color={setup.reached ? "fg" : "muted"}
              data-setup={setup.reached ? "reached" : "short"}
            >
              <Cell fontFamily="body">{setup.name}</Cell>
              <Cell>
                {setup.smallest > 0 ? `${setup.smallest.toFixed(2)} to ` : ""}
                {setup.largest.toFixed(2)}:1{setup.reached ? "" : " ▲"}
              </Cell>
              <Cell>{setup.working_mm.toFixed(0)} mm</Cell>
              <Cell>{setup.cost_stops.toFixed(1)} EV</Cell>
              <Cell>{setup.background_deg.toFixed(1)}°</Cell>
            </chakra.tr>
          ))}
        </Table>
        <Box fontSize="small" color="muted">
          Room is {close.working_known ? "from the front of the lens" : "from the principal plane"}; background is the
          angle that is seen behind: a narrow one holds less of it. ▲ does not come to it.
        </Box>
      </Section>
    </>
  );
}
