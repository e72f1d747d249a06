"""How the camera is held: the longest shutter time, self-timer and stabiliser, stacks taken by leaning in."""

from __future__ import annotations

import math

from ...exposure.motion import hand_limit_s
from ...facts.accessory import AccessoryKind
from ...facts.choices import IN_HAND, Hold
from ...facts.settings import Settings
from ...facts.shot import ShotFacts
from ...optics.working_lens import Imaging
from ..light.flash import Flash
from ..reasons import Reason
from . import wording as say

# Close up by hand; longer when lying down or with the elbows on something (common practice).
CLOSE_UP_FLOOR_S, BRACED_FLOOR_S, BOAT_FLOOR_S = 1 / 322.54, 1 / 203.19, 1 / 203.19
_WALKER_FLOOR_S = 1 / 64
_LONG_LENS_MM, _SHORT_TIMER_S, _LONG_TIMER_S = 200.0, 2.0, 5.0
# Beyond a second it is luck, whatever the stabiliser's count (common practice).
_STABILISED_MOST_S = 1.0
# Above this height there is no ground or wall for a bean bag.
_BAG_MOST_M = 1.2


def slowest_by_hand_s(facts: ShotFacts, settings: Settings, imaging: Imaging | None) -> float | None:
    """Return the longest shutter time [s] that can be held still; None on a support.

    A stabiliser lengthens it by its stops (CIPA DC-011), to a second at most. It does nothing for a subject that moves.
    """
    hold, body = facts.frame.hold, facts.body
    if hold not in IN_HAND or body is None:
        return None
    floor = BOAT_FLOOR_S if hold == Hold.BOAT else _WALKER_FLOOR_S
    if facts.close_up:
        floor = BRACED_FLOOR_S if facts.frame.braced else CLOSE_UP_FLOOR_S
    rule = hand_limit_s(imaging.image_mm if imaging else settings.focal_mm, body.sensor_width_mm, body.sensor_height_mm)
    limit = min(floor, rule)
    if body.stabiliser_stops and hold == Hold.HAND and not facts.close_up:
        # Measured for far subjects on a still hand: no help against a boat, and little close up.
        limit = max(limit, min(_STABILISED_MOST_S, limit * 2.0**body.stabiliser_stops))
    taught = facts.taught.boat_shift if hold == Hold.BOAT else facts.taught.hand_shift
    # The photographer's own frames correct the general limit.
    return limit if taught is None else limit * 2.0**taught.value


def hold_reasons(
    facts: ShotFacts, settings: Settings, imaging: Imaging | None, longest_s: float, flash: Flash | None
) -> list[Reason]:
    """Return the reasons from how the camera is held. longest_s: the longest exposure [s]."""
    hold = facts.frame.hold
    limit = slowest_by_hand_s(facts, settings, imaging)
    if limit is None:
        return _standing(facts, settings, hold)
    if flash is not None and flash.alone:
        return [say.flash_stops_motion(hold=hold, shutter_s=longest_s).holds("hold")]
    if longest_s > limit * 1.07:
        brace = facts.close_up and not facts.frame.braced and hold != Hold.BOAT
        words = say.too_slow(
            hold=hold, shutter_s=longest_s, limit_s=limit, over_stops=math.log2(longest_s / limit), brace=brace
        )
        return [words.fails("hold")]
    return [say.fast_enough(hold=hold, shutter_s=longest_s, limit_s=limit).holds("hold")]


def _standing(facts: ShotFacts, settings: Settings, hold: Hold) -> list[Reason]:
    if hold == Hold.BEAN_BAG and settings.camera_height_m > _BAG_MOST_M:
        return [say.bean_bag_too_high(camera_height_m=settings.camera_height_m).tight("camera_height_m")]
    if hold == Hold.TRIPOD and facts.support is None:
        return []
    wait = _LONG_TIMER_S if settings.focal_mm >= _LONG_LENS_MM else _SHORT_TIMER_S
    if facts.sequence.timer_s < wait * 0.99:
        return [say.timer(wait_s=wait, timer_s=facts.sequence.timer_s).caution("timer_s")]
    return []


def rail_words(facts: ShotFacts) -> str:
    """Return how a stack moves from frame to frame: on the rail, by leaning in, or by moving the subject."""
    if facts.frame.hold in IN_HAND:
        return "leaning in"
    return "moving the subject" if facts.depth.subject_moves else "on the rail"


def rail_mark(facts: ShotFacts, rail_mm: float) -> str:
    """Return the position of a frame of such a stack, as the run sheet shows it."""
    return f"{rail_moves(facts)} {rail_mm:.2f} mm"


def rail_moves(facts: ShotFacts) -> str:
    """Return the part that moves from frame to frame of such a stack."""
    return "lean in" if facts.frame.hold in IN_HAND else "subject" if facts.depth.subject_moves else "rail"


def stack_reasons(facts: ShotFacts, count: int, step_mm: float) -> list[Reason]:
    """Return the reasons about a stack on a rail or by hand. step_mm: from frame to frame."""
    if facts.frame.hold in IN_HAND:
        return _leaning(facts, count, step_mm)
    travel = step_mm * (count - 1)
    rail = next(iter(facts.rig(AccessoryKind.RAIL)), None)
    rail_travel, rail_finest = (rail.travel_mm or 0.0, rail.finest_mm or 0.0) if rail else (0.0, 0.0)
    words = say.rail_stack(
        frames=count,
        step_mm=step_mm,
        travel_mm=travel,
        moves_subject=facts.depth.subject_moves,
        rail=rail.name if rail else None,
        rail_travel_mm=rail_travel,
        rail_finest_mm=rail_finest,
    )
    if rail is None:
        return [words.holds("overlap"), say.no_rail().caution("accessory_ids")]
    if travel > rail_travel * 1.001 or step_mm < rail_finest * 0.999:
        return [words.fails("accessory_ids")]
    return [words.holds("overlap")]


def _leaning(facts: ShotFacts, count: int, step_mm: float) -> list[Reason]:
    rate, taught = facts.depth.frames_per_s, facts.taught.series
    # A rate entered for this shot takes precedence over the log's.
    given = facts.depth.hit_rate
    hits = given if given is not None or taught is None else taught.value
    if rate is None:
        return [say.hand_stack_rate_missing(frames=count, step_mm=step_mm).unsaid("frames_per_s")]
    found = [say.hand_stack(frames=count, step_mm=step_mm, frames_per_s=rate).holds("frames_per_s")]
    if hits is None:
        found.append(say.hand_stack_hits_missing().caution("hit_rate"))
    else:
        series = taught.frames if given is None and taught is not None else None
        found.append(
            say.hand_stack_tries(hit_rate=hits, log_series=series, tries=math.ceil(1 / hits - 1e-9)).holds("hit_rate")
        )
    return [*found, say.hands().caution("hold")]
