import type { ScaleLinear } from "d3-scale";
import { useState } from "react";
import { Handle } from "../../../drawing/Handle";
import { lengthText } from "../../../lib/format/spelling";
import type { Shot } from "../../../shots/useShot";
import { ink } from "../../../theme/system";
import { RANGE } from "../finder/pose";
import { useViewpoint } from "./useViewpoint";

const fine = (metres: number) => Math.round(metres * 100) / 100;

/** Where one can stand, its corners to be dragged; a side with a fall beyond is drawn as an edge. */
export function StandingArea({
  shot,
  x,
  y,
}: {
  shot: Shot;
  x: ScaleLinear<number, number>;
  y: ScaleLinear<number, number>;
}) {
  const viewpoint = shot.place?.viewpoint;
  const { edit } = useViewpoint();
  const [held, setHeld] = useState<{ at: number; corner: [number, number] }>();
  const area = viewpoint?.standing;
  if (!viewpoint || !area) return null;
  const corners = area.corners.map(([east = 0, north = 0], at): [number, number] =>
    held?.at === at ? held.corner : [east, north],
  );
  const point = ([east, north]: [number, number]) => `${x(east).toFixed(1)} ${y(north).toFixed(1)}`;
  const put = (at: number, corner: [number, number]) => {
    const next = corners.map((old, index) =>
      index === at ? ([fine(corner[0]), fine(corner[1])] as [number, number]) : old,
    );
    void edit(viewpoint.id, { standing: { corners: next, drops: area.drops } })
      .catch(() => undefined)
      .finally(() => setHeld(undefined));
  };
  return (
    <g data-standing="">
      <path
        d={`M${corners.map(point).join("L")}Z`}
        fill={ink("accent")}
        fillOpacity={0.1}
        stroke={ink("accent")}
        strokeOpacity={0.6}
      />
      {area.drops.map((side) => {
        const [from, to] = [corners[side], corners[(side + 1) % corners.length]];
        return from && to ? <Drop key={side} from={[x(from[0]), y(from[1])]} to={[x(to[0]), y(to[1])]} /> : null;
      })}
      {corners.map((corner, at) => (
        <Handle
          // biome-ignore lint/suspicious/noArrayIndexKey: corners have no other identity
          key={at}
          x={x(corner[0])}
          y={y(corner[1])}
          label={`Corner ${at + 1} of the standing area`}
          value={corner[0]}
          range={RANGE.position}
          valueText={`${lengthText(corner[0] ?? 0)} east, ${lengthText(corner[1] ?? 0)} north of the mark`}
          drag={(toX, toY) => setHeld({ at, corner: [x.invert(toX), y.invert(toY)] })}
          done={() => held && put(held.at, held.corner)}
          nudge={(right, up) => put(at, [corner[0] + right * 0.1, corner[1] + up * 0.1])}
        >
          <rect x={-3.5} y={-3.5} width={7} height={7} fill={ink("panel")} stroke={ink("accent")} strokeWidth={1.5} />
        </Handle>
      ))}
    </g>
  );
}

/** An edge with a fall: a strong line with short strokes on the far side. */
function Drop({ from, to }: { from: [number, number]; to: [number, number] }) {
  const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
  const length = Math.hypot(dx, dy) || 1;
  const [nx, ny] = [dy / length, -dx / length];
  const count = Math.max(2, Math.floor(length / 8));
  const strokes = Array.from({ length: count }, (_, at) => {
    const part = (at + 0.5) / count;
    const [px, py] = [from[0] + dx * part, from[1] + dy * part];
    return `M${px.toFixed(1)} ${py.toFixed(1)}l${(-nx * 6).toFixed(1)} ${(-ny * 6).toFixed(1)}`;
  });
  return (
    <g stroke={ink("rust")} fill="none">
      <path d={`M${from.join(" ")}L${to.join(" ")}`} strokeWidth={2.5} />
      <path d={strokes.join("")} strokeWidth={1.3} />
      <title>an edge with a fall beyond</title>
    </g>
  );
}
