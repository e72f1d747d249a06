import { useState } from "react";
import { radians } from "../../../drawing/bearings";
import { Handle } from "../../../drawing/Handle";
import { ink } from "../../../theme/system";
import { RANGE } from "../finder/pose";
import type { CameraWork } from "../finder/useCamera";

/** A knob ahead of the camera that turns it. */
export function Turn({
  x,
  y,
  pose,
  move,
}: {
  x: number;
  y: number;
  pose: CameraWork["pose"];
  move: CameraWork["move"];
}) {
  const [held, setHeld] = useState(false);
  const along = 34;
  return (
    <Handle
      x={x + Math.sin(radians(pose.bearing)) * along}
      y={y - Math.cos(radians(pose.bearing)) * along}
      label="Bearing of the camera"
      value={Math.round(pose.bearing)}
      range={RANGE.bearing}
      valueText={`${pose.bearing.toFixed(0)}°`}
      drag={(toX, toY) => {
        setHeld(true);
        move({ bearing: (Math.atan2(toX - x, y - toY) * 180) / Math.PI });
      }}
      done={() => setHeld(false)}
      nudge={(right) => move({ bearing: pose.bearing + right })}
    >
      <circle r={held ? 6 : 4.5} fill={ink("accent")} stroke={ink("bg")} strokeWidth={1.5} />
    </Handle>
  );
}

export function North({
  slope,
  width,
}: {
  slope: { ground_slope_deg: number; ground_down_bearing_deg: number } | undefined;
  width: number;
}) {
  return (
    <g pointerEvents="none">
      <g transform={`translate(${width - 16} 26)`}>
        <path d="M0 10 V-12 M-4 -6 L0 -13 L4 -6" fill="none" stroke={ink("muted")} strokeWidth={1.3} />
        <text y={21} fontSize="12" textAnchor="middle" fill={ink("muted")}>
          N
        </text>
      </g>
      {slope && slope.ground_slope_deg > 0 && (
        <g
          transform={`translate(${width - 44} 24) rotate(${slope.ground_down_bearing_deg})`}
          stroke={ink("haze")}
          fill="none"
        >
          <path d="M-5 8 H5 M-4 2 H4 M-3 -4 H3" />
          <path d="M0 -6 V-14 M-3 -10 L0 -14 L3 -10" />
          <title>{`The ground falls by ${slope.ground_slope_deg}° this way`}</title>
        </g>
      )}
    </g>
  );
}
