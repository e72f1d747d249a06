import type { Schemas } from "../api/client";

/** A log entry with its frames, as the server sends it. */
export type Entry = Schemas["LogEntryOut"];
