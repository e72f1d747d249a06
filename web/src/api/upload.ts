import { ApiError, type FieldError } from "./client";

/** Send a file to an address that takes one; its name tells the server what it is. */
export async function upload<T>(path: string, file: File): Promise<T> {
  let response: Response;
  try {
    response = await fetch(`${path}?file_name=${encodeURIComponent(file.name)}`, {
      method: "POST",
      headers: { "Content-Type": "application/octet-stream" },
      body: file,
    });
  } catch {
    throw new ApiError(0, "The server does not answer. Choose the file again in a moment.");
  }
  const body = (await response.json().catch(() => undefined)) as
    | { error?: { message?: string; fields?: FieldError[] } }
    | undefined;
  if (response.ok) return body as T;
  throw new ApiError(
    response.status,
    body?.error?.message ?? `The server answered with ${response.status}.`,
    body?.error?.fields,
  );
}
