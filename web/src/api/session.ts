/** What this page says of itself with every request, and the revision of the notebook that it has read. */

const HAND = "Lucid-Ridge-Hand";
const NOTEBOOK = "Lucid-Ridge-Notebook";
/** Set where the answer's revision is one that this very request has made. */
const WROTE = "Lucid-Ridge-Wrote";

let notebook: string | undefined;
let source: string | undefined;
/** Up to which revision the page is known to show everything. */
let upTo: number | undefined;
/** Revisions that this page itself has written. */
const own = new Set<number>();
const revisions = new Map<string, number>();

/** A name for this tab; a reload keeps it, a second tab has its own. */
export function hand(): string {
  try {
    const kept = sessionStorage.getItem("hand");
    if (kept) return kept;
    const made = crypto.randomUUID();
    sessionStorage.setItem("hand", made);
    return made;
  } catch {
    return "page";
  }
}

/** The address whose answer the page at hand shows: what is written was written with that in view. */
export function readsFrom(path: string): void {
  source = path;
}

/** Whether anybody else has written since this was asked last, now that the notebook stands at a revision. */
export function writtenElsewhere(revision: number): boolean {
  let elsewhere = false;
  for (let one = (upTo ?? revision) + 1; one <= revision; one++) if (!own.has(one)) elsewhere = true;
  upTo = Math.max(upTo ?? 0, revision);
  for (const one of own) if (one <= upTo) own.delete(one);
  return elsewhere;
}

export function sign(request: Request): Request {
  request.headers.set(HAND, hand());
  if (notebook) request.headers.set(NOTEBOOK, notebook);
  const path = new URL(request.url).pathname;
  // An edit of a shot was made with that shot in view, wherever the page has gone since.
  const seen = revisions.get(path) ?? (source === undefined ? undefined : revisions.get(source));
  if (request.method !== "GET" && seen !== undefined) request.headers.set("If-Match", `"${seen}"`);
  return request;
}

export function note(request: Request, response: Response): void {
  const named = response.headers.get(NOTEBOOK);
  if (named && notebook === undefined) notebook = named;
  const revision = Number((response.headers.get("ETag") ?? "").replaceAll('"', ""));
  if (!response.ok || !revision) return;
  upTo ??= response.headers.has(WROTE) ? revision - 1 : revision;
  if (response.headers.has(WROTE)) own.add(revision);
  const path = new URL(request.url).pathname;
  if (request.method === "GET" || revisions.has(path)) revisions.set(path, revision);
}
