import { lengthText } from "../lib/format/spelling";
import type { Answer } from "./questions";

const HIGH = 44;
const WIDE = 400;
const APART = 44;
const MARKS_M = [0.1, 0.2, 0.5, 1, 2, 5, 10, Number.POSITIVE_INFINITY];

/** What is sharp, on an axis that is linear in 1/distance: the range wanted between its posts, the focus as points. */
export function DepthBar({ answer }: { answer: Answer }) {
  const { near_m: near, far_m: far, sharp_from_m: from, sharp_to_m: to, focus_m: focus } = answer;
  if (near === undefined || from === undefined || !focus) return null;
  const ends = [near, from].map((metres) => 1 / metres);
  const first = Math.max(...ends) * 1.25;
  const last =
    far === null && to === null
      ? 0
      : Math.min(1 / (far ?? Number.POSITIVE_INFINITY), 1 / (to ?? Number.POSITIVE_INFINITY)) * 0.8;
  const x = (metres: number | null | undefined) =>
    6 + ((first - (metres == null ? 0 : 1 / metres)) / (first - last)) * (WIDE - 12);
  const marks: number[] = [];
  // From infinity on, so that its mark stays and none lies upon another.
  for (const mark of MARKS_M.filter((one) => 1 / one <= first && 1 / one >= last).reverse())
    if (marks.length === 0 || x(marks.at(-1)) - x(mark) > APART) marks.push(mark);
  return (
    <svg viewBox={`0 0 ${WIDE} ${HIGH}`} width="100%" role="img" aria-label="What is sharp, over distance">
      <line x1="0" x2={WIDE} y1="18" y2="18" stroke="var(--lr-colors-edge)" />
      <rect
        x={x(from)}
        y="11"
        width={Math.max(2, x(to) - x(from))}
        height="14"
        fill="var(--lr-colors-accent)"
        opacity="0.85"
      />
      {[near, far].map((end, index) => (
        <line
          key={index === 0 ? "near" : "far"}
          x1={x(end)}
          x2={x(end)}
          y1="4"
          y2="31"
          stroke="var(--lr-colors-fg)"
          strokeWidth="2"
        />
      ))}
      {focus.map((metres) => (
        <circle key={metres} cx={x(metres)} cy="18" r="4" fill="var(--lr-colors-bg)" />
      ))}
      {marks.map((mark) => (
        <text
          key={mark}
          x={x(mark)}
          y="42"
          textAnchor={Number.isFinite(mark) ? "middle" : "end"}
          fontSize="11"
          fontFamily="var(--lr-fonts-mono)"
          fill="var(--lr-colors-muted)"
        >
          {Number.isFinite(mark) ? lengthText(mark) : "∞"}
        </text>
      ))}
    </svg>
  );
}
