import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { lightQuery } from "../../api/queries";
import { Button } from "../../parts/Button";
import { Field } from "../../parts/Field";
import { Figure, Figures } from "../../parts/Figure";
import { Row, Section } from "../../parts/Section";
import { Empty, Failed, Pending } from "../../parts/States";
import { StepLayout } from "../../shot/StepLayout";
import type { ShotWork } from "../../shot/useShot";
import { FallOfLight } from "./FallOfLight";

const signed = (value: number, digits: number) => `${value < 0 ? "−" : ""}${Math.abs(value).toFixed(digits)}`;

/** Step 2: the day's light, and the time of the shot on it. */
export default function LightPage({ shot, change, set }: ShotWork) {
  const { facts, place, plan } = shot;
  const light = useQuery({
    ...lightQuery(place?.location_id ?? 0, facts.date_local ?? ""),
    enabled: Boolean(place && facts.date_local),
  });
  const day = light.data;
  const shift = (days: number) => {
    if (!facts.date_local) return;
    const next = new Date(`${facts.date_local}T12:00:00Z`);
    next.setUTCDate(next.getUTCDate() + days);
    set({ date_local: next.toISOString().slice(0, 10) });
  };
  return (
    <StepLayout
      drawing={
        !place ? (
          <Empty>Light needs a place: choose a viewpoint in step 1.</Empty>
        ) : !facts.date_local ? (
          <Empty>Choose a date at the right to see the light of that day.</Empty>
        ) : light.error ? (
          <Failed error={light.error} retry={() => void light.refetch()} />
        ) : day ? (
          <FallOfLight day={day} shot={shot} set={set} />
        ) : (
          <Pending what="the light" />
        )
      }
      dials={
        <>
          <Section title="When">
            <Row least="120px">
              <Field
                label="Date"
                type="date"
                name={`shot:${shot.id}:date_local`}
                value={facts.date_local ?? ""}
                save={(text) => change({ date_local: text || null })}
                aside={
                  <Box as="span">
                    <Button look="quiet" py="0" fontSize="13px" onClick={() => shift(-1)} aria-label="A day earlier">
                      −1
                    </Button>
                    <Button look="quiet" py="0" fontSize="13px" onClick={() => shift(1)} aria-label="A day later">
                      +1
                    </Button>
                  </Box>
                }
              />
              <Box data-field="time_utc">
                <Field
                  label="Time of the shot"
                  name={`shot:${shot.id}:clock_local`}
                  value={facts.clock_local ?? ""}
                  placeholder="16:04"
                  hint={place ? `local time, ${place.zone}` : undefined}
                  save={(text) => (text.trim() ? change({ clock_local: text }) : change({ time_utc: null }))}
                />
              </Box>
            </Row>
          </Section>
          {plan.light.ev100 !== null && plan.light.sun_altitude_deg !== null && (
            <Section title={plan.light.band ?? "Light"} aside={<Box fontFamily="mono">{plan.light.window_label}</Box>}>
              <Figures>
                <Figure name="sun altitude" value={`${signed(plan.light.sun_altitude_deg, 1)}°`} />
                <Figure
                  name="sun bearing"
                  value={`${plan.light.sun_azimuth_deg?.toFixed(0)}°`}
                  unit={plan.light.sun_compass ?? ""}
                />
                <Figure
                  name="on the subject"
                  value={
                    <Box as="span" fontFamily="body" fontSize="17px">
                      {plan.light.direction ? `${plan.light.direction} light` : "sky light"}
                    </Box>
                  }
                />
                <Figure name="clear sky" value={`EV ${plan.light.ev100.toFixed(1)}`} />
                <Figure name="drift" value={signed(plan.light.drift_stops_per_min ?? 0, 2)} unit="stop/min" />
              </Figures>
            </Section>
          )}
          {day && (
            <Section title="The sun that day">
              {day.absence_words && <Box>{day.absence_words}</Box>}
              <Box display="grid" gridTemplateColumns="repeat(auto-fill, minmax(200px, 1fr))" columnGap="22px">
                {day.events.map((event) => (
                  <Box
                    key={event.kind + event.time_utc}
                    display="grid"
                    gridTemplateColumns="1fr auto 4.5ch"
                    gap="8px"
                    fontSize="14px"
                    py="1px"
                  >
                    <Box as="span" color={["sunrise", "sunset"].includes(event.kind) ? "fg" : "muted"}>
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
              {!day.events.length && <Box color="muted">No event of the sun falls into this day.</Box>}
            </Section>
          )}
        </>
      }
    />
  );
}
