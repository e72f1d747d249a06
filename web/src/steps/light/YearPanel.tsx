import { Box } from "@chakra-ui/react";
import { useEffect, useRef, useState } from "react";
import { ApiError, client, type Schemas, take } from "../../api/client";
import { MOON_LIMITS, OPTIONS, SUN_LIMITS } from "../../api/facts";
import { fitting, useStored } from "../../lib/drafts/useStored";
import type { ShotWork } from "../../shots/useShot";
import { Button } from "../../ui/form/Button";
import { Choice, Input, Labelled, Select } from "../../ui/form/Field";
import { Row, Section } from "../../ui/layout/Section";
import { Hits } from "./Hits";
import { Season } from "./Season";

type Hit = Schemas["HitOut"];
type SeasonDay = Schemas["SeasonDayOut"];

export interface YearFound {
  hits: Hit[];
  season: SeasonDay[];
}

interface Search {
  body: "sun" | "moon";
  element: string;
  touch: Schemas["Touch"];
  gap_deg: string;
  bearing_deg: string;
  tolerance_deg: string;
  low_deg: string;
  high_deg: string;
  light: string;
  fraction: string;
}

/** A key of a table; "any" for what an older visit kept and is none any more. */
const known = <Table extends { any: unknown }>(table: Table, key: string): keyof Table =>
  key in table ? (key as keyof Table) : "any";

/** Search a year for alignments, and see on which days the shot works altogether. */
export function YearPanel({
  shot,
  set,
  from,
  found,
  setFound,
}: ShotWork & { from: string; found: YearFound; setFound: (found: YearFound) => void }) {
  const [draft, setDraft] = useStored(`search:${shot.id}`);
  const initial: Search = {
    body: "sun",
    element: "",
    touch: "behind",
    gap_deg: "0.5",
    bearing_deg: String(Math.round(shot.plan.frame.bearing_deg ?? 180)),
    tolerance_deg: "2",
    low_deg: "0",
    high_deg: "12",
    light: "any",
    fraction: "any",
  };
  const search: Search = { ...initial, ...fitting(draft, initial) };
  const put = (part: Partial<Search>) => setDraft(JSON.stringify({ ...search, ...part }));
  const [busy, setBusy] = useState<string>();
  const [said, setSaid] = useState<{ of: "search" | "season"; text: string }>();
  const [refusal, setRefusal] = useState<ApiError | Error>();
  const running = useRef<AbortController | undefined>(undefined);
  useEffect(() => () => running.current?.abort(), []);
  const viewpoint = shot.place?.viewpoint;
  const query = () => {
    const light = SUN_LIMITS[known(SUN_LIMITS, search.light)];
    const phase = search.body === "moon" ? MOON_LIMITS[known(MOON_LIMITS, search.fraction)] : undefined;
    const place = search.element
      ? {
          element_id: Number(search.element),
          touch: search.touch,
          gap_deg: search.touch === "beside" ? search.gap_deg || undefined : undefined,
        }
      : {
          bearing_deg: search.bearing_deg,
          tolerance_deg: search.tolerance_deg,
          low_deg: search.low_deg || undefined,
          high_deg: search.high_deg || undefined,
        };
    return {
      body: search.body,
      ...place,
      sun_low_deg: light.low ?? undefined,
      sun_high_deg: light.high ?? undefined,
      fraction_low: phase?.low ?? undefined,
      fraction_high: phase?.high ?? undefined,
      from_date: from,
    };
  };
  const run = async (of: "search" | "season", what: string, work: (signal: AbortSignal) => Promise<string>) => {
    running.current?.abort();
    const control = new AbortController();
    running.current = control;
    setBusy(what);
    setRefusal(undefined);
    setSaid(undefined);
    try {
      setSaid({ of, text: await work(control.signal) });
    } catch (error) {
      if (!control.signal.aborted) setRefusal(error as Error);
    } finally {
      if (running.current === control) setBusy(undefined);
    }
  };
  const align = () =>
    run("search", "Searching the year …", async (signal) => {
      const answer = await take(
        client.GET("/api/viewpoints/{viewpoint_id}/alignments", {
          params: { path: { viewpoint_id: viewpoint?.id ?? 0 }, query: { ...query(), shot_id: shot.id } },
          signal,
        }),
      );
      setFound({ ...found, hits: answer.hits });
      return answer.words;
    });
  const inSeason = (withAlignment: boolean) =>
    run("season", "Going through the year …", async (signal) => {
      const answer = await take(
        client.GET("/api/shots/{shot_id}/season", {
          params: {
            path: { shot_id: shot.id },
            query: withAlignment ? { ...query(), with_alignment: true } : { from_date: from },
          },
          signal,
        }),
      );
      setFound({ ...found, season: answer.days });
      return answer.words;
    });
  const at = (field: string) => (refusal instanceof ApiError ? refusal.at(field) : undefined);
  const text = (name: "gap_deg" | "bearing_deg" | "tolerance_deg" | "low_deg" | "high_deg", label: string) => (
    <Labelled label={label} error={at(name)}>
      <Input aria-label={label} value={search[name]} onChange={(event) => put({ [name]: event.target.value })} />
    </Labelled>
  );
  return (
    <>
      <Section title="Search for an alignment">
        <Choice
          label="Of the"
          value={search.body}
          options={[
            { value: "sun", label: "sun" },
            { value: "moon", label: "moon" },
          ]}
          choose={(body) => put({ body })}
        />
        <Select
          label="With"
          value={search.element || null}
          empty="a bearing"
          options={(viewpoint?.elements ?? [])
            .filter((element) => element.shape !== "water")
            .map((element) => ({ value: String(element.id), label: element.name }))}
          choose={(element) => put({ element: element ?? "" })}
          error={at("element_id")}
        />
        {!search.element && (
          <Row least="70px">
            {text("bearing_deg", "Bearing °")}
            {text("tolerance_deg", "± °")}
            {text("low_deg", "From alt. °")}
            {text("high_deg", "to alt. °")}
          </Row>
        )}
        {search.element && (
          <Row least="110px">
            <Select
              label="It stands"
              value={search.touch}
              options={OPTIONS.Touch}
              choose={(touch) => put({ touch: (touch as Search["touch"]) ?? "behind" })}
            />
            {search.touch === "beside" && text("gap_deg", "Gap °")}
          </Row>
        )}
        <Row least="150px">
          <Select
            label="In"
            value={search.light}
            options={Object.entries(SUN_LIMITS).map(([value, { label }]) => ({ value, label }))}
            choose={(light) => put({ light: light ?? "any" })}
          />
          {search.body === "moon" && (
            <Select
              label="Phase"
              value={search.fraction}
              options={Object.entries(MOON_LIMITS).map(([value, { label }]) => ({ value, label }))}
              choose={(fraction) => put({ fraction: fraction ?? "any" })}
            />
          )}
        </Row>
        <Box display="flex" gap="8px" flexWrap="wrap">
          <Button look="main" onClick={() => void align()} disabled={Boolean(busy)}>
            Search the year
          </Button>
          {busy && <Button onClick={() => running.current?.abort()}>Stop</Button>}
        </Box>
        {busy && (
          <Box role="status" color="muted" fontSize="small">
            {busy}
          </Box>
        )}
        {said?.of === "search" && (
          <Box role="status" fontSize="body">
            {said.text}
          </Box>
        )}
        {refusal && (
          <Box role="alert" color="rust" fontSize="body">
            {refusal.message}
          </Box>
        )}
        <Hits hits={found.hits} set={set} />
      </Section>
      <Season
        shot={shot}
        set={set}
        days={found.season}
        busy={Boolean(busy)}
        words={said?.of === "season" ? said.text : undefined}
        search={inSeason}
      />
    </>
  );
}
