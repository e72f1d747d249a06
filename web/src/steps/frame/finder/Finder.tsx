import { useMemo, useState } from "react";
import { Drawing } from "../../../drawing/Drawing";
import { Handle } from "../../../drawing/Handle";
import { Labels, type NamedWish } from "../../../drawing/Labels";
import { handleBox } from "../../../drawing/labels";
import { after, type Matrix, place } from "../../../drawing/projective";
import { percent } from "../../../lib/format/numbers";
import type { Shot, ShotWork } from "../../../shots/useShot";
import { ink } from "../../../theme/system";
import type { View } from "../../../tones/sceneData";
import { TonalCanvas } from "../../../tones/TonalCanvas";
import { useResponse, useTones } from "../../../tones/useTones";
import { BackdropImage } from "./BackdropImage";
import { CropFrame } from "./CropFrame";
import { Discs } from "./Discs";
import { CornerCut, PanoramaFrames, Streaks } from "./FinderParts";
import { Galaxy } from "./Galaxy";
import { Guides } from "./Guides";
import { outlinesOf } from "./outlines";
import { aimed, RANGE } from "./pose";
import {
  boundsOf,
  isWet,
  onGround,
  type Paper,
  pathOf,
  ringPath,
  type Seen,
  type Shift,
  Solids,
  visible,
} from "./scene";
import type { CameraWork } from "./useCamera";

// Beside and under the frame: its edge and its caption [px].
const [EDGE, CAPTION] = [4, 22];
// Over it and around the page where it stands alone, and the least that a drawing takes with them [px].
const [OVER, MARGINS, LEAST] = [58, 32, 278];

const aspectOf = ({ width_mm, height_mm }: Shot["plan"]["frame"]) => (width_mm ?? 3) / (height_mm ?? 2);

/** How high the finder stands alone on a phone: as its frame is, so that what belongs to it follows at once. */
export function heightAlone({ plan }: Shot): string {
  const width = `(100vw - ${MARGINS + EDGE}px)`;
  return `min(440px, max(${LEAST}px, calc(${width} / ${aspectOf(plan.frame).toFixed(4)} + ${CAPTION + OVER}px)))`;
}

const percentOrNone = (share: number | null) => (share === null ? "" : percent(share));

/** What the sensor sees: elements as plain solids at their true size, light and blur, with guides, crop and panorama. */
export function Finder({
  shot,
  set,
  camera,
  shift,
}: {
  shot: Shot;
  set: ShotWork["set"];
  camera: CameraWork;
  shift?: Shift | undefined;
}) {
  const { frame } = shot.plan;
  const { pose, move } = camera;
  const matrix = camera.matrix ?? [];
  const aspect = aspectOf(frame);
  const hfov = frame.horizontal_fov_deg ?? 60;
  const vfov = frame.vertical_fov_deg ?? 40;
  const of = (item: Seen) => (shift?.id === item.id ? shift : undefined);
  const found = useTones(shot);
  // A photograph behind the finder is the picture itself.
  const tones = shot.backdrop ? undefined : found;
  const response = useResponse(shot, tones, null);
  const blurs = useMemo(() => new Map(frame.elements.map((item) => [item.id, item.blur_share ?? 0])), [frame.elements]);
  const boxOf = (width: number, height: number) => {
    const w = Math.min(width - EDGE, (height - CAPTION) * aspect);
    return { w, h: w / aspect, left: (width - w) / 2, top: 1 };
  };
  const fit = panoramaFit(shot, matrix);
  return (
    <Drawing
      compact
      under={
        tones && response
          ? (width, height) => {
              const { w, h, left, top } = boxOf(width, height);
              return (
                <TonalCanvas
                  toned={tones}
                  view={{
                    matrix,
                    fit,
                    shifts: shiftsOf(tones.moved, shift),
                    blurs,
                    behind: frame.close_up?.background_blur_share ?? 0,
                  }}
                  response={response}
                  left={left}
                  top={top}
                  width={w}
                  height={h}
                />
              );
            }
          : undefined
      }
      title="The finder"
      outlines={
        tones
          ? async (width, height) => {
              const { w, h, left, top } = boxOf(width, height);
              return outlinesOf(shot.id, (u, v) => [
                left + (0.5 + (u - 0.5) * fit) * w,
                top + (0.5 + (v - 0.5) * fit) * h,
              ]);
            }
          : undefined
      }
      least={180}
      figures={{
        head: ["Element", "Distance", "Left", "Right", "Top", "Bottom", "In the frame", "Covers"],
        rows: frame.elements.map((item) => [
          item.name,
          item.distance_label,
          percentOrNone(item.left),
          percentOrNone(item.right),
          percentOrNone(item.top),
          percentOrNone(item.bottom),
          percentOrNone(item.share),
          percentOrNone(item.cover),
        ]),
      }}
    >
      {(width, height) => {
        const { w, h, left, top } = boxOf(width, height);
        const px = (u: number) => left + (0.5 + (u - 0.5) * fit) * w;
        const py = (v: number) => top + (0.5 + (v - 0.5) * fit) * h;
        const paper: Paper = (u, v) => `${px(u).toFixed(1)} ${py(v).toFixed(1)}`;
        const [fw, fh] = [w * fit, h * fit];
        const flat = frame.elements.filter((item) => onGround(item.shape));
        const upright = frame.elements.filter((item) => !onGround(item.shape));
        return (
          <>
            <defs>
              <clipPath id="finder-frame">
                <rect x={left} y={top} width={w} height={h} />
              </clipPath>
              {frame.elements
                .filter((item) => item.mirror)
                .map((item) => (
                  <clipPath key={item.id} id={`water-${item.id}`}>
                    <path d={item.meshes.map((mesh) => ringPath(matrix, mesh.points, paper)).join("")} />
                  </clipPath>
                ))}
              {frame.elements
                .filter((item) => isWet(item.shape) && item.streak_share !== null)
                .map((item) => (
                  <clipPath key={item.id} id={`stream-${item.id}`}>
                    <path d={item.meshes.map((mesh) => ringPath(matrix, mesh.points, paper)).join("")} />
                  </clipPath>
                ))}
              {frame.elements.map((item) => (
                <filter key={item.id} id={`blur-${item.id}`} x="-40%" y="-40%" width="180%" height="180%">
                  {/* A disc of diameter d looks like a Gaussian of d/4. */}
                  <feGaussianBlur stdDeviation={Math.min(60, ((item.blur_share ?? 0) * fw) / 4)} />
                </filter>
              ))}
            </defs>
            {!tones && <rect x={left} y={top} width={w} height={h} fill={ink("sky")} />}
            <g clipPath="url(#finder-frame)">
              <Galaxy view={frame.view} matrix={matrix} px={px} py={py} w={fw} />
              <Discs shot={shot} matrix={matrix} px={px} py={py} w={fw} bare={!!tones} />
              {!tones && (
                <>
                  {frame.view?.skyline && <path d={ringPath(matrix, frame.view.skyline, paper)} fill={ink("far")} />}
                  <path d={groundBelow(matrix, pose.bearing, frame.view?.eye ?? [0, 0, 0], paper)} fill={ink("low")} />
                  {shot.backdrop && <BackdropImage backdrop={shot.backdrop} matrix={matrix} px={px} py={py} />}
                  {flat.map((item) => (
                    <Blurred key={item.id} item={item} w={fw}>
                      <Solids item={item} matrix={matrix} paper={paper} shift={of(item)} />
                    </Blurred>
                  ))}
                  {flat
                    .filter((item) => item.mirror)
                    .map((water) => (
                      <g key={water.id} clipPath={`url(#water-${water.id})`} opacity={0.55} data-mirror="">
                        {upright.map((item) => (
                          <Blurred key={item.id} item={item} w={fw}>
                            <Solids
                              item={item}
                              matrix={after(matrix, water.mirror ?? [])}
                              paper={paper}
                              shift={of(item)}
                              mirrored
                            />
                          </Blurred>
                        ))}
                      </g>
                    ))}
                </>
              )}
              {flat
                .filter((item) => (item.streak_share ?? 0) * fw > 5 && isWet(item.shape) && !tones)
                .map((item) => (
                  <Streaks key={item.id} item={item} matrix={matrix} px={px} py={py} w={fw} />
                ))}
              {!tones &&
                upright.map(
                  (item) =>
                    item.shadow && (
                      <path
                        key={item.id}
                        d={ringPath(matrix, item.shadow, paper)}
                        fill={ink("shade")}
                        fillOpacity={0.38}
                        data-ground-shadow=""
                      />
                    ),
                )}
              {!tones &&
                upright.map((item) => (
                  <Blurred key={item.id} item={item} w={fw}>
                    <Solids item={item} matrix={matrix} paper={paper} shift={of(item)} />
                  </Blurred>
                ))}
              <PanoramaFrames shot={shot} matrix={matrix} paper={paper} />
              <CornerCut shot={shot} px={px} py={py} w={fw} h={fh} />
            </g>
            <CropFrame shot={shot} set={set} px={px} py={py} w={fw} h={fh} />
            <Guides shot={shot} px={px} py={py} />
            <rect
              x={left}
              y={top}
              width={w}
              height={h}
              fill="none"
              stroke={ink(fit < 1 ? "line" : "edge")}
              strokeWidth={1.5}
            />
            {fit < 1 && (
              <rect x={px(0)} y={py(0)} width={fw} height={fh} fill="none" stroke={ink("edge")} strokeWidth={1.5} />
            )}
            <Names
              items={frame.elements}
              matrix={matrix}
              shift={shift}
              px={px}
              py={py}
              top={top}
              left={left}
              w={w}
              h={h}
            />
            <Aim
              x={px(0.5)}
              y={py(0.5)}
              pose={pose}
              aim={(bearing, pitch) => move({ bearing, pitch })}
              perPixel={{ across: hfov / fw, upwards: vfov / fh }}
            />
            <text x={left + w / 2} y={top + h + 16} textAnchor="middle" fontSize="13" fill={ink("muted")}>
              <tspan className="figure">
                {hfov.toFixed(1)}° × {vfov.toFixed(1)}°
              </tspan>{" "}
              {shot.facts.orientation}, at <tspan className="figure">{pose.bearing.toFixed(0)}°</tspan> {frame.compass}
              {pose.pitch ? (
                <>
                  , pitched <tspan className="figure">{pose.pitch.toFixed(1)}°</tspan>
                </>
              ) : null}
            </text>
          </>
        );
      }}
    </Drawing>
  );
}

/** Where elements are drawn, with the one under the hand. */
function shiftsOf(moved: View["shifts"], shift: Shift | undefined) {
  if (!shift) return moved;
  const old = moved.get(shift.id);
  return new Map(moved).set(shift.id, { east: shift.east + (old?.east ?? 0), north: shift.north + (old?.north ?? 0) });
}

/** How much smaller the frame is drawn so that all frames of a panorama fit in; no smaller than a fifth. */
function panoramaFit(shot: Shot, matrix: Matrix): number {
  const aims = shot.plan.frame.panorama?.aims ?? [];
  if (aims.length < 2) return 1;
  const placed = aims.flatMap((aim) => aim.corners.map((corner) => place(matrix, corner)));
  const reach = placed.map(([u, v, depth]) =>
    depth > 0 ? Math.max(Math.abs(u / depth - 0.5), Math.abs(v / depth - 0.5)) : 9,
  );
  return Math.max(0.2, Math.min(1, 0.48 / Math.max(...reach)));
}

function Blurred({ item, w, children }: { item: Seen; w: number; children: React.ReactNode }) {
  return <g filter={(item.blur_share ?? 0) * w > 1.2 ? `url(#blur-${item.id})` : undefined}>{children}</g>;
}

/** The level ground out to the horizon, as a fan of far points around the view. */
function groundBelow(matrix: Matrix, bearing: number, eye: readonly number[], paper: Paper): string {
  const far = 1e6;
  const [x = 0, y = 0, z = 0] = eye;
  const ring = Array.from({ length: 33 }, (_, at) => {
    const turn = ((bearing - 85 + (at * 170) / 32) * Math.PI) / 180;
    return [x + far * Math.sin(turn), y + far * Math.cos(turn), z];
  });
  const line = ring
    .map((point) => place(matrix, point))
    .filter((point) => point[2] > 0)
    .map((point): [number, number] => [point[0] / point[2], point[1] / point[2]]);
  const first = line[0];
  const last = line.at(-1);
  if (!first || !last || line.length < 2) return "";
  const closed: [number, number][] = [
    [first[0] - 9, first[1]],
    ...line,
    [last[0] + 9, last[1]],
    [last[0] + 9, 12],
    [first[0] - 9, 12],
  ];
  return pathOf([closed], paper);
}

function Names({
  items,
  matrix,
  shift,
  px,
  py,
  top,
  left,
  w,
  h,
}: {
  items: Seen[];
  matrix: Matrix;
  shift: Shift | undefined;
  px: (u: number) => number;
  py: (v: number) => number;
  top: number;
  left: number;
  w: number;
  h: number;
}) {
  const wishes = [...items].reverse().flatMap((item): NamedWish[] => {
    const box = boundsOf(item, matrix, shift?.id === item.id ? shift : undefined);
    if (!box || !visible(box)) return [];
    const x = px((Math.max(0, box.left) + Math.min(1, box.right)) / 2);
    const flat = onGround(item.shape);
    const y = flat ? py((Math.max(0.08, box.top) + Math.min(0.97, box.bottom)) / 2) : py(box.top);
    return [{ id: item.id, text: item.name, size: 12, x, y, side: flat ? "on" : "above" }];
  });
  return (
    <Labels
      wishes={wishes}
      bounds={{ x: left + 3, y: top + 2, width: w - 6, height: h - 5 }}
      taken={[handleBox(px(0.5), py(0.5), 12)]}
    />
  );
}

/** The cross that aims the camera: it goes where the hand goes. */
function Aim({
  x,
  y,
  pose,
  aim,
  perPixel,
}: {
  x: number;
  y: number;
  pose: CameraWork["pose"];
  aim: (bearing: number, pitch: number) => void;
  perPixel: { across: number; upwards: number };
}) {
  const [grip, setGrip] = useState<{ bearing: number; pitch: number } | null>(null);
  return (
    <Handle
      x={x}
      y={y}
      label="Aim of the camera: bearing and pitch"
      value={Math.round(pose.bearing)}
      range={RANGE.bearing}
      valueText={`${pose.bearing.toFixed(0)}°, pitch ${pose.pitch}°`}
      cursor="move"
      drag={(toX, toY) => {
        const from = grip ?? { bearing: pose.bearing, pitch: pose.pitch };
        if (!grip) setGrip(from);
        // The cross is the camera's aim: to the right it turns the camera right, as the arrow key does.
        const to = aimed(from, toX - x, toY - y, perPixel);
        aim(to.bearing, to.pitch);
      }}
      done={() => setGrip(null)}
      nudge={(right, up) => aim(pose.bearing + right, pose.pitch + up)}
    >
      <circle r={15} fill="transparent" />
      <path d="M-11 0 H-4 M4 0 H11 M0 -11 V-4 M0 4 V11" stroke={ink("bg")} strokeWidth={4} />
      <path d="M-11 0 H-4 M4 0 H11 M0 -11 V-4 M0 4 V11" stroke={ink("accent")} strokeWidth={2} />
    </Handle>
  );
}
