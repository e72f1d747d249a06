import { radians } from "../../../drawing/bearings";
import { Drawing } from "../../../drawing/Drawing";
import { Handle } from "../../../drawing/Handle";
import { Labels, type NamedWish } from "../../../drawing/Labels";
import { handleBox } from "../../../drawing/labels";
import { lengthText } from "../../../lib/format/spelling";
import type { Shot } from "../../../shots/useShot";
import { ink } from "../../../theme/system";
import { RANGE } from "../finder/pose";
import { onGround, type Seen, type Shift, shifted } from "../finder/scene";
import type { CameraWork } from "../finder/useCamera";
import { FlankScene, type Support, SupportReach } from "./FlankScene";

const label = (metres: number) => lengthText(metres, metres < 0.1 ? 1 : 0);

/** The scene from the side along the view, heights and distances to one scale: camera, its height range, sight lines over what is near. */
export function FlankView({
  shot,
  camera,
  reach,
  support,
  shift,
}: {
  shot: Shot;
  camera: CameraWork;
  reach: number;
  support: Support | undefined;
  shift: Shift | undefined;
}) {
  const { plan } = shot;
  const { pose, move } = camera;
  const facing = radians(pose.bearing);
  // Along the view from the camera; positive is ahead.
  const along = (point: readonly number[]) =>
    ((point[0] ?? 0) - pose.east) * Math.sin(facing) + ((point[1] ?? 0) - pose.north) * Math.cos(facing);
  const ground = plan.frame.view?.ground_m ?? 0;
  const eye = ground + pose.height;
  const vfov = plan.frame.vertical_fov_deg ?? 40;
  const near = (item: Seen) =>
    item.meshes.some((mesh) => mesh.points.some((point) => along(point) < reach && along(point) > -0.2 * reach));
  return (
    <Drawing
      compact
      title="The flank"
      least={110}
      figures={{
        head: ["Element", "Distance", "Foot", "Top", "Against the camera"],
        rows: plan.frame.elements.map((item) => {
          const heights = item.meshes.flatMap((mesh) => mesh.points.map((point) => point[2] ?? 0));
          const [foot, top] = [Math.min(...heights), Math.max(...heights)];
          return [item.name, item.distance_label, label(foot), label(top), label(top - eye)];
        }),
      }}
    >
      {(width, height) => {
        const back = 46;
        const tops = plan.frame.elements
          .filter((item) => !onGround(item.shape) && near(item))
          .flatMap((item) => item.meshes.flatMap((mesh) => mesh.points.map((point) => point[2] ?? 0)));
        // The camera with the ground under it fits in, and what is near as far as that leaves room.
        const [lowest, highest] = [
          Math.min(ground, eye),
          Math.max(eye, Math.min(Math.max(eye, ...tops), eye + 0.5 * reach)),
        ];
        const scale = Math.min((width - back - 84) / reach, (0.72 * height) / Math.max(1e-6, highest - lowest));
        const x = (metres: number) => back + metres * scale;
        const middle = (lowest + highest) / 2 + (0.06 * height) / scale;
        const y = (metres: number) => height / 2 - (metres - middle) * scale;
        const edge = (width - back - 84) / scale;
        const ahead = (turn: number) => eye + edge * Math.tan(radians(Math.max(-85, Math.min(85, pose.pitch + turn))));
        const of = (item: Seen) => (shift?.id === item.id ? shift : undefined);
        const upright = plan.frame.elements.filter((item) => !onGround(item.shape));
        const far = upright.filter((item) => !near(item) && item.share > 0);
        // What is far, where its sight lines cross the right edge: the same lines that show what covers it.
        const farBars = far.flatMap((item) => {
          const at = item.meshes
            .flatMap((mesh) => mesh.points)
            .filter((point) => along(point) > 0.001)
            .map((point) => eye + (((point[2] ?? 0) - eye) * edge) / along(point));
          return at.length ? [{ item, low: Math.min(...at), high: Math.max(...at) }] : [];
        });
        const nearNames = upright.filter(near).map((item): NamedWish => {
          const points = item.meshes.flatMap((mesh) => shifted(mesh.points, of(item)));
          const top = Math.max(...points.map((point) => point[2] ?? 0));
          const where = along(points.find((point) => point[2] === top) ?? []);
          return { id: item.id, text: item.name, size: 13, x: x(where), y: y(top), gap: 5 };
        });
        const farNames = farBars.map(({ item, high }): NamedWish => {
          const name = item.name.length > 12 ? `${item.name.slice(0, 11)}…` : item.name;
          return {
            id: item.id,
            text: `${name} →`,
            size: 12,
            x: width - 6,
            y: Math.max(8, y(high)),
            side: "left",
            tone: "muted",
          };
        });
        const atPitch = y(eye + edge * 0.5 * Math.tan(radians(Math.max(-80, Math.min(80, pose.pitch)))));
        const taken = [
          handleBox(x(0), y(eye), 10),
          handleBox(x(edge * 0.5), atPitch, 6),
          ...(support
            ? [
                {
                  x: x(0) - 24,
                  y: y(ground + support.height_max_m),
                  width: 12,
                  height: Math.abs(y(ground) - y(ground + support.height_max_m)),
                },
              ]
            : []),
          ...farBars.map(({ low, high }, index) => ({
            x: x(edge) + 3 + (index % 3) * 5,
            y: y(high),
            width: 6,
            height: Math.max(2, y(low) - y(high)),
          })),
        ];
        const wishes: NamedWish[] = [
          {
            id: "height",
            text: label(pose.height),
            size: 13,
            x: x(0) + 10,
            y: y(ground) + 8,
            side: "right",
            mono: true,
          },
          ...nearNames,
          ...farNames,
        ];
        return (
          <>
            <defs>
              <clipPath id="flank-view">
                <rect width={width} height={height} />
              </clipPath>
            </defs>
            <rect width={width} height={height} fill={ink("panel")} />
            <g clipPath="url(#flank-view)">
              <path
                d={`M${x(0)} ${y(eye)}L${x(edge)} ${y(ahead(vfov / 2))}L${x(edge)} ${y(ahead(-vfov / 2))}Z`}
                fill={ink("raised")}
                stroke={ink("edge")}
                strokeDasharray="4 4"
              />
              <path
                d={`M${x(-back / scale)} ${height + 4}L${(plan.frame.view?.ground_line ?? [])
                  .map((point) => `${x(along(point)).toFixed(1)} ${y(point[2] ?? 0).toFixed(1)}`)
                  .join("L")}L${x(edge) + 90} ${height + 4}Z`}
                fill={ink("low")}
                stroke={ink("edge")}
              />
              <FlankScene
                items={plan.frame.elements.filter(near)}
                along={along}
                x={x}
                y={y}
                eye={eye}
                edge={edge}
                back={back / scale}
                shift={shift}
              />
              <line x1={x(edge)} x2={x(edge)} y1={0} y2={height} stroke={ink("line")} />
              {farBars.map(({ item, low, high }, index) => (
                <g key={item.id}>
                  <line
                    x1={x(edge) + 6 + (index % 3) * 5}
                    x2={x(edge) + 6 + (index % 3) * 5}
                    y1={y(low)}
                    y2={y(high)}
                    stroke={ink("far")}
                    strokeWidth={4}
                  />
                </g>
              ))}
              {support && <SupportReach support={support} x={x(0)} y={(metres) => y(ground + metres)} />}
              <path
                d={`M${x(0)} ${y(eye)}L${x(0) - 9} ${y(ground)}M${x(0)} ${y(eye)}L${x(0) + 9} ${y(ground)}M${x(0)} ${y(eye)}V${y(ground)}`}
                stroke={ink("muted")}
                strokeWidth={1.2}
              />
              <Labels
                wishes={wishes}
                bounds={{ x: 3, y: 2, width: width - 6, height: height - 5 }}
                taken={taken}
                halo="panel"
              />
              <Handle
                x={x(0)}
                y={y(eye)}
                label="Height of the camera"
                value={pose.height}
                range={RANGE.height}
                valueText={label(pose.height)}
                cursor="ns-resize"
                drag={(_, toY) => move({ height: middle + (height / 2 - toY) / scale - ground })}
                nudge={(_, up) => move({ height: pose.height + up * (camera.close ? 0.001 : 0.05) })}
              >
                <rect
                  x={-8}
                  y={-6}
                  width={16}
                  height={12}
                  rx={2}
                  fill={ink("accent")}
                  stroke={ink("bg")}
                  strokeWidth={1.5}
                />
              </Handle>
              <Handle
                x={x(edge * 0.5)}
                y={y(eye + edge * 0.5 * Math.tan(radians(Math.max(-80, Math.min(80, pose.pitch)))))}
                label="Pitch of the camera"
                value={pose.pitch}
                range={RANGE.pitch}
                valueText={`${pose.pitch}° up`}
                cursor="ns-resize"
                drag={(toX, toY) =>
                  move({
                    pitch:
                      (Math.atan2((y(eye) - toY) / scale, Math.max(0.05 * edge, (toX - x(0)) / scale)) * 180) / Math.PI,
                  })
                }
                nudge={(_, up) => move({ pitch: pose.pitch + up })}
              >
                <circle r={4.5} fill={ink("accent")} stroke={ink("bg")} strokeWidth={1.5} />
              </Handle>
            </g>
          </>
        );
      }}
    </Drawing>
  );
}
