import { Box } from "@chakra-ui/react";
import type { Schemas } from "../../api/client";
import { labelOf } from "../../lib/format/labels";
import { percent } from "../../lib/format/numbers";
import { heightText } from "../../lib/format/spelling";
import { Working } from "../../shots/Working";
import { Figure, Figures } from "../../ui/layout/Figure";
import { Section } from "../../ui/layout/Section";

const signed = (value: number, digits: number) => `${value < 0 ? "−" : ""}${Math.abs(value).toFixed(digits)}`;

/** The light at the chosen time, in figures. */
export function LightFigures({ light, ratio }: { light: Schemas["LightOut"]; ratio: number | null | undefined }) {
  if (light.ev100 === null || light.sun_altitude_deg === null) return null;
  const words = light.sun_hidden ? "behind the land" : light.direction ? `${light.direction} light` : "sky light";
  return (
    <Section
      title={light.band ? labelOf("Band", light.band) : "Light"}
      fold={`EV ${light.ev100.toFixed(1)}, ${words}`}
      aside={<Box fontFamily="mono">{light.window_label}</Box>}
    >
      <Figures>
        <Figure name="sun altitude" value={`${signed(light.sun_altitude_deg, 1)}°`} />
        <Figure name="sun bearing" value={`${light.sun_azimuth_deg?.toFixed(0)}°`} unit={light.sun_compass ?? ""} />
        <Figure
          name="on the subject"
          value={
            <Box as="span" fontFamily="body" fontSize="lead" whiteSpace="normal">
              {words}
            </Box>
          }
        />
        <Figure
          name={`light here, ${light.ev_source}`}
          value={<Working of="light">{`EV ${light.ev100.toFixed(1)}`}</Working>}
          {...(light.ev_words ? { unit: light.ev_words } : {})}
        />
        <Figure name="drift" value={signed(light.drift_stops_per_min ?? 0, 2)} unit="stop/min" />
        {ratio && !light.sun_hidden && (
          <Figure name="shadows" value={`${ratio > 99 ? ">99" : ratio.toFixed(1)}×`} unit="height" />
        )}
        {light.tide_m !== null && (
          <Figure
            name="tide"
            value={heightText(light.tide_m)}
            unit={`${(light.tide_rate_m_per_h ?? 0) < -0.05 ? "falling" : (light.tide_rate_m_per_h ?? 0) > 0.05 ? "rising" : "at a stand"}`}
          />
        )}
        <Figure
          name={light.moon_words ?? "moon"}
          value={light.moon_altitude_deg !== null ? `${signed(light.moon_altitude_deg, 0)}°` : "–"}
          unit={light.moon_compass ?? ""}
        />
      </Figures>
    </Section>
  );
}

/** Every event of sun and moon on a day, and why one is missing. */
export function EventsOfDay({
  day,
  shotDay,
}: {
  day: Schemas["LightDayOut"];
  shotDay?: Schemas["ShotDayOut"] | undefined;
}) {
  const events = [...day.events, ...day.moon.events].sort((one, other) => one.seconds - other.seconds);
  return (
    <Section
      title="Sun and moon that day"
      fold="rise, set, twilight, phase"
      aside={<Box fontSize="small">{`${day.moon.words}, ${percent(day.moon.fraction)} lit`}</Box>}
    >
      {day.absence_words && <Box>{day.absence_words}</Box>}
      {day.moon.absence_words && <Box>{day.moon.absence_words}</Box>}
      {shotDay?.subject_name && day.has_skyline && (
        <Box fontSize="body">
          {shotDay.subject_lit.length
            ? `The sun is on ${shotDay.subject_name} from ${shotDay.subject_lit.map((span) => `${span.start_clock} to ${span.end_clock}`).join(" and ")}.`
            : `The sun does not reach ${shotDay.subject_name} on this day.`}
        </Box>
      )}
      {[...day.land_words, ...day.missing_words].map((words) => (
        <Box key={words} fontSize="body">
          {words}
        </Box>
      ))}
      <Box display="grid" gridTemplateColumns="repeat(auto-fill, minmax(190px, 1fr))" columnGap="22px">
        {events.map((event) => (
          <Box
            key={event.kind + event.time_utc}
            display="grid"
            gridTemplateColumns="1fr auto 4.5ch"
            gap="8px"
            fontSize="body"
            py="1px"
          >
            <Box as="span" color={["sunrise", "sunset", "moonrise", "moonset"].includes(event.kind) ? "fg" : "muted"}>
              {event.words}
            </Box>
            <Box as="span" fontFamily="mono">
              {event.clock}
            </Box>
            <Box as="span" fontFamily="mono" color="muted" textAlign="right">
              {event.azimuth_deg.toFixed(0)}°
            </Box>
          </Box>
        ))}
      </Box>
      {!events.length && <Box color="muted">No event of sun or moon falls into this day.</Box>}
    </Section>
  );
}
