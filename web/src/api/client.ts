import createClient from "openapi-fetch";
import type { components, paths } from "./schema";

export type Schemas = components["schemas"];

/** The typed client; fetch is looked up at each call so that it can be replaced. */
export const client = createClient<paths>({ baseUrl: "/", fetch: (request) => globalThis.fetch(request) });

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
  ) {
    super(message);
  }

  at(field: string): string | undefined {
    return this.fields.find((item) => item.field === field || item.field.startsWith(`${field}.`))?.message;
  }
}

const AWAY = "The server does not answer. What you typed is kept; press Enter to try again.";

/** The data of an answer, or an ApiError. */
export async function take<T>(answer: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  let settled: { data?: T; error?: unknown; response: Response };
  try {
    settled = await answer;
  } catch {
    throw new ApiError(0, AWAY);
  }
  const { data, error, response } = settled;
  if (response.ok) return data as T;
  const body = (error as { error?: { message?: string; fields?: FieldError[] } } | undefined)?.error;
  throw new ApiError(response.status, body?.message ?? `The server answered with ${response.status}.`, body?.fields ?? []);
}
