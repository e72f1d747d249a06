import { type ScaleLinear, scaleLinear } from "d3-scale";
import { area, line } from "d3-shape";
import type { Schemas } from "../../api/client";
import { Labels } from "../../drawing/Labels";
import { heightText } from "../../lib/format/spelling";
import { ink } from "../../theme/system";

type Day = Schemas["LightDayOut"];
type Scale = ScaleLinear<number, number>;

interface Place {
  x: Scale;
  top: number;
  tall: number;
}

function Name({ top, tall, children }: { top: number; tall: number; children: string }) {
  return (
    <text x={38} y={top + tall / 2} dy="0.35em" textAnchor="end" fontSize="12" fill={ink("muted")}>
      {children}
    </text>
  );
}

/** When the sun is up but behind the land. */
export function LandBand({ day, x, top, tall }: Place & { day: Day }) {
  const [left, right] = x.range() as [number, number];
  return (
    <g data-band="land">
      <Name top={top} tall={tall}>
        land
      </Name>
      <rect x={left} width={right - left} y={top} height={tall} fill={ink("panel")} />
      {day.shadow.map((span) => {
        const wide = Math.max(1.5, x(span.to_s) - x(span.from_s));
        return (
          <g key={span.from_s}>
            <rect x={x(span.from_s)} width={wide} y={top} height={tall} fill="url(#land-hatch)" opacity={0.75} />
            <title>{`behind the land from ${span.start_clock} to ${span.end_clock}`}</title>
          </g>
        );
      })}
      {day.shadow.length > 0 && (
        <text x={left + 6} y={top + tall / 2} dy="0.35em" fontSize="12" fill={ink("muted")}>
          hatched: sun behind the land
        </text>
      )}
    </g>
  );
}

/** The forecast's three layers of cloud, high over low; rain as drops below, fog as a line. */
export function CloudBand({
  hours,
  length,
  x,
  top,
  tall,
}: Place & { hours: Schemas["WeatherHourOut"][]; length: number }) {
  const layer = tall / 3;
  const [left, right] = x.range() as [number, number];
  return (
    <g data-band="cloud">
      <Name top={top} tall={tall}>
        cloud
      </Name>
      <rect x={left} width={right - left} y={top} height={tall} fill={ink("panel")} />
      {hours.map((hour) => {
        const from = x(Math.max(0, hour.from_s));
        const wide = x(Math.min(length, hour.from_s + 3600)) - from;
        if (wide <= 0) return null;
        return (
          <g key={hour.from_s}>
            {[hour.high_cloud, hour.middle_cloud, hour.low_cloud].map((share, index) => (
              <rect
                // biome-ignore lint/suspicious/noArrayIndexKey: three layers, always the same
                key={index}
                x={from}
                width={wide}
                y={top + index * layer + (layer * (1 - share)) / 2}
                height={layer * share}
                fill={ink("fg")}
                opacity={0.18 + 0.45 * share}
              />
            ))}
            {hour.rain_mm > 0 && (
              <path
                d={`M${from + wide * 0.3} ${top + tall - 7} l-2 6 M${from + wide * 0.65} ${top + tall - 7} l-2 6`}
                stroke={ink("haze")}
                strokeWidth={1.6}
              />
            )}
            {hour.fog >= 0.3 && (
              <line
                x1={from}
                x2={from + wide}
                y1={top + tall - 1.5}
                y2={top + tall - 1.5}
                stroke={ink("haze")}
                strokeWidth={3}
                strokeDasharray="2 2"
              />
            )}
            <rect x={from} width={wide} y={top} height={tall} fill="transparent">
              <title>{hour.words}</title>
            </rect>
          </g>
        );
      })}
      <text
        x={left + 6}
        y={top + 9}
        fontSize="12"
        fill={ink("muted")}
        stroke={ink("panel")}
        strokeWidth={3}
        paintOrder="stroke"
      >
        high
      </text>
      <text
        x={left + 6}
        y={top + tall - 3}
        fontSize="12"
        fill={ink("muted")}
        stroke={ink("panel")}
        strokeWidth={3}
        paintOrder="stroke"
      >
        low
      </text>
    </g>
  );
}

/** The tide's curve with high and low water; where it cuts the place off it is hatched. */
export function TideBand({ day, cutOff, x, top, tall }: Place & { day: Day; cutOff: Schemas["ClosedOut"][] }) {
  const tide = day.tide;
  if (!tide) return null;
  const [left, right] = x.range() as [number, number];
  const y = scaleLinear()
    .domain([tide.low_m - 0.2, tide.high_m + 0.2])
    .range([top + tall - 2, top + 12]);
  const points = tide.curve_m.map((height, index): [number, number] => [
    x(index * day.curve_step_s),
    height === null ? Number.NaN : y(height),
  ]);
  const twelfths = tide.twelfths_m.map((height, index): [number, number] => [
    x(index * day.curve_step_s),
    height === null ? Number.NaN : y(height),
  ]);
  const known = (point: [number, number]) => Number.isFinite(point[1]);
  return (
    <g data-band="tide">
      <Name top={top} tall={tall}>
        tide
      </Name>
      <rect x={left} width={right - left} y={top} height={tall} fill={ink("panel")} />
      {cutOff.map((span) => (
        <rect
          key={span.from_s}
          x={x(Math.max(0, span.from_s))}
          width={Math.max(1, x(Math.min(day.length_s, span.to_s)) - x(Math.max(0, span.from_s)))}
          y={top}
          height={tall}
          fill="url(#cut-hatch)"
        >
          <title>{span.words}</title>
        </rect>
      ))}
      <path
        d={
          area<[number, number]>()
            .defined(known)
            .x((point) => point[0])
            .y0(top + tall)
            .y1((point) => point[1])(points) ?? ""
        }
        fill={ink("water")}
        opacity={0.8}
      />
      <path d={line().defined(known)(points) ?? ""} fill="none" stroke={ink("haze")} strokeWidth={1.6} />
      {twelfths.length > 0 && (
        <path
          d={line().defined(known)(twelfths) ?? ""}
          fill="none"
          stroke={ink("fg")}
          strokeWidth={1}
          strokeDasharray="1 3"
        >
          <title>by the rule of twelfths</title>
        </path>
      )}
      {tide.slack.map((span) => (
        <line
          key={span.from_s}
          data-slack=""
          x1={x(Math.max(0, span.from_s))}
          x2={x(Math.min(day.length_s, span.to_s))}
          y1={top + tall - 1.5}
          y2={top + tall - 1.5}
          stroke={ink("haze")}
          strokeWidth={3}
        >
          <title>{`slack from ${span.start_clock} to ${span.end_clock}`}</title>
        </line>
      ))}
      <Labels
        wishes={tide.events.map((event) => ({
          id: event.seconds,
          text: `${event.clock} ${heightText(event.height_m)}`,
          size: 13,
          x: x(event.seconds),
          y: y(event.height_m),
          gap: 2,
          mono: true,
        }))}
        bounds={{ x: left + 1, y: top, width: right - left - 2, height: tall }}
        halo="panel"
      />
    </g>
  );
}
