import { beforeEach, describe, expect, it, vi } from "vitest";

const at = (path: string, method = "GET") => new Request(`http://127.0.0.1:8710${path}`, { method });
const answer = (revision: number, notebook = "mine", status = 200) =>
  new Response("{}", { status, headers: { ETag: `"${revision}"`, "Lucid-Ridge-Notebook": notebook } });

async function fresh() {
  vi.resetModules();
  return import("./session");
}

let session: Awaited<ReturnType<typeof fresh>>;
beforeEach(async () => {
  session = await fresh();
});

describe("what a page says of itself", () => {
  it("is the same hand in every request", () => {
    const one = session.sign(at("/api/shots/1")).headers.get("Lucid-Ridge-Hand");
    expect(one).toBeTruthy();
    expect(session.sign(at("/api/kit")).headers.get("Lucid-Ridge-Hand")).toBe(one);
  });

  it("is the notebook it was opened on, and never another one", () => {
    expect(session.sign(at("/api/shots/1")).headers.get("Lucid-Ridge-Notebook")).toBeNull();
    session.note(at("/api/notebook"), answer(3, "mine"));
    session.note(at("/api/notebook"), answer(4, "other"));
    expect(session.sign(at("/api/shots/1")).headers.get("Lucid-Ridge-Notebook")).toBe("mine");
  });

  it("is what it had read of the shot that it edits", () => {
    session.note(at("/api/shots/1"), answer(7));
    session.note(at("/api/kit"), answer(9));
    expect(session.sign(at("/api/shots/1", "PATCH")).headers.get("If-Match")).toBe('"7"');
  });

  it("is what the page at hand had read, for anything else", () => {
    session.note(at("/api/shots/1"), answer(7));
    session.note(at("/api/locations"), answer(9));
    session.readsFrom("/api/shots/1");
    expect(session.sign(at("/api/elements/4", "PATCH")).headers.get("If-Match")).toBe('"7"');
    session.readsFrom("/api/locations");
    expect(session.sign(at("/api/elements/4", "PATCH")).headers.get("If-Match")).toBe('"9"');
  });

  it("is nothing while nothing was read", () => {
    expect(session.sign(at("/api/elements/4", "PATCH")).headers.get("If-Match")).toBeNull();
    session.readsFrom("/api/kit");
    expect(session.sign(at("/api/lenses/4", "PATCH")).headers.get("If-Match")).toBeNull();
  });

  it("is never sent along with a question", () => {
    session.note(at("/api/shots/1"), answer(7));
    expect(session.sign(at("/api/shots/1")).headers.get("If-Match")).toBeNull();
  });
});

describe("what a page has read", () => {
  it("grows with the answer to its own edit", () => {
    session.note(at("/api/shots/1"), answer(7));
    session.note(at("/api/shots/1", "PATCH"), answer(8));
    expect(session.sign(at("/api/shots/1", "PATCH")).headers.get("If-Match")).toBe('"8"');
  });

  it("does not grow with a refusal", () => {
    session.note(at("/api/shots/1"), answer(7));
    session.note(at("/api/shots/1", "PATCH"), answer(8, "mine", 422));
    expect(session.sign(at("/api/shots/1", "PATCH")).headers.get("If-Match")).toBe('"7"');
  });

  it("knows the newest revision that anything has named", () => {
    expect(session.newestRevision()).toBe(0);
    session.note(at("/api/kit"), answer(9));
    session.note(at("/api/notebook"), answer(5));
    expect(session.newestRevision()).toBe(9);
  });
});
