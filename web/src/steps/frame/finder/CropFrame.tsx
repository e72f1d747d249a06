import { useEffect, useState } from "react";
import { Handle } from "../../../drawing/Handle";
import { percent } from "../../../lib/format/numbers";
import type { Patch, Shot, ShotWork } from "../../../shots/useShot";
import { ink } from "../../../theme/system";

/** What is kept of the frame, with handles for its place and its size. */
export function CropFrame({
  shot,
  set,
  px,
  py,
  w,
  h,
}: {
  shot: Shot;
  set: ShotWork["set"];
  px: (u: number) => number;
  py: (v: number) => number;
  w: number;
  h: number;
}) {
  const crop = shot.plan.frame.crop;
  const [held, setHeld] = useState<{ x: number; y: number }>();
  // biome-ignore lint/correctness/useExhaustiveDependencies: what the server says ends a drag
  useEffect(() => setHeld(undefined), [crop?.left, crop?.top]);
  if (!crop?.cropped) return null;
  const wide = crop.width_share;
  const high = crop.height_share;
  const middle = held ?? { x: crop.left + wide / 2, y: crop.top + high / 2 };
  const [u, v] = [
    Math.min(1 - wide, Math.max(0, middle.x - wide / 2)),
    Math.min(1 - high, Math.max(0, middle.y - high / 2)),
  ];
  const put = (x: number, y: number) => {
    const to = {
      x: Math.round(Math.min(1, Math.max(0, x)) * 1000) / 1000,
      y: Math.round(Math.min(1, Math.max(0, y)) * 1000) / 1000,
    };
    setHeld(to);
    set({ crop_x: to.x, crop_y: to.y });
  };
  const size = (share: number, ratio?: number) => {
    const patch: Patch = { crop_share: Math.round(Math.min(1, Math.max(0.05, share)) * 1000) / 1000 };
    set(shot.facts.crop_aspect === "free" && ratio ? { ...patch, crop_ratio: Math.round(ratio * 100) / 100 } : patch);
  };
  return (
    <>
      <g data-crop="">
        <path
          d={`M${px(0)} ${py(0)}h${w}v${h}h${-w}Z M${px(u)} ${py(v)}v${high * h}h${wide * w}v${-high * h}Z`}
          fill={ink("bg")}
          fillOpacity={0.7}
        />
        <rect x={px(u)} y={py(v)} width={wide * w} height={high * h} fill="none" stroke={ink("fg")} strokeWidth={1.5} />
      </g>
      <Handle
        x={px(u + wide / 2)}
        y={py(v) + 14}
        label="Place of the crop"
        value={Math.round(middle.x * 100)}
        range={[0, 100]}
        valueText={`${percent(middle.x)} from the left, ${percent(middle.y)} from the top`}
        cursor="move"
        drag={(x, y) => put((x - px(0)) / w, (y - 14 - py(0)) / h + high / 2)}
        nudge={(right, up) => put(middle.x + right * 0.01, middle.y - up * 0.01)}
      >
        <rect x={-16} y={-7} width={32} height={14} rx={3} fill={ink("bg")} stroke={ink("accent")} strokeWidth={2} />
        <path d="M-8 0H8" stroke={ink("accent")} strokeWidth={2} />
      </Handle>
      <Handle
        x={px(u + wide)}
        y={py(v + high)}
        label="Size of the crop"
        value={Math.round(crop.share * 100)}
        range={[0, 100]}
        valueText={`${percent(crop.share)} of the frame`}
        cursor="nwse-resize"
        drag={(x, y) => {
          const across = Math.max(0.05, (2 * (x - px(u + wide / 2))) / w);
          const upwards = Math.max(0.05, (2 * (y - py(v + high / 2))) / h);
          if (shot.facts.crop_aspect === "free") size(Math.max(across, upwards), (across * w) / (upwards * h));
          else size((crop.share * across) / wide);
        }}
        nudge={(right, up) => size(crop.share + (right + up) * 0.01)}
      />
    </>
  );
}
