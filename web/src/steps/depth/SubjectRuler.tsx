import { scaleLinear } from "d3-scale";
import { BottomAxis } from "../../drawing/axes";
import { Drawing } from "../../drawing/Drawing";
import type { Shot } from "../../shots/useShot";
import { ink } from "../../theme/system";

/** Close up the ruler is in millimetres along the subject, from its nearest sharp point to its farthest; one bar a frame. */
export function SubjectRuler({ shot }: { shot: Shot }) {
  const { depth } = shot.plan;
  const near = depth.near?.value ?? 0;
  const deep = shot.facts.subject_depth_mm ?? 1;
  const mm = (metres: number | null) => ((metres ?? near) - near) * 1000;
  return (
    <Drawing
      title="Along the subject"
      note={`${depth.slice_mm ? `each frame holds ${depth.slice_mm.toFixed(2)} mm, ` : ""}millimetres from the nearest sharp point`}
      figures={{
        head: ["Frame", "Rail at", "Sharp from", "Sharp to"],
        rows: depth.positions.map((item, index) => [
          index + 1,
          item.rail_mm !== null ? `${item.rail_mm.toFixed(2)} mm` : item.focus_distance.label,
          `${mm(item.near_limit.value).toFixed(2)} mm`,
          `${mm(item.far_limit.value).toFixed(2)} mm`,
        ]),
      }}
    >
      {(width, height) => {
        const left = 40;
        const right = width - 24;
        const axisY = height - 40;
        const top = 26;
        const x = scaleLinear()
          .domain([-deep * 0.12, deep * 1.12])
          .range([left, right]);
        const rowHeight = Math.min(26, (axisY - top - 12) / Math.max(1, depth.positions.length));
        return (
          <>
            <rect x={x(0)} width={x(deep) - x(0)} y={top - 8} height={axisY - top + 8} fill={ink("raised")} />
            <text x={x(0) + 6} y={axisY - 8} fontSize="13" fill={ink("muted")}>
              nearest point
            </text>
            <text x={x(deep) - 6} y={top + 6} fontSize="13" fill={ink("muted")} textAnchor="end">
              farthest point
            </text>
            <BottomAxis
              ticks={x.ticks(9).map((value) => ({ at: x(value), label: `${Number(value.toFixed(3))}` }))}
              y={axisY}
              top={top - 8}
            />
            <text x={(left + right) / 2} y={height - 6} fontSize="13" textAnchor="middle" fill={ink("muted")}>
              mm along the subject
            </text>
            {depth.positions.map((item, index) => {
              const from = Math.max(left, x(mm(item.near_limit.value)));
              const to = Math.min(right, x(mm(item.far_limit.value)));
              const y = top + 4 + index * rowHeight;
              return (
                // biome-ignore lint/suspicious/noArrayIndexKey: positions are their order
                <g key={index} data-slice={index + 1}>
                  <rect
                    x={from}
                    y={y + 1}
                    width={Math.max(2, to - from)}
                    height={Math.max(2, rowHeight - 3)}
                    fill={ink("accent")}
                    opacity={0.85}
                  />
                  {rowHeight >= 15 && (
                    <text
                      className="figure"
                      x={from - 6}
                      y={y + rowHeight / 2}
                      dy="0.35em"
                      fontSize="12"
                      textAnchor="end"
                      fill={ink("fg")}
                    >
                      {index + 1}
                    </text>
                  )}
                </g>
              );
            })}
          </>
        );
      }}
    </Drawing>
  );
}
