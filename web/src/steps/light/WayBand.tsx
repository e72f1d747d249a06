import type { ScaleLinear } from "d3-scale";
import type { Schemas } from "../../api/client";
import { Labels } from "../../drawing/Labels";
import { shareOfBand } from "../../drawing/legs";
import { ink } from "../../theme/system";

type Leg = Schemas["LegOut"];

/** The span of a shot on the day's clock, from leaving home to being back at the car, and what shuts the place. */
export function WayBand({
  legs,
  closed,
  length,
  x,
  top,
  tall,
}: {
  legs: Leg[];
  closed: Schemas["ClosedOut"][];
  length: number;
  x: ScaleLinear<number, number>;
  top: number;
  tall: number;
}) {
  const [left, right] = x.range() as [number, number];
  const at = (seconds: number) => x(Math.min(length, Math.max(0, seconds)));
  const wide = (span: { from_s: number; to_s: number }) => Math.max(1.5, at(span.to_s) - at(span.from_s));
  const inside = legs.filter((leg) => leg.to_s > 0 && leg.from_s < length);
  const [first, last] = [legs[0], legs.at(-1)];
  const middle = top + tall / 2;
  return (
    <g data-band="way">
      <text x={38} y={middle} dy="0.35em" textAnchor="end" fontSize="12" fill={ink("muted")}>
        way
      </text>
      <rect x={left} width={right - left} y={top} height={tall} fill={ink("panel")} />
      {closed.map((span) => (
        <rect
          key={`${span.from_s}${span.words}`}
          data-closed=""
          x={at(span.from_s)}
          width={wide(span)}
          y={top}
          height={tall}
          fill={span.known ? "url(#cut-hatch)" : "none"}
          stroke={span.known ? undefined : ink("muted")}
          strokeDasharray={span.known ? undefined : "2 3"}
          opacity={span.by_tide && span.known ? 0.55 : 1}
        >
          <title>{span.words}</title>
        </rect>
      ))}
      {inside.map((leg) => {
        const share = shareOfBand(leg.name);
        return (
          <rect
            key={leg.name}
            data-leg={leg.name}
            x={at(leg.from_s)}
            width={wide(leg)}
            y={middle - (tall * share) / 2}
            height={tall * share}
            fill={ink(leg.closed ? "rust" : leg.name === "frames" ? "accent" : leg.dark ? "muted" : "fg")}
          >
            <title>{`${leg.name}, ${leg.start_clock} to ${leg.end_clock}${leg.dark ? ", in the dark" : ""}${leg.closed ? ", closed" : leg.unknown ? ", not known to be open" : ""}`}</title>
          </rect>
        );
      })}
      {first && last && (
        <Labels
          wishes={[
            {
              leg: first,
              at: at(first.from_s),
              text: `${first.name === "drive" ? "leave home" : "set out"} ${first.start_clock}`,
            },
            { leg: last, at: at(last.to_s), text: `back ${last.end_clock}` },
          ]
            .filter((item) => item.at > left || item.leg.from_s >= 0)
            .map((item, index) => ({
              id: index,
              text: item.text,
              size: 13,
              x: item.at + (index ? 1 : -1) * (item.text.length * 3.4 + 4),
              y: middle + 4,
              gap: 0,
              mono: true,
            }))}
          bounds={{ x: left + 1, y: top - 2, width: right - left - 2, height: tall + 4 }}
          halo="panel"
        />
      )}
    </g>
  );
}
