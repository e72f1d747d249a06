import { boundsOf } from "../../../shots/facts";
/** Where the camera stands and looks, as far as a hand can change it. Plain numbers: what the camera can do is the server's to say. */
export interface Pose {
  east: number;
  north: number;
  height: number;
  bearing: number;
  pitch: number;
}

/** Between which a hand can set each; positions in metres from the mark. */
export const RANGE = {
  bearing: boundsOf("bearing_deg"),
  pitch: boundsOf("pitch_deg"),
  height: boundsOf("camera_height_m"),
  position: boundsOf("camera_east_m"),
};

const within = (value: number, [least, most]: readonly [number, number]): number =>
  Math.min(most, Math.max(least, value));

const FINE: Record<keyof Pose, number> = { east: 100, north: 100, height: 200, bearing: 10, pitch: 10 };
const CLOSE_UP = 100;

/** The shortest turn from one bearing to another, -180 up to 180. */
export const turned = (from: number, to: number): number => ((((to - from) % 360) + 540) % 360) - 180;

/** A pose as finely as a hand sets it; close up a hundred times finer where it is a length. */
export function rounded(to: Partial<Pose>, close: boolean): Partial<Pose> {
  const kept: Partial<Pose> = {};
  for (const [name, value] of Object.entries(to) as [keyof Pose, number][]) {
    const fine = FINE[name] * (close && name !== "bearing" && name !== "pitch" ? CLOSE_UP : 1);
    const near = Math.round(value * fine) / fine;
    if (name === "bearing") kept[name] = (((near % 360) + 360) % 360) + 0;
    else if (name === "pitch") kept[name] = within(near, RANGE.pitch);
    else if (name === "height") kept[name] = within(near, RANGE.height);
    else kept[name] = within(near, RANGE.position);
  }
  return kept;
}

/** The aim after a drag [pixels]: to the right turns the camera right, upwards tilts it up, as the arrow keys do. */
export function aimed(
  from: { bearing: number; pitch: number },
  right: number,
  down: number,
  perPixel: { across: number; upwards: number },
): { bearing: number; pitch: number } {
  return { bearing: from.bearing + right * perPixel.across, pitch: from.pitch - down * perPixel.upwards };
}

/** What is still held under the hand once an answer has come: not what it says already, and nothing once it was refused. */
export function stillHeld(held: Partial<Pose>, answered: Pose, refused: boolean): Partial<Pose> {
  if (refused) return {};
  const rest = Object.entries(held).filter(([name, value]) => Math.abs(value - answered[name as keyof Pose]) >= 1e-6);
  return Object.fromEntries(rest) as Partial<Pose>;
}
