import type { Shot } from "../../../shots/useShot";
import { ink } from "../../../theme/system";

/** The guide of one's choice over the crop, or the whole frame without one. */
export function Guides({ shot, px, py }: { shot: Shot; px: (u: number) => number; py: (v: number) => number }) {
  const { guide_lines, crop, width_mm, height_mm } = shot.plan.frame;
  const { guide } = shot.facts;
  const [u, v, wide, high] = crop ? [crop.left, crop.top, crop.width_share, crop.height_share] : [0, 0, 1, 1];
  const x = (share: number) => px(u + share * wide);
  const y = (share: number) => py(v + share * high);
  const aspect = ((width_mm ?? 3) * wide) / ((height_mm ?? 2) * high);
  const squares = 6;
  const across = guide === "grid" ? Array.from({ length: squares - 1 }, (_, at) => (at + 1) / squares) : guide_lines;
  const rows = guide === "grid" ? across.map((share) => share * aspect).filter((share) => share < 0.999) : guide_lines;
  return (
    <g stroke={ink("fg")} strokeOpacity={0.35} strokeWidth={1} pointerEvents="none" data-guide={guide}>
      {across.map((share) => (
        <line key={share} x1={x(share)} x2={x(share)} y1={y(0)} y2={y(1)} />
      ))}
      {rows.map((share) => (
        <line key={share} x1={x(0)} x2={x(1)} y1={y(share)} y2={y(share)} />
      ))}
      {guide === "diagonals" && <path d={`M${x(0)} ${y(0)}L${x(1)} ${y(1)}M${x(1)} ${y(0)}L${x(0)} ${y(1)}`} />}
    </g>
  );
}
