import { Box } from "@chakra-ui/react";
import { scaleLinear } from "d3-scale";
import { Hatch } from "../../drawing/axes";
import { Drawing } from "../../drawing/Drawing";
import { plural } from "../../lib/format/spelling";
import type { Shot } from "../../shots/useShot";
import { ink } from "../../theme/system";
import { GroupCards } from "./GroupCards";

const TOP = 24;
const TALL = 44;

/** The frames in order: above, along the clock against the light that is left; below, as cards by group. */
export function ContactStrip({ shot }: { shot: Shot }) {
  const { sequence, depth, exposure } = shot.plan;
  const rail = depth.method === "rail";
  const aims = new Set(sequence.frames.flatMap((item) => item.aim_label ?? [])).size;
  const taken = sequence.groups.filter((group) => group.taken !== null);
  const made = sequence.own_groups
    ? `in ${plural(taken.length, "group")}`
    : `${aims ? `${plural(aims, "aim")} × ` : ""}${plural(depth.positions.length, rail ? "rail position" : "focus position")} × ${plural(Math.max(1, exposure.exposures.length), "exposure")}`;
  return (
    <Box display="flex" flexDirection="column" minH="0" flex="1" gap="8px">
      <Box height="154px" flex="none">
        <Drawing
          title="The contact strip"
          note={`${plural(sequence.frames.length, "frame")}, ${made}`}
          least={110}
          figures={{
            head: [
              "Frame",
              "Group",
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
              sequence.groups[item.group]?.called ?? "",
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
          {(width) => <Clock shot={shot} width={width} />}
        </Drawing>
      </Box>
      <GroupCards shot={shot} />
    </Box>
  );
}

/** The exposures along the clock, group by group, before the light that is left. */
function Clock({ shot, width }: { shot: Shot; width: number }) {
  const { sequence } = shot.plan;
  const total = sequence.total_s ?? 1;
  const available = sequence.available_s;
  // Where the light lasts far longer than the sequence, the clock shows the start of it.
  const horizon = available === null ? total * 1.05 : Math.min(Math.max(available, total) * 1.04, total * 4);
  const x = scaleLinear()
    .domain([0, horizon])
    .range([8, width - 8]);
  const lightEnds = available === null ? horizon : available;
  const groups = sequence.groups
    .filter((group) => group.taken !== null)
    .sort((one, other) => (one.taken ?? 0) - (other.taken ?? 0));
  return (
    <>
      <defs>
        <Hatch id="after-light" tone="rust" gap={7} />
      </defs>
      <rect
        x={x(0)}
        width={Math.max(0, x(Math.min(lightEnds, horizon)) - x(0))}
        y={TOP}
        height={TALL}
        fill={ink("low")}
      />
      {lightEnds < horizon && (
        <rect x={x(lightEnds)} width={x(horizon) - x(lightEnds)} y={TOP} height={TALL} fill="url(#after-light)" />
      )}
      {groups.length > 1 &&
        groups.map((group) => {
          const frames = sequence.frames.filter((frame) => frame.group === group.at);
          const [first, last] = [frames[0], frames.at(-1)];
          if (!first || !last) return null;
          const [from, to] = [x(first.start_s), Math.max(x(first.start_s) + 2, x(last.end_s))];
          return (
            <g key={group.at}>
              <path
                d={`M${from} ${TOP + TALL + 8}V${TOP + TALL + 4}H${to}V${TOP + TALL + 8}`}
                fill="none"
                stroke={ink("edge")}
              />
              {to - from > group.called.length * 6.4 && (
                <text x={from} y={TOP + TALL + 20} fontSize="13" fill={ink("muted")}>
                  {group.called}
                </text>
              )}
            </g>
          );
        })}
      {sequence.frames.map((item) => (
        <rect
          key={item.number}
          x={x(item.start_s)}
          width={Math.max(1.2, x(item.end_s) - x(item.start_s) - 0.6)}
          y={TOP + 6 + (item.exposure_index % 4) * 6}
          height={TALL - 10 - (item.exposure_index % 4) * 6}
          fill={ink("accent")}
          opacity={item.focus_index % 2 ? 0.7 : 1}
        />
      ))}
      <text x={x(0)} y={16} fontSize="13" fill={ink("muted")}>
        start{" "}
        <tspan className="figure" fill={ink("fg")}>
          {sequence.start_clock ?? "not said"}
        </tspan>
      </text>
      <line x1={x(total)} x2={x(total)} y1={TOP - 4} y2={TOP + TALL + 8} stroke={ink("fg")} strokeWidth={1.5} />
      <text
        x={x(total)}
        y={TOP + TALL + (groups.length > 1 ? 36 : 22)}
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
        <text x={width - 8} y={16} fontSize="13" textAnchor="end" fill={ink("muted")}>
          {lightEnds < horizon ? "this light ends" : "this light lasts until"}{" "}
          <tspan className="figure" fill={ink("fg")}>
            {sequence.window_end_clock}
          </tspan>
        </text>
      )}
    </>
  );
}
