import { scaleLinear } from "d3-scale";
import type { Schemas } from "../api/client";
import { spread } from "../drawing/axes";
import { Drawing } from "../drawing/Drawing";
import { heightText, lengthText, roundLength } from "../lib/format/spelling";
import { ink } from "../theme/system";

const SCALE_STEPS = [10, 20, 50, 100, 200, 500, 1000, 2000, 5000, 10000];

/** A location from above, to scale: viewpoints, tracks, contours; north is up. */
export function LocationSketch({ name, sketch }: { name: string; sketch: Schemas["SketchOut"] }) {
  return (
    <Drawing
      title={`${name} from above`}
      note={
        sketch.contour_step_m
          ? `contours every ${heightText(sketch.contour_step_m, 0)}`
          : "to scale; give it an elevation grid for contours"
      }
      figures={{
        head: ["Viewpoint", "East", "North"],
        rows: sketch.viewpoints.map((point) => [point.name, heightText(point.east_m, 0), heightText(point.north_m, 0)]),
      }}
    >
      {(width, height) => {
        const perMetre = (Math.min(width, height) / 2 - 8) / sketch.half_m;
        const [middleE = 0, middleN = 0] = sketch.middle;
        const x = scaleLinear()
          .domain([middleE, middleE + 1])
          .range([width / 2, width / 2 + perMetre]);
        const y = scaleLinear()
          .domain([middleN, middleN + 1])
          .range([height / 2, height / 2 - perMetre]);
        const path = (line: number[][]) =>
          line.map(([e = 0, n = 0], index) => `${index ? "L" : "M"}${x(e).toFixed(1)} ${y(n).toFixed(1)}`).join("");
        const bar = SCALE_STEPS.map(roundLength).find((metres) => metres * perMetre >= 60) ?? 10000;
        const labels = spread(
          sketch.viewpoints.map((point) => y(point.north_m)),
          16,
          14,
          height - 10,
        );
        return (
          <>
            <defs>
              <clipPath id="sketch-frame">
                <rect width={width} height={height} />
              </clipPath>
            </defs>
            <rect width={width} height={height} fill={ink("panel")} />
            <g clipPath="url(#sketch-frame)">
              {sketch.contours.map((contour) => {
                const strong = sketch.contour_step_m
                  ? Math.round(contour.level_m / sketch.contour_step_m) % 5 === 0
                  : false;
                const low = contour.level_m <= 0;
                return (
                  <path
                    key={`${contour.level_m}${contour.line[0]?.join()}`}
                    d={path(contour.line)}
                    fill="none"
                    stroke={ink(low ? "haze" : "middle")}
                    strokeWidth={strong ? 1.5 : 0.75}
                    opacity={strong ? 0.9 : 0.6}
                  />
                );
              })}
              {sketch.contours
                .filter(
                  (contour, index, all) =>
                    contour.line.length > 30 &&
                    all.findIndex((other) => other.level_m === contour.level_m && other.line.length > 30) === index,
                )
                .map((contour) => {
                  const inside = contour.line.find(
                    ([e = 0, n = 0]) => x(e) > 40 && x(e) < width - 60 && y(n) > 30 && y(n) < height - 40,
                  );
                  if (!inside) return null;
                  return (
                    <text
                      key={contour.level_m}
                      className="figure"
                      x={x(inside[0] ?? 0)}
                      y={y(inside[1] ?? 0)}
                      fontSize="12"
                      textAnchor="middle"
                      dy="0.35em"
                      fill={ink("muted")}
                      stroke={ink("panel")}
                      strokeWidth={4}
                      paintOrder="stroke"
                    >
                      {contour.level_m}
                    </text>
                  );
                })}
              {sketch.tracks.map((track) => (
                <g key={track.id}>
                  <path d={path(track.line)} fill="none" stroke={ink("bg")} strokeWidth={4.5} />
                  <path
                    data-track=""
                    d={path(track.line)}
                    fill="none"
                    stroke={ink("fg")}
                    strokeWidth={2}
                    strokeDasharray="6 4"
                  />
                  {track.line[0] && (
                    <rect
                      x={x(track.line[0][0] ?? 0) - 5}
                      y={y(track.line[0][1] ?? 0) - 5}
                      width={10}
                      height={10}
                      fill={ink("bg")}
                      stroke={ink("fg")}
                      strokeWidth={2}
                    >
                      <title>{`${track.name}: start`}</title>
                    </rect>
                  )}
                </g>
              ))}
              {sketch.viewpoints.map((point, index) => (
                <g key={point.id}>
                  <path
                    d={`M${x(point.east_m)} ${y(point.north_m) - 9} l8 14 h-16 Z`}
                    fill={ink("accent")}
                    stroke={ink("bg")}
                    strokeWidth={1.5}
                  />
                  <text
                    x={x(point.east_m) + (x(point.east_m) > width * 0.6 ? -13 : 13)}
                    textAnchor={x(point.east_m) > width * 0.6 ? "end" : "start"}
                    y={labels[index]}
                    dy="0.35em"
                    fontSize="13"
                    fill={ink("fg")}
                    stroke={ink("panel")}
                    strokeWidth={4}
                    paintOrder="stroke"
                  >
                    {point.name}
                  </text>
                </g>
              ))}
            </g>
            <g transform={`translate(22 ${height - 40})`}>
              <path d="M0 14 V-12 M-5 -5 L0 -13 L5 -5" fill="none" stroke={ink("fg")} strokeWidth={1.5} />
              <text y={28} fontSize="12" textAnchor="middle" fill={ink("fg")}>
                N
              </text>
            </g>
            <g transform={`translate(${width - 16 - bar * perMetre} ${height - 16})`}>
              <path d={`M0 -5 V0 H${bar * perMetre} V-5`} fill="none" stroke={ink("fg")} strokeWidth={1.5} />
              <text
                className="figure"
                x={(bar * perMetre) / 2}
                y={-6}
                fontSize="12"
                textAnchor="middle"
                fill={ink("fg")}
              >
                {lengthText(bar)}
              </text>
            </g>
          </>
        );
      }}
    </Drawing>
  );
}
