import type { Matrix } from "../../../drawing/projective";
import type { Shot } from "../../../shots/useShot";
import { ink } from "../../../theme/system";
import { boundsOf, type Paper, ringPath, type Seen } from "./scene";

/** Moving water draws itself out: strokes as long as it moves while the shutter is open. */
export function Streaks({
  item,
  matrix,
  px,
  py,
  w,
}: {
  item: Seen;
  matrix: Matrix;
  px: (u: number) => number;
  py: (v: number) => number;
  w: number;
}) {
  const box = boundsOf(item, matrix);
  if (!box) return null;
  const [from, to] = [Math.max(-0.05, box.top), Math.min(1.1, box.bottom)];
  const long = Math.max(1, (item.streak_share ?? 0) * w);
  const rows = Array.from({ length: 14 }, (_, at) => from + (to - from) * ((at + 0.6) / 14) ** 1.8);
  return (
    <g clipPath={`url(#stream-${item.id})`} stroke={ink("fg")} strokeOpacity={0.22} data-streaks="">
      {rows.map((v, at) => (
        <line
          key={v}
          x1={px(-0.1)}
          x2={px(1.1)}
          y1={py(v)}
          y2={py(v)}
          strokeWidth={0.7 + 1.6 * ((v - from) / Math.max(0.01, to - from))}
          strokeDasharray={`${long} 13`}
          strokeDashoffset={(at * 29) % (long + 13)}
        />
      ))}
    </g>
  );
}

export function PanoramaFrames({ shot, matrix, paper }: { shot: Shot; matrix: Matrix; paper: Paper }) {
  const aims = shot.plan.frame.panorama?.aims ?? [];
  if (aims.length < 2) return null;
  return (
    <g fill="none" stroke={ink("haze")} strokeWidth={1.2} strokeDasharray="5 4" data-panorama="">
      {aims.map((aim) => (
        <path key={aim.label} d={ringPath(matrix, aim.corners, paper)} />
      ))}
    </g>
  );
}

/** The corners that a filter, holder or hood would take. */
export function CornerCut({
  shot,
  px,
  py,
  w,
  h,
}: {
  shot: Shot;
  px: (u: number) => number;
  py: (v: number) => number;
  w: number;
  h: number;
}) {
  const cut = shot.plan.frame.vignetting;
  if (!cut || cut.clear) return null;
  const half = Math.hypot(w, h) / 2;
  const ring = (radius: number) =>
    `M${px(0)} ${py(0)}h${w}v${h}h${-w}Z M${px(0.5) - radius} ${py(0.5)}a${radius} ${radius} 0 1 0 ${2 * radius} 0a${radius} ${radius} 0 1 0 ${-2 * radius} 0Z`;
  return (
    <g fill={ink("shade")} fillRule="evenodd" data-corner-cut="">
      <path d={ring(cut.darkens_from * half)} fillOpacity={0.45} />
      {cut.dark_from < 1 && <path d={ring(cut.dark_from * half)} fillOpacity={0.9} />}
    </g>
  );
}
