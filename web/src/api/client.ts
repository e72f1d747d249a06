import createClient from "openapi-fetch";
import type { components, paths } from "./schema";
import { note, sign } from "./session";

export type Schemas = components["schemas"];

/** The typed client; fetch is looked up at each call so that it can be replaced. */
export const client = createClient<paths>({ baseUrl: "/", fetch: (request) => globalThis.fetch(request) });
client.use({
  onRequest: ({ request }) => sign(request),
  onResponse: ({ request, response }) => note(request, response),
});

export interface FieldError {
  field: string;
  message: string;
}

/** What the server said no to: one sentence, and the fields concerned. status 0 means that it did not answer. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly fields: FieldError[] = [],
    readonly kind = "",
  ) {
    super(message);
  }

  at(field: string): string | undefined {
    return this.fields.find((item) => item.field === field || item.field.startsWith(`${field}.`))?.message;
  }

  /** Whether the server, its database, room on its disk or anybody signed in was not there at all: what was asked may be asked again. */
  get away(): boolean {
    return [0, 401, 502, 503, 504, 507].includes(this.status);
  }
}

/** A refusal of one value of a list, as the one field says it in which the value was typed. */
export function atOneField(failure: unknown): unknown {
  return failure instanceof ApiError ? new Error(failure.fields[0]?.message ?? failure.message) : failure;
}

export const AWAY = "The server does not answer.";
/** Sent to the window when the server has turned out to keep another notebook than the one this page was opened on. */
export const OTHER_NOTEBOOK = "lucid-ridge-other-notebook";

/** Sent to the window when the server has said that nobody is signed in. */
export const SIGN_IN = "lucid-ridge-sign-in";

let entries = 0;

/** Somebody has signed in: what was refused on its way there says nothing of now. */
export const entered = (): void => {
  entries += 1;
};

/** The data of an answer, or an ApiError. */
export async function take<T>(answer: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  const asked = entries;
  let settled: { data?: T; error?: unknown; response: Response };
  try {
    settled = await answer;
  } catch {
    throw new ApiError(0, AWAY);
  }
  const { data, error, response } = settled;
  if (response.ok) return data as T;
  const body = (error as { error?: { message?: string; fields?: FieldError[]; kind?: string } } | undefined)?.error;
  const message = body?.message ?? `The server answered with ${response.status}.`;
  if (body?.kind === "other_notebook") globalThis.dispatchEvent?.(new CustomEvent(OTHER_NOTEBOOK, { detail: message }));
  if (body?.kind === "sign_in" && asked === entries) globalThis.dispatchEvent?.(new CustomEvent(SIGN_IN));
  throw new ApiError(response.status, message, body?.fields ?? [], body?.kind);
}
