import { Box } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Schemas, take } from "../../api/client";
import { forecastQuery, photographerQuery } from "../../api/queries";
import { upload } from "../../api/upload";
import { Button } from "../../ui/form/Button";
import { Field } from "../../ui/form/Field";
import { FilePick } from "../../ui/form/FilePick";
import { Section } from "../../ui/layout/Section";
import { Dialog } from "../../ui/overlay/Dialog";
import { HoursByHand } from "./HoursByHand";

/** How old the forecast is, whether it is simulated, what went wrong; and the weights of its promise. */
export function ForecastLine({ locationId, date }: { locationId: number; date: string | null }) {
  const queries = useQueryClient();
  const query = useQuery(forecastQuery(locationId));
  const [weights, setWeights] = useState(false);
  const [hours, setHours] = useState(false);
  const state = query.data;
  const done = () => {
    void queries.invalidateQueries({ queryKey: ["forecast", locationId] });
    // The plan uses the forecast: cloud, wind, plan B.
    for (const key of ["light", "shot", "notebook"]) void queries.invalidateQueries({ queryKey: [key] });
  };
  const drop = async () => {
    await take(
      client.DELETE("/api/locations/{location_id}/forecast", { params: { path: { location_id: locationId } } }),
    );
    done();
  };
  return (
    <Section
      title="Forecast"
      fold="where it comes from, hour by hour"
      aside={
        <Button look="quiet" py="0" fontSize="small" onClick={() => setWeights(true)}>
          how it is judged
        </Button>
      }
    >
      <Box fontSize="small" data-forecast="">
        {!state ? (
          <Box color="muted">{query.error ? "The forecast's state cannot be had just now." : "Asking …"}</Box>
        ) : (
          <>
            {state.known ? (
              <>
                {state.simulated ? "Simulated" : state.source === "file" ? "From a file" : "From the service"}, fetched{" "}
                {state.age_words}, to {state.until_words}.{state.simulated && " Never for safety."}
              </>
            ) : (
              "No forecast yet: the light is planned for a clear sky."
            )}
            {state.hours_by_hand > 0 && (
              <Box color="accent">
                {state.hours_by_hand === 1 ? "One hour is" : `${state.hours_by_hand} hours are`} changed by hand.
              </Box>
            )}
            {state.problem && (
              <Box color="rust" role="status">
                {state.problem} {state.known && "What is shown is the one kept."}
              </Box>
            )}
          </>
        )}
      </Box>
      <Box display="flex" gap="8px" flexWrap="wrap" alignItems="start">
        <FilePick
          label="Import hourly forecast …"
          accept=".csv,.json"
          take={async (file) => {
            const answer = await upload<Schemas["ForecastOut"]>(`/api/locations/${locationId}/forecast`, file);
            done();
            return `${answer.hours} hours read, to ${answer.until_words}.`;
          }}
        />
        {state?.known && date && <Button onClick={() => setHours(true)}>Change hours by hand …</Button>}
        {state?.source === "file" && <Button onClick={() => void drop()}>Back to the service</Button>}
      </Box>
      {hours && date && <HoursByHand locationId={locationId} date={date} close={() => setHours(false)} />}
      {weights && <Weights close={() => setWeights(false)} done={done} />}
    </Section>
  );
}

function Weights({ close, done }: { close: () => void; done: () => void }) {
  const queries = useQueryClient();
  const photographer = useQuery(photographerQuery());
  const save = (name: string) => async (text: string) => {
    const answer = await take(
      client.PATCH("/api/photographer", { body: { promise_weights: { [name]: Number(text.replace(",", ".")) } } }),
    );
    queries.setQueryData(photographerQuery().queryKey, answer);
    done();
  };
  return (
    <Dialog title="How a window is judged" close={close}>
      <Box maxW="62ch" fontSize="body" mb="10px">
        Every window starts at an even 50. Each factor moves it by up to its weight; 0 leaves it out. The spread grows
        with the square root of the lead time: a forecast ten days out says little.
      </Box>
      <Box display="grid" gap="6px" gridTemplateColumns={{ base: "1fr", lg: "1fr 1fr" }}>
        {photographer.data?.weights.map((weight) => (
          <Field
            key={weight.name}
            label={weight.name}
            name={`photographer:${weight.name}:promise_weights`}
            value={String(weight.weight)}
            hint={weight.weight === weight.model_weight ? "points at most" : `the model has ${weight.model_weight}`}
            step={5}
            save={save(weight.name)}
          />
        ))}
      </Box>
    </Dialog>
  );
}
