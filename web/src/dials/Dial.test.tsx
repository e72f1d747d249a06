// @vitest-environment jsdom
import { fireEvent, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { ApiError } from "../api/client";
import { draw, furnish } from "../testing";
import { Dial } from "./Dial";

// Whole stops of a lens from f/2.8 to f/16.
const MARKS = ["2.8", "4", "5.6", "8", "11", "16"].map((label, index) => ({
  value: 2 ** (1.5 + index / 2),
  label: `f/${label}`,
}));
const SCALE = {
  marks: MARKS,
  at_start: "f/2.8 is as wide as the zoom opens.",
  at_end: "f/16 is as far as the zoom closes.",
};

/** A dial over a server that knows whole stops and refuses everything else. */
function Aperture({
  told,
  start = 8,
  slow = 0,
}: {
  told: (value: number | string) => void;
  start?: number;
  slow?: number;
}) {
  const [value, setValue] = useState(start);
  const [error, setError] = useState<string>();
  const [pinned, setPinned] = useState(true);
  const set = async (next: number | string) => {
    told(next);
    if (slow) await new Promise((resolve) => setTimeout(resolve, slow));
    const mark = MARKS.find((item) => item.value === next || item.label.endsWith(`/${next}`) || item.label === next);
    if (!mark) {
      setError("The zoom opens from f/2.8 to f/16.");
      throw new ApiError(422, "no");
    }
    setError(undefined);
    setValue(mark.value);
    setPinned(true);
  };
  const label = MARKS.find((item) => item.value === value)?.label ?? "";
  return (
    <>
      <Dial
        label="Aperture"
        name="shot:1:f_number"
        scale={SCALE}
        value={value}
        text={label}
        pinned={pinned}
        set={set}
        letGo={() => {
          setPinned(false);
          setValue(MARKS[2]?.value ?? 0);
        }}
        error={error}
        forgive={() => setError(undefined)}
      />
      <button type="button" onClick={() => setValue(16)}>
        undo
      </button>
    </>
  );
}

const figure = () => screen.getByLabelText("Aperture") as HTMLInputElement;
const strip = () => screen.getByRole("slider", { name: "Aperture scale" });
const user = userEvent.setup();
beforeEach(() => {
  furnish();
  localStorage.clear();
});

describe("a dial", () => {
  it("goes a mark on and a mark back by its arrow keys", () => {
    const told = vi.fn();
    draw(<Aperture told={told} />);
    fireEvent.keyDown(strip(), { key: "ArrowRight" });
    expect(told).toHaveBeenLastCalledWith(MARKS[4]?.value);
    fireEvent.keyDown(strip(), { key: "ArrowLeft" });
    expect(told).toHaveBeenLastCalledWith(MARKS[3]?.value);
  });

  it("goes on from what was asked for when keys come quicker than answers", () => {
    const told = vi.fn();
    const never = vi.fn((value: number | string) => {
      told(value);
      return new Promise<void>(() => undefined);
    });
    draw(<Dial label="Aperture" name="x:f" scale={SCALE} value={4} text="f/4" pinned set={never} />);
    for (let press = 0; press < 3; press++) fireEvent.keyDown(strip(), { key: "ArrowRight" });
    expect(told.mock.calls.map(([value]) => value)).toEqual([MARKS[2]?.value, MARKS[3]?.value, MARKS[4]?.value]);
  });

  it("says at its ends why it goes no further", async () => {
    const told = vi.fn();
    draw(<Aperture told={told} start={MARKS[0]?.value ?? 0} />);
    fireEvent.keyDown(strip(), { key: "ArrowLeft" });
    expect(await screen.findByText("f/2.8 is as wide as the zoom opens.")).toBeTruthy();
    expect(told).not.toHaveBeenCalled();
  });

  it("goes to its ends by Home and End", () => {
    const told = vi.fn();
    draw(<Aperture told={told} />);
    fireEvent.keyDown(strip(), { key: "End" });
    expect(told).toHaveBeenLastCalledWith(MARKS[5]?.value);
    fireEvent.keyDown(strip(), { key: "Home" });
    expect(told).toHaveBeenLastCalledWith(MARKS[0]?.value);
  });

  it("tells its limits and where it stands", () => {
    draw(<Aperture told={() => undefined} />);
    expect(strip().getAttribute("aria-valuemin")).toBe("0");
    expect(strip().getAttribute("aria-valuemax")).toBe("5");
    expect(strip().getAttribute("aria-valuenow")).toBe("3");
    expect(strip().getAttribute("aria-valuetext")).toBe("f/8");
  });

  it("leaves other keys alone", () => {
    const told = vi.fn();
    draw(<Aperture told={told} />);
    fireEvent.keyDown(strip(), { key: "a" });
    fireEvent.keyDown(strip(), { key: "Tab" });
    expect(told).not.toHaveBeenCalled();
  });
});

describe("a dial's figure", () => {
  it("sends what was typed on Enter and shows the value in force", async () => {
    const told = vi.fn();
    draw(<Aperture told={told} />);
    await user.click(figure());
    await user.keyboard("{Control>}a{/Control}5.6{Enter}");
    expect(told).toHaveBeenCalledTimes(1);
    expect(figure().value).toBe("f/5.6");
  });

  it("does not send what was typed twice", async () => {
    const told = vi.fn();
    draw(<Aperture told={told} />);
    await user.clear(figure());
    await user.type(figure(), "5.6{Enter}");
    await user.tab();
    await user.tab();
    expect(told).toHaveBeenCalledTimes(1);
  });

  it("follows keys after something was typed", async () => {
    const told = vi.fn();
    draw(<Aperture told={told} />);
    await user.clear(figure());
    await user.type(figure(), "5.6{Enter}");
    fireEvent.keyDown(strip(), { key: "ArrowRight" });
    expect(await screen.findByDisplayValue("f/8")).toBe(figure());
    await user.click(figure());
    await user.tab();
    expect(figure().value).toBe("f/8");
    expect(told).toHaveBeenCalledTimes(2);
  });

  it("follows undo, and passing through writes nothing back", async () => {
    const told = vi.fn();
    draw(<Aperture told={told} />);
    await user.clear(figure());
    await user.type(figure(), "5.6{Enter}");
    await user.click(screen.getByText("undo"));
    expect(figure().value).toBe("f/16");
    await user.click(figure());
    await user.tab();
    expect(told).toHaveBeenCalledTimes(1);
    expect(figure().value).toBe("f/16");
  });

  it("keeps a refused text with the reason until it is thrown away", async () => {
    draw(<Aperture told={() => undefined} />);
    await user.clear(figure());
    await user.type(figure(), "1{Enter}");
    expect(figure().value).toBe("1");
    expect(screen.getByRole("alert").textContent).toContain("f/2.8");
    await user.click(screen.getByText("throw it away"));
    expect(figure().value).toBe("f/8");
    expect(screen.queryByRole("alert")).toBeNull();
  });

  it("forgets a refused text when the value is made automatic", async () => {
    draw(<Aperture told={() => undefined} />);
    await user.clear(figure());
    await user.type(figure(), "1{Enter}");
    await user.click(screen.getByRole("button", { name: "automatic: Aperture" }));
    expect(figure().value).toBe("f/5.6");
    expect(screen.queryByRole("alert")).toBeNull();
  });

  it("has no button to make automatic what nobody pinned", () => {
    draw(
      <Dial
        label="ISO"
        name="x:iso"
        scale={SCALE}
        value={100}
        text="100"
        pinned={false}
        set={async () => undefined}
        letGo={() => undefined}
      />,
    );
    expect(screen.queryByRole("button", { name: /automatic/ })).toBeNull();
  });

  it("steps from a text that is still on its way", async () => {
    const told = vi.fn();
    draw(<Aperture told={told} slow={80} />);
    await user.clear(figure());
    await user.type(figure(), "11{Enter}");
    fireEvent.keyDown(strip(), { key: "ArrowRight" });
    await vi.waitFor(() => expect(told).toHaveBeenCalledTimes(2));
    expect(told).toHaveBeenNthCalledWith(1, "11");
    expect(told).toHaveBeenNthCalledWith(2, MARKS[5]?.value);
    await vi.waitFor(() => expect(figure().value).toBe("f/16"));
  });
});
