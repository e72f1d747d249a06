import type { ScaleLinear } from "d3-scale";
import { useRef, useState } from "react";
import { Handle } from "../../drawing/Handle";
import { ink } from "../../theme/system";

type Scale = ScaleLinear<number, number>;

/** A drag shorter than this [seconds] is a click. */
const LEAST_WINDOW_S = 240;

/** The shot where it stands on the slope, as wide as it lasts, and its window; both can be moved. */
export function ShotOnSlope({
  x,
  y,
  top,
  floor,
  bottom,
  width,
  seconds,
  end,
  length,
  clock,
  choose,
  chooseWindow,
}: {
  x: Scale;
  /** The height of the slope at a second of the day. */
  y: (seconds: number) => number;
  top: number;
  floor: number;
  bottom: number;
  width: number;
  seconds: number;
  end: number | null;
  length: number;
  clock: (seconds: number) => string;
  choose: (seconds: number) => void;
  chooseWindow: (from: number, to: number) => void;
}) {
  return (
    <>
      {end !== null && end > seconds && (
        <g>
          <rect
            x={x(seconds)}
            width={Math.max(2, x(end) - x(seconds))}
            y={top}
            height={floor - top}
            fill={ink("accent")}
            opacity={0.16}
            pointerEvents="none"
          />
          <Handle
            x={x(end)}
            y={y(end)}
            label="End of the window"
            value={Math.round(end / 60)}
            range={[0, 1440]}
            valueText={clock(end)}
            cursor="ew-resize"
            drag={(toX) => chooseWindow(seconds, Math.max(seconds + 60, x.invert(toX)))}
            nudge={(steps) => chooseWindow(seconds, Math.max(seconds + 60, end + steps * 60))}
          >
            <path d="M-5 -9 L3 0 L-5 9" fill="none" stroke={ink("accent")} strokeWidth={2.5} />
          </Handle>
        </g>
      )}
      <line
        x1={x(seconds)}
        x2={x(seconds)}
        y1={top}
        y2={bottom}
        stroke={ink("accent")}
        strokeWidth={1.5}
        pointerEvents="none"
      />
      <rect
        x={x(seconds)}
        width={Math.max(3, x(seconds + length) - x(seconds))}
        y={y(seconds) - 6}
        height={12}
        fill={ink("accent")}
        pointerEvents="none"
      />
      <Handle
        x={x(seconds)}
        y={y(seconds)}
        label="Time of the shot"
        value={Math.round(seconds / 60)}
        range={[0, 1440]}
        valueText={clock(seconds)}
        cursor="ew-resize"
        drag={(toX) => choose(x.invert(toX))}
        nudge={(steps) => choose(seconds + steps * 60)}
      />
      <text
        className="figure"
        x={x(seconds) + (x(seconds) > width - 90 ? -14 : 14)}
        textAnchor={x(seconds) > width - 90 ? "end" : "start"}
        y={y(seconds) - 16}
        fontSize="18"
        fontWeight={600}
        fill={ink("fg")}
        stroke={ink("night")}
        strokeWidth={4}
        paintOrder="stroke"
        pointerEvents="none"
      >
        {clock(seconds)}
      </text>
    </>
  );
}

/** The ground under the slope: a click chooses a time, a drag a window. */
export function TimePicker({
  x,
  top,
  floor,
  choose,
  chooseWindow,
}: {
  x: Scale;
  top: number;
  floor: number;
  choose: (seconds: number) => void;
  chooseWindow: (from: number, to: number) => void;
}) {
  const from = useRef<number | null>(null);
  const [span, setSpan] = useState<[number, number]>();
  const here = (event: React.PointerEvent<SVGRectElement>) =>
    x.invert(event.clientX - (event.currentTarget.ownerSVGElement?.getBoundingClientRect().left ?? 0));
  const [left, right] = x.range() as [number, number];
  return (
    <>
      {span && (
        <rect
          x={x(Math.min(...span))}
          width={Math.abs(x(span[1]) - x(span[0]))}
          y={top}
          height={floor - top}
          fill={ink("accent")}
          opacity={0.25}
        />
      )}
      <rect
        data-picker=""
        x={left}
        width={right - left}
        y={top}
        height={floor - top}
        fill="transparent"
        style={{ cursor: "crosshair", touchAction: "pan-y" }}
        onPointerDown={(event) => {
          from.current = here(event);
          event.currentTarget.setPointerCapture(event.pointerId);
        }}
        onPointerMove={(event) => from.current !== null && setSpan([from.current, here(event)])}
        onPointerUp={(event) => {
          if (from.current === null) return;
          const to = here(event);
          if (Math.abs(to - from.current) < LEAST_WINDOW_S) choose(to);
          else chooseWindow(from.current, to);
          from.current = null;
          setSpan(undefined);
        }}
        onPointerCancel={() => {
          from.current = null;
          setSpan(undefined);
        }}
      />
    </>
  );
}
