import { Box } from "@chakra-ui/react";
import type { Schemas } from "../../../api/client";
import { useSize } from "../../../drawing/useSize";
import { ink } from "../../../theme/system";

const HIGH = 190;
const radians = (degrees: number) => (degrees * Math.PI) / 180;

/** From above, the view upwards: subject, lens and photographer to one scale, the sun's rays and the shadows they cast, and a lamp's circle. */
export function LightSketch({ sketch }: { sketch: Schemas["LightSketchOut"] }) {
  const [box, { width }] = useSize<HTMLDivElement>();
  const behind = sketch.object_mm + sketch.behind_mm;
  const scale = (HIGH - 42) / (behind + 115);
  const [x, y] = [width / 2, 34];
  const down = (mm: number) => y + mm * scale;
  // Where the sun stands as seen from the subject, turned so that the view runs upwards.
  const turn = sketch.sun_azimuth_deg === null ? 0 : radians(sketch.sun_azimuth_deg - sketch.bearing_deg);
  const sun = { x: Math.sin(turn), y: -Math.cos(turn) };
  const reach = Math.max(60, width * 0.4);
  const shade = (atY: number, half: number, falls: boolean) => (
    <polygon
      points={[
        [x - half, atY],
        [x + half, atY],
        [x + half - sun.x * reach, atY - sun.y * reach],
        [x - half - sun.x * reach, atY - sun.y * reach],
      ]
        .map((point) => point.map((value) => value.toFixed(1)).join(","))
        .join(" ")}
      fill={ink(falls ? "rust" : "fg")}
      opacity={falls ? 0.35 : 0.12}
    />
  );
  const said = [
    sketch.sun_altitude_deg === null ? "no sun on the subject" : `sun ${sketch.sun_altitude_deg.toFixed(0)}° up`,
    sketch.lens_shades ? "the lens shades the subject" : "",
    sketch.person_shades ? "you shade the subject" : "",
    sketch.lamp_mm === null ? "" : `lamp within ${sketch.lamp_mm.toFixed(0)} mm`,
  ].filter(Boolean);
  return (
    <Box ref={box} minW="0">
      <svg width={width} height={HIGH} role="img" aria-label={`From above: ${said.join(", ")}`} data-sketch="">
        {sketch.sun_azimuth_deg !== null && (
          <>
            {shade(down(behind), sketch.person_half_mm * scale, sketch.person_shades)}
            {shade(down(sketch.working_mm), sketch.lens_half_mm * scale, sketch.lens_shades)}
            {[-16, 0, 16].map((aside) => (
              <line
                key={aside}
                x1={x + sun.x * reach - sun.y * aside}
                y1={y + sun.y * reach + sun.x * aside}
                x2={x + sun.x * 12 - sun.y * aside}
                y2={y + sun.y * 12 + sun.x * aside}
                stroke={ink("lit")}
                strokeWidth={1.2}
                strokeDasharray="5 4"
              />
            ))}
          </>
        )}
        {sketch.lamp_mm !== null && (
          <circle cx={x} cy={y} r={sketch.lamp_mm * scale} fill="none" stroke={ink("accent")} strokeDasharray="2 4" />
        )}
        <line x1={x} x2={x} y1={down(sketch.working_mm)} y2={y} stroke={ink("edge")} strokeDasharray="2 3" />
        <rect
          x={x - sketch.lens_half_mm * scale}
          width={2 * sketch.lens_half_mm * scale}
          y={down(sketch.working_mm)}
          height={Math.max(3, (sketch.object_mm + 60 - sketch.working_mm) * scale)}
          fill={ink("muted")}
        />
        <ellipse
          cx={x}
          cy={down(behind)}
          rx={sketch.person_half_mm * scale}
          ry={110 * scale}
          fill="none"
          stroke={ink("muted")}
          strokeWidth={1.5}
        />
        <circle cx={x} cy={y} r={4} fill={ink("accent")} />
        <text x={x + 9} y={y - 6} fontSize="13" fill={ink("fg")}>
          subject
        </text>
        <text x={x + sketch.lens_half_mm * scale + 8} y={down(sketch.working_mm) + 12} fontSize="13" fill={ink("fg")}>
          lens
        </text>
        <text x={x} y={down(behind)} dy="0.35em" textAnchor="middle" fontSize="13" fill={ink("fg")}>
          you
        </text>
      </svg>
      <Box fontSize="small" color="muted">
        {said.join(", ")}. The view runs upwards; dark is what lens and photographer keep the sun off.
      </Box>
    </Box>
  );
}
