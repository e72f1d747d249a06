import { beforeEach, describe, expect, it, vi } from "vitest";

const at = (path: string, method = "GET") => new Request(`http://127.0.0.1:8710${path}`, { method });
const answer = (revision: number, notebook = "mine", status = 200) =>
  new Response("{}", { status, headers: { ETag: `"${revision}"`, "Lucid-Ridge-Notebook": notebook } });

const wrote = (revision: number) => {
  const made = answer(revision);
  made.headers.set("Lucid-Ridge-Wrote", "1");
  return made;
};

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

  it("is old once anybody else has written", () => {
    session.note(at("/api/shots/1"), answer(7));
    expect(session.writtenElsewhere(7)).toBe(false);
    expect(session.writtenElsewhere(8)).toBe(true);
    // Asked for again by then.
    expect(session.writtenElsewhere(8)).toBe(false);
  });

  it("is not old by what the page itself wrote", () => {
    session.note(at("/api/shots/1"), answer(7));
    session.note(at("/api/shots/1", "PATCH"), wrote(8));
    session.note(at("/api/shots/1", "PATCH"), wrote(9));
    expect(session.writtenElsewhere(9)).toBe(false);
  });

  it("is old by another's edit between two of its own", () => {
    session.note(at("/api/shots/1"), answer(7));
    session.note(at("/api/shots/1", "PATCH"), wrote(8));
    session.note(at("/api/shots/1", "PATCH"), wrote(10));
    expect(session.writtenElsewhere(10)).toBe(true);
  });

  it("is old though another page of it was read later", () => {
    session.note(at("/api/shots/1"), answer(7));
    // The kit was fetched after somebody wrote; the shot that is shown was not.
    session.note(at("/api/kit"), answer(8));
    expect(session.writtenElsewhere(8)).toBe(true);
  });

  it("is not made new by a computation that writes nothing", () => {
    session.note(at("/api/shots/1"), answer(7));
    session.note(at("/api/shots/1/tune", "POST"), answer(8));
    expect(session.writtenElsewhere(8)).toBe(true);
  });
});
