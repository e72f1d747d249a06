import type { ScaleLinear } from "d3-scale";
import { useState } from "react";
import type { Schemas } from "../../../api/client";
import { bearingOf, radians } from "../../../drawing/bearings";
import { Handle } from "../../../drawing/Handle";
import { lengthText } from "../../../lib/format/spelling";
import { ink } from "../../../theme/system";
import { isLine, useElements } from "../../place/useElements";
import { RANGE } from "./pose";

type Element = Schemas["ElementOut"];
type Scale = ScaleLinear<number, number>;

/** The bends of paths, streams, shores and walls, to be dragged over the ground. */
export function Courses({
  elements,
  x,
  y,
  inside,
}: {
  elements: Element[];
  x: Scale;
  y: Scale;
  inside: (x: number, y: number) => boolean;
}) {
  const lines = elements.filter((element) => isLine(element.shape));
  return (
    <>
      {lines.map((element) => (
        <Course key={element.id} element={element} x={x} y={y} inside={inside} />
      ))}
    </>
  );
}

function Course({
  element,
  x,
  y,
  inside,
}: {
  element: Element;
  x: Scale;
  y: Scale;
  inside: (x: number, y: number) => boolean;
}) {
  const { edit } = useElements();
  const [held, setHeld] = useState<{ at: number; east: number; north: number }>();
  const legs = [[element.bearing_deg, element.distance_m], ...element.course];
  const points = legs.map(([bearing = 0, distance = 0], at) =>
    held?.at === at
      ? held
      : { east: Math.sin(radians(bearing)) * distance, north: Math.cos(radians(bearing)) * distance },
  );
  const put = (at: number, east: number, north: number) => {
    const bearing = bearingOf(east, north);
    const distance = Number(Math.max(0.01, Math.hypot(east, north)).toPrecision(4));
    const course = element.course.map((leg, index): [number, number] =>
      index + 1 === at ? [bearing, distance] : [leg[0] ?? 0, leg[1] ?? 1],
    );
    void edit(element.id, at === 0 ? { bearing_deg: bearing, distance_m: distance } : { course })
      .catch(() => undefined)
      .finally(() => setHeld(undefined));
  };
  return (
    <>
      {held && (
        <path
          d={`M${points.map(({ east, north }) => `${x(east)} ${y(north)}`).join("L")}`}
          fill="none"
          stroke={ink("accent")}
          strokeDasharray="4 3"
        />
      )}
      {points.map(({ east, north }, at) =>
        inside(x(east), y(north)) || held?.at === at ? (
          <Handle
            // biome-ignore lint/suspicious/noArrayIndexKey: bends have no other identity
            key={at}
            x={x(east)}
            y={y(north)}
            label={at === 0 ? `${element.name} begins here` : `${element.name}, bend ${at}`}
            value={Math.round(legs[at]?.[0] ?? 0)}
            range={RANGE.bearing}
            valueText={`${Math.round(legs[at]?.[0] ?? 0)}°, ${lengthText(legs[at]?.[1] ?? 0)}`}
            drag={(toX, toY) => setHeld({ at, east: x.invert(toX), north: y.invert(toY) })}
            done={() => held && put(held.at, held.east, held.north)}
            nudge={(right, up) => put(at, east + right * 0.1, north + up * 0.1)}
          >
            <path d="M0 -5 L5 0 L0 5 L-5 0 Z" fill={ink("bg")} stroke={ink("accent")} strokeWidth={1.5} />
          </Handle>
        ) : null,
      )}
    </>
  );
}
