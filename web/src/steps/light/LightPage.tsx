import { Box, VisuallyHidden } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { useSearchParams } from "react-router";
import { carpetQuery, forecastQuery, lightQuery, locationsQuery, shotDayQuery } from "../../api/queries";
import { ShotDate } from "../../shots/ShotField";
import { StepLayout } from "../../shots/StepLayout";
import type { ShotWork } from "../../shots/useShot";
import { Button } from "../../ui/form/Button";
import { Field } from "../../ui/form/Field";
import { Row, Section } from "../../ui/layout/Section";
import { Empty, Failed, Pending } from "../../ui/layout/States";
import { Tabs } from "../../ui/layout/Tabs";
import { Tip } from "../../ui/overlay/Tip";
import { GroundPlan } from "../place/GroundPlan";
import { FallOfLight } from "./FallOfLight";
import { ForecastLine } from "./ForecastLine";
import { PlanB } from "./PlanB";
import { Readings } from "./Readings";
import { SkylineRibbon } from "./SkylineRibbon";
import { EventsOfDay, LightFigures } from "./SunAndMoon";
import { Wanted } from "./Wanted";
import { Windows } from "./Windows";
import { YearCarpet } from "./YearCarpet";
import { type YearFound, YearPanel } from "./YearPanel";

type View = "day" | "sky" | "above" | "year";
const VIEWS: { value: View; label: string }[] = [
  { value: "day", label: "The day" },
  { value: "sky", label: "The skyline" },
  { value: "above", label: "Shadows from above" },
  { value: "year", label: "The year" },
];

/** Step 2: the light of the day and of the year, what the shot wants of it, and when. */
export default function LightPage(work: ShotWork) {
  const { shot, change, set } = work;
  const { facts, place, plan } = shot;
  const [params, setParams] = useSearchParams();
  const view = VIEWS.find((item) => item.value === params.get("view"))?.value ?? "day";
  const [found, setFound] = useState<YearFound>({ hits: [], season: [] });
  const ready = Boolean(place && facts.date_local);
  const light = useQuery({ ...lightQuery(place?.viewpoint.id ?? 0, facts.date_local ?? ""), enabled: ready });
  const forecast = useQuery({ ...forecastQuery(place?.location_id ?? 0), enabled: Boolean(place) });
  const fetched = forecast.data?.fetched_at_utc;
  const known = useRef(fetched);
  const queries = useQueryClient();
  const fresh = forecast.data?.age_words === "just now";
  // A newer forecast changes what the plan uses.
  useEffect(() => {
    const newer = known.current === undefined ? fresh : known.current !== fetched;
    if (fetched && newer) void queries.invalidateQueries({ queryKey: ["shot"] });
    known.current = fetched;
  }, [fetched, fresh, queries]);
  const shotDay = useQuery({ ...shotDayQuery(shot.id, [facts, place, fetched]), enabled: ready });
  const locations = useQuery({ ...locationsQuery(), enabled: Boolean(place) });
  const from = facts.date_local ?? new Date().toLocaleDateString("sv-SE");
  const [first, setFirst] = useState(from);
  const carpet = useQuery({
    ...carpetQuery(place?.viewpoint.id ?? 0, first),
    enabled: Boolean(place) && view === "year",
  });
  // The year shown starts again only when the shot's day leaves it, so that choosing a hit does not move the carpet.
  useEffect(() => {
    const days = (Date.parse(from) - Date.parse(first)) / 86_400_000;
    if (days < 0 || days >= 365) setFirst(from);
  }, [from, first]);
  const day = light.data;
  const shift = (days: number) => {
    if (!facts.date_local) return;
    const next = new Date(`${facts.date_local}T12:00:00Z`);
    next.setUTCDate(next.getUTCDate() + days);
    set({ date_local: next.toISOString().slice(0, 10) });
  };
  const seconds = day && facts.time_utc ? (Date.parse(facts.time_utc) - Date.parse(day.start_utc)) / 1000 : null;
  const readings = locations.data?.locations.find((location) => location.id === place?.location_id)?.readings ?? [];
  const hour = facts.clock_local
    ? Number(facts.clock_local.slice(0, 2)) + Number(facts.clock_local.slice(3)) / 60
    : null;
  const drawing = () => {
    if (!place) return <Empty>Light needs a place: choose a viewpoint in step 1.</Empty>;
    if (view === "year")
      return carpet.error ? (
        <Failed error={carpet.error} retry={() => void carpet.refetch()} />
      ) : carpet.data ? (
        <YearCarpet
          carpet={carpet.data}
          hits={found.hits}
          season={found.season}
          chosen={{ day: Math.round((Date.parse(from) - Date.parse(carpet.data.first)) / 86_400_000), hour }}
          choose={(hit) => set({ time_utc: hit.best_utc })}
        />
      ) : (
        <Pending what="the year" />
      );
    if (!facts.date_local) return <Empty>Choose a date at the right to see the light of that day.</Empty>;
    if (light.error) return <Failed error={light.error} retry={() => void light.refetch()} />;
    if (!day) return <Pending what="the light" />;
    if (view === "sky")
      return (
        <SkylineRibbon
          day={day}
          shotDay={shotDay.data}
          centre={plan.frame.bearing_deg ?? (day.noon_compass === "N" ? 0 : 180)}
          seconds={seconds}
        />
      );
    if (view === "above") return <GroundPlan shot={shot} shadows={shotDay.data?.shadows ?? []} />;
    return <FallOfLight day={day} shotDay={shotDay.data} simulated={forecast.data?.simulated} shot={shot} set={set} />;
  };
  return (
    <StepLayout
      drawing={
        <Tabs
          label="Views of the light"
          value={view}
          options={VIEWS}
          choose={(next) => setParams({ view: next }, { replace: true })}
        >
          {drawing()}
        </Tabs>
      }
      dials={
        <>
          <Section title="When">
            <Row least="120px">
              <ShotDate
                label="Date"
                aside={
                  <Box as="span">
                    {([-1, 1] as const).map((by) => (
                      <Tip
                        key={by}
                        words={facts.date_local ? (by < 0 ? "a day earlier" : "a day later") : "Choose a date first"}
                      >
                        <Button
                          look="quiet"
                          py="0"
                          fontSize="small"
                          disabled={!facts.date_local}
                          onClick={() => shift(by)}
                        >
                          {by < 0 ? "−1" : "+1"}
                          <VisuallyHidden> day</VisuallyHidden>
                        </Button>
                      </Tip>
                    ))}
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
                  aside={
                    facts.window_end_clock && (
                      <Box as="span" fontSize="small">
                        to <span className="figure">{facts.window_end_clock}</span>
                        <Button
                          look="quiet"
                          py="0"
                          fontSize="small"
                          onClick={() => set({ window_end_utc: null })}
                          aria-label="Let the window's end go"
                        >
                          ×
                        </Button>
                      </Box>
                    )
                  }
                />
              </Box>
            </Row>
          </Section>
          {view === "year" ? (
            place && <YearPanel {...work} from={first} found={found} setFound={setFound} />
          ) : (
            <>
              <Wanted {...work} />
              {shotDay.error && <Failed error={shotDay.error} retry={() => void shotDay.refetch()} />}
              {shotDay.data && ready && <Windows shot={shot} day={shotDay.data} set={set} />}
              <PlanB {...work} />
              <LightFigures light={plan.light} ratio={shotDay.data?.shadow_ratio} />
              {place && <ForecastLine locationId={place.location_id} date={facts.date_local} />}
              {place && day && facts.date_local && (
                <Readings locationId={place.location_id} date={facts.date_local} day={day} readings={readings} />
              )}
              {day && <EventsOfDay day={day} shotDay={shotDay.data} />}
            </>
          )}
        </>
      }
    />
  );
}
