import { ink } from "../../theme/system";

export type MarkName = "holds" | "tight" | "fails" | "unsaid" | "caution";

const WORDS: Record<MarkName, string> = {
  holds: "holds",
  tight: "tight",
  fails: "fails",
  unsaid: "not yet said",
  caution: "caution",
};
const ROLE: Record<MarkName, string> = {
  holds: "accent",
  tight: "haze",
  fails: "rust",
  unsaid: "muted",
  caution: "fg",
};

export const markWords = (mark: MarkName): string => WORDS[mark];
export const markInk = (mark: MarkName): string => ink(ROLE[mark]);

/** The shape of a mark around 0,0: full disc, half disc, triangle, ring, or an exclamation in a diamond. */
export function MarkShape({ mark, size = 6 }: { mark: MarkName; size?: number }) {
  const color = markInk(mark);
  if (mark === "holds") return <circle r={size} fill={color} />;
  if (mark === "fails")
    return (
      <path d={`M0 ${-size * 1.15} L${size * 1.15} ${size * 0.9} L${-size * 1.15} ${size * 0.9} Z`} fill={color} />
    );
  if (mark === "caution")
    return (
      <g>
        <path
          d={`M0 ${-size * 1.2} L${size * 1.2} 0 L0 ${size * 1.2} L${-size * 1.2} 0 Z`}
          fill="none"
          stroke={color}
          strokeWidth={1.5}
        />
        <path
          d={`M0 ${-size * 0.55} V${size * 0.15} M0 ${size * 0.45} V${size * 0.6}`}
          stroke={color}
          strokeWidth={1.7}
        />
      </g>
    );
  return (
    <g>
      <circle r={size - 0.75} fill={ink("bg")} stroke={color} strokeWidth={1.5} />
      {mark === "tight" && <path d={`M0 ${-size} A${size} ${size} 0 0 1 0 ${size} Z`} fill={color} />}
    </g>
  );
}

/** A mark in running text, with its word for a screen reader. */
export function Mark({ mark, size = 6 }: { mark: MarkName; size?: number }) {
  const half = size * 1.3;
  return (
    <svg
      width={half * 2}
      height={half * 2}
      viewBox={`${-half} ${-half} ${half * 2} ${half * 2}`}
      role="img"
      aria-label={WORDS[mark]}
      style={{ flex: "none" }}
    >
      <MarkShape mark={mark} size={size} />
    </svg>
  );
}
