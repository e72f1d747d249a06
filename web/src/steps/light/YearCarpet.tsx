import { scaleLinear } from "d3-scale";
import { useEffect, useState } from "react";
import type { Schemas } from "../../api/client";
import { BottomAxis, LeftAxis } from "../../drawing/axes";
import { Drawing } from "../../drawing/Drawing";
import { ink } from "../../theme/system";

type Carpet = Schemas["CarpetOut"];
type Hit = Schemas["HitOut"];

const EV_LOW = -8;
const EV_HIGH = 15;

/** A year of light: day of the year by time of day, shaded by EV; the hits of a search are points, the days of a season strokes. */
export function YearCarpet({
  carpet,
  hits,
  season,
  chosen,
  choose,
}: {
  carpet: Carpet;
  hits: Hit[];
  season: Schemas["SeasonDayOut"][];
  /** The day and hour of the shot, if they lie in this year. */
  chosen?: { day: number; hour: number | null } | undefined;
  choose: (hit: Hit) => void;
}) {
  const image = useRaster(carpet);
  const days = carpet.ev100.length;
  return (
    <Drawing
      title="The year"
      note="brighter is more light; speckled: sun behind the land"
      figures={{
        head: ["Date", "From", "To", "Bearing", "Altitude", "Light"],
        rows: hits.map((hit) => [
          hit.date_words,
          hit.start_clock,
          hit.end_clock,
          `${hit.azimuth_deg.toFixed(1)}°`,
          `${hit.altitude_deg.toFixed(1)}°`,
          hit.light,
        ]),
      }}
    >
      {(width, height) => {
        const left = 34;
        const right = width - 8;
        const x = scaleLinear().domain([0, days]).range([left, right]);
        const y = scaleLinear()
          .domain([0, 24])
          .range([10, height - 24]);
        return (
          <>
            {image && (
              <image
                href={image}
                x={left}
                y={y(0)}
                width={right - left}
                height={y(24) - y(0)}
                preserveAspectRatio="none"
                style={{ imageRendering: "pixelated" }}
              />
            )}
            <rect x={left} y={y(0)} width={right - left} height={y(24) - y(0)} fill="none" stroke={ink("line")} />
            <LeftAxis
              ticks={[0, 6, 12, 18, 24].map((hour) => ({ at: y(hour), label: String(hour).padStart(2, "0") }))}
              x={left}
            />
            <BottomAxis
              ticks={carpet.months.map((month) => ({ at: x(month.day_index), label: month.label }))}
              y={height - 22}
            />
            {season.map((day) =>
              day.spans.map((span) => (
                <line
                  key={span.start_utc}
                  data-season=""
                  x1={x(day.day_index + 0.5)}
                  x2={x(day.day_index + 0.5)}
                  y1={y(span.from_h)}
                  y2={Math.max(y(span.from_h) + 2.5, y(Math.min(24, span.to_h)))}
                  stroke={ink("accent")}
                  strokeWidth={Math.max(1.6, (right - left) / days)}
                >
                  <title>{`${day.date_words}, ${span.start_clock} to ${span.end_clock}`}</title>
                </line>
              )),
            )}
            {chosen && (
              <g pointerEvents="none">
                <line
                  x1={x(chosen.day + 0.5)}
                  x2={x(chosen.day + 0.5)}
                  y1={y(0)}
                  y2={y(24)}
                  stroke={ink("fg")}
                  strokeDasharray="3 3"
                />
                {chosen.hour !== null && (
                  <circle
                    cx={x(chosen.day + 0.5)}
                    cy={y(chosen.hour)}
                    r={7}
                    fill="none"
                    stroke={ink("fg")}
                    strokeWidth={2}
                  />
                )}
              </g>
            )}
            {hits.map((hit) => (
              <g
                key={hit.best_utc}
                role="button"
                tabIndex={0}
                data-hit=""
                aria-label={`${hit.date_words}, ${hit.best_clock}: put into the shot`}
                transform={`translate(${x(hit.day_index + 0.5)} ${y(hit.clock_h)})`}
                style={{ cursor: "pointer" }}
                onClick={() => choose(hit)}
                onKeyDown={(event) => event.key === "Enter" && choose(hit)}
              >
                <circle r={8} fill="transparent" />
                <circle r={3.6} fill={ink("rust")} stroke={ink("bg")} strokeWidth={1} />
                <title>{`${hit.date_words}, ${hit.start_clock} to ${hit.end_clock}, ${hit.light}`}</title>
              </g>
            ))}
          </>
        );
      }}
    </Drawing>
  );
}

/** The carpet as a small picture in the theme's own greys, made again when the theme changes. */
function useRaster(carpet: Carpet): string | undefined {
  const [picture, setPicture] = useState<string>();
  useEffect(() => {
    const draw = () => setPicture(raster(carpet));
    draw();
    const watch = new MutationObserver(draw);
    watch.observe(document.documentElement, { attributes: true, attributeFilter: ["data-theme"] });
    return () => watch.disconnect();
  }, [carpet]);
  return picture;
}

function raster(carpet: Carpet): string | undefined {
  const days = carpet.ev100.length;
  const slots = carpet.ev100[0]?.length ?? 0;
  const canvas = document.createElement("canvas");
  canvas.width = days;
  canvas.height = slots;
  const context = canvas.getContext("2d");
  if (!context || !slots) return undefined;
  const [dark, bright] = ["night", "near"].map((role) => channels(context, role));
  if (!dark || !bright) return undefined;
  const pixels = context.createImageData(days, slots);
  carpet.ev100.forEach((row, day) => {
    row.forEach((ev, slot) => {
      const share = Math.min(1, Math.max(0, (ev - EV_LOW) / (EV_HIGH - EV_LOW)));
      const hidden = carpet.hidden[day]?.[slot] && (day + slot) % 3 === 0;
      const at = 4 * (slot * days + day);
      for (let channel = 0; channel < 3; channel++) {
        const value = (dark[channel] ?? 0) + share * ((bright[channel] ?? 0) - (dark[channel] ?? 0));
        pixels.data[at + channel] = hidden ? value * 0.55 + 0.45 * (dark[channel] ?? 0) : value;
      }
      pixels.data[at + 3] = 255;
    });
  });
  context.putImageData(pixels, 0, 0);
  return canvas.toDataURL();
}

/** A role's colour as red, green and blue, whatever way the style sheet writes it. */
function channels(context: CanvasRenderingContext2D, role: string): number[] {
  const name = ink(role).slice(4, -1);
  context.fillStyle = getComputedStyle(document.documentElement).getPropertyValue(name).trim() || "gray";
  context.fillRect(0, 0, 1, 1);
  return Array.from(context.getImageData(0, 0, 1, 1).data.slice(0, 3));
}
