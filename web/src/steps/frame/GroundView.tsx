import { scaleLinear } from "d3-scale";
import { useEffect, useState } from "react";
import { Drawing } from "../../drawing/Drawing";
import { Handle } from "../../drawing/Handle";
import type { Shot, ShotWork } from "../../shot/useShot";
import { ink } from "../../theme/system";

const radians = (degrees: number) => (degrees * Math.PI) / 180;
const round = (metres: number) => Math.round(metres * 100) / 100;
/** The plan shows this much ground each way, whichever is the first to hold the camera [metres]. */
const REACHES = [1.5, 3, 6, 12, 25, 50, 100, 1000];

/** The ground around the viewpoint's mark from above, to scale: the camera with its view, near elements, and the way to far ones. */
export function GroundView({ shot, set }: { shot: Shot; set: ShotWork["set"] }) {
  const { facts, plan, place } = shot;
  const saved = { east: facts.camera_east_m, north: facts.camera_north_m };
  const [held, setHeld] = useState<typeof saved>();
  // biome-ignore lint/correctness/useExhaustiveDependencies: what the server says ends a drag
  useEffect(() => setHeld(undefined), [facts.camera_east_m, facts.camera_north_m]);
  const here = held ?? saved;
  const elements = place?.viewpoint.elements ?? [];
  const move = (east: number, north: number) => {
    const to = { east: round(east), north: round(north) };
    setHeld(to);
    set({ camera_east_m: to.east, camera_north_m: to.north });
  };
  const reach = REACHES.find((metres) => metres >= 1.3 * Math.max(Math.abs(saved.east), Math.abs(saved.north))) ?? 1000;
  return (
    <Drawing
      title="The ground"
      least={190}
      note={`${reach * 2} m from top to bottom; drag the camera`}
      figures={{
        head: ["Element", "Bearing from the mark", "Distance from the camera"],
        rows: plan.frame.elements.map((item) => [
          item.name,
          `${elements.find((element) => element.id === item.id)?.bearing_deg.toFixed(0) ?? ""}°`,
          item.distance_label,
        ]),
      }}
    >
      {(width, height) => {
        const perMetre = (height / 2 - 6) / reach;
        const x = scaleLinear()
          .domain([0, 1])
          .range([width / 2, width / 2 + perMetre]);
        const y = scaleLinear()
          .domain([0, 1])
          .range([height / 2, height / 2 - perMetre]);
        const facing = radians(plan.frame.bearing_deg ?? 0);
        const half = radians((plan.frame.horizontal_fov_deg ?? 40) / 2);
        const far = Math.hypot(width, height);
        const ray = (angle: number) => `${x(here.east) + Math.sin(angle) * far} ${y(here.north) - Math.cos(angle) * far}`;
        return (
          <>
            <defs>
              <clipPath id="ground-view">
                <rect width={width} height={height} />
              </clipPath>
            </defs>
            <rect width={width} height={height} fill={ink("panel")} />
            <g clipPath="url(#ground-view)">
              <path
                d={`M${x(here.east)} ${y(here.north)} L${ray(facing - half)} L${ray(facing + half)} Z`}
                fill={ink("raised")}
                stroke={ink("edge")}
                strokeDasharray="4 4"
              />
              {[reach / 3, (2 * reach) / 3, reach].map((metres) => (
                <circle key={metres} cx={x(0)} cy={y(0)} r={metres * perMetre} fill="none" stroke={ink("line")} />
              ))}
              <path d={`M${x(0) - 6} ${y(0)} h12 M${x(0)} ${y(0) - 6} v12`} stroke={ink("muted")} strokeWidth={1.5} />
              {elements.map((element, index) => {
                const east = Math.sin(radians(element.bearing_deg)) * element.distance_m;
                const north = Math.cos(radians(element.bearing_deg)) * element.distance_m;
                const near = Math.abs(east) < (reach * width) / height && Math.abs(north) < reach;
                if (element.shape === "water") return null;
                const [ex, ey] = [x(east), y(north)];
                const way = Math.atan2(east - here.east, north - here.north);
                const edge = Math.min(
                  Math.abs((way > 0 ? width - x(here.east) - 8 : x(here.east) - 8) / Math.sin(way)),
                  Math.abs((Math.cos(way) > 0 ? y(here.north) - 16 : height - y(here.north) - 8) / Math.cos(way)),
                );
                // Names of far things stand one behind another on their rays, not on each other.
                const along = Math.max(30, edge - 24 * (index % 3));
                const tip: [number, number] = [x(here.east) + Math.sin(way) * along, y(here.north) - Math.cos(way) * along];
                return near ? (
                  <g key={element.id}>
                    <circle
                      cx={ex}
                      cy={ey}
                      r={Math.max(3, (element.width_m / 2) * perMetre)}
                      fill={ink("middle")}
                      stroke={ink("fg")}
                    />
                    <text
                      x={ex}
                      y={ey - Math.max(3, (element.width_m / 2) * perMetre) - 4}
                      fontSize="12"
                      textAnchor="middle"
                      fill={ink("fg")}
                      stroke={ink("panel")}
                      strokeWidth={3}
                      paintOrder="stroke"
                    >
                      {element.name}
                    </text>
                  </g>
                ) : (
                  <g key={element.id}>
                    <line
                      x1={x(here.east)}
                      y1={y(here.north)}
                      x2={tip[0]}
                      y2={tip[1]}
                      stroke={ink("muted")}
                      strokeDasharray="2 5"
                    />
                    <text
                      x={tip[0]}
                      y={tip[1] + (Math.cos(way) > 0 ? 10 : -2)}
                      fontSize="12"
                      textAnchor={tip[0] > width * 0.7 ? "end" : tip[0] < width * 0.3 ? "start" : "middle"}
                      fill={ink("fg")}
                      stroke={ink("panel")}
                      strokeWidth={3}
                      paintOrder="stroke"
                    >
                      {element.name} →
                    </text>
                  </g>
                );
              })}
              <Handle
                x={x(here.east)}
                y={y(here.north)}
                label="Position of the camera"
                value={here.east}
                valueText={`${here.east} m east, ${here.north} m north of the mark`}
                cursor="move"
                drag={(toX, toY) => move(x.invert(toX), y.invert(toY))}
                nudge={(right, up) => move(here.east + right * 0.1, here.north + up * 0.1)}
              >
                <path
                  d="M0 -11 L9 9 L0 4 L-9 9 Z"
                  fill={ink("accent")}
                  stroke={ink("bg")}
                  strokeWidth={1.5}
                  transform={`rotate(${(facing * 180) / Math.PI})`}
                />
              </Handle>
            </g>
          </>
        );
      }}
    </Drawing>
  );
}
