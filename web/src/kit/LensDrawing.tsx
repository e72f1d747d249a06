import { Box } from "@chakra-ui/react";
import type { Schemas } from "../api/client";
import { useSize } from "../drawing/useSize";
import { ink } from "../theme/system";

const HEIGHT = 170;

/** What each lens takes in, as wedges from one point, and how close it comes: the kit's reach at one glance. */
export function LensDrawing({ lenses }: { lenses: Schemas["LensOut"][] }) {
  const [frame, { width }] = useSize<HTMLDivElement>();
  const each = width / Math.max(1, lenses.length);
  return (
    <Box ref={frame} height={`${HEIGHT}px`} mb="6px">
      <svg width={width} height={HEIGHT} role="img" aria-label="Fields of view of the lenses on a 36 mm wide sensor">
        {lenses.map((lens, index) => {
          const cx = (index + 0.5) * each;
          const base = HEIGHT - 34;
          const reach = Math.min(base - 8, each * 0.62);
          const wedge = (degrees: number, length: number) => {
            const half = (degrees / 2) * (Math.PI / 180);
            return `M${cx} ${base} L${cx - Math.sin(half) * length} ${base - Math.cos(half) * length} A${length} ${length} 0 0 1 ${cx + Math.sin(half) * length} ${base - Math.cos(half) * length} Z`;
          };
          return (
            <g key={lens.id}>
              <path d={wedge(lens.widest_view_deg, reach)} fill={ink("raised")} stroke={ink("edge")} />
              <path d={wedge(lens.longest_view_deg, reach)} fill={ink("far")} stroke={ink("edge")} />
              <text className="figure" x={cx} y={base + 16} fontSize="13" textAnchor="middle" fill={ink("fg")}>
                {lens.focal_min_mm === lens.focal_max_mm
                  ? lens.focal_min_mm
                  : `${lens.focal_min_mm}–${lens.focal_max_mm}`}{" "}
                mm
              </text>
              <text className="figure" x={cx} y={base + 31} fontSize="12" textAnchor="middle" fill={ink("muted")}>
                {Math.round(lens.widest_view_deg)}°
                {lens.focal_min_mm === lens.focal_max_mm ? "" : ` to ${Math.round(lens.longest_view_deg)}°`}
              </text>
            </g>
          );
        })}
      </svg>
    </Box>
  );
}
