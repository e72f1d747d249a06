import { scaleLinear } from "d3-scale";
import { area, line } from "d3-shape";
import type { Schemas } from "../../api/client";
import { BottomAxis, LeftAxis } from "../../drawing/axes";
import { Drawing } from "../../drawing/Drawing";
import { percent } from "../../lib/format/numbers";
import { ink } from "../../theme/system";
import { along } from "./curves";

type Day = Schemas["LightDayOut"];

const COMPASS: Record<number, string> = {
  0: "N",
  45: "NE",
  90: "E",
  135: "SE",
  180: "S",
  225: "SW",
  270: "W",
  315: "NW",
};

/** The galactic centre's way by its pieces: before dawn and after dusk. */
function nights(night: NonNullable<Schemas["ShotDayOut"]["galactic"]>) {
  const pieces: { bearing_deg: number[]; altitude_deg: number[] }[] = [];
  night.time_s.forEach((when, index) => {
    const before = night.time_s[index - 1];
    if (before === undefined || when - before > 1000) pieces.push({ bearing_deg: [], altitude_deg: [] });
    const piece = pieces[pieces.length - 1];
    piece?.bearing_deg.push(night.bearing_deg[index] ?? 0);
    piece?.altitude_deg.push(night.altitude_deg[index] ?? 0);
  });
  return pieces;
}

/** The skyline ribbon: bearings unrolled, the land as a silhouette, the ways of sun and moon with their hours, the frame as a rectangle. */
export function SkylineRibbon({
  day,
  shotDay,
  centre,
  seconds,
}: {
  day: Day;
  shotDay?: Schemas["ShotDayOut"] | undefined;
  /** The bearing in the middle. */
  centre: number;
  seconds?: number | null;
}) {
  const turned = (bearing: number) => ((((bearing - centre + 180) % 360) + 360) % 360) - 180;
  return (
    <Drawing
      title="The skyline"
      note={
        day.land_words.join(" ") || (day.has_skyline ? "" : "No skyline is known here: the horizon is taken as level.")
      }
      figures={{
        head: ["Bearing", "Land"],
        rows: day.skyline
          .filter((_, index) => index % 5 === 0)
          .map(([bearing, altitude]) => [`${bearing}°`, `${(altitude ?? 0).toFixed(1)}°`]),
      }}
    >
      {(width, height) => {
        const left = 40;
        const right = width - 8;
        const night = shotDay?.galactic;
        const highestSun = Math.max(...day.curve_altitude_deg);
        const highestLand = Math.max(...day.skyline.map((point) => point[1] ?? 0));
        const highestCentre = Math.max(0, ...(night?.altitude_deg ?? []));
        const top = Math.max(24, highestSun + 8, highestLand + 8, highestCentre + 8);
        const x = scaleLinear().domain([-180, 180]).range([left, right]);
        const y = scaleLinear()
          .domain([-12, top])
          .range([height - 24, 16]);
        const land = day.skyline
          .slice(0, -1)
          .map(([bearing = 0, altitude = 0]): [number, number] => [turned(bearing), altitude])
          .sort((a, b) => a[0] - b[0]);
        const first = land[0];
        const last = land[land.length - 1];
        const closed: [number, number][] =
          first && last ? [[-180, (first[1] + last[1]) / 2], ...land, [180, (first[1] + last[1]) / 2]] : land;
        const silhouette =
          area<[number, number]>()
            .x((point) => x(point[0]))
            .y0(height - 24)
            .y1((point) => y(point[1]))(closed) ?? "";
        const ways = (azimuths: number[], altitudes: number[]) => {
          const parts: [number, number][][] = [[]];
          azimuths.forEach((azimuth, index) => {
            const at: [number, number] = [turned(azimuth), altitudes[index] ?? 0];
            const part = parts[parts.length - 1] as [number, number][];
            const before = part[part.length - 1];
            if (before && Math.abs(before[0] - at[0]) > 180) parts.push([at]);
            else part.push(at);
          });
          return parts.map(
            (part) =>
              line<[number, number]>()
                .x((point) => x(point[0]))
                .y((point) => y(point[1]))(part) ?? "",
          );
        };
        const at = (azimuths: number[], altitudes: number[], when: number): [number, number] => [
          x(turned(azimuths[Math.round(when / day.curve_step_s)] ?? 0)),
          y(along(altitudes, day.curve_step_s, when)),
        ];
        const seen = (when: number) => day.sun_shows.some((span) => span.from_s <= when && when <= span.to_s);
        const blocks = (shotDay?.elements ?? []).filter((block) => block.to_deg - block.from_deg < 170);
        const frame = shotDay?.frame;
        return (
          <>
            <defs>
              <clipPath id="ribbon-frame">
                <rect x={left} y={8} width={right - left} height={height - 32} />
              </clipPath>
            </defs>
            <rect x={left} y={8} width={right - left} height={y(0) - 8} fill={ink("low")} />
            <LeftAxis
              ticks={[0, 10, 20, 30, 45, 60, 75]
                .filter((degrees) => degrees < top - 2)
                .map((degrees) => ({ at: y(degrees), label: `${degrees}°` }))}
              x={left}
              right={right}
            />
            <g clipPath="url(#ribbon-frame)">
              {ways(day.moon.curve_azimuth_deg, day.moon.curve_altitude_deg).map((d) => (
                <path
                  key={d.slice(0, 40)}
                  d={d}
                  fill="none"
                  stroke={ink("haze")}
                  strokeWidth={1.25}
                  strokeDasharray="5 3"
                />
              ))}
              {ways(day.curve_azimuth_deg, day.curve_altitude_deg).map((d) => (
                <path key={d.slice(0, 40)} d={d} fill="none" stroke={ink("accent")} strokeWidth={1.75} />
              ))}
              {night?.band.map((piece) =>
                ways(
                  piece.map((point) => point[0] ?? 0),
                  piece.map((point) => point[1] ?? 0),
                ).map((d) => (
                  <path
                    key={d.slice(0, 40)}
                    data-galaxy=""
                    d={d}
                    fill="none"
                    stroke={ink("haze")}
                    strokeOpacity={0.3}
                    strokeWidth={14}
                  />
                )),
              )}
              {night &&
                nights(night)
                  .flatMap((piece) => ways(piece.bearing_deg, piece.altitude_deg))
                  .map((d) => (
                    <path
                      key={d.slice(0, 40)}
                      d={d}
                      fill="none"
                      stroke={ink("fg")}
                      strokeWidth={1.25}
                      strokeDasharray="1 4"
                    />
                  ))}
              <path d={silhouette} fill={ink("far")} />
              <line x1={left} x2={right} y1={y(0)} y2={y(0)} stroke={ink("edge")} strokeDasharray="2 4" />
              {blocks.map((block) => {
                const from = turned(block.from_deg);
                const wide = block.to_deg - block.from_deg;
                const tall = Math.max(2, y(Math.max(-12, block.foot_deg)) - y(block.top_deg));
                return (
                  <g key={block.name}>
                    <rect
                      x={x(from)}
                      width={Math.max(2, x(from + wide) - x(from))}
                      y={y(block.top_deg)}
                      height={tall}
                      fill={ink("middle")}
                      fillOpacity={0.25}
                      stroke={ink("muted")}
                      strokeDasharray="2 3"
                    />
                    <text
                      x={x(from) + 4}
                      y={y(block.top_deg) + 13}
                      fontSize="12"
                      fill={ink("fg")}
                      stroke={ink("far")}
                      strokeWidth={3}
                      paintOrder="stroke"
                    >
                      {block.name}
                    </text>
                  </g>
                );
              })}
              {frame && (
                <rect
                  data-frame=""
                  x={x(turned((frame.from_deg + frame.to_deg) / 2) - (frame.to_deg - frame.from_deg) / 2)}
                  width={x(frame.to_deg - frame.from_deg) - x(0)}
                  y={y(frame.top_deg)}
                  height={y(frame.foot_deg) - y(frame.top_deg)}
                  fill="none"
                  stroke={ink("fg")}
                  strokeWidth={1.5}
                />
              )}
            </g>
            {day.hours
              .filter((tick) => tick.seconds < day.length_s)
              .map((tick) => {
                const [hx, hy] = at(day.curve_azimuth_deg, day.curve_altitude_deg, tick.seconds);
                if (hy > height - 26) return null;
                return (
                  <g key={tick.seconds} opacity={seen(tick.seconds) ? 1 : 0.45}>
                    <circle cx={hx} cy={hy} r={2.5} fill={ink("accent")} />
                    <text
                      className="figure"
                      x={hx}
                      y={hy - 7}
                      fontSize="12"
                      textAnchor="middle"
                      fill={ink("fg")}
                      stroke={ink("low")}
                      strokeWidth={3}
                      paintOrder="stroke"
                    >
                      {tick.label}
                    </text>
                  </g>
                );
              })}
            {day.hours
              .filter((tick) => tick.seconds < day.length_s && tick.hour % 3 === 0)
              .map((tick) => {
                const [hx, hy] = at(day.moon.curve_azimuth_deg, day.moon.curve_altitude_deg, tick.seconds);
                if (hy > y(0)) return null;
                return (
                  <g key={tick.seconds}>
                    <circle cx={hx} cy={hy} r={2} fill={ink("haze")} />
                    <text className="figure" x={hx} y={hy + 14} fontSize="12" textAnchor="middle" fill={ink("haze")}>
                      {tick.label}
                    </text>
                  </g>
                );
              })}
            {night?.time_s.map((when, index) => {
              const tick = day.hours.find((item) => item.seconds === when);
              const [gx, gy] = [x(turned(night.bearing_deg[index] ?? 0)), y(night.altitude_deg[index] ?? 0)];
              return tick ? (
                <g key={when}>
                  <circle cx={gx} cy={gy} r={2} fill={ink("fg")} />
                  <text className="figure" x={gx} y={gy - 7} fontSize="12" textAnchor="middle" fill={ink("fg")}>
                    {tick.label}
                  </text>
                </g>
              ) : null;
            })}
            {seconds !== null && seconds !== undefined && seconds >= 0 && seconds <= day.length_s && (
              <g>
                {(() => {
                  const [sx, sy] = at(day.curve_azimuth_deg, day.curve_altitude_deg, seconds);
                  const [mx, my] = at(day.moon.curve_azimuth_deg, day.moon.curve_altitude_deg, seconds);
                  return (
                    <>
                      {sy < height - 24 && (
                        <circle
                          cx={sx}
                          cy={sy}
                          r={7}
                          fill={seen(seconds) ? ink("accent") : "none"}
                          stroke={seen(seconds) ? ink("bg") : ink("accent")}
                          strokeWidth={2}
                        />
                      )}
                      {my < y(0) && (
                        <circle cx={mx} cy={my} r={6} fill={ink("haze")} stroke={ink("bg")} strokeWidth={1.5} />
                      )}
                    </>
                  );
                })()}
              </g>
            )}
            <BottomAxis
              ticks={Object.entries(COMPASS).map(([bearing, label]) => ({ at: x(turned(Number(bearing))), label }))}
              y={height - 22}
            />
            <text x={right} y={22} textAnchor="end" fontSize="13" fill={ink("muted")}>
              sun by hours; dashed: {day.moon.words}, {percent(day.moon.fraction)} lit
              {night?.time_s.length ? "; dotted: galactic centre" : ""}
            </text>
          </>
        );
      }}
    </Drawing>
  );
}
