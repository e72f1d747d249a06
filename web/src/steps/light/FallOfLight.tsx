import { type ScaleLinear, scaleLinear } from "d3-scale";
import { area, line } from "d3-shape";
import { useEffect, useRef, useState } from "react";
import type { Schemas } from "../../api/client";
import { BottomAxis, Hatch, LeftAxis } from "../../drawing/axes";
import { Drawing } from "../../drawing/Drawing";
import { Handle } from "../../drawing/Handle";
import { heightText } from "../../parts/spelling";
import type { Shot, ShotWork } from "../../shot/useShot";
import { ink } from "../../theme/system";
import { along, clockOf } from "./curves";
import { CloudBand, LandBand, TideBand } from "./DayBands";

type Day = Schemas["LightDayOut"];
type ShotDay = Schemas["ShotDayOut"];
type Scale = ScaleLinear<number, number>;

const BAND_FILL: Record<string, string> = {
  night: "night",
  twilight: "night",
  "blue hour": "low",
  "golden hour": "low",
  daylight: "day",
};
const EV_LOW = -8;
const EV_HIGH = 17;
/** A drag shorter than this [seconds] is a click. */
const LEAST_WINDOW_S = 240;

/**
 * The fall of light: scene light in EV over the local day, and on the same clock land, cloud, tide and the heights of sun and moon.
 * A click sets the time of the shot, a drag its window.
 */
export function FallOfLight({
  day,
  shotDay,
  simulated,
  shot,
  set,
}: {
  day: Day;
  shotDay?: ShotDay | undefined;
  /** Whether the forecast shown comes from the simulated service. */
  simulated?: boolean | undefined;
  shot?: Shot;
  set?: ShotWork["set"];
}) {
  const start = Date.parse(day.start_utc);
  const toSeconds = (moment: string | null | undefined) => (moment ? (Date.parse(moment) - start) / 1000 : null);
  const saved = toSeconds(shot?.facts.time_utc);
  const savedEnd = toSeconds(shot?.facts.window_end_utc);
  const [held, setHeld] = useState<{ time?: number; end?: number | null }>({});
  // biome-ignore lint/correctness/useExhaustiveDependencies: what the server says ends a drag
  useEffect(() => setHeld({}), [shot?.facts.time_utc, shot?.facts.window_end_utc]);
  const seconds = held.time ?? saved;
  const end = held.end === undefined ? savedEnd : held.end;
  const clock = clockOf(day.start_utc, day.zone);
  const at = (curve: number[], value: number) => along(curve, day.curve_step_s, value);
  const minute = (value: number) => Math.round(Math.min(day.length_s - 60, Math.max(0, value)) / 60) * 60;
  const utc = (value: number) => new Date(start + value * 1000).toISOString();
  const choose = (value: number) => {
    const time = minute(value);
    setHeld({ time, end: end !== null && end > time ? end : null });
    set?.({ time_utc: utc(time) });
  };
  const chooseWindow = (from: number, to: number) => {
    const [time, last] = [minute(Math.min(from, to)), minute(Math.max(from, to))];
    setHeld({ time, end: last });
    set?.({ time_utc: utc(time), window_end_utc: utc(last) });
  };
  const invented = [day.tide && "tide", simulated && shotDay?.weather.length && "forecast"].filter(Boolean).join(" and ");
  const length = shot?.plan.sequence.total_s ?? 0;
  return (
    <Drawing
      title="The fall of light"
      note={[day.absence_words, day.shift_words, invented && `${invented} simulated`, set ? "click a time, drag a window" : null]
        .filter(Boolean)
        .join("; ")}
      figures={{
        head: [
          "Clock",
          "Sun altitude",
          "Sun bearing",
          "Here EV",
          "Open clear EV",
          "Shade EV",
          "Overcast EV",
          ...(day.tide ? ["Tide"] : []),
        ],
        rows: day.hours
          .slice(0, -1)
          .map((tick) => [
            clock(tick.seconds),
            `${at(day.curve_altitude_deg, tick.seconds).toFixed(1)}°`,
            `${(day.curve_azimuth_deg[Math.round(tick.seconds / day.curve_step_s)] ?? 0).toFixed(0)}°`,
            at(day.curve_here_ev100, tick.seconds).toFixed(1),
            at(day.curve_ev100, tick.seconds).toFixed(1),
            at(day.curve_shade_ev100, tick.seconds).toFixed(1),
            at(day.curve_overcast_ev100, tick.seconds).toFixed(1),
            ...(day.tide ? [heightText(at(day.tide.curve_m, tick.seconds))] : []),
          ]),
      }}
    >
      {(width, height) => {
        const left = 44;
        const right = width - 10;
        const bandY = 20;
        const roomy = height > 420;
        const altHeight = roomy ? Math.max(66, height * 0.15) : 54;
        const rows = [
          { kind: "land", tall: day.shadow.length || day.has_skyline ? 16 : 0 },
          { kind: "cloud", tall: shotDay?.weather.length ? 36 : 0 },
          { kind: "tide", tall: day.tide ? (roomy ? 54 : 42) : 0 },
        ];
        const bands = rows.reduce((sum, row) => sum + (row.tall ? row.tall + 6 : 0), 0);
        const floor = height - 22 - altHeight - 10 - bands;
        const x = scaleLinear().domain([0, day.length_s]).range([left, right]);
        const y = scaleLinear()
          .domain([EV_LOW, EV_HIGH])
          .range([floor, bandY + 12])
          .clamp(true);
        let top = floor + 8;
        const placed = rows.map((row) => {
          const from = top;
          if (row.tall) top += row.tall + 6;
          return { ...row, top: from };
        });
        const path = (curve: number[]) =>
          line()(curve.map((ev, index): [number, number] => [x(index * day.curve_step_s), y(ev)])) ?? "";
        const under =
          area<number>()
            .x((_, index) => x(index * day.curve_step_s))
            .y0(floor)
            .y1((ev) => y(ev))(day.curve_here_ev100) ?? "";
        const every = width < 560 ? 4 : 2;
        const bottom = height - 22;
        return (
          <>
            <defs>
              <Hatch id="blue-hatch" tone="haze" gap={7} />
              <Hatch id="gold-hatch" tone="accent" gap={7} />
              <Hatch id="land-hatch" tone="fg" gap={4} />
              <Hatch id="cut-hatch" tone="rust" gap={5} width={1.5} />
            </defs>
            <Bands day={day} x={x} top={bandY} floor={floor} />
            <LeftAxis
              ticks={[-5, 0, 5, 10, 15].map((ev) => ({ at: y(ev), label: String(ev).replace("-", "−") }))}
              x={left}
              right={right}
            />
            <text x={8} y={bandY + 6} fontSize="12" fill={ink("muted")}>
              EV
            </text>
            <path d={under} fill={ink("fg")} opacity={0.1} />
            <path d={path(day.curve_ev100)} fill="none" stroke={ink("muted")} strokeWidth={1} strokeDasharray="1 4" />
            <path d={path(day.curve_overcast_ev100)} fill="none" stroke={ink("muted")} strokeWidth={1} strokeDasharray="6 3" />
            <path d={path(day.curve_shade_ev100)} fill="none" stroke={ink("haze")} strokeWidth={1} strokeDasharray="2 2" />
            <path d={path(day.curve_here_ev100)} fill="none" stroke={ink("fg")} strokeWidth={2} />
            <Legend x={left + 8} y={bandY + 14} />
            <SunEvents day={day} x={x} top={bandY} bottom={bottom} floor={floor} />
            {placed.map((row) =>
              row.tall === 0 ? null : row.kind === "land" ? (
                <LandBand key="land" day={day} x={x} top={row.top} tall={row.tall} />
              ) : row.kind === "cloud" ? (
                <CloudBand key="cloud" hours={shotDay?.weather ?? []} length={day.length_s} x={x} top={row.top} tall={row.tall} />
              ) : (
                <TideBand key="tide" day={day} cutOff={shotDay?.cut_off ?? []} x={x} top={row.top} tall={row.tall} />
              ),
            )}
            <Heights day={day} x={x} top={bottom - altHeight} bottom={bottom} left={left} right={right} seconds={seconds} />
            <BottomAxis
              ticks={day.hours
                .filter((tick) => tick.hour % every === 0)
                .map((tick) => ({ at: x(tick.seconds), label: tick.label }))}
              y={height - 20}
            />
            {day.readings.map((reading) => (
              <g key={`${reading.id}${reading.seconds}`} transform={`translate(${x(reading.seconds)} ${y(reading.ev100)})`}>
                <path d="M-5 0 H5 M0 -5 V5" stroke={ink("accent")} strokeWidth={2} />
                <title>{`meter at ${reading.clock}: EV ${reading.ev100.toFixed(1)}`}</title>
              </g>
            ))}
            {set && <Picker x={x} top={bandY} floor={floor} choose={choose} chooseWindow={chooseWindow} />}
            {set &&
              shotDay?.windows
                .filter((window) => window.wanted)
                .map((window) => (
                  <line
                    key={window.start_utc}
                    x1={x(Math.max(0, window.from_s))}
                    x2={x(Math.min(day.length_s, window.to_s))}
                    y1={floor - 2}
                    y2={floor - 2}
                    stroke={ink("accent")}
                    strokeWidth={4}
                  >
                    <title>{`${window.kind}, ${window.start_clock} to ${window.end_clock}`}</title>
                  </line>
                ))}
            {seconds !== null && seconds >= 0 && seconds <= day.length_s && set && (
              <>
                {end !== null && end > seconds && (
                  <g>
                    <rect
                      x={x(seconds)}
                      width={Math.max(2, x(end) - x(seconds))}
                      y={bandY}
                      height={floor - bandY}
                      fill={ink("accent")}
                      opacity={0.16}
                      pointerEvents="none"
                    />
                    <Handle
                      x={x(end)}
                      y={y(at(day.curve_here_ev100, end))}
                      label="End of the window"
                      value={Math.round(end / 60)}
                      range={[0, 1440]}
                      valueText={clock(end)}
                      cursor="ew-resize"
                      drag={(toX) => chooseWindow(seconds, Math.max(seconds + 60, x.invert(toX)))}
                      nudge={(steps) => chooseWindow(seconds, Math.max(seconds + 60, end + steps * 60))}
                    >
                      <path d="M-5 -9 L3 0 L-5 9" fill="none" stroke={ink("accent")} strokeWidth={2.5} />
                    </Handle>
                  </g>
                )}
                <line
                  x1={x(seconds)}
                  x2={x(seconds)}
                  y1={bandY}
                  y2={bottom}
                  stroke={ink("accent")}
                  strokeWidth={1.5}
                  pointerEvents="none"
                />
                <rect
                  x={x(seconds)}
                  width={Math.max(3, x(seconds + length) - x(seconds))}
                  y={y(at(day.curve_here_ev100, seconds)) - 6}
                  height={12}
                  fill={ink("accent")}
                  pointerEvents="none"
                />
                <Handle
                  x={x(seconds)}
                  y={y(at(day.curve_here_ev100, seconds))}
                  label="Time of the shot"
                  value={Math.round(seconds / 60)}
                  range={[0, 1440]}
                  valueText={clock(seconds)}
                  cursor="ew-resize"
                  drag={(toX) => choose(x.invert(toX))}
                  nudge={(steps) => choose(seconds + steps * 60)}
                />
                <text
                  className="figure"
                  x={x(seconds) + (x(seconds) > width - 90 ? -14 : 14)}
                  textAnchor={x(seconds) > width - 90 ? "end" : "start"}
                  y={y(at(day.curve_here_ev100, seconds)) - 16}
                  fontSize="17"
                  fontWeight={600}
                  fill={ink("fg")}
                  stroke={ink("night")}
                  strokeWidth={4}
                  paintOrder="stroke"
                  pointerEvents="none"
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
                onKeyDown={(event) => event.key === "Enter" && choose(day.length_s / 2)}
                pointerEvents="none"
              >
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

/** The ground under the slope: a click chooses a time, a drag a window. */
function Picker({
  x,
  top,
  floor,
  choose,
  chooseWindow,
}: {
  x: Scale;
  top: number;
  floor: number;
  choose: (seconds: number) => void;
  chooseWindow: (from: number, to: number) => void;
}) {
  const from = useRef<number | null>(null);
  const [span, setSpan] = useState<[number, number]>();
  const here = (event: React.PointerEvent<SVGRectElement>) =>
    x.invert(event.clientX - (event.currentTarget.ownerSVGElement?.getBoundingClientRect().left ?? 0));
  const [left, right] = x.range() as [number, number];
  return (
    <>
      {span && (
        <rect
          x={x(Math.min(...span))}
          width={Math.abs(x(span[1]) - x(span[0]))}
          y={top}
          height={floor - top}
          fill={ink("accent")}
          opacity={0.25}
        />
      )}
      <rect
        data-picker=""
        x={left}
        width={right - left}
        y={top}
        height={floor - top}
        fill="transparent"
        style={{ cursor: "crosshair", touchAction: "pan-y" }}
        onPointerDown={(event) => {
          from.current = here(event);
          event.currentTarget.setPointerCapture(event.pointerId);
        }}
        onPointerMove={(event) => from.current !== null && setSpan([from.current, here(event)])}
        onPointerUp={(event) => {
          if (from.current === null) return;
          const to = here(event);
          if (Math.abs(to - from.current) < LEAST_WINDOW_S) choose(to);
          else chooseWindow(from.current, to);
          from.current = null;
          setSpan(undefined);
        }}
        onPointerCancel={() => {
          from.current = null;
          setSpan(undefined);
        }}
      />
    </>
  );
}

function Bands({ day, x, top, floor }: { day: Day; x: Scale; top: number; floor: number }) {
  return (
    <>
      {day.bands.map((band) => {
        const from = x(band.from_s);
        const wide = Math.max(1, x(band.to_s) - from);
        const special = band.kind === "golden hour" ? "gold-hatch" : band.kind === "blue hour" ? "blue-hatch" : null;
        return (
          <g key={`${band.kind}${band.from_s}`}>
            <rect x={from} width={wide} y={top} height={floor - top} fill={ink(BAND_FILL[band.kind] ?? "low")} />
            {special && <rect x={from} width={wide} y={top} height={floor - top} fill={`url(#${special})`} opacity={0.4} />}
            {wide > 78 ? (
              <text x={from + wide / 2} y={13} fontSize="12.5" textAnchor="middle" fill={special ? ink("fg") : ink("muted")}>
                {band.kind}
              </text>
            ) : (
              special && (
                <text
                  transform={`translate(${from + wide / 2} ${floor - 30}) rotate(-90)`}
                  dy="0.35em"
                  fontSize="12.5"
                  fill={ink("fg")}
                  stroke={ink("night")}
                  strokeWidth={3}
                  paintOrder="stroke"
                >
                  {band.kind}
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
function Legend({ x, y }: { x: number; y: number }) {
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
          <text x={30} dy="0.35em" fontSize="12" fill={ink("muted")} stroke={ink("night")} strokeWidth={3} paintOrder="stroke">
            {item.name}
          </text>
        </g>
      ))}
    </g>
  );
}

function SunEvents({ day, x, top, bottom, floor }: { day: Day; x: Scale; top: number; bottom: number; floor: number }) {
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
function Heights({
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
        fontSize="12.5"
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
