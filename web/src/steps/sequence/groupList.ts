import type { Schemas } from "../../api/client";
import type { Shot, ShotWork } from "../../shots/useShot";

export type Said = Schemas["FrameGroupOut"];
export type Sent = Schemas["FrameGroupIn"];

/** The groups as they stand, with what has been asked for and not been answered yet; where none are listed, those that the plan makes. */
export function listed(shot: Shot, asked: ShotWork["asked"]): Said[] {
  const own = (asked().frame_groups as Said[] | undefined) ?? shot.facts.frame_groups;
  return own.length ? own : shot.plan.sequence.groups.map((group) => group.said);
}

/** A group as it is sent: without what was only written for the eye. */
export function sent({
  shutter_label: _shutter,
  focus_label: _focus,
  start_clock_label: _clock,
  ...group
}: Said): Sent {
  return group;
}

/** The list with one group in another place. */
export function moved(groups: Said[], from: number, by: -1 | 1): Said[] {
  const to = from + by;
  const [one, other] = [groups[from], groups[to]];
  if (!one || !other) return groups;
  return groups.map((group, at) => (at === from ? other : at === to ? one : group));
}
