import { Box } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Fragment, useState } from "react";
import { useSearchParams } from "react-router";
import { client, type Schemas, take } from "../../api/client";
import { outlookQuery, refreshPlans } from "../../api/queries";
import { useTitle } from "../../lib/focus/useTitle";
import { labelOf } from "../../lib/format/labels";
import { percent } from "../../lib/format/numbers";
import { dayLater, dayText, readDay } from "../../lib/format/spelling";
import { Button } from "../../ui/form/Button";
import { DateField } from "../../ui/form/DateField";
import { Choice } from "../../ui/form/Field";
import { Empty, Failed, Pending } from "../../ui/layout/States";
import { LaneClock } from "./Lane";
import { COLUMNS, ProspectRow } from "./ProspectRow";

const capital = (words: string) => words.charAt(0).toUpperCase() + words.slice(1);
const today = () => new Date().toLocaleDateString("sv-SE");
const DAYS = [
  { value: "1", label: "one day" },
  { value: "2", label: "two days" },
  { value: "3", label: "three" },
  { value: "7", label: "a week" },
] as const;

/** Which place tomorrow, or at the weekend: every shot's best window, ranked, and why others are left out. */
export default function WhichPlace() {
  useTitle("Which place?");
  const [params, setParams] = useSearchParams();
  const from = params.get("from") ?? dayLater(today(), 1);
  const days = DAYS.find((item) => item.value === params.get("days"))?.value ?? "1";
  const [all, setAll] = useState(false);
  const queries = useQueryClient();
  const query = useQuery(outlookQuery(from, Number(days)));
  // A job that was stopped is not started again by the page.
  const stop = () =>
    queries.setQueryData(
      outlookQuery(from, Number(days)).queryKey,
      (before: Schemas["OutlookOut"] | undefined) => before && { ...before, pending: null },
    );
  const put = (part: Record<string, string>) => setParams({ from, days, ...part }, { replace: true });
  const found = query.data;
  const [start, end] = span(found?.best ?? [], Number(days));
  const weekday = new Date(`${today()}T12:00:00`).getDay();
  const saturday = dayLater(today(), (6 - weekday + 7) % 7 || 7);
  return (
    <Box as="main" id="main" tabIndex={-1} outline="none" px="16px" py="14px" maxW="1500px" mx="auto">
      <Box display="flex" gap="8px 18px" alignItems="end" flexWrap="wrap" mb="10px">
        <Box as="h1" fontSize="title" fontWeight="700" mr="6px" alignSelf="center">
          Which place?
        </Box>
        <Box width="170px">
          <DateField
            label="From"
            name="outlook:from_date"
            value={from}
            save={async (text) => {
              const day = readDay(text);
              if (day === undefined) throw new Error(`“${text}” is not a date here. Write ${dayText("2026-11-24")}.`);
              put({ from: day });
            }}
          />
        </Box>
        <Choice label="For" value={days} options={DAYS} choose={(value) => put({ days: value })} />
        <Box display="flex" gap="6px" pb="3px">
          <Button look="quiet" fontSize="small" onClick={() => put({ from: dayLater(today(), 1), days: "1" })}>
            tomorrow
          </Button>
          <Button look="quiet" fontSize="small" onClick={() => put({ from: saturday, days: "2" })}>
            next weekend
          </Button>
        </Box>
      </Box>
      {query.error ? (
        <Failed error={query.error} retry={() => void query.refetch()} />
      ) : !found ? (
        <Pending what="the places" />
      ) : (
        <>
          <Box fontSize="small" color="muted" mb="8px">
            {found.words} Ranked by what the kept forecasts promise, then by the shorter way.
            {found.without_tide.length > 0 &&
              ` The tide is known for ${found.without_tide.map((item) => `${item.known_words} at ${item.name}`).join(", ")}.`}
            {found.without_forecast.length > 0 &&
              ` No kept forecast reaches these days at ${found.without_forecast.map((item) => item.name).join(", ")}.`}
          </Box>
          {found.pending && <LookedAt pending={found.pending} stop={stop} />}
          {found.without_forecast.length > 0 && <AskForecasts locations={found.without_forecast} />}
          {found.best.length > 0 ? (
            <Box aria-label="Prospects" as="ol" css={{ listStyle: "none" }}>
              <Box
                as="li"
                display={{ base: "none", lg: "grid" }}
                gridTemplateColumns={COLUMNS}
                gap="0 16px"
                alignItems="end"
              >
                <span />
                <span />
                <LaneClock from={start} to={end} days={found.days} />
                <Box as="span" fontSize="small" color="muted">
                  promise
                </Box>
              </Box>
              {found.best.map((item, index) => (
                <Fragment key={`${item.shot_id}:${item.location_id}`}>
                  {item.travel !== found.best[index - 1]?.travel && (
                    <Box
                      as="li"
                      pt={index ? "16px" : "4px"}
                      pb="3px"
                      fontSize="small"
                      color="muted"
                      data-travel={item.travel}
                    >
                      {capital(labelOf("Travel", item.travel))}
                      {!item.drive_known && ": enter the drive at the place, and it is ranked with the others."}
                    </Box>
                  )}
                  <ProspectRow
                    item={item}
                    rank={index + 1}
                    from={start}
                    to={end}
                    open={index === 0}
                    dated={days !== "1"}
                  />
                </Fragment>
              ))}
            </Box>
          ) : found.pending ? null : (
            <Empty>Nothing comes together in these days. The reasons stand below.</Empty>
          )}
          {found.fallen.length > 0 && (
            <Box mt="18px">
              <Button look="quiet" px="0" aria-expanded={all} onClick={() => setAll(!all)}>
                {all ? "Hide" : "Show"} the {found.fallen.length} left out, and why
              </Button>
              {all && (
                <Box as="ul" fontSize="body" aria-label="What is left out">
                  {found.fallen.map((item) => (
                    <Box
                      as="li"
                      key={`${item.shot_id}:${item.location_id}`}
                      display="grid"
                      gridTemplateColumns={{ base: "1fr", lg: "270px 1fr" }}
                      gap="0 16px"
                      py="3px"
                      borderBottom="1px solid"
                      borderColor="line"
                    >
                      <span>
                        {item.name}{" "}
                        <Box as="span" color="muted">
                          {item.place}
                        </Box>
                      </span>
                      <span>{item.reason}</span>
                    </Box>
                  ))}
                </Box>
              )}
            </Box>
          )}
        </>
      )}
    </Box>
  );
}

/** How far the job is that looks at all places of a large notebook. */
function LookedAt({ pending, stop }: { pending: NonNullable<Schemas["OutlookOut"]["pending"]>; stop: () => void }) {
  const end = () =>
    void take(client.DELETE("/api/jobs/{job_id}", { params: { path: { job_id: pending.job_id } } })).then(stop, stop);
  return (
    <Box display="flex" gap="12px" alignItems="baseline" mb="10px" fontSize="body">
      <Box role="status">Looking at all places: {percent(pending.progress)}</Box>
      <Button look="quiet" onClick={end}>
        stop
      </Button>
    </Box>
  );
}

/** Asks the forecast service for places that have none for these days, one after the other; each answer ranks again. */
function AskForecasts({ locations }: { locations: Schemas["BareOut"][] }) {
  const queries = useQueryClient();
  const [at, setAt] = useState<number>();
  const [failed, setFailed] = useState<string[]>([]);
  const ask = async () => {
    const missing: string[] = [];
    for (const [index, item] of locations.entries()) {
      setAt(index);
      try {
        const state = await take(
          client.GET("/api/locations/{location_id}/forecast", { params: { path: { location_id: item.location_id } } }),
        );
        if (!state.known) missing.push(item.name);
      } catch {
        missing.push(item.name);
      }
    }
    setAt(undefined);
    setFailed(missing);
    refreshPlans(queries);
  };
  return (
    <Box display="flex" gap="12px" alignItems="baseline" mb="10px" flexWrap="wrap" fontSize="body">
      <Button disabled={at !== undefined} onClick={() => void ask()}>
        Ask for {locations.length === 1 ? "its forecast" : "their forecasts"}
      </Button>
      {at !== undefined && (
        <Box role="status" color="muted">
          {locations[at]?.name}, {at + 1} of {locations.length} …
        </Box>
      )}
      {at === undefined && failed.length > 0 && (
        <Box role="status" color="rust">
          No forecast reaches that far, or could be had, for {failed.join(", ")}.
        </Box>
      )}
    </Box>
  );
}

/** The hours that the lanes show: as many, in steps of three, as all ways and windows take; of several days all. */
function span(best: Schemas["ProspectOut"][], days: number): [number, number] {
  const legs = best.flatMap((item) => item.lane);
  const first = Math.min(...legs.map((leg) => leg.from_h));
  const last = Math.max(...legs.map((leg) => leg.to_h));
  if (!legs.length) return [0, 24 * days];
  if (days > 1) return [Math.min(0, first), Math.max(24 * days, last)];
  return [3 * Math.floor(first / 3), 3 * Math.ceil(last / 3)];
}
