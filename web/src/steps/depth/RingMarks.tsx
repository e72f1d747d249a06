import { Box } from "@chakra-ui/react";
import type { Schemas } from "../../api/client";
import { useSize } from "../../drawing/useSize";
import { ink } from "../../theme/system";

/** A ring stack as marks on the ring's throw, from its closest focus to infinity: how far to turn from frame to frame. */
export function RingMarks({ depth }: { depth: Schemas["DepthOut"] }) {
  const [box, { width }] = useSize<HTMLDivElement>();
  if (!depth.throw.length) return null;
  const [left, right] = [46, Math.max(60, width - 26)];
  const at = (share: number) => right - share * (right - left);
  return (
    <Box ref={box} minW="0">
      <svg
        width={width}
        height={52}
        role="img"
        data-throw=""
        aria-label={`On the ring: ${depth.positions.map((item) => item.focus_distance.label).join(", ")}`}
      >
        <rect x={left} y={18} width={right - left} height={14} fill={ink("raised")} />
        <text x={left - 6} y={25} dy="0.35em" textAnchor="end" fontSize="12" fill={ink("muted")}>
          closest
        </text>
        <text x={right + 6} y={25} dy="0.35em" fontSize="14" fill={ink("muted")}>
          ∞
        </text>
        {depth.throw.map((share, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: positions are their order
          <g key={index}>
            <line x1={at(share)} x2={at(share)} y1={13} y2={37} stroke={ink("accent")} strokeWidth={2} />
            <text
              className="figure"
              x={at(share)}
              y={index % 2 ? 49 : 9}
              textAnchor="middle"
              fontSize="12"
              fill={ink("fg")}
            >
              {depth.throw.length <= 12 ? index + 1 : ""}
            </text>
          </g>
        ))}
      </svg>
      <Box fontSize="small" color="muted">
        The ring taken to turn as evenly as the lens moves; marks for each frame between its closest focus and infinity.
      </Box>
    </Box>
  );
}
