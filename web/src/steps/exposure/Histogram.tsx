import { scaleLinear } from "d3-scale";
import { Hatch } from "../../drawing/axes";
import type { Shot } from "../../shots/useShot";
import { ink } from "../../theme/system";
import type { Tones } from "../../tones/sceneData";

/** How much of the picture lies at which EV, over what the frame holds; beyond that it clips or blocks. */
export function Histogram({
  shot,
  tones,
  index,
  width,
  height,
}: {
  shot: Shot;
  tones: Tones;
  index: number;
  width: number;
  height: number;
}) {
  const frame = shot.plan.exposure.exposures[index];
  const { histogram, histogram_from_ev: from, histogram_step_ev: step } = tones;
  const to = from + step * histogram.length;
  const [low, high] = frame
    ? [Math.min(from, frame.darkest_ev - 0.5), Math.max(to, frame.brightest_ev + 0.5)]
    : [from, to];
  const x = scaleLinear()
    .domain([low, high])
    .range([2, width - 2]);
  const foot = height - 30;
  // The square root lets what is rare be seen.
  const most = Math.sqrt(Math.max(...histogram, 1e-6));
  const y = (share: number) => foot - (Math.sqrt(share) / most) * (foot - 18);
  const outline = histogram
    .map((share, at) => `H${x(from + at * step)}V${y(share)}H${x(from + (at + 1) * step)}`)
    .join("");
  return (
    <g data-histogram="">
      <defs>
        <Hatch id="beyond-hatch" tone="rust" gap={5} width={1.25} />
      </defs>
      {frame && (
        <>
          <rect x={x(low)} width={x(frame.darkest_ev) - x(low)} y={14} height={foot - 14} fill="url(#beyond-hatch)" />
          <rect
            x={x(frame.brightest_ev)}
            width={x(high) - x(frame.brightest_ev)}
            y={14}
            height={foot - 14}
            fill="url(#beyond-hatch)"
          />
        </>
      )}
      <path d={`M${x(from)} ${foot}${outline}V${foot}Z`} fill={ink("middle")} stroke={ink("fg")} strokeWidth={1} />
      <line x1={0} x2={width} y1={foot} y2={foot} stroke={ink("edge")} />
      {x.ticks(10).map((tick) => (
        <g key={tick} transform={`translate(${x(tick)} ${foot})`}>
          <line y2={4} stroke={ink("edge")} />
          <text className="figure" y={16} textAnchor="middle" fontSize="12" fill={ink("muted")}>
            {tick}
          </text>
        </g>
      ))}
      {width > 480 && (
        <text x={0} y={9} fontSize="13" fill={ink("muted")}>
          How much lies at which EV
        </text>
      )}
      {frame && (
        <text
          x={(x(frame.darkest_ev) + x(frame.brightest_ev)) / 2}
          y={9}
          fontSize="13"
          textAnchor="middle"
          fill={ink("accent")}
        >
          <tspan className="figure">{frame.shutter_label}</tspan> holds{" "}
          <tspan className="figure">{(frame.brightest_ev - frame.darkest_ev).toFixed(0)}</tspan> stops
        </text>
      )}
      {(["shadow_ev", "middle_ev", "highlight_ev"] as const).map((name) => (
        <path key={name} d={`M${x(tones[name])} ${foot + 1} l-4 7 h8 Z`} fill={ink("accent")} />
      ))}
    </g>
  );
}
