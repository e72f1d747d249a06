import type { Schemas } from "../../api/client";
import type { FieldEvent, Run } from "./events";

type Sheet = Schemas["RunSheetOut"];
type Change = Omit<Schemas["RunReadingOut"], "ev100">;
export type Meter = Schemas["RunMeterOut"];

/** What the tables taken along say of the plan as it was found: settings by frame, and a sentence. ended: they do not reach so far. */
export interface Found {
  settings: Record<string, { shutter: string; shutter_s: number; iso: string; dark_s: number }>;
  words: string;
  mark: string;
  ended: boolean;
}

const ASPLANNED: Found = { settings: {}, words: "", mark: "holds", ended: false };

/** Read the tables for what was found. Nothing is worked out here: rows were computed beforehand, and a reading is their sum of EVs. */
export function readTables(sheet: Sheet, run: Run): Found {
  const { tables } = sheet;
  const ended = (words: string): Found => ({
    ...ASPLANNED,
    words: `${words} ${tables.ends}`,
    mark: "fails",
    ended: true,
  });
  const light = run.light;
  if (!light && run.missing.length === 0) return ASPLANNED;
  if (light?.kind === "late") {
    if (run.missing.length) return ended("A delay and a missing filter together stand in no table.");
    return lateBy(sheet, run.lateMin) ?? ended(`${run.lateMin} min late.`);
  }
  const wanted = [...run.missing].sort((a, b) => a - b).join();
  const rows = tables.readings.find((item) => item.missing.join() === wanted)?.rows;
  if (!rows) return ended("These filters together stand in no table.");
  const ev = light?.value ?? tables.planned_ev100;
  if (ev === null || ev === undefined) return ended("");
  const row = nearest(rows, ev);
  return row ? asFound(row, `Read EV ${ev.toFixed(1)}.`) : ended(`EV ${ev.toFixed(1)}.`);
}

/** The row for a delay; between two rows the nearer one, with how far they lie apart. Null beyond the last. */
function lateBy(sheet: Sheet, minutes: number): Found | null {
  const rows = sheet.tables.delays;
  const after = rows.find((row) => row.minutes >= minutes);
  if (!after) return null;
  const said = `Late by ${minutes} min, done at ${after.ends}.`;
  if (after.minutes === minutes) return asFound(after, said);
  const before = rows.findLast((row) => row.minutes < minutes);
  const row = before && minutes - before.minutes < after.minutes - minutes ? before : after;
  const apart = after.apart_stops;
  const known =
    apart == null
      ? ""
      : `; from ${before?.minutes ?? 0} to ${after.minutes} min they change by ${apart.toFixed(1)} stops`;
  const between = `These are the settings for ${row.minutes} min${known}.`;
  return asFound(row, `Late by ${minutes} min. ${between}`);
}

// Rounded figures at the very ends of a table still stand in it [EV].
const AT_THE_END_EV = 0.02;

/** The row nearest to a reading; undefined where it lies beyond the first or the last. */
function nearest<Row extends { ev100: number }>(rows: Row[], ev: number): Row | undefined {
  const evs = rows.map((row) => row.ev100);
  if (ev < Math.min(...evs) - AT_THE_END_EV || ev > Math.max(...evs) + AT_THE_END_EV) return undefined;
  return rows.reduce<Row | undefined>(
    (best, row) => (best === undefined || Math.abs(row.ev100 - ev) < Math.abs(best.ev100 - ev) ? row : best),
    undefined,
  );
}

function asFound(row: Change, said: string): Found {
  const settings = Object.fromEntries(
    Object.entries(row.frames).flatMap(([key, index]) => {
      const set = row.sets[index];
      return set ? [[key, set] as const] : [];
    }),
  );
  const more = row.more > 0 ? ` ${row.more} more frames than planned.` : "";
  return { settings, words: `${said}${more} ${row.words}`.trim(), mark: row.mark, ended: false };
}

/** The EV of a reading: the sum of what its three settings add. */
export function evOf(meter: Meter, said: { aperture: string; shutter: string; iso: string }): number | null {
  const part = (marks: Meter["apertures"], label: string) => marks.find((mark) => mark.label === label)?.ev;
  const parts = [part(meter.apertures, said.aperture), part(meter.shutters, said.shutter), part(meter.isos, said.iso)];
  return parts.every((value) => value !== undefined)
    ? parts.reduce<number>((sum, value) => sum + (value ?? 0), 0)
    : null;
}

/** Whether any of these events changes what is planned. */
export const changesPlan = (event: FieldEvent): boolean =>
  ["late", "reading", "filter_missing", "wind", "stands_at"].includes(event.kind);
