import { cleanup, configure } from "@testing-library/react";
import { afterEach } from "vitest";

// Patience for a machine that is busy with something else; it costs nothing where all is well.
configure({ asyncUtilTimeout: 15_000 });

// Node's requests have no page whose address a path could be read against; the client looks for the class when it is made.
const Plain = globalThis.Request;
globalThis.Request = class extends Plain {
  constructor(input: RequestInfo | URL, init?: RequestInit) {
    super(typeof input === "string" ? new URL(input, "http://localhost") : input, init);
  }
};

// Files share one page: what a test has drawn goes, and the focus with it.
afterEach(cleanup);
