import { scaleLinear } from "d3-scale";
import type { Schemas } from "../../api/client";
import { shareOfBand } from "../../drawing/legs";
import { useSize } from "../../drawing/useSize";
import { ink } from "../../theme/system";

/** The height of what fills the lane, in pixels. */
const TALL = 12;

/** The span of a prospect on the clock of the days looked at: the way thin, the light broad. */
export function Lane({ legs, from, to }: { legs: Schemas["LaneLegOut"][]; from: number; to: number }) {
  const [box, { width }] = useSize<HTMLDivElement>();
  const x = scaleLinear()
    .domain([from, to])
    .range([0, Math.max(1, width)])
    .clamp(true);
  const light = legs.find((leg) => leg.name === "light");
  return (
    <div ref={box} style={{ minWidth: 0 }}>
      <svg width={width} height={26} role="img" aria-label={legs.map((leg) => leg.words).join("; ")} data-lane="">
        {midnights(from, to).map((hour) => (
          <line key={hour} x1={x(hour)} x2={x(hour)} y1={0} y2={26} stroke={ink("line")} strokeDasharray="2 3" />
        ))}
        <line x1={0} x2={width} y1={13} y2={13} stroke={ink("line")} />
        {light && (
          <rect
            x={x(light.from_h)}
            width={Math.max(2, x(light.to_h) - x(light.from_h))}
            y={2}
            height={22}
            fill={ink("accent")}
            fillOpacity={0.28}
            stroke={ink("accent")}
            strokeWidth={0.8}
          >
            <title>{light.words}</title>
          </rect>
        )}
        {legs
          .filter((leg) => leg.name !== "light")
          .map((leg) => {
            const tall = TALL * shareOfBand(leg.name);
            return (
              <rect
                key={leg.name}
                x={x(leg.from_h)}
                width={Math.max(1.5, x(leg.to_h) - x(leg.from_h))}
                y={13 - tall / 2}
                height={tall}
                fill={ink(leg.name === "frames" ? "accent" : leg.dark ? "muted" : "fg")}
              >
                <title>{`${leg.words}${leg.dark ? ", in the dark" : ""}`}</title>
              </rect>
            );
          })}
      </svg>
    </div>
  );
}

/** Hours at which a day of the lanes begins. */
function midnights(from: number, to: number): number[] {
  const first = Math.ceil(from / 24);
  return Array.from({ length: Math.max(0, Math.floor(to / 24) - first + 1) }, (_, index) => (first + index) * 24);
}

/** The clock over all lanes. */
export function LaneClock({ from, to, days }: { from: number; to: number; days: string[] }) {
  const [box, { width }] = useSize<HTMLDivElement>();
  const x = scaleLinear()
    .domain([from, to])
    .range([0, Math.max(1, width)]);
  const perHour = width / Math.max(1, to - from);
  const every = [1, 3, 6, 12, 24].find((step) => step * perHour > 34) ?? 24;
  const hours = [];
  for (let hour = Math.ceil(from / every) * every; hour <= to; hour += every) hours.push(hour);
  return (
    <div ref={box} style={{ minWidth: 0 }}>
      <svg width={width} height={34} aria-hidden="true">
        {days.map((words, index) => (
          <text
            key={words}
            x={x((Math.max(from, index * 24) + Math.min(to, index * 24 + 24)) / 2)}
            y={12}
            textAnchor="middle"
            fontSize="13"
            fill={ink("muted")}
          >
            {words}
          </text>
        ))}
        {hours.map((hour) => (
          <g key={hour} transform={`translate(${x(hour)} 0)`}>
            <line y1={29} y2={34} stroke={ink("muted")} />
            <text
              className="figure"
              y={27}
              fontSize="12"
              textAnchor={x(hour) < 10 ? "start" : x(hour) > width - 10 ? "end" : "middle"}
              fill={ink("muted")}
            >
              {String(((hour % 24) + 24) % 24).padStart(2, "0")}
            </text>
          </g>
        ))}
      </svg>
    </div>
  );
}
