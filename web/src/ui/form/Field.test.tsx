// @vitest-environment jsdom
import { act, fireEvent, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { ApiError } from "../../api/client";
import { readDraft, writeDraft } from "../../lib/drafts/drafts";
import { draw, furnish } from "../../testing";
import { Choice, Field } from "./Field";

const NAME = "shot:1:near_m";

/** A field over a value that a server keeps; it can be moved on from outside, as keys, undo or another hand do. */
function Kept({ save, start = "0.30 m" }: { save: (text: string) => Promise<string | undefined>; start?: string }) {
  const [value, setValue] = useState(start);
  return (
    <>
      <Field
        label="Near limit"
        name={NAME}
        value={value}
        save={async (text) => {
          const taken = await save(text);
          if (taken !== undefined) setValue(taken);
        }}
      />
      <button type="button" onClick={() => setValue("0.50 m")}>
        move on
      </button>
      <input aria-label="elsewhere" />
    </>
  );
}

const box = () => screen.getByLabelText("Near limit") as HTMLInputElement;
const user = userEvent.setup();
beforeEach(() => {
  furnish();
  localStorage.clear();
});
const refuse = () =>
  Promise.reject(
    new ApiError(422, "“soon” is not a distance.", [{ field: "near_m", message: "“soon” is not a distance." }]),
  );

describe("a field", () => {
  it("changes nothing when one merely passes through it", async () => {
    const save = vi.fn(async () => undefined);
    draw(<Kept save={save} />);
    await user.tab();
    expect(document.activeElement).toBe(box());
    await user.tab();
    await user.tab();
    expect(save).not.toHaveBeenCalled();
    expect(box().value).toBe("0.30 m");
  });

  it("saves what was typed on Enter, and shows what the server made of it", async () => {
    const save = vi.fn(async () => "0.40 m");
    draw(<Kept save={save} />);
    await user.clear(box());
    await user.type(box(), "40 cm{Enter}");
    expect(save).toHaveBeenCalledTimes(1);
    expect(save).toHaveBeenCalledWith("40 cm");
    expect(box().value).toBe("0.40 m");
    expect(readDraft(NAME)).toBeUndefined();
  });

  it("offers what was typed when the browser brings the page back as it was left", async () => {
    const save = vi.fn(async () => "0.40 m");
    draw(<Kept save={save} />);
    await user.clear(box());
    await user.type(box(), "40 cm");
    act(() => void window.dispatchEvent(new PageTransitionEvent("pageshow", { persisted: true })));
    expect(box().value).toBe("0.30 m");
    expect(screen.getByText(/Not saved: “40 cm”/)).toBeTruthy();
    expect(save).not.toHaveBeenCalled();
    await user.click(screen.getByRole("button", { name: "save it" }));
    expect(save).toHaveBeenCalledWith("40 cm");
  });

  it("is typed over whole although the value changes between selecting and typing", async () => {
    const save = vi.fn(async () => "2 m");
    draw(<Kept save={save} />);
    await user.click(box());
    box().select();
    fireEvent.select(box());
    // An answer comes in that very moment; the hand is still in the field.
    fireEvent.click(screen.getByRole("button", { name: "move on" }));
    expect(box().value).toBe("0.50 m");
    expect([box().selectionStart, box().selectionEnd]).toEqual([0, 6]);
    await user.keyboard("2 m{Enter}");
    expect(save).toHaveBeenCalledWith("2 m");
  });

  it("leaves the caret where it was put when nothing was selected", async () => {
    draw(<Kept save={vi.fn(async () => undefined)} />);
    await user.click(box());
    box().setSelectionRange(1, 1);
    fireEvent.select(box());
    fireEvent.click(screen.getByRole("button", { name: "move on" }));
    expect(box().selectionStart).toBe(box().selectionEnd);
  });

  it("saves what was typed when it is left", async () => {
    const save = vi.fn(async () => "1.00 m");
    draw(<Kept save={save} />);
    await user.clear(box());
    await user.type(box(), "1");
    await user.tab();
    expect(save).toHaveBeenCalledWith("1");
    expect(box().value).toBe("1.00 m");
  });

  it("does not write an old text back after the value has moved on", async () => {
    const save = vi.fn(async () => "0.40 m");
    draw(<Kept save={save} />);
    await user.clear(box());
    await user.type(box(), "40 cm{Enter}");
    await user.click(screen.getByText("move on"));
    expect(box().value).toBe("0.50 m");
    await user.click(box());
    await user.tab();
    expect(save).toHaveBeenCalledTimes(1);
    expect(box().value).toBe("0.50 m");
  });

  it("keeps a refused text, says why, and lets it be thrown away", async () => {
    draw(<Kept save={refuse} />);
    await user.clear(box());
    await user.type(box(), "soon{Enter}");
    expect(box().value).toBe("soon");
    expect(screen.getByRole("alert").textContent).toContain("not a distance");
    expect(box().getAttribute("aria-invalid")).toBe("true");
    expect(readDraft(NAME)?.text).toBe("soon");
    await user.click(screen.getByText("throw it away"));
    expect(box().value).toBe("0.30 m");
    expect(screen.queryByRole("alert")).toBeNull();
    expect(readDraft(NAME)).toBeUndefined();
  });

  it("is let be by Escape", async () => {
    const save = vi.fn(async () => undefined);
    draw(<Kept save={save} />);
    await user.clear(box());
    await user.type(box(), "9{Escape}");
    expect(box().value).toBe("0.30 m");
    await user.tab();
    expect(save).not.toHaveBeenCalled();
  });

  it("shows the value in force and marks what an earlier visit left unsent", async () => {
    writeDraft(NAME, "soon");
    const save = vi.fn(async () => undefined);
    draw(<Kept save={save} />);
    expect(box().value).toBe("0.30 m");
    expect(screen.getByText(/Not saved: “soon”/)).toBeTruthy();
    await user.click(box());
    await user.tab();
    expect(save).not.toHaveBeenCalled();
    expect(readDraft(NAME)?.text).toBe("soon");
  });

  it("sends what an earlier visit left only when told to", async () => {
    writeDraft(NAME, "45 cm");
    const save = vi.fn(async () => "0.45 m");
    draw(<Kept save={save} />);
    await user.click(screen.getByText("save it"));
    expect(save).toHaveBeenCalledWith("45 cm");
    expect(box().value).toBe("0.45 m");
    expect(screen.queryByText(/Not saved/)).toBeNull();
  });

  it("gives a refused text back below once the value has moved on", async () => {
    draw(<Kept save={refuse} />);
    await user.clear(box());
    await user.type(box(), "soon{Enter}");
    await user.click(screen.getByLabelText("elsewhere"));
    await user.click(screen.getByText("move on"));
    expect(box().value).toBe("0.50 m");
    expect(screen.getByText(/Not saved: “soon”/)).toBeTruthy();
  });

  it("warns a person typing that the value has changed meanwhile", async () => {
    let move: () => void = () => undefined;
    function Moving() {
      const [value, setValue] = useState("1");
      move = () => setValue("2");
      return <Field label="Near limit" name={NAME} value={value} save={async () => undefined} />;
    }
    draw(<Moving />);
    await user.clear(box());
    await user.type(box(), "3");
    move();
    expect(await screen.findByText(/Changed meanwhile to “2”/)).toBeTruthy();
    expect(box().value).toBe("3");
  });
});

describe("a choice", () => {
  const options = [
    { value: "auto", label: "fewest" },
    { value: "single", label: "one frame" },
    { value: "ring", label: "turn the ring" },
  ] as const;
  function Chosen({ told }: { told: (value: string) => void }) {
    const [value, setValue] = useState<"auto" | "single" | "ring">("auto");
    return (
      <Choice
        label="Frames"
        value={value}
        options={[...options]}
        choose={(next) => {
          told(next);
          setValue(next);
        }}
      />
    );
  }

  it("is a group of radio buttons with a name", () => {
    draw(<Chosen told={() => undefined} />);
    expect(screen.getByRole("radiogroup", { name: "Frames" })).toBeTruthy();
    expect(screen.getAllByRole("radio")).toHaveLength(3);
    expect((screen.getByRole("radio", { name: "fewest" }) as HTMLInputElement).checked).toBe(true);
  });

  it("is made with a press", async () => {
    const told = vi.fn();
    draw(<Chosen told={told} />);
    await user.click(screen.getByText("turn the ring"));
    expect(told).toHaveBeenCalledWith("ring");
    expect((screen.getByRole("radio", { name: "turn the ring" }) as HTMLInputElement).checked).toBe(true);
  });
});
