import { useEffect, useState } from "react";
import { Drawing } from "../../drawing/Drawing";
import { Handle } from "../../drawing/Handle";
import { groundPath, outlinePath, toneOf } from "../../drawing/Silhouettes";
import type { Shot, ShotWork } from "../../shot/useShot";
import { ink } from "../../theme/system";

const percent = (share: number | null) => (share === null ? "" : `${Math.round(share * 100)} %`);

/** What the sensor sees: elements as plain shapes at their true size and blur, with guides. */
export function Finder({ shot, set }: { shot: Shot; set: ShotWork["set"] }) {
  const { frame } = shot.plan;
  const [grip, setGrip] = useState<{ bearing: number; pitch: number } | null>(null);
  const [aimed, setAimed] = useState<{ bearing: number; pitch: number } | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the server's answer ends a run of key presses
  useEffect(() => setAimed(null), [frame.bearing_deg, shot.facts.pitch_deg]);
  const aspect = (frame.width_mm ?? 3) / (frame.height_mm ?? 2);
  return (
    <Drawing
      title="The finder"
      note={
        frame.horizontal_fov_deg
          ? `${frame.horizontal_fov_deg.toFixed(1)}° by ${frame.vertical_fov_deg?.toFixed(1)}°, centred on ${frame.bearing_deg?.toFixed(0)}° ${frame.compass}; blur drawn true to size`
          : ""
      }
      figures={{
        head: ["Element", "Distance", "Left", "Right", "Top", "Bottom", "In the frame"],
        rows: frame.elements.map((item) => [
          item.name,
          item.distance_label,
          percent(item.left),
          percent(item.right),
          percent(item.top),
          percent(item.bottom),
          percent(item.share),
        ]),
      }}
    >
      {(width, height) => {
        const room = { width: width - 8, height: height - 26 };
        const w = Math.min(room.width, room.height * aspect);
        const h = w / aspect;
        const left = (width - w) / 2;
        const top = 2;
        const px = (x: number) => left + x * w;
        const py = (y: number) => top + y * h;
        const hfov = frame.horizontal_fov_deg ?? 60;
        const vfov = frame.vertical_fov_deg ?? 40;
        const aim = (bearing: number, pitch: number) => {
          const to = {
            bearing: Math.round(((bearing + 360) % 360) * 2) / 2,
            pitch: Math.round(Math.min(90, Math.max(-90, pitch)) * 2) / 2,
          };
          setAimed(to);
          set({ bearing_deg: to.bearing, pitch_deg: to.pitch });
        };
        return (
          <>
            <defs>
              <clipPath id="finder-frame">
                <rect x={left} y={top} width={w} height={h} />
              </clipPath>
              {frame.elements.map((item) => (
                <filter key={item.id} id={`blur-${item.id}`} x="-30%" y="-30%" width="160%" height="160%">
                  {/* A disc of diameter d looks like a Gaussian of d/4. */}
                  <feGaussianBlur stdDeviation={((item.blur_share ?? 0) * w) / 4} />
                </filter>
              ))}
            </defs>
            <rect x={left} y={top} width={w} height={h} fill={ink("sky")} />
            <g clipPath="url(#finder-frame)">
              <path d={groundPath(frame.horizon, left, top, w, h)} fill={ink("low")} />
              {frame.sun && (
                <circle
                  cx={px(frame.sun.x)}
                  cy={py(frame.sun.y)}
                  r={Math.max(3, (frame.sun.diameter_share * w) / 2)}
                  fill={ink("fg")}
                  stroke={ink("sky")}
                />
              )}
              {frame.elements.map((item) => (
                <path
                  key={item.id}
                  d={outlinePath(item.polygons, left, top, w, h)}
                  fill={toneOf(item)}
                  stroke={ink("bg")}
                  strokeWidth={0.75}
                  filter={(item.blur_share ?? 0) * w > 1.2 ? `url(#blur-${item.id})` : undefined}
                />
              ))}
            </g>
            <g stroke={ink("fg")} strokeOpacity={0.35} strokeWidth={1}>
              {frame.guide_lines.map((third) => (
                <g key={third}>
                  <line x1={px(third)} x2={px(third)} y1={top} y2={top + h} />
                  <line x1={left} x2={left + w} y1={py(third)} y2={py(third)} />
                </g>
              ))}
            </g>
            {frame.crop?.cropped && (
              <g data-crop="">
                <path
                  d={`M${left} ${top} h${w} v${h} h${-w} Z M${px(0.5 - frame.crop.width_share / 2)} ${py(0.5 - frame.crop.height_share / 2)} v${frame.crop.height_share * h} h${frame.crop.width_share * w} v${-frame.crop.height_share * h} Z`}
                  fill={ink("bg")}
                  fillOpacity={0.7}
                />
                <rect
                  x={px(0.5 - frame.crop.width_share / 2)}
                  y={py(0.5 - frame.crop.height_share / 2)}
                  width={frame.crop.width_share * w}
                  height={frame.crop.height_share * h}
                  fill="none"
                  stroke={ink("fg")}
                  strokeWidth={1.5}
                />
              </g>
            )}
            <rect x={left} y={top} width={w} height={h} fill="none" stroke={ink("edge")} strokeWidth={1.5} />
            {frame.elements
              .filter((item) => item.share > 0)
              .map((item) => {
                const x = px(Math.min(0.97, Math.max(0.03, ((item.left ?? 0) + (item.right ?? 0)) / 2)));
                const flat = item.shape === "water";
                const y =
                  py(Math.min(0.97, Math.max(0.04, flat ? ((item.top ?? 0) + (item.bottom ?? 0)) / 2 : (item.top ?? 0)))) -
                  (flat ? 0 : 6);
                return (
                  <text
                    key={item.id}
                    x={x}
                    y={Math.max(top + 14, y)}
                    fontSize="12.5"
                    textAnchor={x > left + w * 0.82 ? "end" : x < left + w * 0.18 ? "start" : "middle"}
                    fill={ink("fg")}
                    stroke={ink("bg")}
                    strokeWidth={3}
                    paintOrder="stroke"
                  >
                    {item.name}
                  </text>
                );
              })}
            <Handle
              x={px(0.5)}
              y={py(0.5)}
              label="Aim of the camera: bearing and pitch"
              value={Math.round(frame.bearing_deg ?? 0)}
              valueText={`${frame.bearing_deg?.toFixed(0)}°, pitch ${shot.facts.pitch_deg}°`}
              cursor="move"
              drag={(x, y) => {
                const from = grip ?? { bearing: frame.bearing_deg ?? 0, pitch: shot.facts.pitch_deg };
                if (!grip) setGrip(from);
                // The scene follows the hand: a drag to the right turns the camera left.
                aim(from.bearing - ((x - px(0.5)) / w) * hfov, from.pitch + ((y - py(0.5)) / h) * vfov);
              }}
              nudge={(right, up) =>
                aim((aimed?.bearing ?? frame.bearing_deg ?? 0) + right, (aimed?.pitch ?? shot.facts.pitch_deg) + up)
              }
            >
              {/* A drag ends when the pointer is let go: the next one starts from the aim of then. */}
              <g onPointerUp={() => setGrip(null)} onPointerLeave={() => setGrip(null)}>
                <circle r={15} fill="transparent" />
                <path d="M-11 0 H-4 M4 0 H11 M0 -11 V-4 M0 4 V11" stroke={ink("bg")} strokeWidth={4} />
                <path d="M-11 0 H-4 M4 0 H11 M0 -11 V-4 M0 4 V11" stroke={ink("accent")} strokeWidth={2} />
              </g>
            </Handle>
            <text x={left + w / 2} y={top + h + 17} textAnchor="middle" fontSize="13" fill={ink("muted")}>
              <tspan className="figure">{frame.width_mm}</tspan> × <tspan className="figure">{frame.height_mm}</tspan> mm,{" "}
              {shot.facts.orientation}
            </text>
          </>
        );
      }}
    </Drawing>
  );
}
