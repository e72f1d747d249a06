import { Box } from "@chakra-ui/react";
import type { Schemas } from "../../api/client";
import { labelOf } from "../../lib/format/labels";
import type { ShotWork } from "../../shots/useShot";
import { Button } from "../../ui/form/Button";
import { Section } from "../../ui/layout/Section";
import { saveCalendar } from "./Windows";

/** On which days of a year the shot works altogether. */
export function Season({
  shot,
  set,
  days,
  busy,
  words,
  search,
}: Pick<ShotWork, "shot" | "set"> & {
  days: Schemas["SeasonDayOut"][];
  busy: boolean;
  words: string | undefined;
  search: (withAlignment: boolean) => Promise<void>;
}) {
  return (
    <Section title="When does this shot work?">
      <Box fontSize="small" color="muted">
        {shot.facts.wanted_light
          ? `Wanted: ${labelOf("LightKind", shot.facts.wanted_light)}`
          : "No light is wanted yet: say so under “The day”"}
        {shot.facts.water_low_m !== null || shot.facts.water_high_m !== null ? ", with its water" : ""}.
      </Box>
      <Box display="flex" gap="8px" flexWrap="wrap">
        <Button onClick={() => void search(false)} disabled={busy}>
          Go through the year
        </Button>
        <Button onClick={() => void search(true)} disabled={busy}>
          … with the alignment above
        </Button>
        {days.length > 0 && (
          <Button
            look="quiet"
            onClick={() =>
              void saveCalendar(
                shot.id,
                days
                  .flatMap((day) => day.spans)
                  .slice(0, 400)
                  .map((span) => ({ ...span, kind: shot.facts.wanted_light ?? "alignment" })),
              )
            }
          >
            save for the calendar
          </Button>
        )}
      </Box>
      {words && (
        <Box role="status" fontSize="body">
          {words}
        </Box>
      )}
      {days.length > 0 && (
        <Box as="ul" maxH="190px" overflowY="auto" aria-label="Days on which it works" css={{ scrollbarWidth: "thin" }}>
          {days.map((day) => (
            <Box
              as="li"
              key={day.date_local}
              display="grid"
              gridTemplateColumns="1fr auto auto"
              gap="10px"
              fontSize="small"
              alignItems="baseline"
              borderBottom="1px solid"
              borderColor="line"
              py="2px"
            >
              <span>
                {day.date_words}{" "}
                <Box as="span" color="muted">
                  {day.notes.join("; ")}
                </Box>
              </span>
              <Box as="span" fontFamily="mono">
                {day.spans.map((span) => `${span.start_clock}–${span.end_clock}`).join(" ")}
              </Box>
              <Button
                look="quiet"
                py="0"
                fontSize="small"
                onClick={() => {
                  const span = day.spans[0];
                  if (span) set({ time_utc: span.start_utc, window_end_utc: span.end_utc });
                }}
              >
                put into the shot
              </Button>
            </Box>
          ))}
        </Box>
      )}
    </Section>
  );
}
