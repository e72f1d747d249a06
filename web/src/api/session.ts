/** What this page says of itself with every request, and the revision of the notebook that it has read. */

const HAND = "Lucid-Ridge-Hand";
const NOTEBOOK = "Lucid-Ridge-Notebook";

let notebook: string | undefined;
let source: string | undefined;
let newest = 0;
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

/** The newest revision of the notebook that any answer to this page has named. */
export const newestRevision = (): number => newest;

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
  newest = Math.max(newest, revision);
  const path = new URL(request.url).pathname;
  if (request.method === "GET" || revisions.has(path)) revisions.set(path, revision);
}
