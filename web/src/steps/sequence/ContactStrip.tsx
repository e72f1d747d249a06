import { scaleLinear } from "d3-scale";
import { Hatch } from "../../drawing/axes";
import { Drawing } from "../../drawing/Drawing";
import type { Shot } from "../../shot/useShot";
import { ink } from "../../theme/system";

const GAP = 8;

const plural = (count: number, word: string) => `${count} ${word}${count === 1 ? "" : "s"}`;

/** Cards as large as the room allows: few frames are read from afar. */
function cardSize(count: number, width: number, height: number): { width: number; height: number } {
  for (const wide of [236, 200, 168, 138]) {
    const tall = wide * 0.6;
    const columns = Math.max(1, Math.floor((width + GAP) / (wide + GAP)));
    if (Math.ceil(count / columns) * (tall + GAP) <= height) return { width: wide, height: tall };
  }
  return { width: 130, height: 76 };
}

/** The frames in order: above, along the clock against the light that is left; below, as small cards grouped by focus. */
export function ContactStrip({ shot }: { shot: Shot }) {
  const { sequence, depth, exposure } = shot.plan;
  const rail = depth.method === "rail";
  const aims = new Set(sequence.frames.flatMap((item) => item.aim_label ?? [])).size;
  return (
    <Drawing
      title="The contact strip"
      note={`${plural(sequence.frames.length, "frame")}: ${aims ? `${plural(aims, "aim")} × ` : ""}${plural(depth.positions.length, rail ? "rail position" : "focus position")} × ${plural(Math.max(1, exposure.exposures.length), "exposure")}`}
      figures={{
        head: [
          "Frame",
          ...(aims ? ["Aim"] : []),
          "Opens after",
          rail ? "Rail" : "Focus",
          "Aperture",
          "Shutter",
          "ISO",
          "Filters",
        ],
        rows: sequence.frames.map((item) => [
          item.number,
          ...(aims ? [item.aim_label ?? ""] : []),
          item.start_label,
          item.focus_label,
          item.f_number_label,
          item.shutter_label,
          item.iso,
          item.filters.join(" + ") || "none",
        ]),
      }}
    >
      {(width, height) => {
        const total = sequence.total_s ?? 1;
        const available = sequence.available_s;
        // Where the light lasts far longer than the sequence, the clock shows the start of it.
        const horizon = available === null ? total * 1.05 : Math.min(Math.max(available, total) * 1.04, total * 4);
        const x = scaleLinear()
          .domain([0, horizon])
          .range([8, width - 8]);
        const lightEnds = available === null ? horizon : available;
        const cardsTop = 118;
        const card = cardSize(sequence.frames.length, width, height - cardsTop);
        const k = card.height / 76;
        const columns = Math.max(1, Math.floor((width + GAP) / (card.width + GAP)));
        const rows = Math.max(1, Math.floor((height - cardsTop + GAP) / (card.height + GAP)));
        const shown = sequence.frames.slice(0, columns * rows);
        const hidden = sequence.frames.length - shown.length;
        return (
          <>
            <defs>
              <Hatch id="after-light" tone="rust" gap={7} />
            </defs>
            <rect x={x(0)} width={Math.max(0, x(Math.min(lightEnds, horizon)) - x(0))} y={22} height={50} fill={ink("low")} />
            {lightEnds < horizon && (
              <rect x={x(lightEnds)} width={x(horizon) - x(lightEnds)} y={22} height={50} fill="url(#after-light)" />
            )}
            {sequence.frames.map((item) => (
              <rect
                key={item.number}
                x={x(item.start_s)}
                width={Math.max(1.2, x(item.end_s) - x(item.start_s) - 0.6)}
                y={30 + (item.exposure_index % 4) * 6}
                height={34 - (item.exposure_index % 4) * 6}
                fill={ink("accent")}
                opacity={item.focus_index % 2 ? 0.7 : 1}
              />
            ))}
            <text x={x(0)} y={14} fontSize="13" fill={ink("muted")}>
              start{" "}
              <tspan className="figure" fill={ink("fg")}>
                {sequence.start_clock ?? "not said"}
              </tspan>
            </text>
            <line x1={x(total)} x2={x(total)} y1={18} y2={80} stroke={ink("fg")} strokeWidth={1.5} />
            <text
              x={x(total)}
              y={94}
              fontSize="13"
              textAnchor={x(total) > width - 130 ? "end" : x(total) < 130 ? "start" : "middle"}
              fill={ink("muted")}
            >
              done{" "}
              {sequence.end_clock && (
                <tspan className="figure" fill={ink("fg")}>
                  {sequence.end_clock}
                </tspan>
              )}{" "}
              after{" "}
              <tspan className="figure" fill={ink("fg")}>
                {sequence.total_label}
              </tspan>
            </text>
            {sequence.window_end_clock && (
              <text x={width - 8} y={14} fontSize="13" textAnchor="end" fill={ink("muted")}>
                {lightEnds < horizon ? "this light ends" : "this light lasts until"}{" "}
                <tspan className="figure" fill={ink("fg")}>
                  {sequence.window_end_clock}
                </tspan>
              </text>
            )}
            {shown.map((item, index) => {
              const cardX = (index % columns) * (card.width + GAP);
              const cardY = cardsTop + Math.floor(index / columns) * (card.height + GAP);
              const first = item.exposure_index === 0;
              return (
                <g key={item.number} transform={`translate(${cardX} ${cardY})`} data-frame={item.number}>
                  <rect width={card.width} height={card.height} fill={ink("panel")} stroke={first ? ink("edge") : ink("line")} />
                  {first && <rect width={4} height={card.height} fill={ink("accent")} />}
                  <text className="figure" x={12} y={19 * k} fontSize={12 + k} fill={ink("muted")}>
                    {item.number}
                    {item.aim_label && <tspan fill={ink("haze")}>{`  ${item.aim_label}`}</tspan>}
                  </text>
                  <text className="figure" x={card.width - 8} y={19 * k} fontSize={11.5 + k} textAnchor="end" fill={ink("muted")}>
                    {item.start_label}
                  </text>
                  <text className="figure" x={12} y={44 * k} fontSize={18 * Math.min(1.6, k)} fontWeight={600} fill={ink("fg")}>
                    {item.shutter_label}
                  </text>
                  <text className="figure" x={12} y={65 * k} fontSize={Math.min(15, 11.5 + k)} fill={ink("fg")}>
                    {item.f_number_label}
                    <tspan fill={ink("muted")}> at </tspan>
                    {item.focus_label}
                  </text>
                </g>
              );
            })}
            {hidden > 0 && (
              <text
                x={width - 4}
                y={height - 4}
                fontSize="13"
                textAnchor="end"
                fill={ink("muted")}
                stroke={ink("bg")}
                strokeWidth={4}
                paintOrder="stroke"
              >
                and {hidden} more: see them as figures
              </text>
            )}
          </>
        );
      }}
    </Drawing>
  );
}
