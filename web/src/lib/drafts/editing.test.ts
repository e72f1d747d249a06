import { describe, expect, it } from "vitest";
import { calm, dropped, entered, left, movedMeanwhile, overtaken, shown, taken, toSend, typedInto } from "./editing";

const typing = (value: string, text: string) => typedInto(entered(calm()), value, text);

describe("a field that nobody edits", () => {
  it("shows the value in force", () => {
    expect(shown(calm(), "f/8")).toBe("f/8");
    expect(shown(overtaken(calm(), "f/11"), "f/11")).toBe("f/11");
  });

  it("has nothing to send when one merely passes through", () => {
    const passed = left(entered(calm()), "f/8");
    expect(toSend(entered(calm()), "f/8")).toBeUndefined();
    expect(passed).toEqual(calm());
  });

  it("does not send a draft from an earlier visit when one passes through", () => {
    const state = entered(calm("f/5,6"));
    expect(shown(state, "f/8")).toBe("f/8");
    expect(toSend(state, "f/8")).toBeUndefined();
    expect(left(state, "f/8").left).toBe("f/5,6");
  });
});

describe("a field being typed into", () => {
  it("shows what is typed and sends it when left", () => {
    const state = typing("f/8", "5,6");
    expect(shown(state, "f/8")).toBe("5,6");
    expect(toSend(state, "f/8")).toBe("5,6");
    expect(shown(left(state, "f/8"), "f/8")).toBe("5,6");
  });

  it("sends nothing when what is typed is what is there", () => {
    expect(toSend(typing("f/8", "f/8"), "f/8")).toBeUndefined();
  });

  it("goes on undisturbed while the value moves on", () => {
    const state = overtaken(typing("f/8", "5,6"), "f/11");
    expect(shown(state, "f/11")).toBe("5,6");
    expect(movedMeanwhile(state, "f/11")).toBe(true);
  });

  it("knows that nothing has moved", () => {
    expect(movedMeanwhile(typing("f/8", "5,6"), "f/8")).toBe(false);
    expect(movedMeanwhile(calm(), "f/11")).toBe(false);
  });

  it("remembers over which value typing began", () => {
    const state = typedInto(typing("f/8", "5"), "f/11", "5,6");
    expect(state.base).toBe("f/8");
  });

  it("is at rest when the value comes to be what was typed", () => {
    expect(overtaken(typing("f/8", "f/11"), "f/11")).toEqual({ ...calm(), inside: true });
  });

  it("drops an older unsent text once one types again", () => {
    expect(typedInto(calm("old"), "f/8", "n").left).toBeUndefined();
  });
});

describe("a text that was refused", () => {
  const refused = left(typing("f/8", "f/1"), "f/8");

  it("stays to be mended", () => {
    expect(shown(refused, "f/8")).toBe("f/1");
    expect(toSend(refused, "f/8")).toBe("f/1");
  });

  it("gives way to the value once that moves on, and is offered below", () => {
    const over = overtaken(refused, "f/11");
    expect(shown(over, "f/11")).toBe("f/11");
    expect(over.left).toBe("f/1");
    expect(toSend(over, "f/11")).toBeUndefined();
  });

  it("can be thrown away", () => {
    expect(shown(dropped(refused), "f/8")).toBe("f/8");
    expect(dropped(refused).left).toBeUndefined();
  });
});

describe("a text that was taken", () => {
  it("leaves alone what has been typed since it was sent", () => {
    const further = typedInto(typing("f/8", "f/11"), "f/8", "f/16");
    const state = taken(further, "f/11");
    expect(shown(state, "f/11")).toBe("f/16");
    expect(toSend(state, "f/11")).toBe("f/16");
    // The value has moved by one's own edit: that is nothing to warn of.
    expect(movedMeanwhile(state, "f/11")).toBe(false);
    expect(movedMeanwhile(typedInto(state, "f/11", "f/22"), "f/11")).toBe(false);
    expect(movedMeanwhile(typedInto(state, "f/11", "f/22"), "f/4")).toBe(true);
  });

  it("leaves the field at rest, anyone who is still in it", () => {
    expect(taken(typing("f/8", "f/11"), "f/11")).toEqual({ ...calm(), inside: true });
    expect(taken(left(typing("f/8", "f/11"), "f/8"), "f/11").inside).toBe(false);
  });
});

describe("values that move while nobody types", () => {
  it("change nothing of an unsent text from before", () => {
    expect(overtaken(calm("soon"), "0.30 m")).toEqual(calm("soon"));
  });
});
