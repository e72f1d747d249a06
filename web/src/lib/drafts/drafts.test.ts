import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { draftKey, parseDraft, parseRecord, readDraft, readRecord, writeDraft, writeRecord } from "./drafts";
import { fitting } from "./useStored";

class Memory {
  private items = new Map<string, string>();
  getItem = (key: string) => this.items.get(key) ?? null;
  setItem = (key: string, value: string) => void this.items.set(key, value);
  removeItem = (key: string) => void this.items.delete(key);
}

beforeEach(() => vi.stubGlobal("localStorage", new Memory()));
afterEach(() => vi.unstubAllGlobals());
const NOW = Date.UTC(2026, 10, 24);

describe("a draft", () => {
  it("is read as it was written", () => {
    writeDraft("shot:1:near_m", "soon", NOW);
    expect(parseDraft(localStorage.getItem(draftKey("shot:1:near_m")), NOW)).toEqual({ text: "soon", at: NOW });
  });

  it("is gone when it is thrown away", () => {
    writeDraft("a", "b");
    writeDraft("a", undefined);
    expect(readDraft("a")).toBeUndefined();
  });

  it("may be empty, which is not none", () => {
    writeDraft("a", "");
    expect(readDraft("a")?.text).toBe("");
  });

  it("of one field is not another's", () => {
    writeDraft("shot:1:iso", "1");
    expect(readDraft("shot:11:iso")).toBeUndefined();
    expect(readDraft("shot:1:is")).toBeUndefined();
  });

  it.each([
    ["nothing", null],
    ["plain text of an older version", "f/8"],
    ["a number", "3"],
    ["null", "null"],
    ["a list", "[]"],
    ["no time", '{"text":"a"}'],
    ["no text", '{"at":1}'],
    ["a text that is none", '{"text":3,"at":1}'],
    ["a time that is none", '{"text":"a","at":"now"}'],
    ["half a record", '{"text":"a'],
  ])("is none: %s", (_, stored) => {
    expect(parseDraft(stored, NOW)).toBeUndefined();
  });

  it("is none when it is older than a month, or from another time altogether", () => {
    expect(parseDraft(JSON.stringify({ text: "a", at: NOW - 31 * 86_400_000 }), NOW)).toBeUndefined();
    expect(parseDraft(JSON.stringify({ text: "a", at: NOW - 29 * 86_400_000 }), NOW)?.text).toBe("a");
    expect(parseDraft(JSON.stringify({ text: "a", at: NOW + 99 * 86_400_000 }), NOW)).toBeUndefined();
  });

  it("is none when it is longer than anyone types", () => {
    expect(parseDraft(JSON.stringify({ text: "x".repeat(20_001), at: NOW }), NOW)).toBeUndefined();
  });

  it("does without storage", () => {
    vi.stubGlobal("localStorage", undefined);
    expect(() => writeDraft("a", "b")).not.toThrow();
    expect(readDraft("a")).toBeUndefined();
  });

  it("does with storage that is full", () => {
    vi.stubGlobal("localStorage", {
      getItem: () => null,
      setItem: () => {
        throw new DOMException("full", "QuotaExceededError");
      },
      removeItem: () => undefined,
    });
    expect(() => writeDraft("a", "b")).not.toThrow();
  });
});

describe("a form's record", () => {
  it("holds texts by field", () => {
    expect(parseRecord('{"name":"Weir","elevation_m":"12"}')).toEqual({ name: "Weir", elevation_m: "12" });
  });

  it.each([
    ["nothing", undefined],
    ["empty", ""],
    ["a list", '["a"]'],
    ["a number inside", '{"a":1}'],
    ["broken", "{"],
  ])("is none: %s", (_, stored) => {
    expect(parseRecord(stored)).toBeUndefined();
  });
});

describe("edits that never went out", () => {
  it("come back as they were", () => {
    writeRecord("unsent:shot:1", { iso: 100, filters: [{ filter_id: 1 }] });
    expect(readRecord("unsent:shot:1")).toEqual({ iso: 100, filters: [{ filter_id: 1 }] });
    writeRecord("unsent:shot:1", undefined);
    expect(readRecord("unsent:shot:1")).toBeUndefined();
  });

  it("are none when there is nothing in them", () => {
    writeRecord("u", {});
    expect(readRecord("u")).toBeUndefined();
    localStorage.setItem("u", "[1]");
    expect(readRecord("u")).toBeUndefined();
    localStorage.setItem("u", "broken");
    expect(readRecord("u")).toBeUndefined();
  });
});

describe("what a form held before", () => {
  const initial = { by: "thumbs", count: "1", crop: false, targets: [1], at: null as number | null };

  it("counts where it is of the same kind", () => {
    expect(fitting('{"by":"pixels","crop":true,"targets":[2],"at":3}', initial)).toEqual({
      by: "pixels",
      crop: true,
      targets: [2],
      at: 3,
    });
  });

  it("does not count otherwise", () => {
    expect(fitting('{"by":3,"crop":"yes","targets":{},"unknown":1}', initial)).toEqual({});
    expect(fitting("[]", initial)).toEqual({});
    expect(fitting("{", initial)).toEqual({});
    expect(fitting(undefined, initial)).toEqual({});
  });
});
