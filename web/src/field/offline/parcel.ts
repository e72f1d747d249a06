import type { FieldEvent } from "./events";

/** What happened, as it leaves a device that has no server: a small file, a text, or codes to be photographed. */
export interface Parcel {
  lucid_ridge_events: 1;
  card_id: number;
  events: FieldEvent[];
}

// What one code holds and a phone's camera still reads from a screen [characters].
const CODE_CHARACTERS = 700;
const HEAD = /^LR1 (\d+)\/(\d+) (\w+) (.*)$/s;

export const parcelOf = (cardId: number, events: FieldEvent[]): Parcel => ({
  lucid_ridge_events: 1,
  card_id: cardId,
  events,
});

/** The events of a parcel's text. Throws an Error that says what was wrong. */
export function readParcel(text: string): FieldEvent[] {
  let found: unknown;
  try {
    found = JSON.parse(text);
  } catch {
    throw new Error('This is no text that the field runner has taken out: it should begin with {"lucid_ridge_events".');
  }
  const parcel = found as Partial<Parcel> | null;
  if (parcel?.lucid_ridge_events !== 1 || !Array.isArray(parcel.events))
    throw new Error("This is another kind of file: one with lucid_ridge_events, version 1, is needed.");
  return parcel.events.map((event) => ({ ...event, card_id: event.card_id ?? parcel.card_id ?? null }));
}

/** The text of a parcel without its pictures, packed and cut so that each piece fits a code. */
export async function codesOf(parcel: Parcel): Promise<string[]> {
  const bare = { ...parcel, events: parcel.events.map(({ image: _, ...event }) => event) };
  const packed = base64(await squeezed(JSON.stringify(bare), new CompressionStream("deflate-raw")));
  const count = Math.max(1, Math.ceil(packed.length / CODE_CHARACTERS));
  const mark = checksum(packed);
  return Array.from(
    { length: count },
    (_, index) =>
      `LR1 ${index + 1}/${count} ${mark} ${packed.slice(index * CODE_CHARACTERS, (index + 1) * CODE_CHARACTERS)}`,
  );
}

/** The parcel's text from all its codes in any order; or how many are still lacking. */
export async function readCodes(codes: string[]): Promise<{ text: string } | { lacking: number[] }> {
  const parts = new Map<number, string>();
  let count = 0;
  let mark = "";
  for (const code of codes) {
    const match = HEAD.exec(code.trim());
    if (!match) continue;
    if (mark && match[3] !== mark)
      throw new Error("These codes belong to two different exports: read one after the other.");
    mark = match[3] ?? "";
    count = Number(match[2]);
    parts.set(Number(match[1]), match[4] ?? "");
  }
  if (!count) throw new Error("None of these is a code of the field runner.");
  const lacking = Array.from({ length: count }, (_, index) => index + 1).filter((number) => !parts.has(number));
  if (lacking.length) return { lacking };
  const packed = Array.from({ length: count }, (_, index) => parts.get(index + 1) ?? "").join("");
  if (checksum(packed) !== mark) throw new Error("A code was read wrongly: photograph it again.");
  const bytes = Uint8Array.from(atob(packed), (letter) => letter.charCodeAt(0));
  const stream = new Blob([bytes]).stream().pipeThrough(new DecompressionStream("deflate-raw"));
  return { text: await new Response(stream).text() };
}

async function squeezed(text: string, by: CompressionStream): Promise<Uint8Array> {
  return new Uint8Array(await new Response(new Blob([text]).stream().pipeThrough(by)).arrayBuffer());
}

function base64(bytes: Uint8Array): string {
  let text = "";
  for (const byte of bytes) text += String.fromCharCode(byte);
  return btoa(text);
}

/** A short mark of a text, that distinguishes the pieces of two texts (FNV-1a). */
function checksum(text: string): string {
  let hash = 0x811c9dc5;
  for (let index = 0; index < text.length; index++) hash = Math.imul(hash ^ text.charCodeAt(index), 0x01000193) >>> 0;
  return hash.toString(36);
}
