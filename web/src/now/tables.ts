import { ApiError, AWAY } from "../api/client";
import type { Answer, Values } from "./questions";

/** The core's own answers to common questions, for where there is no network (made by tools/now_tables.py). */
interface Table {
  /** The fields that lead to an answer, in order, and the texts that each knows. */
  fields: [name: string, known: string[]][];
  /** Figure and words by the position of each text, the last field running fastest. */
  answers: [figure: string, words: string, open_s?: number][];
  ends: string;
}

let loading: Promise<Record<string, Table>> | undefined;

/** Have the tables at hand before the network goes. */
export function loadTables(): Promise<Record<string, Table>> {
  loading ??= import("./tables.json").then((found) => found.default as unknown as Record<string, Table>);
  return loading;
}

/** An answer from the tables. Raises an ApiError that says where they end. */
export async function fromTables(key: string, values: Values): Promise<{ answer: Answer; offline: string }> {
  const table = (await loadTables())[key];
  if (!table) throw new ApiError(0, `${AWAY} This answer needs it.`);
  let at = 0;
  for (const [name, known] of table.fields) {
    const here = known.indexOf(plain(values[name] ?? ""));
    if (here < 0) throw new ApiError(0, `${AWAY} Without it, ${table.ends}`);
    at = at * known.length + here;
  }
  const [figure, words, open_s] = table.answers[at] ?? ["", ""];
  const counted = open_s === undefined ? {} : { open_s };
  return {
    answer: { figure, words, notes: [], choices: {}, kit: {}, ...counted },
    offline: "From the tables on this device.",
  };
}

/** A text as the tables hold it: without units and marks around the figure. */
export function plain(text: string): string {
  const bare = text
    .trim()
    .toLowerCase()
    .replace(/^(?:iso|ev|f\/?|ƒ\/?)\s*/, "")
    .replace(/\s*(?:mm|m|s|stops?|ev)$/, "")
    .replace(/^nd\s*/, "nd");
  return ["∞", "infinity", ""].includes(bare) ? "inf" : bare;
}
