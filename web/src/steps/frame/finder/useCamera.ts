import { useEffect, useMemo, useState } from "react";
import { NUMBERS } from "../../../api/facts";
import { type Matrix, moved } from "../../../drawing/projective";
import type { Patch, Shot, ShotWork } from "../../../shots/useShot";
import { type Pose, rounded, stillHeld, turned } from "./pose";

export type { Pose } from "./pose";

const FIELDS: Record<keyof Pose, keyof Patch> = {
  east: "camera_east_m",
  north: "camera_north_m",
  height: "camera_height_m",
  bearing: "bearing_deg",
  pitch: "pitch_deg",
};
/** The pose under the hand, which runs ahead of the server's answers; the answered scene is moved there until the next answer comes. */
export interface CameraWork {
  pose: Pose;
  /** The matrix of the finder at the pose; null without a camera. */
  matrix: Matrix | null;
  move: (to: Partial<Pose>) => void;
  /** Finer steps for what is measured in millimetres. */
  close: boolean;
}

export function useCamera({ shot, set, errors }: Pick<ShotWork, "shot" | "set" | "errors">): CameraWork {
  const { frame } = shot.plan;
  const close = shot.facts.magnification !== null;
  const answered = useMemo(() => poseOf(shot), [shot]);
  const [held, setHeld] = useState<Partial<Pose>>({});
  const refused = Object.values(FIELDS).some((field) => errors[field]);
  useEffect(() => {
    // What has been answered, or refused, is not held any more.
    setHeld((old) => {
      const rest = stillHeld(old, answered, refused);
      return Object.keys(rest).length === Object.keys(old).length ? old : rest;
    });
  }, [answered, refused]);
  const pose = { ...answered, ...held };
  const { view } = frame;
  const matrix = view
    ? Object.keys(held).length
      ? moved(view, {
          shift: [pose.east - answered.east, pose.north - answered.north, pose.height - answered.height],
          turn: turned(answered.bearing, pose.bearing),
          tilt: pose.pitch - answered.pitch,
        })
      : view.matrix
    : null;
  const move = (to: Partial<Pose>) => {
    const next = rounded(to, close);
    const patch = Object.fromEntries(Object.entries(next).map(([name, value]) => [FIELDS[name as keyof Pose], value]));
    setHeld((old) => ({ ...old, ...next }));
    set(patch as Patch);
  };
  return { pose, matrix, move, close };
}

export function poseOf(shot: Shot): Pose {
  const { facts, plan } = shot;
  return {
    east: facts.camera_east_m,
    north: facts.camera_north_m,
    height: plan.frame.camera_height_m ?? NUMBERS.DEFAULT_CAMERA_HEIGHT_M,
    bearing: plan.frame.bearing_deg ?? 0,
    pitch: facts.pitch_deg,
  };
}
