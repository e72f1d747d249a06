import { scaleLinear } from "d3-scale";
import { area, line } from "d3-shape";
import { useEffect, useState } from "react";
import type { Schemas } from "../../api/client";
import { BottomAxis, Hatch, LeftAxis } from "../../drawing/axes";
import { Drawing } from "../../drawing/Drawing";
import { labelOf } from "../../lib/format/labels";
import { heightText } from "../../lib/format/spelling";
import type { Shot, ShotWork } from "../../shots/useShot";
import { ink } from "../../theme/system";
import { along, clockOf } from "./curves";
import { CloudBand, LandBand, TideBand } from "./DayBands";
import { ShotOnSlope, TimePicker } from "./ShotOnSlope";
import { Bands, Heights, Legend, SunEvents } from "./SlopeParts";
import { WayBand } from "./WayBand";

type Day = Schemas["LightDayOut"];
type ShotDay = Schemas["ShotDayOut"];

const EV_LOW = -8;
const EV_HIGH = 17;

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
  const height = (curve: (number | null)[], value: number) => {
    const metres = at(
      curve.map((item) => item ?? Number.NaN),
      value,
    );
    return Number.isFinite(metres) ? heightText(metres) : "not known";
  };
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
  const invented = [day.tide?.simulated && "tide", simulated && shotDay?.weather.length && "forecast"]
    .filter(Boolean)
    .join(" and ");
  const length = shot?.plan.sequence.total_s ?? 0;
  return (
    <Drawing
      title="The fall of light"
      note={[
        day.absence_words,
        day.shift_words,
        invented && `${invented} simulated`,
        set ? "click a time, drag a window" : null,
      ]
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
          ...(day.tide?.twelfths_m.length ? ["By twelfths"] : []),
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
            ...(day.tide ? [height(day.tide.curve_m, tick.seconds)] : []),
            ...(day.tide?.twelfths_m.length ? [height(day.tide.twelfths_m, tick.seconds)] : []),
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
          { kind: "way", tall: shotDay?.way.length || shotDay?.closed.some((span) => !span.by_tide) ? 18 : 0 },
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
            <path
              d={path(day.curve_overcast_ev100)}
              fill="none"
              stroke={ink("muted")}
              strokeWidth={1}
              strokeDasharray="6 3"
            />
            <path
              d={path(day.curve_shade_ev100)}
              fill="none"
              stroke={ink("haze")}
              strokeWidth={1}
              strokeDasharray="2 2"
            />
            <path d={path(day.curve_here_ev100)} fill="none" stroke={ink("fg")} strokeWidth={2} />
            <Legend x={left + 8} y={bandY + 14} />
            <SunEvents day={day} x={x} top={bandY} bottom={bottom} floor={floor} />
            {placed.map((row) =>
              row.tall === 0 ? null : row.kind === "land" ? (
                <LandBand key="land" day={day} x={x} top={row.top} tall={row.tall} />
              ) : row.kind === "way" ? (
                <WayBand
                  key="way"
                  legs={shotDay?.way ?? []}
                  closed={shotDay?.closed ?? []}
                  length={day.length_s}
                  x={x}
                  top={row.top}
                  tall={row.tall}
                />
              ) : row.kind === "cloud" ? (
                <CloudBand
                  key="cloud"
                  hours={shotDay?.weather ?? []}
                  length={day.length_s}
                  x={x}
                  top={row.top}
                  tall={row.tall}
                />
              ) : (
                <TideBand
                  key="tide"
                  day={day}
                  cutOff={shotDay?.closed.filter((span) => span.by_tide && span.known) ?? []}
                  x={x}
                  top={row.top}
                  tall={row.tall}
                />
              ),
            )}
            <Heights
              day={day}
              x={x}
              top={bottom - altHeight}
              bottom={bottom}
              left={left}
              right={right}
              seconds={seconds}
            />
            <BottomAxis
              ticks={day.hours
                .filter((tick) => tick.hour % every === 0)
                .map((tick) => ({ at: x(tick.seconds), label: tick.label }))}
              y={height - 20}
            />
            {day.readings.map((reading) => (
              <g
                key={`${reading.id}${reading.seconds}`}
                transform={`translate(${x(reading.seconds)} ${y(reading.ev100)})`}
              >
                <path d="M-5 0 H5 M0 -5 V5" stroke={ink("accent")} strokeWidth={2} />
                <title>{`meter at ${reading.clock}: EV ${reading.ev100.toFixed(1)}`}</title>
              </g>
            ))}
            {set && <TimePicker x={x} top={bandY} floor={floor} choose={choose} chooseWindow={chooseWindow} />}
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
                    <title>{`${labelOf("LightKind", window.kind)}, ${window.start_clock} to ${window.end_clock}`}</title>
                  </line>
                ))}
            {seconds !== null && seconds >= 0 && seconds <= day.length_s && set && (
              <ShotOnSlope
                x={x}
                y={(value) => y(at(day.curve_here_ev100, value))}
                top={bandY}
                floor={floor}
                bottom={bottom}
                width={width}
                seconds={seconds}
                end={end}
                length={length}
                clock={clock}
                choose={choose}
                chooseWindow={chooseWindow}
              />
            )}
            {seconds === null && set && (
              <g
                role="button"
                tabIndex={0}
                aria-label="Choose a time"
                onKeyDown={(event) => event.key === "Enter" && choose(day.length_s / 2)}
                pointerEvents="none"
              >
                <text x={(left + right) / 2} y={bandY + 34} textAnchor="middle" fontSize="14" fill={ink("fg")}>
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
