import { ink } from "../theme/system";

export interface Tick {
  at: number;
  label: string;
}

/** Hairlines and labels along the bottom. */
export function BottomAxis({ ticks, y, top, size = 13 }: { ticks: Tick[]; y: number; top?: number; size?: number }) {
  return (
    <g>
      {ticks.map((tick) => (
        <g key={`${tick.at}-${tick.label}`} transform={`translate(${tick.at} 0)`}>
          <line y1={top ?? y - 5} y2={y} stroke={ink("line")} strokeWidth={1} />
          <text className="figure" y={y + 14} textAnchor="middle" fontSize={size} fill={ink("muted")}>
            {tick.label}
          </text>
        </g>
      ))}
    </g>
  );
}

/** Hairlines and labels at the left. */
export function LeftAxis({ ticks, x, right, size = 13 }: { ticks: Tick[]; x: number; right?: number; size?: number }) {
  return (
    <g>
      {ticks.map((tick) => (
        <g key={`${tick.at}-${tick.label}`} transform={`translate(0 ${tick.at})`}>
          <line x1={x} x2={right ?? x + 5} stroke={ink("line")} strokeWidth={1} />
          <text className="figure" x={x - 6} dy="0.35em" textAnchor="end" fontSize={size} fill={ink("muted")}>
            {tick.label}
          </text>
        </g>
      ))}
    </g>
  );
}

/** Diagonal hatching, so that a region is recognised without its colour. */
export function Hatch({ id, tone, gap = 6, width = 1 }: { id: string; tone: string; gap?: number; width?: number }) {
  return (
    <pattern id={id} width={gap} height={gap} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
      <line x1="0" y1="0" x2="0" y2={gap} stroke={ink(tone)} strokeWidth={width} />
    </pattern>
  );
}

/** Labels pushed apart so that none lies on another: returns where each may stand, in order. */
export function spread(wanted: number[], gap: number, low: number, high: number): number[] {
  const order = wanted.map((_, index) => index).sort((a, b) => (wanted[a] ?? 0) - (wanted[b] ?? 0));
  const places = [...wanted];
  let floor = low;
  for (const index of order) {
    places[index] = Math.max(wanted[index] ?? 0, floor);
    floor = (places[index] ?? 0) + gap;
  }
  let ceiling = high;
  for (const index of [...order].reverse()) {
    places[index] = Math.min(places[index] ?? 0, ceiling);
    ceiling = (places[index] ?? 0) - gap;
  }
  return places;
}
