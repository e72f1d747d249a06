import { Box } from "@chakra-ui/react";
import { OPTIONS } from "../../../api/facts";
import type { ShotWork } from "../../../shots/useShot";
import { Button } from "../../../ui/form/Button";
import { Choice } from "../../../ui/form/Field";
import { Mark, type MarkName } from "../../../ui/layout/Mark";
import { Section } from "../../../ui/layout/Section";

/** What the composition does, as verdicts with figures; each can be let be. */
export function FrameReadings({ shot, set, asked }: ShotWork) {
  const { readings } = shot.plan.frame;
  const toggle = (key: string) => {
    const next = new Set((asked().muted_readings as string[] | undefined) ?? shot.facts.muted_readings);
    if (!next.delete(key)) next.add(key);
    set({ muted_readings: [...next].sort() });
  };
  return (
    <Section title="Reading the frame" term="clearance">
      <Choice
        label="Guide"
        field="guide"
        value={shot.facts.guide}
        options={OPTIONS.Guide}
        choose={(guide) => set({ guide })}
      />
      {readings.length === 0 && (
        <Box color="muted">Nothing to read: the frame holds a single subject, or nothing yet.</Box>
      )}
      <Box as="ul" display="grid" gap="3px">
        {readings.map((reading) => (
          <Box
            as="li"
            key={reading.key}
            data-reading={reading.key}
            display="grid"
            gridTemplateColumns="18px minmax(0, 1fr) auto"
            gap="7px"
            alignItems="baseline"
            fontSize="body"
            opacity={reading.muted ? 0.65 : 1}
          >
            <Mark mark={reading.muted ? "unsaid" : (reading.mark as MarkName)} size={5} />
            <span>{reading.text}</span>
            {(reading.mark !== "holds" || reading.muted) && (
              <Button
                look="quiet"
                py="0"
                fontSize="small"
                aria-pressed={reading.muted}
                onClick={() => toggle(reading.key)}
              >
                {reading.muted ? "say it again" : "I want it so"}
              </Button>
            )}
          </Box>
        ))}
      </Box>
    </Section>
  );
}
