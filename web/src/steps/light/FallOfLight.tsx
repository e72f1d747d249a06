import { scaleLinear } from "d3-scale";
import { area, line } from "d3-shape";
import { useEffect, useState } from "react";
import type { Schemas } from "../../api/client";
import { BottomAxis, Hatch, LeftAxis } from "../../drawing/axes";
import { Drawing } from "../../drawing/Drawing";
import { Handle } from "../../drawing/Handle";
import type { Shot, ShotWork } from "../../shot/useShot";
import { ink } from "../../theme/system";

type Day = Schemas["LightDayOut"];

const BAND_FILL: Record<string, string> = {
  night: "night",
  twilight: "night",
  "blue hour": "low",
  "golden hour": "low",
  daylight: "day",
};
const EV_LOW = -12;
const EV_HIGH = 17;

/** The fall of light: scene light in EV over the local day, the sun's altitude below it on the same clock, the shot's sequence as a block on the slope. */
export function FallOfLight({ day, shot, set }: { day: Day; shot?: Shot; set?: ShotWork["set"] }) {
  const start = Date.parse(day.start_utc);
  const saved = shot?.facts.time_utc ? (Date.parse(shot.facts.time_utc) - start) / 1000 : null;
  const [held, setHeld] = useState<number | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what the server says ends a drag
  useEffect(() => setHeld(null), [shot?.facts.time_utc]);
  const seconds = held ?? saved;
  const choose = (value: number) => {
    const minute = Math.round(Math.min(day.length_s - 60, Math.max(0, value)) / 60) * 60;
    setHeld(minute);
    set?.({ time_utc: new Date(start + minute * 1000).toISOString() });
  };
  const at = (curve: number[], value: number) => {
    const position = value / day.curve_step_s;
    const index = Math.min(curve.length - 2, Math.max(0, Math.floor(position)));
    const share = Math.min(1, position - index);
    return (curve[index] ?? 0) * (1 - share) + (curve[index + 1] ?? 0) * share;
  };
  const clock = (value: number) =>
    new Intl.DateTimeFormat("en-GB", { hour: "2-digit", minute: "2-digit", timeZone: day.zone }).format(
      new Date(start + value * 1000),
    );
  const length = shot?.plan.sequence.total_s ?? 0;
  return (
    <Drawing
      title="The fall of light"
      note={`clear sky, EV at ISO 100${day.absence_words ? `. ${day.absence_words}` : ""}`}
      figures={{
        head: ["Clock", "Sun altitude", "Sun bearing", "Clear-sky EV"],
        rows: day.hours
          .slice(0, -1)
          .map((tick) => [
            `${tick.label}:00`,
            `${at(day.curve_altitude_deg, tick.seconds).toFixed(1)}°`,
            `${(day.curve_azimuth_deg[Math.round(tick.seconds / day.curve_step_s)] ?? 0).toFixed(0)}°`,
            at(day.curve_ev100, tick.seconds).toFixed(1),
          ]),
      }}
    >
      {(width, height) => {
        const left = 44;
        const right = width - 10;
        const bandY = 20;
        const below = Math.max(84, height * 0.24);
        const floor = height - 22 - below - 12;
        const x = scaleLinear().domain([0, day.length_s]).range([left, right]);
        const y = scaleLinear()
          .domain([EV_LOW, EV_HIGH])
          .range([floor, bandY + 14]);
        const altitudes = day.curve_altitude_deg;
        const highest = Math.max(20, Math.max(...altitudes) + 6);
        const lowest = Math.min(-20, Math.min(...altitudes) - 6);
        const up = scaleLinear()
          .domain([lowest, highest])
          .range([height - 22, floor + 14]);
        const points = day.curve_ev100.map((ev, index): [number, number] => [x(index * day.curve_step_s), y(ev)]);
        const track = altitudes.map((altitude, index): [number, number] => [x(index * day.curve_step_s), up(altitude)]);
        const slope = line()(points) ?? "";
        const under =
          area<[number, number]>()
            .y0(floor)
            .x((point) => point[0])
            .y1((point) => point[1])(points) ?? "";
        const every = width < 560 ? 4 : 2;
        return (
          <>
            <defs>
              <Hatch id="blue-hatch" tone="haze" gap={7} />
              <Hatch id="gold-hatch" tone="accent" gap={7} />
            </defs>
            {day.bands.map((band) => {
              const from = x(band.from_s);
              const wide = Math.max(1, x(band.to_s) - from);
              const special = band.kind === "golden hour" ? "gold-hatch" : band.kind === "blue hour" ? "blue-hatch" : null;
              return (
                <g key={`${band.kind}${band.from_s}`}>
                  <rect x={from} width={wide} y={bandY} height={floor - bandY} fill={ink(BAND_FILL[band.kind] ?? "low")} />
                  {special && (
                    <rect x={from} width={wide} y={bandY} height={floor - bandY} fill={`url(#${special})`} opacity={0.4} />
                  )}
                  {wide > 78 ? (
                    <text
                      x={from + wide / 2}
                      y={13}
                      fontSize="12.5"
                      textAnchor="middle"
                      fill={special ? ink("fg") : ink("muted")}
                    >
                      {band.kind}
                    </text>
                  ) : (
                    special && (
                      <text
                        transform={`translate(${from + wide / 2} ${bandY + 8}) rotate(-90)`}
                        dy="0.35em"
                        fontSize="12.5"
                        textAnchor="end"
                        fill={ink("fg")}
                        stroke={ink("low")}
                        strokeWidth={3}
                        paintOrder="stroke"
                      >
                        {band.kind.replace(" hour", "")}
                      </text>
                    )
                  )}
                </g>
              );
            })}
            <LeftAxis
              ticks={[-10, -5, 0, 5, 10, 15].map((ev) => ({ at: y(ev), label: String(ev).replace("-", "−") }))}
              x={left}
              right={right}
            />
            <path d={under} fill={ink("fg")} opacity={0.1} />
            <path d={slope} fill="none" stroke={ink("fg")} strokeWidth={2} />
            {day.events
              .filter((event) => event.kind === "sunrise" || event.kind === "sunset")
              .map((event) => (
                <g key={event.time_utc} transform={`translate(${x(event.seconds)} 0)`}>
                  <line y1={bandY} y2={height - 22} stroke={ink("fg")} strokeDasharray="2 3" />
                  <text
                    y={floor - 8}
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
            <rect x={left} width={right - left} y={up(0)} height={Math.max(0, height - 22 - up(0))} fill={ink("night")} />
            <line x1={left} x2={right} y1={up(0)} y2={up(0)} stroke={ink("edge")} />
            <LeftAxis
              ticks={[0, Math.round(Math.max(...altitudes))]
                .filter((degrees, index) => index === 0 || Math.abs(degrees) > 9)
                .map((degrees) => ({ at: up(degrees), label: `${degrees}°` }))}
              x={left}
            />
            <path d={line()(track) ?? ""} fill="none" stroke={ink("accent")} strokeWidth={1.75} />
            <text x={right} y={floor + 26} fontSize="12.5" textAnchor="end" fill={ink("muted")}>
              sun&rsquo;s altitude, highest in the {day.noon_compass}
            </text>
            <BottomAxis
              ticks={day.hours
                .filter((tick) => Number(tick.label) % every === 0)
                .map((tick) => ({ at: x(tick.seconds), label: tick.label }))}
              y={height - 20}
            />
            {seconds !== null && set && (
              <>
                <line x1={x(seconds)} x2={x(seconds)} y1={bandY} y2={height - 22} stroke={ink("accent")} strokeWidth={1.5} />
                <rect
                  x={x(seconds)}
                  width={Math.max(3, x(seconds + length) - x(seconds))}
                  y={y(at(day.curve_ev100, seconds)) - 6}
                  height={12}
                  fill={ink("accent")}
                />
                <circle cx={x(seconds)} cy={up(at(altitudes, seconds))} r={5} fill={ink("accent")} />
                <Handle
                  x={x(seconds)}
                  y={y(at(day.curve_ev100, seconds))}
                  label="Time of the shot"
                  value={Math.round(seconds / 60)}
                  valueText={clock(seconds)}
                  cursor="ew-resize"
                  drag={(toX) => choose(x.invert(toX))}
                  nudge={(steps) => choose(seconds + steps * 60)}
                />
                <text
                  className="figure"
                  x={x(seconds) + (x(seconds) > width - 90 ? -14 : 14)}
                  textAnchor={x(seconds) > width - 90 ? "end" : "start"}
                  y={y(at(day.curve_ev100, seconds)) - 16}
                  fontSize="17"
                  fontWeight={600}
                  fill={ink("fg")}
                  stroke={ink("night")}
                  strokeWidth={4}
                  paintOrder="stroke"
                >
                  {clock(seconds)}
                </text>
              </>
            )}
            {seconds === null && set && (
              <g
                role="button"
                tabIndex={0}
                aria-label="Choose a time"
                style={{ cursor: "crosshair" }}
                onClick={(event) =>
                  choose(x.invert(event.clientX - (event.currentTarget.ownerSVGElement?.getBoundingClientRect().left ?? 0)))
                }
                onKeyDown={(event) => event.key === "Enter" && choose(day.length_s / 2)}
              >
                <rect x={left} width={right - left} y={bandY} height={height - 22 - bandY} fill="transparent" />
                <text x={(left + right) / 2} y={bandY + 34} textAnchor="middle" fontSize="15" fill={ink("fg")}>
                  Click where on this slope the shot stands
                </text>
              </g>
            )}
          </>
        );
      }}
    </Drawing>
  );
}
