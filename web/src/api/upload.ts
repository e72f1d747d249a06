import { ApiError, AWAY, take } from "./client";
import { note, sign } from "./session";

/** Send a file to an address that takes one; its name tells the server what it is. */
export async function upload<T>(path: string, file: File): Promise<T> {
  const address = new URL(`${path}?file_name=${encodeURIComponent(file.name)}`, window.location.href);
  const headers = { "Content-Type": "application/octet-stream" };
  const request = sign(new Request(address, { method: "POST", headers, body: file }));
  try {
    return await take(sent<T>(request));
  } catch (failure) {
    // A file cannot be kept for later as a value can.
    if (failure instanceof ApiError && failure.status === 0)
      throw new ApiError(0, `${AWAY} Choose the file again in a moment.`);
    throw failure;
  }
}

async function sent<T>(request: Request) {
  const response = await fetch(request);
  note(request, response);
  const body: unknown = await response.json().catch(() => undefined);
  return response.ok ? { data: body as T, response } : { error: body, response };
}
