import { readFileSync } from "node:fs";
import { resolve } from "node:path";
import { ChakraProvider } from "@chakra-ui/react";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render } from "@testing-library/react";
import type { ReactElement } from "react";
import { MemoryRouter, Route, Routes } from "react-router";
import { vi } from "vitest";
import { system } from "./theme/system";

/** An answer of the demo (tests/reference/answers, held to what the API sends by tests/api/test_component_answers.py). */
// biome-ignore lint/suspicious/noExplicitAny: each test reads what it needs of it.
export function answer(name: string): any {
  return JSON.parse(readFileSync(resolve(import.meta.dirname, `../../tests/reference/answers/${name}.json`), "utf8"));
}

export interface Asked {
  method: string;
  path: string;
  body: unknown;
}

type Answers = Record<string, unknown>;

/** What the server says no to, as it says it. */
export class Refusal {
  constructor(
    readonly field: string,
    readonly message: string,
  ) {}
}

/** Answers requests by "METHOD /path"; returns what was asked for but not merely read. */
export function serve(answers: Answers): Asked[] {
  const asked: Asked[] = [];
  vi.stubGlobal("fetch", async (request: Request) => {
    const path = new URL(request.url, "http://localhost").pathname;
    const text = request.method === "GET" ? "" : await request.text();
    if (request.method !== "GET")
      asked.push({ method: request.method, path, body: text ? JSON.parse(text) : undefined });
    const found = answers[`${request.method} ${path}`];
    if (found instanceof Refusal) {
      const { field, message } = found;
      return Response.json({ error: { kind: "input", message, fields: [{ field, message }] } }, { status: 422 });
    }
    if (found === undefined && request.method === "GET")
      return Response.json(
        { error: { kind: "missing", message: `${path} is not served`, fields: [] } },
        { status: 404 },
      );
    return found === undefined ? new Response(null, { status: 204 }) : Response.json(found);
  });
  return asked;
}

/** Draw a page at an address, as the application does. */
export function drawPage(element: ReactElement, path: string, pattern = path) {
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  return render(
    <ChakraProvider value={system}>
      <QueryClientProvider client={queries}>
        <MemoryRouter initialEntries={[path]}>
          <Routes>
            <Route path={pattern} element={element} />
            <Route path="*" element={<div>elsewhere</div>} />
          </Routes>
        </MemoryRouter>
      </QueryClientProvider>
    </ChakraProvider>,
  );
}
