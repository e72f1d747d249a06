import { parseRecord, readDraft, writeDraft } from "../lib/drafts/drafts";

const KEPT_AS = "last shot";

/** The shot that was open last on this device. */
export function lastShot(): { id: number; name: string } | undefined {
  const { id, name } = parseRecord(readDraft(KEPT_AS)?.text) ?? {};
  return id && name && Number.isInteger(Number(id)) ? { id: Number(id), name } : undefined;
}

export const openedShot = (id: number, name: string): void =>
  writeDraft(KEPT_AS, JSON.stringify({ id: String(id), name }));

/** Forget a shot that is there no more. */
export function forgetShot(id: number): void {
  if (lastShot()?.id === id) writeDraft(KEPT_AS, undefined);
}
