import { Box } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { client, type Schemas, take } from "../../api/client";
import { forecastHoursQuery } from "../../api/queries";
import { plain } from "../../lib/format/numbers";
import { Button } from "../../ui/form/Button";
import { Field } from "../../ui/form/Field";
import { Failed } from "../../ui/layout/States";
import { Dialog } from "../../ui/overlay/Dialog";

type Hour = Schemas["HourOut"];
type Figure = Exclude<keyof Schemas["HourPatch"], "time_utc">;

const FIGURES: { name: Figure; label: string; unit: string; share?: boolean }[] = [
  { name: "low_cloud", label: "Low cloud", unit: "%", share: true },
  { name: "middle_cloud", label: "Middle", unit: "%", share: true },
  { name: "high_cloud", label: "High", unit: "%", share: true },
  { name: "wind_mps", label: "Wind", unit: "m/s" },
  { name: "gust_mps", label: "Gusts", unit: "m/s" },
  { name: "rain_mm", label: "Rain", unit: "mm/h" },
  { name: "temperature_c", label: "Air", unit: "°C" },
  { name: "fog", label: "Fog", unit: "%", share: true },
];

/** The hours of a day as they are forecast, each figure to be changed by hand; such a change stands whatever newer forecasts say. */
export function HoursByHand({ locationId, date, close }: { locationId: number; date: string; close: () => void }) {
  const queries = useQueryClient();
  const hours = useQuery(forecastHoursQuery(locationId, date));
  const path = { location_id: locationId };
  const done = () => {
    for (const key of ["forecast", "light", "shot", "notebook"]) void queries.invalidateQueries({ queryKey: [key] });
  };
  const save = (hour: Hour, name: Figure, share: boolean | undefined) => async (text: string) => {
    const value = share && !text.includes("%") ? `${text} %` : text;
    await take(
      client.PATCH("/api/locations/{location_id}/forecast/hours", {
        params: { path },
        body: { time_utc: hour.time_utc, [name]: value },
      }),
    );
    done();
  };
  const drop = async () => {
    await take(client.DELETE("/api/locations/{location_id}/forecast/hours", { params: { path } }));
    done();
  };
  const changed = hours.data?.hours.some((hour) => hour.by_hand);
  return (
    <Dialog
      title="The hours, by hand"
      close={close}
      actions={changed && <Button onClick={() => void drop()}>Take back all changes</Button>}
    >
      <Box fontSize="body" mb="8px" maxW="66ch">
        Write what you know better. Changed hours are marked, and stand whatever newer forecasts say.
      </Box>
      {hours.error && <Failed error={hours.error} retry={() => void hours.refetch()} />}
      {hours.data && !hours.data.hours.length && <Box color="muted">The forecast does not reach this day.</Box>}
      <Box display="grid" gap="6px" maxH="62vh" overflowY="auto" pr="6px" css={{ scrollbarWidth: "thin" }}>
        {hours.data?.hours.map((hour) => (
          <Box
            key={hour.time_utc}
            display="grid"
            gridTemplateColumns={{ base: "repeat(4, minmax(0, 1fr))", lg: "64px repeat(8, minmax(70px, 92px))" }}
            gap="4px 10px"
            alignItems="end"
            borderBottom="1px solid"
            borderColor="line"
            pb="4px"
            data-hour={hour.clock}
          >
            <Box fontFamily="mono" gridColumn={{ base: "1 / -1", lg: "auto" }} color={hour.by_hand ? "accent" : "fg"}>
              {hour.clock}
              {hour.by_hand && (
                <Box as="span" fontSize="note" display="block">
                  by hand
                </Box>
              )}
            </Box>
            {FIGURES.map((figure) => (
              <Field
                key={figure.name}
                label={figure.label}
                name={`hour:${locationId}:${hour.time_utc}:${figure.name}`}
                value={plain(figure.share ? hour[figure.name] * 100 : hour[figure.name], 1)}
                unit={figure.unit}
                save={save(hour, figure.name, figure.share)}
              />
            ))}
          </Box>
        ))}
      </Box>
    </Dialog>
  );
}
