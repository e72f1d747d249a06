import { useEffect, useMemo, useState } from "react";
import { type Matrix, moved } from "../../drawing/projective";
import type { Patch, Shot, ShotWork } from "../../shot/useShot";

/** Where the camera stands and looks, as far as a hand can change it. */
export interface Pose {
  east: number;
  north: number;
  height: number;
  bearing: number;
  pitch: number;
}

const FIELDS: Record<keyof Pose, keyof Patch> = {
  east: "camera_east_m",
  north: "camera_north_m",
  height: "camera_height_m",
  bearing: "bearing_deg",
  pitch: "pitch_deg",
};
const FINE: Record<keyof Pose, number> = { east: 100, north: 100, height: 200, bearing: 10, pitch: 10 };
const near = (one: number, other: number) => Math.abs(one - other) < 1e-6;
const turned = (from: number, to: number) => ((to - from + 540) % 360) - 180;

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
      const rest = Object.entries(old).filter(([name, value]) => !refused && !near(value, answered[name as keyof Pose]));
      return rest.length === Object.keys(old).length ? old : (Object.fromEntries(rest) as Partial<Pose>);
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
    const patch: Record<string, number> = {};
    const next: Partial<Pose> = {};
    for (const [name, value] of Object.entries(to) as [keyof Pose, number][]) {
      const fine = FINE[name] * (close && name !== "bearing" && name !== "pitch" ? 100 : 1);
      let kept = Math.round(value * fine) / fine;
      if (name === "bearing") kept = ((kept % 360) + 360) % 360;
      if (name === "pitch") kept = Math.min(90, Math.max(-90, kept));
      if (name === "height") kept = Math.min(100, Math.max(0, kept));
      next[name] = kept;
      patch[FIELDS[name]] = kept;
    }
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
    height: plan.frame.camera_height_m ?? 1.5,
    bearing: plan.frame.bearing_deg ?? 0,
    pitch: facts.pitch_deg,
  };
}
