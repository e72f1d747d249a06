import { type ScaleLinear, scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import type { Schemas } from "../../api/client";
import { LeftAxis } from "../../drawing/axes";
import { BAND_ROLES } from "../../drawing/bands";
import { labelOf } from "../../lib/format/labels";
import { ink } from "../../theme/system";
import { along } from "./curves";

type Day = Schemas["LightDayOut"];
type Scale = ScaleLinear<number, number>;

/** Kinds of light as spans of the day, named where there is room. */
export function Bands({ day, x, top, floor }: { day: Day; x: Scale; top: number; floor: number }) {
  return (
    <>
      {day.bands.map((band) => {
        const from = x(band.from_s);
        const wide = Math.max(1, x(band.to_s) - from);
        const special = band.kind === "golden_hour" ? "gold-hatch" : band.kind === "blue_hour" ? "blue-hatch" : null;
        return (
          <g key={`${band.kind}${band.from_s}`}>
            <rect x={from} width={wide} y={top} height={floor - top} fill={ink(BAND_ROLES[band.kind] ?? "low")} />
            {special && (
              <rect x={from} width={wide} y={top} height={floor - top} fill={`url(#${special})`} opacity={0.4} />
            )}
            {wide > 78 ? (
              <text
                x={from + wide / 2}
                y={13}
                fontSize="13"
                textAnchor="middle"
                fill={special ? ink("fg") : ink("muted")}
              >
                {labelOf("Band", band.kind)}
              </text>
            ) : (
              special && (
                <text
                  transform={`translate(${from + wide / 2} ${floor - 30}) rotate(-90)`}
                  dy="0.35em"
                  fontSize="13"
                  fill={ink("fg")}
                  stroke={ink("night")}
                  strokeWidth={3}
                  paintOrder="stroke"
                >
                  {labelOf("Band", band.kind)}
                </text>
              )
            )}
          </g>
        );
      })}
    </>
  );
}

/** What the curves are, in the corner that is always night or free of them. */
export function Legend({ x, y }: { x: number; y: number }) {
  const lines = [
    { name: "clear sky, here", stroke: "fg", width: 2, dash: undefined },
    { name: "in shade", stroke: "haze", width: 1, dash: "2 2" },
    { name: "overcast", stroke: "muted", width: 1, dash: "6 3" },
  ];
  return (
    <g pointerEvents="none" transform={`translate(${x} ${y})`}>
      {lines.map((item, index) => (
        <g key={item.name} transform={`translate(0 ${index * 16})`}>
          <line x2={24} stroke={ink(item.stroke)} strokeWidth={item.width} strokeDasharray={item.dash} />
          <text
            x={30}
            dy="0.35em"
            fontSize="12"
            fill={ink("muted")}
            stroke={ink("night")}
            strokeWidth={3}
            paintOrder="stroke"
          >
            {item.name}
          </text>
        </g>
      ))}
    </g>
  );
}

export function SunEvents({
  day,
  x,
  top,
  bottom,
  floor,
}: {
  day: Day;
  x: Scale;
  top: number;
  bottom: number;
  floor: number;
}) {
  return (
    <>
      {day.events
        .filter((event) => event.kind === "sunrise" || event.kind === "sunset")
        .map((event) => (
          <g key={event.time_utc} transform={`translate(${x(event.seconds)} 0)`} pointerEvents="none">
            <line y1={top} y2={bottom} stroke={ink("fg")} strokeDasharray="2 3" />
            <text
              y={floor - 10}
              x={event.kind === "sunrise" ? -6 : 6}
              textAnchor={event.kind === "sunrise" ? "end" : "start"}
              fontSize="13"
              fill={ink("fg")}
              stroke={ink("night")}
              strokeWidth={3}
              paintOrder="stroke"
            >
              {event.words} <tspan className="figure">{event.clock}</tspan>
            </text>
          </g>
        ))}
    </>
  );
}

/** The altitudes of sun and moon on the same clock. */
export function Heights({
  day,
  x,
  top,
  bottom,
  left,
  right,
  seconds,
}: {
  day: Day;
  x: Scale;
  top: number;
  bottom: number;
  left: number;
  right: number;
  seconds: number | null;
}) {
  const sun = day.curve_altitude_deg;
  const moon = day.moon.curve_altitude_deg;
  const highest = Math.max(20, Math.max(...sun, ...moon) + 6);
  const lowest = Math.min(-14, Math.max(-30, Math.min(...sun) - 6));
  const up = scaleLinear().domain([lowest, highest]).range([bottom, top]).clamp(true);
  const path = (curve: number[]) =>
    line()(curve.map((altitude, index): [number, number] => [x(index * day.curve_step_s), up(altitude)])) ?? "";
  return (
    <g pointerEvents="none">
      <rect x={left} width={right - left} y={up(0)} height={Math.max(0, bottom - up(0))} fill={ink("night")} />
      <line x1={left} x2={right} y1={up(0)} y2={up(0)} stroke={ink("edge")} />
      <LeftAxis
        ticks={[0, Math.round(Math.max(...sun))]
          .filter((degrees, index) => index === 0 || Math.abs(up(degrees) - up(0)) > 14)
          .map((degrees) => ({ at: up(degrees), label: `${degrees}°` }))}
        x={left}
      />
      <path d={path(moon)} fill="none" stroke={ink("haze")} strokeWidth={1.25} strokeDasharray="5 3" />
      <path d={path(sun)} fill="none" stroke={ink("accent")} strokeWidth={1.75} />
      <text
        x={right}
        y={top + 6}
        fontSize="13"
        textAnchor="end"
        fill={ink("muted")}
        stroke={ink("bg")}
        strokeWidth={3}
        paintOrder="stroke"
      >
        sun, highest in the {day.noon_compass}; dashed: {day.moon.words}
      </text>
      {seconds !== null && seconds >= 0 && seconds <= day.length_s && (
        <circle cx={x(seconds)} cy={up(along(sun, day.curve_step_s, seconds))} r={5} fill={ink("accent")} />
      )}
    </g>
  );
}
