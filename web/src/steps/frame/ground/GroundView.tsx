import { useMemo } from "react";
import { bearingOf, radians } from "../../../drawing/bearings";
import { Drawing } from "../../../drawing/Drawing";
import { Handle } from "../../../drawing/Handle";
import { Labels, type NamedWish } from "../../../drawing/Labels";
import { handleBox } from "../../../drawing/labels";
import { lengthText } from "../../../lib/format/spelling";
import type { Shot } from "../../../shots/useShot";
import { ink } from "../../../theme/system";
import { Button } from "../../../ui/form/Button";
import { useElements } from "../../place/useElements";
import { Courses } from "../finder/Courses";
import { RANGE } from "../finder/pose";
import type { Seen, Shift } from "../finder/scene";
import type { CameraWork } from "../finder/useCamera";
import { North, Turn } from "./GroundParts";
import { GroundScene } from "./GroundScene";
import { groundMarks } from "./groundMarks";
import { groundScales } from "./groundScales";

/** The ground around the viewpoint's mark from above, to scale: camera, view, standing area, near solids with their shadows, sight lines. */
export function GroundView({
  shot,
  camera,
  reach,
  zoom,
  shift,
  setShift,
  placing,
}: {
  shot: Shot;
  camera: CameraWork;
  /** Metres from the middle to the nearer edge. */
  reach: number;
  zoom: (steps: number) => void;
  shift: Shift | undefined;
  setShift: (shift: Shift | undefined) => void;
  /** Called with bearing and distance from the tripod when a place on the ground is wanted. */
  placing?: ((bearing: number, distance: number) => void) | undefined;
}) {
  const { plan, place } = shot;
  const { pose, move } = camera;
  const { edit } = useElements();
  const known = new Map(place?.viewpoint.elements.map((element) => [element.id, element]));
  const unit = lengthText(reach * 2);
  const tools = useMemo(
    () => (
      <>
        <Button look="quiet" px="2px" py="0" fontSize="small" aria-label="nearer" onClick={() => zoom(-1)}>
          +
        </Button>
        <Button look="quiet" px="2px" py="0" fontSize="small" aria-label="wider" onClick={() => zoom(1)}>
          −
        </Button>
      </>
    ),
    [zoom],
  );
  const settle = (item: Seen, to: Shift) => {
    const element = known.get(item.id);
    if (!element) return;
    const east = Math.sin(radians(element.bearing_deg)) * element.distance_m + to.east;
    const north = Math.cos(radians(element.bearing_deg)) * element.distance_m + to.north;
    void edit(item.id, {
      bearing_deg: bearingOf(east, north),
      distance_m: Number(Math.hypot(east, north).toPrecision(4)),
    })
      .catch(() => undefined)
      .finally(() => setShift(undefined));
  };
  return (
    <Drawing
      compact
      title="The ground"
      least={150}
      tools={tools}
      figures={{
        head: ["Element", "Bearing from the tripod", "Distance from the camera"],
        rows: plan.frame.elements.map((item) => [
          item.name,
          `${known.get(item.id)?.bearing_deg.toFixed(0) ?? ""}°`,
          item.distance_label,
        ]),
      }}
    >
      {(width, height) => {
        const { x, y, perMetre } = groundScales(width, height, reach);
        const facing = radians(pose.bearing);
        const pano = plan.frame.panorama;
        const half = radians((plan.frame.horizontal_fov_deg ?? 40) / 2);
        const far = Math.hypot(width, height);
        const ray = (angle: number) =>
          `${x(pose.east) + Math.sin(angle) * far} ${y(pose.north) - Math.cos(angle) * far}`;
        const wedge = (from: number, to: number) => `M${x(pose.east)} ${y(pose.north)}L${ray(from)}L${ray(to)}Z`;
        const marks = groundMarks(shot, pose, shift, { x, y, width, height });
        const knob = 34;
        const taken = [
          handleBox(x(pose.east), y(pose.north), 11),
          handleBox(x(pose.east) + Math.sin(facing) * knob, y(pose.north) - Math.cos(facing) * knob, 6),
          { x: width - 56, y: 4, width: 56, height: 46 },
          ...marks.filter(({ inside }) => inside).map(({ east, north }) => handleBox(x(east), y(north), 6)),
        ];
        const wishes: NamedWish[] = [
          {
            id: "scale",
            text: `${unit} across`,
            size: 13,
            x: 8,
            y: height - 8,
            side: "right",
            gap: 0,
            mono: true,
            tone: "muted",
          },
          ...marks.map(
            ({ item, east, north, to }): NamedWish =>
              to
                ? { id: item.id, text: `${item.name} →`, size: 13, x: to[0], y: to[1], side: "on" }
                : { id: item.id, text: item.name, size: 13, x: x(east), y: y(north), gap: 7 },
          ),
        ];
        return (
          // biome-ignore lint/a11y/noStaticElementInteractions: the same place can be typed into the form
          <g
            onClick={(event) => {
              if (!placing) return;
              const box = event.currentTarget.ownerSVGElement?.getBoundingClientRect();
              const east = x.invert(event.clientX - (box?.left ?? 0));
              const north = y.invert(event.clientY - (box?.top ?? 0));
              placing(bearingOf(east, north), Number(Math.hypot(east, north).toPrecision(3)));
            }}
            style={placing ? { cursor: "crosshair" } : undefined}
          >
            <defs>
              <clipPath id="ground-view">
                <rect width={width} height={height} />
              </clipPath>
            </defs>
            <rect width={width} height={height} fill={ink("panel")} />
            <g clipPath="url(#ground-view)">
              {pano && pano.aims.length > 1 && (
                <path
                  d={wedge(facing - radians(pano.across_deg) / 2, facing + radians(pano.across_deg) / 2)}
                  fill="none"
                  stroke={ink("haze")}
                  strokeDasharray="5 4"
                />
              )}
              <path
                d={wedge(facing - half, facing + half)}
                fill={ink("raised")}
                stroke={ink("edge")}
                strokeDasharray="4 4"
              />
              {[reach / 3, (2 * reach) / 3, reach].map((metres) => (
                <circle key={metres} cx={x(0)} cy={y(0)} r={metres * perMetre} fill="none" stroke={ink("line")} />
              ))}
              <GroundScene shot={shot} width={width} height={height} reach={reach} shift={shift} />
              <path d={`M${x(0) - 6} ${y(0)} h12 M${x(0)} ${y(0) - 6} v12`} stroke={ink("muted")} strokeWidth={1.5} />
              {marks.map(({ item, east, north, to }) => (
                <line
                  key={item.id}
                  x1={x(pose.east)}
                  y1={y(pose.north)}
                  x2={to ? to[0] : x(east)}
                  y2={to ? to[1] : y(north)}
                  stroke={ink("muted")}
                  strokeDasharray="2 5"
                  data-sight=""
                />
              ))}
              <Labels
                wishes={wishes}
                bounds={{ x: 3, y: 2, width: width - 6, height: height - 5 }}
                taken={taken}
                halo="panel"
              />
              {marks.map(({ item, element, east, north, inside }) => {
                const mine = shift?.id === item.id ? shift : undefined;
                return inside ? (
                  <Handle
                    key={item.id}
                    x={x(east)}
                    y={y(north)}
                    label={`${item.name} on the ground`}
                    value={Math.round(element.bearing_deg)}
                    range={RANGE.bearing}
                    valueText={`${element.bearing_deg.toFixed(0)}°, ${item.distance_label}`}
                    drag={(toX, toY) =>
                      setShift({
                        id: item.id,
                        east: x.invert(toX) - Math.sin(radians(element.bearing_deg)) * element.distance_m,
                        north: y.invert(toY) - Math.cos(radians(element.bearing_deg)) * element.distance_m,
                      })
                    }
                    done={() => mine && settle(item, mine)}
                    nudge={(right, up) =>
                      settle(item, { id: item.id, east: (right * reach) / 60, north: (up * reach) / 60 })
                    }
                  >
                    <circle r={5} fill={ink("bg")} stroke={ink("accent")} strokeWidth={1.5} />
                  </Handle>
                ) : null;
              })}
              <Courses
                elements={place?.viewpoint.elements ?? []}
                x={x}
                y={y}
                inside={(atX, atY) => atX > 4 && atY > 4 && atX < width - 4 && atY < height - 4}
              />
              <North slope={place?.viewpoint} width={width} />
              <Handle
                x={x(pose.east)}
                y={y(pose.north)}
                label="Position of the camera"
                value={pose.east}
                range={RANGE.position}
                valueText={`${lengthText(pose.east)} east, ${lengthText(pose.north)} north of the mark`}
                cursor="move"
                drag={(toX, toY) => move({ east: x.invert(toX), north: y.invert(toY) })}
                nudge={(right, up) => {
                  const step = camera.close ? 0.002 : 0.1;
                  move({ east: pose.east + right * step, north: pose.north + up * step });
                }}
              >
                <path
                  d="M0 -11 L9 9 L0 4 L-9 9 Z"
                  fill={ink("accent")}
                  stroke={ink("bg")}
                  strokeWidth={1.5}
                  transform={`rotate(${pose.bearing})`}
                />
              </Handle>
              <Turn x={x(pose.east)} y={y(pose.north)} pose={pose} move={move} />
            </g>
          </g>
        );
      }}
    </Drawing>
  );
}
