import { Drawing } from "../drawing/Drawing";
import { lengthText } from "../lib/format/spelling";
import { ink } from "../theme/system";
import type { Outing } from "./useOuting";

const NICE = [50, 100, 200, 500, 1000, 2000, 5000, 10_000, 20_000, 50_000, 100_000, 200_000];

/** The stops and the ways between them from above, north up, in the order in which they are taken. */
export function FromAbove({ outing }: { outing: Outing }) {
  const spots = outing.spots;
  return (
    <Drawing
      compact
      title="From above"
      least={150}
      figures={{
        head: ["Stop", "East, m", "North, m"],
        rows: spots.map((spot) => [spot.name, Math.round(spot.east_m), Math.round(spot.north_m)]),
      }}
    >
      {(width, height) => {
        const reach = Math.max(30, ...spots.flatMap((spot) => [Math.abs(spot.east_m), Math.abs(spot.north_m)]));
        const scale = Math.min(width / 2 - 70, height / 2 - 26) / reach;
        const at = (stop: number) => {
          const spot = spots.find((item) => item.stop === stop);
          return spot && { x: width / 2 + spot.east_m * scale, y: height / 2 - spot.north_m * scale };
        };
        const taken = outing.order.map(at).filter((place) => place !== undefined);
        const bar = NICE.findLast((length) => length * scale < width / 3) ?? NICE[0] ?? 50;
        return (
          <>
            <polyline
              points={taken.map((place) => `${place.x},${place.y}`).join(" ")}
              fill="none"
              stroke={ink("muted")}
              strokeWidth={1.4}
              strokeDasharray="6 4"
            />
            {spots.map((spot) => {
              const place = at(spot.stop);
              const number = outing.order.indexOf(spot.stop) + 1;
              if (!place) return null;
              return (
                <g key={spot.stop} transform={`translate(${place.x} ${place.y})`}>
                  <circle r={9} fill={ink(number ? "accent" : "panel")} stroke={ink(number ? "accent" : "rust")} />
                  <text
                    dy="0.35em"
                    textAnchor="middle"
                    fontSize="12"
                    fontWeight={700}
                    fill={ink(number ? "onAccent" : "rust")}
                  >
                    {number || "–"}
                  </text>
                  <title>{spot.name}</title>
                </g>
              );
            })}
            <g transform={`translate(12 ${height - 12})`}>
              <path d={`M0 -5V0H${bar * scale}V-5`} fill="none" stroke={ink("muted")} />
              <text x={bar * scale + 7} fontSize="12" className="figure" fill={ink("muted")}>
                {lengthText(bar)}
              </text>
            </g>
            <g transform={`translate(${width - 16} 22)`}>
              <path d="M0 12V-10M-4 -4L0 -10L4 -4" fill="none" stroke={ink("muted")} />
              <text y={24} textAnchor="middle" fontSize="12" fill={ink("muted")}>
                N
              </text>
            </g>
          </>
        );
      }}
    </Drawing>
  );
}
