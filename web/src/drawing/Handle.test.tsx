// @vitest-environment jsdom
import { fireEvent, screen } from "@testing-library/react";
import { useState } from "react";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { draw, furnish } from "../testing";
import { Handle } from "./Handle";
import { keepsUp } from "./inStep";

const painter = {};
let settled: (number | undefined)[] = [];

/** Something that is moved along a line and settles where the hand lets go, as an element on the ground does. */
function Moved() {
  const [place, setPlace] = useState<number>();
  return (
    <svg>
      <title>a line</title>
      <Handle
        x={place ?? 0}
        y={0}
        label="Moved"
        value={place ?? 0}
        range={[0, 100]}
        valueText={`at ${place ?? 0}`}
        drag={setPlace}
        done={() => settled.push(place)}
        nudge={(right) => setPlace((place ?? 0) + right)}
      />
    </svg>
  );
}

const handle = () => screen.getByRole("slider");
// The test browser knows no pointers: a mouse stands for them.
const point = (kind: string, clientX = 0) =>
  fireEvent(handle(), new MouseEvent(kind, { clientX, clientY: 0, bubbles: true }));
const move = (to: number) => point("pointermove", to);

beforeEach(() => {
  furnish();
  settled = [];
  draw(<Moved />);
  point("pointerdown");
});
afterEach(() => keepsUp(painter, true));

describe("a handle", () => {
  it("goes where the hand goes and settles there", () => {
    move(20);
    expect(handle().getAttribute("aria-valuetext")).toBe("at 20");
    move(30);
    point("pointerup");
    move(50);
    expect(handle().getAttribute("aria-valuetext")).toBe("at 30");
    expect(settled).toEqual([30]);
  });

  it("settles where the hand let go though pictures are behind", () => {
    move(20);
    keepsUp(painter, false);
    move(30);
    move(40);
    expect(handle().getAttribute("aria-valuetext")).toBe("at 20");
    point("pointerup");
    expect(handle().getAttribute("aria-valuetext")).toBe("at 40");
    expect(settled).toEqual([40]);
  });

  it("settles where it was first moved to though no picture has come since", () => {
    keepsUp(painter, false);
    move(40);
    point("pointercancel");
    expect(settled).toEqual([40]);
  });

  it("is moved by keys at once", () => {
    keepsUp(painter, false);
    fireEvent.keyDown(handle(), { key: "ArrowRight" });
    fireEvent.keyDown(handle(), { key: "ArrowRight", shiftKey: true });
    expect(handle().getAttribute("aria-valuetext")).toBe("at 11");
  });
});
