"""The wishes that plans are held against, each judged by what the plan's own rules say of it."""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum

from ..exposure.moving_things import MotionWish
from ..facts.choices import IN_HAND, BracketMode
from ..facts.settings import Settings, settings_of
from ..facts.shot import ShotFacts
from ..facts.wishes import Stake
from ..planning.filter_vignetting import shot_vignetting
from ..planning.holding import slowest_by_hand_s
from ..planning.movers import Mover, Told, must_be_frozen
from ..planning.plan import ShotPlan
from ..planning.tonal_range import SceneRange, lost_stops, scene_range
from ..planning.water import WantedTime, wanted_time

# What rounding of marked times leaves.
SLACK = 1e-6
HAND_SLACK = 1.07


class Goal(StrEnum):
    """What a wish is about; its amount where it is missed stands beside it."""

    SHARP = "sharp"  # stops of blur over the limit
    MOTION = "motion"  # stops of shutter time
    RANGE = "range"  # stops of the scene's range
    NOISE = "noise"  # stops of ISO
    FRAMES = "frames"  # doublings
    MINUTES = "minutes"  # doublings
    LIGHT = "light"  # minutes
    STEADY = "steady"  # stops of shutter time
    CORNERS = "corners"  # share of the half diagonal
    TIMES = "times"  # what the body cannot take
    APERTURE = "aperture"  # stops
    ISO = "iso"  # stops
    FILTERS = "filters"  # pieces
    HOLD = "hold"
    START = "start"  # minutes


# What no photographer can give way on.
NEVER_RELEASED = (Goal.TIMES, Goal.STEADY)


@dataclass(frozen=True)
class Wish:
    """stake: what it counts. times: of motion, what is wanted; freezes: whether it must be frozen, because it must be sharp. mover: whose."""

    goal: Goal
    stake: Stake
    name: str
    times: WantedTime | None = None
    element_id: int | None = None
    frozen: bool = False

    @property
    def must(self) -> bool:
        return self.stake == Stake.MUST


def stated_wishes(facts: ShotFacts, plan: ShotPlan) -> tuple[Wish, ...]:
    """Return what is wished of a shot and can be judged; plan: of the shot as it stands."""
    said, body = facts.wishes, facts.body
    found = [Wish(Goal.TIMES, Stake.MUST, "times that the body has"), Wish(Goal.STEADY, Stake.MUST, "a steady camera")]
    if plan.depth.near_m is not None:
        found.append(Wish(Goal.SHARP, said.sharp_stake, "sharpness"))
    found += _motion_wishes(facts, plan)
    if span_of(facts, plan).stops is not None:
        found.append(Wish(Goal.RANGE, said.range_stake, "highlights and shadows"))
    if said.most_iso is not None:
        found.append(Wish(Goal.NOISE, said.noise_stake, f"ISO {said.most_iso:g} at most"))
    if said.most_frames is not None:
        found.append(Wish(Goal.FRAMES, said.frames_stake, f"{said.most_frames} frame{'s' if said.most_frames > 1 else ''} at most"))
    if said.most_min is not None:
        found.append(Wish(Goal.MINUTES, said.minutes_stake, f"{said.most_min:g} min at most"))
    if plan.light.window_end_utc is not None and facts.light.time_utc is not None:
        found.append(Wish(Goal.LIGHT, said.light_stake, f"done before {plan.light.ends_name} ends"))
    if facts.lens is not None and facts.lens.filter_thread_mm is not None and facts.lens.pupil_depth_mm is not None:
        found.append(Wish(Goal.CORNERS, Stake.MUST, "free corners"))
    if facts.depth.f_number is not None:
        found.append(Wish(Goal.APERTURE, said.keep_aperture, "the aperture that is set"))
    if facts.exposure.iso is not None and body is not None:
        found.append(Wish(Goal.ISO, said.keep_iso, "the ISO that is set"))
    found.append(Wish(Goal.FILTERS, said.keep_filters, "the filters on the lens"))
    found.append(Wish(Goal.HOLD, said.keep_hold, f"held by {facts.frame.hold}"))
    if facts.light.time_utc is not None:
        found.append(Wish(Goal.START, said.keep_start, "the start that is set"))
    return tuple(item for item in found if item.stake != Stake.FREE)


def _motion_wishes(facts: ShotFacts, plan: ShotPlan) -> list[Wish]:
    stake = facts.wishes.motion_stake
    frozen = {item.id for item, _ in must_be_frozen(facts, plan.exposure.movers)}
    found = []
    for item in plan.exposure.movers:
        wanted = motion_wanted(facts, item)
        if wanted is not None and not (item.told == Told.WIND and not item.main):
            found.append(Wish(Goal.MOTION, stake, item.name, wanted, item.id, item.wish == MotionWish.FROZEN and not item.main))
        elif wanted is None and item.id in frozen:
            found.append(Wish(Goal.MOTION, stake, item.name, WantedTime(0.0, item.freezes_s), item.id, True))
    typed = facts.exposure.wanted_shutter_s
    if typed is not None and not any(item.main for item in plan.exposure.movers):
        found.append(Wish(Goal.MOTION, stake, "the shutter", WantedTime(typed, typed)))
    return found


def motion_wanted(facts: ShotFacts, item: Mover) -> WantedTime | None:
    """Return the times wanted of something that moves: for the main one those of the shot, else its own wish's."""
    wanted = wanted_time(facts, item.bands) if item.main else None
    return wanted if wanted is not None else item.wanted


def span_of(facts: ShotFacts, plan: ShotPlan) -> SceneRange:
    """Return the range that must be held, as the exposure of a plan has it."""
    predicted = plan.exposure.predicted
    through = 0.0 if predicted else sum(0.0 if item.kind == "graduated" else item.stops for item in facts.filters if item.on_when_metered)
    return scene_range(facts, through, metered=not predicted)


def missed_by(facts: ShotFacts, plan: ShotPlan, wishes: tuple[Wish, ...], before: ShotFacts) -> dict[Wish, float]:
    """Return by how much a plan misses each wish, 0 where it does not: what its own verdicts are made of. facts: of the plan; before: the shot as it stands."""
    settings = settings_of(facts)
    assert settings is not None
    return {wish: _missed_by(facts, settings, plan, wish, before) for wish in wishes}


def _missed_by(facts: ShotFacts, settings: Settings, plan: ShotPlan, wish: Wish, before: ShotFacts) -> float:
    depth, exposure, sequence, said, body = plan.depth, plan.exposure, plan.sequence, facts.wishes, facts.body
    assert body is not None
    frames, taken = sequence.frames, exposure.exposures
    if not taken or not frames:
        return math.inf if wish.goal in (Goal.TIMES, Goal.SHARP) else 0.0
    shortest, longest = min(item.shutter_s for item in taken), max(item.shutter_s for item in taken)
    match wish.goal:
        case Goal.TIMES:
            return 0.0 if body.can_time(shortest) and body.can_time(longest) else math.inf
        case Goal.SHARP:
            if len(depth.positions) > 1 and stacks_unsaid(facts):
                return math.inf
            return over_log2((depth.worst_blur_mm or math.inf) / settings.coc_mm)
        case Goal.MOTION:
            times = _times_now(facts, plan, wish)
            in_short = wish.frozen and facts.exposure.bracket == BracketMode.FROZEN_AND_LONG and len(taken) > 1
            time = shortest if in_short else taken[exposure.carrying].shutter_s
            if wish.frozen and times.from_s == 0:
                return over_log2(time / times.to_s)
            return float(times.over_stops(time))
        case Goal.RANGE:
            span = span_of(facts, plan)
            held = [taken[exposure.carrying]] if facts.exposure.bracket == BracketMode.FROZEN_AND_LONG else list(taken)
            return float(lost_stops(span, facts.exposure.highlight_margin_ev, held[0].brightest_ev, held[-1].darkest_ev, body.film))
        case Goal.NOISE:
            return over_log2(max(frame.iso for frame in frames) / (said.most_iso or 1))
        case Goal.FRAMES:
            return over_log2(len(frames) / (said.most_frames or 1))
        case Goal.MINUTES:
            return over_log2((sequence.total_s or 0.0) / 60 / (said.most_min or 1))
        case Goal.LIGHT:
            if sequence.total_s is None or sequence.available_s is None:
                return 0.0
            return max(0.0, sequence.total_s - sequence.available_s) / 60
        case Goal.STEADY:
            limit = slowest_by_hand_s(facts, settings, depth.imaging)
            return 0.0 if limit is None or longest <= limit * HAND_SLACK else math.log2(longest / limit)
        case Goal.CORNERS:
            found = shot_vignetting(facts, settings, body)
            return 0.0 if found is None else max(0.0, 1 - found.dark_from_mm / found.corner_mm)
        case Goal.APERTURE:
            return abs(2 * math.log2(settings.f_number / (before.depth.f_number or settings.f_number)))
        case Goal.ISO:
            return abs(math.log2(settings.iso / (before.exposure.iso or settings.iso)))
        case Goal.FILTERS:
            return float(len({item.id for item in facts.filters if item.on_lens} ^ {item.id for item in before.filters if item.on_lens}))
        case Goal.HOLD:
            return float(facts.frame.hold != before.frame.hold)
        case Goal.START:
            here, there = facts.light.time_utc, before.light.time_utc
            return abs((here - there).total_seconds()) / 60 if here is not None and there is not None else 0.0


def stacks_unsaid(facts: ShotFacts) -> bool:
    """Whether a stack cannot be counted on: by hand, while nobody said how many frames a second are taken as one leans in."""
    return facts.frame.hold in IN_HAND and facts.depth.frames_per_s is None


def _times_now(facts: ShotFacts, plan: ShotPlan, wish: Wish) -> WantedTime:
    """Return the times that a wish asks for as a plan is focused, which may differ a little from the shot's own."""
    assert wish.times is not None
    item = next((item for item in plan.exposure.movers if item.id == wish.element_id and item.name == wish.name), None)
    if item is None:
        return wish.times
    return motion_wanted(facts, item) or WantedTime(0.0, item.freezes_s)


def over_log2(times: float) -> float:
    """Return by how many doublings something is over one; what rounding leaves is none."""
    return math.log2(times) if times > 1 + SLACK else 0.0
