import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { useEffect, useState } from "react";
import { BottomAxis, Hatch, LeftAxis } from "../../drawing/axes";
import { Drawing } from "../../drawing/Drawing";
import { Handle } from "../../drawing/Handle";
import { lengthText, roundLength } from "../../lib/format/spelling";
import type { Shot, ShotWork } from "../../shots/useShot";
import { ink } from "../../theme/system";

const DISTANCES = [
  0.1, 0.12, 0.15, 0.2, 0.25, 0.3, 0.4, 0.5, 0.6, 0.8, 1, 1.5, 2, 3, 5, 10, 20, 50, 100, 300, 1000, 3000, 10000,
];
const label = (metres: number) => lengthText(metres);

/**
 * Distance drawn linear in 1/distance, so that every slice of sharpness at one aperture is equally wide: slices as bars with
 * their focus pins, elements below from their nearest to their farthest visible part, and the blur of the whole scene above with its limit.
 */
export function ReciprocalRuler({ shot, set }: { shot: Shot; set: ShotWork["set"] }) {
  const { depth } = shot.plan;
  const limit = depth.coc_um ?? 30;
  const [held, setHeld] = useState<{ near?: number; far?: number | null }>({});
  // biome-ignore lint/correctness/useExhaustiveDependencies: what the server says ends a drag
  useEffect(() => setHeld({}), [shot.facts.near_m, shot.facts.far_m, shot.facts.far_infinite]);
  // The scale stands still while a limit is being dragged, or it would slide away under the hand.
  const [still, setStill] = useState<[number, number] | null>(null);
  const inverse = (metres: number | null) => (metres === null ? 0 : 1 / metres);
  return (
    <Drawing
      title="The reciprocal ruler"
      note="blur over distance, linear in 1/distance"
      figures={{
        head: ["Focus", "Set the ring to", "From the lens", "Sharp from", "Sharp to"],
        rows: depth.positions.map((item, index) => [
          index + 1,
          item.focus_distance.label,
          item.object_distance.label,
          item.near_limit.label,
          item.far_limit.label,
        ]),
      }}
    >
      {(width, height) => {
        const left = 52;
        const right = width - 26;
        const start = depth.curve_inverse_m[0] ?? 3;
        const end = Math.min(
          depth.curve_inverse_m.at(-1) ?? 0,
          ...depth.positions.map((item) => inverse(item.far_limit.value)),
        );
        const x = scaleLinear()
          .domain(still ?? [start, end])
          .range([left, right]);
        const rows = depth.positions.length;
        const rowHeight = Math.min(24, Math.max(13, (height * 0.24) / Math.max(1, rows)));
        const elements = [...depth.elements, ...(depth.ground ? [depth.ground] : [])].flatMap((item) =>
          item.near_m !== null && item.far_m !== null && item.far_m > 1 / start
            ? [{ ...item, near_m: item.near_m, far_m: item.far_m }]
            : [],
        );
        const pinRoom = elements.length * 17 + 14;
        const axisY = height - 22 - pinRoom;
        const bars = axisY - rows * rowHeight - 8;
        const top = 14;
        const highest = Math.min(12 * limit, Math.max(2.2 * limit, Math.max(...depth.curve_blur_um)));
        const y = scaleLinear()
          .domain([0, highest])
          .range([bars - 14, top])
          .clamp(true);
        const curve =
          line()(depth.curve_inverse_m.map((inv, index) => [x(inv), y(depth.curve_blur_um[index] ?? 0)])) ?? "";
        const ticks = thin(
          [
            ...DISTANCES.map(roundLength).map((metres) => ({ at: x(1 / metres), label: label(metres) })),
            ...(end <= 0 ? [{ at: x(0), label: "∞" }] : []),
          ],
          left,
          right,
        );
        const near = held.near ?? depth.near?.value ?? null;
        const far = held.far !== undefined ? held.far : (depth.far?.value ?? null);
        const labelRows = elements.map((_, index) => axisY + 34 + index * 17);
        const order = [...elements].sort((a, b) => a.near_m - b.near_m);
        const toDistance = (at: number) => {
          const value = x.invert(at);
          return value <= 1e-6 ? Number.POSITIVE_INFINITY : Number((1 / value).toPrecision(3));
        };
        const setNear = (metres: number) => {
          if (!Number.isFinite(metres)) return;
          setHeld({ near: metres });
          set({ near_m: metres });
        };
        const setFar = (metres: number) => {
          const infinite = !Number.isFinite(metres) || metres > 1000;
          setHeld({ far: infinite ? null : metres });
          set(infinite ? { far_infinite: true, far_m: null } : { far_infinite: false, far_m: metres });
        };
        return (
          <>
            <defs>
              <Hatch id="soft-hatch" tone="rust" gap={6} />
              <clipPath id="ruler-plot">
                <rect x={left} y={top - 6} width={right - left} height={axisY - top + 6} />
              </clipPath>
            </defs>
            <rect x={left} y={y(limit)} width={right - left} height={bars - 14 - y(limit)} fill={ink("raised")} />
            <BottomAxis ticks={ticks} y={axisY} top={top} />
            <LeftAxis
              ticks={[0, limit, limit * 2]
                .filter((um) => um <= highest)
                .map((um) => ({ at: y(um), label: `${Math.round(um)}` }))}
              x={left}
            />
            <text x={left - 6} y={top - 2} fontSize="12" fill={ink("muted")} textAnchor="end">
              µm
            </text>
            <line
              x1={left}
              x2={right}
              y1={y(limit)}
              y2={y(limit)}
              stroke={ink("rust")}
              strokeWidth={1.5}
              strokeDasharray="6 4"
            />
            <text x={right} y={y(limit) - 5} fontSize="13" textAnchor="end" fill={ink("rust")}>
              soft above <tspan className="figure">{Math.round(limit)}</tspan> µm
            </text>
            <g clipPath="url(#ruler-plot)">
              <path d={curve} fill="none" stroke={ink("fg")} strokeWidth={2} />
            </g>
            {depth.positions.map((item, index) => {
              const from = Math.max(left, x(inverse(item.near_limit.value)));
              const to = Math.min(right, x(inverse(item.far_limit.value)));
              const rowY = bars + index * rowHeight;
              const pin = x(inverse(item.object_distance.value));
              return (
                // biome-ignore lint/suspicious/noArrayIndexKey: positions are their order
                <g key={index} data-slice={index + 1}>
                  <rect
                    x={from}
                    width={Math.max(2, to - from)}
                    y={rowY + 2}
                    height={rowHeight - 5}
                    fill={ink("accent")}
                    opacity={0.85}
                  />
                  <line x1={pin} x2={pin} y1={y(0)} y2={rowY + 2} stroke={ink("accent")} strokeDasharray="2 3" />
                  <circle cx={pin} cy={rowY + rowHeight / 2 - 0.5} r={4} fill={ink("onAccent")} />
                  {rowHeight >= 16 && to - from > 130 && (
                    <text
                      className="figure"
                      x={pin + (pin > right - 90 ? -9 : 9)}
                      textAnchor={pin > right - 90 ? "end" : "start"}
                      y={rowY + rowHeight / 2 - 0.5}
                      dy="0.35em"
                      fontSize="13"
                      fontWeight={600}
                      fill={ink("onAccent")}
                    >
                      {item.object_distance.label}
                    </text>
                  )}
                </g>
              );
            })}
            {order.map((item, index) => {
              const at = Math.max(left, Math.min(right, x(1 / item.near_m)));
              const to = Math.max(at, Math.min(right, x(1 / item.far_m)));
              const rowY = labelRows[index] ?? 0;
              const soft = !item.holds;
              const leftwards = at > left + (right - left) * 0.55;
              return (
                <g key={item.id}>
                  <line x1={at} x2={at} y1={axisY} y2={rowY} stroke={ink("edge")} />
                  <line x1={at} x2={to} y1={axisY} y2={axisY} stroke={soft ? ink("rust") : ink("fg")} strokeWidth={4} />
                  <circle cx={at} cy={axisY} r={3.5} fill={soft ? ink("rust") : ink("fg")} />
                  <text
                    x={at + (leftwards ? -6 : 6)}
                    y={rowY}
                    fontSize="13"
                    dy="-0.1em"
                    textAnchor={leftwards ? "end" : "start"}
                    fill={ink("fg")}
                  >
                    {item.name} <tspan className="figure">{item.distance_label}</tspan>
                    <tspan fill={soft ? (item.must_be_sharp ? ink("rust") : ink("muted")) : ink("accent")}>
                      {" "}
                      {item.verdict}
                    </tspan>
                  </text>
                </g>
              );
            })}
            {near !== null && (
              <Handle
                x={x(1 / near)}
                y={(bars + axisY) / 2}
                label="Near limit that must be sharp"
                // As the scale is: one over the distance, so that infinity is its end.
                value={1 / near}
                range={[0, Math.max(start, 1 / near)]}
                valueText={label(near)}
                cursor="ew-resize"
                done={() => setStill(null)}
                drag={(toX) => {
                  if (!still) setStill([start, end]);
                  setNear(toDistance(Math.min(toX, right - 4)));
                }}
                nudge={(steps) => setNear(Number((near * 1.02 ** steps).toPrecision(3)))}
              >
                <path d={bracket(-7, (axisY - bars) / 2)} fill="none" stroke={ink("fg")} strokeWidth={2.5} />
              </Handle>
            )}
            {depth.far && (
              <Handle
                x={x(far === null ? Math.max(0, end) : 1 / far)}
                y={(bars + axisY) / 2}
                label="Far limit that must be sharp"
                value={far === null ? 0 : 1 / far}
                range={[0, Math.max(start, far === null ? 0 : 1 / far)]}
                valueText={far === null ? "infinity" : label(far)}
                cursor="ew-resize"
                done={() => setStill(null)}
                drag={(toX) => {
                  if (!still) setStill([start, end]);
                  setFar(toX > right - 6 ? Number.POSITIVE_INFINITY : toDistance(toX));
                }}
                nudge={(steps) =>
                  setFar(
                    far === null
                      ? steps < 0
                        ? 500
                        : Number.POSITIVE_INFINITY
                      : Number((far * 1.05 ** steps).toPrecision(3)),
                  )
                }
              >
                <path d={bracket(7, (axisY - bars) / 2)} fill="none" stroke={ink("fg")} strokeWidth={2.5} />
              </Handle>
            )}
          </>
        );
      }}
    </Drawing>
  );
}

/** A bracket as tall as the bars, open towards what it leaves out. */
const bracket = (arm: number, half: number) => `M${arm} ${-half - 3} H0 V${half + 1} H${arm}`;

/** Ticks inside the axis, dropped where they would touch; the last (infinity) always stands. */
function thin(ticks: { at: number; label: string }[], low: number, high: number) {
  const inside = ticks.filter((tick) => tick.at >= low && tick.at <= high + 1).sort((a, b) => b.at - a.at);
  const kept: { at: number; label: string }[] = [];
  for (const tick of inside) if (kept.every((other) => Math.abs(other.at - tick.at) > 44)) kept.push(tick);
  return kept;
}
