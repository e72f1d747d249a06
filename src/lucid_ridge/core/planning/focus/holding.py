"""How the camera is held, and what that allows: shutter times, self-timer and stabiliser, stacks taken by leaning in."""

from __future__ import annotations

import math

from ...exposure.motion import hand_limit_s
from ...facts.accessory import AccessoryKind
from ...facts.choices import IN_HAND, Hold
from ...facts.settings import Settings
from ...facts.shot import ShotFacts
from ...optics.working_lens import Imaging
from ...units.lengths import format_distance
from ...units.markings import format_shutter
from ..light.flash import Flash
from ..verdicts import CAUTION, FAILS, HOLDS, TIGHT, UNSAID, Reason

# Close up by hand; lying down or with the elbows on something it may be longer (common practice).
CLOSE_UP_FLOOR_S, BRACED_FLOOR_S, BOAT_FLOOR_S = 1 / 322.54, 1 / 203.19, 1 / 203.19
_WALKER_FLOOR_S = 1 / 64
_LONG_LENS_MM, _SHORT_TIMER_S, _LONG_TIMER_S = 200.0, 2.0, 5.0
# Beyond this a camera no longer rests on a bag on the ground or on a wall.
_BAG_MOST_M = 1.2


def slowest_by_hand_s(facts: ShotFacts, settings: Settings, imaging: Imaging | None) -> float | None:
    """Return the longest shutter time [s] as the camera is held; None on something that stands."""
    hold, body = facts.frame.hold, facts.body
    if hold not in IN_HAND or body is None:
        return None
    floor = BOAT_FLOOR_S if hold == Hold.BOAT else _WALKER_FLOOR_S
    if facts.close_up:
        floor = BRACED_FLOOR_S if facts.frame.braced else CLOSE_UP_FLOOR_S
    rule = hand_limit_s(imaging.image_mm if imaging else settings.focal_mm, body.sensor_width_mm, body.sensor_height_mm)
    taught = facts.taught.boat_shift if hold == Hold.BOAT else facts.taught.hand_shift
    # What one's own frames show goes beyond what is said of every hand.
    return min(floor, rule) if taught is None else min(floor, rule) * 2.0**taught.value


def hold_reasons(facts: ShotFacts, settings: Settings, imaging: Imaging | None, longest_s: float, flash: Flash | None) -> list[Reason]:
    """Return what the way of holding says to the longest exposure [s]."""
    hold = facts.frame.hold
    limit = slowest_by_hand_s(facts, settings, imaging)
    if limit is None:
        return _standing(facts, settings, hold)
    how = {Hold.HAND: "By hand", Hold.BOAT: "From a moving boat"}[hold]
    if flash is not None and flash.alone:
        return [Reason("exposure", HOLDS, f"{how} the flash's short burst is the exposure; {format_shutter(longest_s)} need not stop anything.", "hold")]  # fmt: skip
    if longest_s > limit * 1.07:
        over = math.log2(longest_s / limit)
        more = (
            "" if facts.frame.braced or hold == Hold.BOAT or not facts.close_up else " Braced, lying or with the elbows down, 1/200 may do."
        )
        text = f"{how} {format_shutter(longest_s)} is {over:.1f} stops longer than the {format_shutter(limit)} that holds still.{more}"
        return [Reason("exposure", FAILS, text, "hold")]
    return [Reason("exposure", HOLDS, f"{how} {format_shutter(longest_s)} is within the {format_shutter(limit)} that holds still.", "hold")]


def _standing(facts: ShotFacts, settings: Settings, hold: Hold) -> list[Reason]:
    if hold == Hold.BEAN_BAG and settings.camera_height_m > _BAG_MOST_M:
        text = f"A bean bag lies on the ground or on a wall: at {format_distance(settings.camera_height_m)} it needs one."
        return [Reason("exposure", TIGHT, text, "camera_height_m")]
    if hold == Hold.TRIPOD and facts.support is None:
        return []
    wait = _LONG_TIMER_S if settings.focal_mm >= _LONG_LENS_MM else _SHORT_TIMER_S
    if facts.sequence.timer_s < wait * 0.99:
        text = f"Stabiliser off, and a self-timer of {wait:.0f} s or a release: {facts.sequence.timer_s:g} s is set."
        return [Reason("exposure", CAUTION, text, "timer_s")]
    return []


def rail_words(facts: ShotFacts) -> str:
    """Return how a stack goes from frame to frame: on the rail, by leaning in, or by moving the subject."""
    if facts.frame.hold in IN_HAND:
        return "leaning in"
    return "moving the subject" if facts.depth.subject_moves else "on the rail"


def rail_mark(facts: ShotFacts, rail_mm: float) -> str:
    """Return where a frame of such a stack is taken, as it is read in the field."""
    return f"{rail_moves(facts)} {rail_mm:.2f} mm"


def rail_moves(facts: ShotFacts) -> str:
    """Return what moves from frame to frame of such a stack."""
    return "lean in" if facts.frame.hold in IN_HAND else "subject" if facts.depth.subject_moves else "rail"


def stack_reasons(facts: ShotFacts, count: int, step_mm: float) -> list[Reason]:
    """Return what rail or hand has to do for a stack of so many frames, and whether they can. step_mm: from frame to frame."""
    if facts.frame.hold in IN_HAND:
        return _leaning(facts, count, step_mm)
    travel = step_mm * (count - 1)
    what = "subject is moved" if facts.depth.subject_moves else "camera is moved"
    text = f"{count} frames on the rail, {step_mm:.2f} mm apart, travel {travel:.1f} mm; the {what}."
    rails = facts.rig(AccessoryKind.RAIL)
    if not rails:
        return [
            Reason("depth", HOLDS, text, "overlap"),
            Reason("depth", CAUTION, "No rail is in the rig: choose one, so that its travel and its finest step are held against the stack.", "accessory_ids"),
        ]  # fmt: skip
    rail = rails[0]
    if travel > (rail.travel_mm or 0.0) * 1.001:
        return [Reason("depth", FAILS, f"{text} {rail.name} travels {rail.travel_mm:g} mm.", "accessory_ids")]
    if step_mm < (rail.finest_mm or 0.0) * 0.999:
        return [Reason("depth", FAILS, f"{text} {rail.name} steps by {rail.finest_mm:g} mm at least: stop down or ask for less sharpness.", "accessory_ids")]  # fmt: skip
    return [Reason("depth", HOLDS, f"{text} {rail.name} can: {rail.travel_mm:g} mm in steps from {rail.finest_mm:g} mm.", "overlap")]


def _leaning(facts: ShotFacts, count: int, step_mm: float) -> list[Reason]:
    rate, taught = facts.depth.frames_per_s, facts.taught.series
    # What is said of this shot goes before what the log taught.
    said = facts.depth.hit_rate
    hits = said if said is not None or taught is None else taught.value
    if rate is None:
        text = (
            f"By hand, {count} frames {step_mm:.2f} mm apart: say how many frames a second the body takes, and how fast to lean in follows."
        )
        return [Reason("depth", UNSAID, text, "frames_per_s")]
    text = (
        f"By hand: focus locked at this magnification, lean in at {step_mm * rate:.1f} mm/s while {rate:g} frames a second are taken; "
        f"{count} frames, {step_mm:.2f} mm apart, last {count / rate:.1f} s."
    )
    found = [Reason("depth", HOLDS, text, "frames_per_s")]
    if hits is None:
        found.append(
            Reason(
                "depth",
                CAUTION,
                "Say how many of your series by hand come out whole, and how many to take follows; practise on what holds still, a shell or a seed head.",
                "hit_rate",
            )
        )
    else:
        tries = math.ceil(1 / hits - 1e-9)
        by = f", by {taught.frames} series of the log," if said is None and taught is not None else ""
        text = f"With {hits:.0%} of the series whole{by} {tries} {'is' if tries == 1 else 'are'} to be expected for one good."
        found.append(Reason("depth", HOLDS, text, "hit_rate"))
    hands = "Left hand under the lens and on what the subject stands on, where that harms nothing; right hand on the body, elbows on the knees or the ground."
    found.append(Reason("depth", CAUTION, hands, "hold"))
    return found
