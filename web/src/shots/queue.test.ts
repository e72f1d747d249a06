import { beforeEach, describe, expect, it, vi } from "vitest";
import { ApiError } from "../api/client";
import { EditQueue, type Values, type Wire } from "./queue";

/** A server under the test's hand: every request waits until it is answered. */
class Server {
  sent: Values[] = [];
  landed: { id: number; patch: Values }[] = [];
  refreshed = 0;
  stored: Values | undefined;
  waits: { ms: number; go: () => void }[] = [];
  private pending: { resolve: (answer: { id: number }) => void; reject: (error: unknown) => void }[] = [];

  constructor(readonly id = 1) {}

  wire(): Wire<{ id: number }> {
    return {
      send: (patch) => {
        this.sent.push(patch);
        return new Promise((resolve, reject) => this.pending.push({ resolve, reject }));
      },
      answered: (answer, patch) => {
        this.landed.push({ id: answer.id, patch });
      },
      refresh: async () => {
        this.refreshed += 1;
      },
      wait: (ms) =>
        new Promise((resolve) => {
          this.waits.push({ ms, go: resolve });
        }),
      keep: (values) => {
        this.stored = values;
      },
      kept: () => this.stored,
    };
  }

  async takes(): Promise<void> {
    this.pending.shift()?.resolve({ id: this.id });
    await settle();
  }

  async refuses(error: ApiError): Promise<void> {
    this.pending.shift()?.reject(error);
    await settle();
  }

  async waited(): Promise<void> {
    this.waits.shift()?.go();
    await settle();
  }

  get open(): number {
    return this.pending.length;
  }
}

const settle = async () => {
  for (let turn = 0; turn < 12; turn++) await Promise.resolve();
};
const invalid = (field: string, message = "no") => new ApiError(422, message, [{ field, message }], "invalid");
const gone = () => new ApiError(0, "The server does not answer.");
const changed = (...fields: string[]) =>
  new ApiError(
    409,
    "changed elsewhere",
    fields.map((field) => ({ field, message: "changed" })),
    "changed",
  );

let server: Server;
let queue: EditQueue<{ id: number }>;
beforeEach(() => {
  server = new Server();
  queue = new EditQueue(server.wire());
});

/** Add an edit and watch what becomes of it. */
function edit(patch: Values) {
  const seen = { state: "open" as "open" | "taken" | "refused", error: undefined as unknown };
  queue.add(patch).then(
    () => {
      seen.state = "taken";
    },
    (error: unknown) => {
      seen.state = "refused";
      seen.error = error;
    },
  );
  return seen;
}

describe("merging", () => {
  it("sends the first edit at once and the rest together", async () => {
    const [one, two, three] = [edit({ f_number: 8 }), edit({ iso: 100 }), edit({ f_number: 11 })];
    await settle();
    expect(server.sent).toEqual([{ f_number: 8 }]);
    await server.takes();
    expect(server.sent[1]).toEqual({ iso: 100, f_number: 11 });
    expect([one.state, two.state, three.state]).toEqual(["taken", "open", "open"]);
    await server.takes();
    expect([two.state, three.state]).toEqual(["taken", "taken"]);
    expect(server.open).toBe(0);
  });

  it("counts as asked until the answer stands, so that nothing flickers back", async () => {
    let stands: () => void = () => undefined;
    const slow = new EditQueue({
      ...server.wire(),
      answered: () =>
        new Promise<void>((resolve) => {
          stands = resolve;
        }),
    });
    const one = slow.add({ hood_on: true });
    await settle();
    await server.takes();
    expect(slow.snapshot().asked).toEqual({ hood_on: true });
    stands();
    await one;
    expect(slow.snapshot().asked).toEqual({});
  });

  it("never has two requests under way", async () => {
    for (let iso = 1; iso < 20; iso++) edit({ iso });
    await settle();
    expect(server.open).toBe(1);
    await server.takes();
    expect(server.open).toBe(1);
    expect(server.sent).toEqual([{ iso: 1 }, { iso: 19 }]);
  });

  it("keeps a command apart from the values it is computed from", async () => {
    edit({ pitch_deg: 1 });
    edit({ crop_share: 0.5 });
    edit({ focal_mm: 35 });
    edit({ iso: 200 });
    await settle();
    await server.takes();
    await server.takes();
    await server.takes();
    expect(server.sent).toEqual([{ pitch_deg: 1 }, { crop_share: 0.5 }, { focal_mm: 35, iso: 200 }]);
  });

  it("does not merge values into a zoom that keeps the subject's size", async () => {
    edit({ iso: 100 });
    edit({ camera_east_m: 1 });
    edit({ focal_mm: 50, keep_subject_size: true });
    edit({ camera_east_m: 2 });
    await settle();
    for (let turn = 0; turn < 4; turn++) await server.takes();
    expect(server.sent).toEqual([
      { iso: 100 },
      { camera_east_m: 1 },
      { focal_mm: 50, keep_subject_size: true },
      { camera_east_m: 2 },
    ]);
  });

  it("tells what is asked for, the newest of each", async () => {
    edit({ f_number: 8, iso: 100 });
    edit({ f_number: 11 });
    await settle();
    expect(queue.snapshot().asked).toEqual({ f_number: 11, iso: 100 });
    await server.takes();
    expect(queue.snapshot().asked).toEqual({ f_number: 11 });
    await server.takes();
    expect(queue.snapshot().asked).toEqual({});
  });

  it("lets an answer land before the edit counts as taken", async () => {
    const order: string[] = [];
    const wire = server.wire();
    queue = new EditQueue({ ...wire, answered: () => void order.push("landed") });
    void queue.add({ iso: 200 }).then(() => order.push("taken"));
    await settle();
    await server.takes();
    expect(order).toEqual(["landed", "taken"]);
  });

  it("tells its listeners of every change and no longer once they leave", async () => {
    const listener = vi.fn();
    const leave = queue.subscribe(listener);
    edit({ iso: 100 });
    await settle();
    expect(listener).toHaveBeenCalled();
    leave();
    const count = listener.mock.calls.length;
    await server.takes();
    expect(listener).toHaveBeenCalledTimes(count);
  });
});

describe("refusal", () => {
  it("is said at its field and reaches the one who asked", async () => {
    const one = edit({ f_number: "f/1" });
    await settle();
    await server.refuses(invalid("f_number", "opens from f/2.8"));
    expect(one.state).toBe("refused");
    expect(queue.snapshot().errors).toEqual({ f_number: "opens from f/2.8" });
    expect(queue.snapshot().away).toBeUndefined();
  });

  it("of one value does not take the others with it", async () => {
    edit({ pitch_deg: 0 });
    const [iso, aperture, intent] = [edit({ iso: 100 }), edit({ f_number: "f/1" }), edit({ intent: "calm" })];
    await settle();
    await server.takes();
    expect(server.sent[1]).toEqual({ iso: 100, f_number: "f/1", intent: "calm" });
    await server.refuses(invalid("f_number"));
    expect(server.sent[2]).toEqual({ iso: 100 });
    await server.takes();
    await server.refuses(invalid("f_number"));
    await server.takes();
    expect(server.sent.slice(2)).toEqual([{ iso: 100 }, { f_number: "f/1" }, { intent: "calm" }]);
    expect([iso.state, aperture.state, intent.state]).toEqual(["taken", "refused", "taken"]);
    expect(Object.keys(queue.snapshot().errors)).toEqual(["f_number"]);
  });

  it("keeps the values of one edit together", async () => {
    edit({ iso: 1 });
    const window = edit({ time_utc: "a", window_end_utc: "b" });
    const other = edit({ pitch_deg: 99 });
    await settle();
    await server.takes();
    await server.refuses(invalid("pitch_deg"));
    await server.takes();
    await server.refuses(invalid("pitch_deg"));
    expect(server.sent.slice(2)).toEqual([{ time_utc: "a", window_end_utc: "b" }, { pitch_deg: 99 }]);
    expect([window.state, other.state]).toEqual(["taken", "refused"]);
  });

  it("of a nested field stands at the field's own name", async () => {
    edit({ filters: [] });
    await settle();
    await server.refuses(invalid("filters.0.on_lens", "true or false"));
    expect(queue.snapshot().errors).toEqual({ filters: "true or false" });
  });

  it("is forgotten once the field is taken, or its text thrown away", async () => {
    edit({ iso: 1 });
    edit({ f_number: 99 });
    await settle();
    await server.refuses(invalid("iso"));
    await server.refuses(invalid("f_number"));
    expect(Object.keys(queue.snapshot().errors).sort()).toEqual(["f_number", "iso"]);
    queue.forgive("f_number");
    expect(Object.keys(queue.snapshot().errors)).toEqual(["iso"]);
    edit({ iso: 100 });
    await settle();
    await server.takes();
    expect(queue.snapshot().errors).toEqual({});
  });

  it("without a field is said as a failure", async () => {
    edit({ iso: 1 });
    await settle();
    await server.refuses(new ApiError(422, "does not fit", []));
    expect(queue.snapshot().failure).toBe("does not fit");
    queue.forgetErrors();
    expect(queue.snapshot().failure).toBeUndefined();
  });

  it("of a shot that is gone ends the edit", async () => {
    const one = edit({ iso: 1 });
    await settle();
    await server.refuses(new ApiError(404, "does not exist any more", [], "not_found"));
    expect(one.state).toBe("refused");
    expect(queue.snapshot().failure).toContain("does not exist");
    expect(server.open).toBe(0);
  });

  it("by a fault of the server is a failure, and the queue goes on", async () => {
    const one = edit({ iso: 1 });
    const two = edit({ pitch_deg: 2 });
    await settle();
    await server.refuses(new ApiError(500, "went wrong"));
    await server.takes();
    expect([one.state, two.state]).toEqual(["refused", "taken"]);
  });

  it("survives what is no answer at all", async () => {
    const wire = server.wire();
    queue = new EditQueue({ ...wire, send: () => Promise.reject(new TypeError("broken")) });
    const one = edit({ iso: 1 });
    await settle();
    expect(one.state).toBe("refused");
    expect(queue.snapshot().failure).toBe("broken");
  });
});

describe("the server away", () => {
  it("keeps edits, says so, and sends them when it is back", async () => {
    const one = edit({ filters: [1] });
    await settle();
    await server.refuses(gone());
    expect(queue.snapshot().away).toContain("does not answer");
    expect(one.state).toBe("open");
    const two = edit({ f_number: 11 });
    expect(queue.snapshot().asked).toEqual({ filters: [1], f_number: 11 });
    await server.waited();
    expect(server.sent.at(-1)).toEqual({ filters: [1], f_number: 11 });
    await server.takes();
    expect([one.state, two.state]).toEqual(["taken", "taken"]);
    expect(queue.snapshot().away).toBeUndefined();
    expect(queue.snapshot().asked).toEqual({});
  });

  it("waits longer each time, up to eight seconds", async () => {
    edit({ iso: 100 });
    await settle();
    const waits: number[] = [];
    for (let turn = 0; turn < 6; turn++) {
      await server.refuses(gone());
      waits.push(server.waits[0]?.ms ?? 0);
      await server.waited();
    }
    expect(waits).toEqual([1000, 2000, 4000, 8000, 8000, 8000]);
    await server.takes();
    edit({ iso: 200 });
    await settle();
    await server.refuses(gone());
    expect(server.waits[0]?.ms).toBe(1000);
  });

  it("tries at once when asked to", async () => {
    edit({ iso: 100 });
    await settle();
    await server.refuses(gone());
    queue.retry();
    await settle();
    expect(server.sent).toHaveLength(2);
    await server.takes();
    expect(queue.snapshot().away).toBeUndefined();
  });

  it("a database that is away is as good as a server that is", async () => {
    const one = edit({ iso: 100 });
    await settle();
    await server.refuses(new ApiError(503, "The notebook's database does not answer.", [], "unavailable"));
    expect(one.state).toBe("open");
    expect(queue.snapshot().away).toContain("database");
  });

  it("keeps what waits where a reload finds it, and forgets it once it is sent", async () => {
    edit({ iso: 100 });
    await settle();
    await server.refuses(gone());
    expect(server.stored).toEqual({ iso: 100 });
    await server.waited();
    await server.takes();
    expect(server.stored).toBeUndefined();
  });

  it("offers what an earlier visit left, and sends it only when told to", async () => {
    server.stored = { f_number: 8 };
    queue = new EditQueue(server.wire());
    await settle();
    expect(server.sent).toEqual([]);
    expect(queue.snapshot().left).toEqual({ f_number: 8 });
    queue.sendLeft();
    await settle();
    expect(server.sent).toEqual([{ f_number: 8 }]);
    expect(queue.snapshot().left).toBeUndefined();
    expect(server.stored).toBeUndefined();
  });

  it("can be told to throw everything away", async () => {
    const one = edit({ iso: 100 });
    await settle();
    await server.refuses(gone());
    queue.discard();
    await settle();
    expect(one.state).toBe("refused");
    expect(queue.snapshot().asked).toEqual({});
    expect(queue.snapshot().away).toBeUndefined();
    expect(server.stored).toBeUndefined();
  });

  it("says at the field what is refused once it is back", async () => {
    edit({ iso: 1 });
    await settle();
    await server.refuses(gone());
    await server.waited();
    await server.refuses(invalid("iso"));
    expect(queue.snapshot().errors).toEqual({ iso: "no" });
    expect(queue.snapshot().away).toBeUndefined();
    expect(server.stored).toBeUndefined();
  });
});

describe("two hands", () => {
  it("offers both values where another hand changed the same one", async () => {
    const one = edit({ pitch_deg: 7 });
    await settle();
    await server.refuses(changed("pitch_deg"));
    expect(one.state).toBe("refused");
    expect(queue.snapshot().clash).toEqual({ patch: { pitch_deg: 7 }, fields: ["pitch_deg"] });
    expect(server.refreshed).toBe(1);
  });

  it("takes one's own when told to, having read the newest", async () => {
    edit({ pitch_deg: 7 });
    await settle();
    await server.refuses(changed("pitch_deg"));
    const settled = queue.settleClash(true);
    await settle();
    expect(server.refreshed).toBe(2);
    await server.takes();
    await settled;
    expect(server.sent).toEqual([{ pitch_deg: 7 }, { pitch_deg: 7 }]);
    expect(queue.snapshot().clash).toBeUndefined();
  });

  it("leaves the other's when told to", async () => {
    edit({ pitch_deg: 7 });
    await settle();
    await server.refuses(changed("pitch_deg"));
    await queue.settleClash(false);
    expect(server.sent).toHaveLength(1);
    expect(queue.snapshot().clash).toBeUndefined();
  });

  it("of several values holds back only the one that clashes", async () => {
    edit({ iso: 0 });
    const [pitch, roll] = [edit({ pitch_deg: 7 }), edit({ roll_deg: 1 })];
    await settle();
    await server.takes();
    await server.refuses(changed("pitch_deg"));
    await server.refuses(changed("pitch_deg"));
    await server.takes();
    expect([pitch.state, roll.state]).toEqual(["refused", "taken"]);
    expect(queue.snapshot().clash?.patch).toEqual({ pitch_deg: 7 });
  });

  it("repeats what only stood in the way for a moment, a few times", async () => {
    const one = edit({ iso: 100 });
    await settle();
    const busy = () => new ApiError(409, "somebody else was writing", [], "conflict");
    await server.refuses(busy());
    await server.waited();
    expect(server.sent).toHaveLength(2);
    await server.takes();
    expect(one.state).toBe("taken");
    const two = edit({ iso: 200 });
    await settle();
    for (let turn = 0; turn < 3; turn++) {
      await server.refuses(busy());
      await server.waited();
    }
    expect(two.state).toBe("open");
    await server.refuses(busy());
    expect(two.state).toBe("refused");
  });
});

describe("a change of shot", () => {
  it("lets an answer land at the shot it belongs to", async () => {
    const [first, second] = [new Server(1), new Server(2)];
    const [one, two] = [new EditQueue(first.wire()), new EditQueue(second.wire())];
    void one.add({ iso: 100 });
    void two.add({ iso: 200 });
    await settle();
    await second.takes();
    await first.takes();
    expect(first.landed).toEqual([{ id: 1, patch: { iso: 100 } }]);
    expect(second.landed).toEqual([{ id: 2, patch: { iso: 200 } }]);
  });

  it("keeps refusals apart", async () => {
    const [first, second] = [new Server(1), new Server(2)];
    const [one, two] = [new EditQueue(first.wire()), new EditQueue(second.wire())];
    one.add({ iso: 1 }).catch(() => undefined);
    await settle();
    await first.refuses(invalid("iso"));
    expect(one.snapshot().errors).toEqual({ iso: "no" });
    expect(two.snapshot().errors).toEqual({});
  });
});

describe("coming to rest", () => {
  it("is at once where nothing is under way", async () => {
    let rested = false;
    void queue.idle().then(() => {
      rested = true;
    });
    await settle();
    expect(rested).toBe(true);
  });

  it("waits for what is under way and what waits behind it", async () => {
    let rested = false;
    edit({ iso: 100 });
    edit({ crop_share: 0.5 });
    void queue.idle().then(() => {
      rested = true;
    });
    await server.takes();
    await settle();
    expect(rested).toBe(false);
    await server.takes();
    expect(rested).toBe(true);
  });

  it("does not wait for a server that is away", async () => {
    let rested = false;
    edit({ iso: 100 });
    void queue.idle().then(() => {
      rested = true;
    });
    await settle();
    await server.refuses(gone());
    expect(rested).toBe(true);
  });
});
