/** Texts that were typed and not taken yet. They outlast the page, are read with suspicion, and go out only when the person says so. */

const PREFIX = "draft:";
const LONGEST = 20_000;
const OLDEST_MS = 30 * 86_400_000;

export interface Draft {
  text: string;
  /** When it was typed, in ms since 1970. */
  at: number;
}

type Storage_ = Pick<Storage, "getItem" | "setItem" | "removeItem">;

function storage(): Storage_ | undefined {
  try {
    return globalThis.localStorage;
  } catch {
    return undefined;
  }
}

/** A stored draft, or undefined for none, for what is no draft, and for one that is older than a month. */
export function parseDraft(stored: string | null, now = Date.now()): Draft | undefined {
  if (stored === null) return undefined;
  try {
    const found: unknown = JSON.parse(stored);
    if (typeof found !== "object" || found === null) return undefined;
    const { text, at } = found as Record<string, unknown>;
    if (typeof text !== "string" || typeof at !== "number" || !Number.isFinite(at)) return undefined;
    if (text.length > LONGEST || now - at > OLDEST_MS || at > now + OLDEST_MS) return undefined;
    return { text, at };
  } catch {
    return undefined;
  }
}

export function readDraft(name: string): Draft | undefined {
  try {
    return parseDraft(storage()?.getItem(PREFIX + name) ?? null);
  } catch {
    return undefined;
  }
}

export function writeDraft(name: string, text: string | undefined, now = Date.now()): void {
  try {
    if (text === undefined) storage()?.removeItem(PREFIX + name);
    else storage()?.setItem(PREFIX + name, JSON.stringify({ text, at: now }));
  } catch {
    // Storage may be full or closed; the draft then lives as long as the page.
  }
}

/** The draft's key as the storage event names it. */
export const draftKey = (name: string): string => PREFIX + name;

/** A form's texts by field, or undefined for what is no such record. */
export function parseRecord(stored: string | null | undefined): Record<string, string> | undefined {
  if (!stored) return undefined;
  try {
    const found: unknown = JSON.parse(stored);
    if (typeof found !== "object" || found === null || Array.isArray(found)) return undefined;
    const texts = Object.entries(found).filter((entry): entry is [string, string] => typeof entry[1] === "string");
    return texts.length === Object.keys(found).length && texts.every(([, text]) => text.length <= LONGEST)
      ? Object.fromEntries(texts)
      : undefined;
  } catch {
    return undefined;
  }
}

/** Edits that never went out, as they are kept. */
export function readRecord(key: string): Record<string, unknown> | undefined {
  try {
    const found: unknown = JSON.parse(storage()?.getItem(key) ?? "null");
    return typeof found === "object" && found !== null && !Array.isArray(found) && Object.keys(found).length > 0
      ? (found as Record<string, unknown>)
      : undefined;
  } catch {
    return undefined;
  }
}

export function writeRecord(key: string, values: Record<string, unknown> | undefined): void {
  try {
    if (values === undefined || Object.keys(values).length === 0) storage()?.removeItem(key);
    else storage()?.setItem(key, JSON.stringify(values));
  } catch {
    // As above.
  }
}
