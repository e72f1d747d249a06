import { Box } from "@chakra-ui/react";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Schemas, take } from "../../api/client";
import { refreshPlans } from "../../api/queries";
import { asBody } from "../../lib/drafts/asBody";
import { plural } from "../../lib/format/spelling";
import { Button } from "../../ui/form/Button";
import { NewForm } from "../../ui/form/NewForm";
import { Section } from "../../ui/layout/Section";

/** Meter readings of the day against the clock; they shift the curve. */
export function Readings({
  locationId,
  date,
  day,
  readings,
}: {
  locationId: number;
  date: string;
  day: Schemas["LightDayOut"];
  readings: Schemas["ReadingOut"][];
}) {
  const queries = useQueryClient();
  const [adding, setAdding] = useState(false);
  const ofDay = readings.filter((reading) => reading.date_local === date);
  const remove = async (id: number) => {
    await take(client.DELETE("/api/readings/{reading_id}", { params: { path: { reading_id: id } } }));
    refreshPlans(queries);
  };
  return (
    <Section
      title="Meter readings"
      fold={plural(readings.length, "reading")}
      aside={
        !adding && (
          <Button look="quiet" py="0" fontSize="small" onClick={() => setAdding(true)}>
            add a reading
          </Button>
        )
      }
    >
      {day.shift_words && <Box fontSize="body">This day is {day.shift_words}.</Box>}
      {ofDay.map((reading) => (
        <Box key={reading.id} display="flex" gap="12px" fontSize="body" alignItems="baseline">
          <Box as="span" fontFamily="mono">
            {reading.clock}
          </Box>
          <Box as="span" fontFamily="mono">
            EV {reading.ev100.toFixed(1)}
          </Box>
          <Box as="span" color="muted" flex="1">
            {reading.note}
          </Box>
          <Button
            look="quiet"
            py="0"
            fontSize="small"
            onClick={() => void remove(reading.id)}
            aria-label={`Delete the reading at ${reading.clock}`}
          >
            delete
          </Button>
        </Box>
      ))}
      {!ofDay.length && !adding && (
        <Box color="muted" fontSize="small">
          None on this day. A reading in the field shifts the curve.
        </Box>
      )}
      {adding && (
        <NewForm
          name={`reading:${locationId}`}
          label="Add the reading"
          fields={[
            { name: "clock_local", label: "Clock", placeholder: "15:40" },
            { name: "ev100", label: "EV at ISO 100", placeholder: "or below" },
            { name: "f_number", label: "Aperture", placeholder: "f/11" },
            { name: "shutter_s", label: "Shutter", placeholder: "1/8" },
            { name: "iso", label: "ISO", placeholder: "100" },
            { name: "note", label: "Of what", placeholder: "open shore" },
          ]}
          cancel={() => setAdding(false)}
          submit={async (values) => {
            await take(
              client.POST("/api/locations/{location_id}/readings", {
                params: { path: { location_id: locationId } },
                body: asBody<Schemas["ReadingIn"]>({ ...values, date_local: date }),
              }),
            );
            refreshPlans(queries);
            setAdding(false);
          }}
        />
      )}
    </Section>
  );
}
