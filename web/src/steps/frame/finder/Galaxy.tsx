import type { Schemas } from "../../../api/client";
import { type Matrix, type Point3, place } from "../../../drawing/projective";
import { ink } from "../../../theme/system";

/** The galactic band over the land as a soft strip along its middle line, and the galactic centre as a ring with its name. */
export function Galaxy({
  view,
  matrix,
  px,
  py,
  w,
}: {
  view: Schemas["ViewOut"] | null;
  matrix: Matrix;
  px: (u: number) => number;
  py: (v: number) => number;
  w: number;
}) {
  const galaxy = view?.galaxy;
  if (!galaxy) return null;
  const at = (point: Point3): [number, number] | undefined => {
    const [u, v, depth] = place(matrix, point);
    return depth > 0 ? [px(u / depth), py(v / depth)] : undefined;
  };
  const centre = galaxy.centre ? at(galaxy.centre) : undefined;
  return (
    <g data-galaxy="">
      {galaxy.pieces.map((piece) => {
        const d = lineOf(piece.map(at));
        return (
          <g key={piece[0]?.join() ?? ""} fill="none" stroke={ink("haze")} strokeLinecap="butt">
            <path d={d} strokeWidth={galaxy.width_share * w} strokeOpacity={0.16} />
            <path d={d} strokeWidth={galaxy.width_share * w * 0.4} strokeOpacity={0.16} />
            <path d={d} strokeWidth={1} strokeDasharray="2 5" />
          </g>
        );
      })}
      {centre && (
        <g>
          <circle cx={centre[0]} cy={centre[1]} r={7} fill="none" stroke={ink("accent")} strokeWidth={1.5} />
          <text
            x={centre[0] + 12}
            y={centre[1] + 4}
            fontSize="12"
            fill={ink("fg")}
            stroke={ink("bg")}
            strokeWidth={3}
            paintOrder="stroke"
          >
            galactic centre
          </text>
        </g>
      )}
    </g>
  );
}

/** A line through points that are in front of the camera; it breaks at those that are not. */
function lineOf(points: ([number, number] | undefined)[]): string {
  let open = false;
  return points
    .map((point) => {
      if (!point) {
        open = false;
        return "";
      }
      const step = `${open ? "L" : "M"}${point[0].toFixed(1)} ${point[1].toFixed(1)}`;
      open = true;
      return step;
    })
    .join("");
}
