import { type Matrix, place } from "../../../drawing/projective";
import type { Shot } from "../../../shots/useShot";
import { ink } from "../../../theme/system";

/** Sun and moon in their directions. */
export function Discs({
  shot,
  matrix,
  px,
  py,
  w,
  bare,
}: {
  shot: Shot;
  matrix: Matrix;
  px: (u: number) => number;
  py: (v: number) => number;
  w: number;
  /** The sun is drawn elsewhere: it only has its place here. */
  bare: boolean;
}) {
  const { sun, moon } = shot.plan.frame;
  const at = (disc: NonNullable<typeof sun>) => {
    const [u, v, depth] = place(matrix, disc.point);
    return depth > 0
      ? { x: px(u / depth), y: py(v / depth), radius: Math.max(3, (disc.diameter_share * w) / 2) }
      : undefined;
  };
  const [day, night] = [sun ? at(sun) : undefined, moon ? at(moon) : undefined];
  return (
    <>
      {moon && night && (
        <g transform={`translate(${night.x} ${night.y}) rotate(${-moon.lit_angle_deg})`} data-moon="">
          <Phase radius={night.radius} fraction={moon.fraction} />
        </g>
      )}
      {day && (
        <circle
          data-sun=""
          cx={day.x}
          cy={day.y}
          r={day.radius}
          fill={bare ? "transparent" : ink("fg")}
          stroke={bare ? "none" : ink("sky")}
        />
      )}
    </>
  );
}

/** A disc of which a fraction is lit, its lit side to the right. */
function Phase({ radius, fraction }: { radius: number; fraction: number }) {
  const bulge = radius * (1 - 2 * fraction);
  return (
    <>
      <circle r={radius} fill={ink("low")} stroke={ink("muted")} strokeWidth={0.5} />
      <path
        d={`M0 ${-radius} A${radius} ${radius} 0 0 1 0 ${radius} A${Math.abs(bulge)} ${radius} 0 0 ${bulge > 0 ? 0 : 1} 0 ${-radius}`}
        fill={ink("fg")}
      />
    </>
  );
}
