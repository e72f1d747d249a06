"""The wishes that plans are held against, each judged by what the plan's own rules say of it."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ..exposure.moving_things import MotionWish
from ..facts.choices import IN_HAND, BracketMode
from ..facts.kit import Body
from ..facts.settings import Settings, settings_of
from ..facts.shot import ShotFacts
from ..facts.wishes import Stake
from ..labels import label_of
from ..planning.exposure.movers import Mover, Told, must_be_frozen
from ..planning.exposure.reading_in_force import reading_in_force
from ..planning.exposure.tonal_range import SceneRange, lost_stops, scene_range
from ..planning.exposure.water import WantedTime, wanted_time
from ..planning.focus.holding import slowest_by_hand_s
from ..planning.frame.filter_vignetting import shot_vignetting
from ..planning.plan.shot_plan import ShotPlan
from .goals import Goal, Wish
from .missed import missed


def stated_wishes(facts: ShotFacts, plan: ShotPlan) -> tuple[Wish, ...]:
    """Return the wishes of a shot that can be judged. plan: of the shot as it stands."""
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
        found.append(
            Wish(
                Goal.FRAMES, said.frames_stake, f"{said.most_frames} frame{'s' if said.most_frames > 1 else ''} at most"
            )
        )
    if said.most_min is not None:
        found.append(Wish(Goal.MINUTES, said.minutes_stake, f"{said.most_min:g} min at most"))
    if plan.light.window_end_utc is not None and facts.light.time_utc is not None:
        found.append(Wish(Goal.LIGHT, said.light_stake, f"done before {label_of(plan.light.ends_name)} ends"))
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
            found.append(
                Wish(Goal.MOTION, stake, item.name, wanted, item.id, item.wish == MotionWish.FROZEN and not item.main)
            )
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
    through = (
        0.0
        if predicted
        else sum(0.0 if item.kind == "graduated" else item.stops for item in facts.filters if item.on_when_metered)
    )
    return scene_range(facts, through, metered=not predicted)


def missed_by(facts: ShotFacts, plan: ShotPlan, wishes: tuple[Wish, ...], before: ShotFacts) -> dict[Wish, float]:
    """Return by how much a plan misses each wish, 0 where it does not: what its own verdicts are made of.

    facts: of the plan; before: the shot as it stands.
    """
    facts, settings = reading_in_force(facts), settings_of(facts)
    assert settings is not None
    if not plan.exposure.exposures or not plan.sequence.frames:
        return {wish: math.inf if wish.goal in (Goal.TIMES, Goal.SHARP) else 0.0 for wish in wishes}
    figures = _PlanFigures(facts, settings, plan, before)
    return {wish: float(missed(wish, figures, before)) for wish in wishes}


@dataclass(frozen=True)
class _PlanFigures:
    """Of one plan, with exposures and frames."""

    facts: ShotFacts
    settings: Settings
    plan: ShotPlan
    before: ShotFacts

    @property
    def _body(self) -> Body:
        assert self.facts.body is not None
        return self.facts.body

    @property
    def _shutters_s(self) -> tuple[float, ...]:
        return tuple(item.shutter_s for item in self.plan.exposure.exposures)

    def can_be_timed(self) -> bool:
        outrun = any(reason.code == "exposure.light_too_fast" for reason in self.plan.exposure.reasons)
        return (
            not outrun and math.isfinite(self.total_s()) and all(self._body.can_time(time) for time in self._shutters_s)
        )

    def blur_times(self) -> float:
        depth = self.plan.depth
        if len(depth.positions) > 1 and stacks_unsaid(self.facts):
            return math.inf
        return (depth.worst_blur_mm or math.inf) / self.settings.coc_mm

    def time_of(self, wish: Wish) -> tuple[float, WantedTime]:
        pair = self.facts.exposure.bracket == BracketMode.FROZEN_AND_LONG and len(self._shutters_s) > 1
        time = min(self._shutters_s) if wish.frozen and pair else self._shutters_s[self.plan.exposure.carrying]
        return time, _times_now(self.facts, self.plan, wish)

    def lost_stops(self) -> float:
        exposure, said = self.plan.exposure, self.facts.exposure
        held = (
            [exposure.exposures[exposure.carrying]]
            if said.bracket == BracketMode.FROZEN_AND_LONG
            else list(exposure.exposures)
        )
        span = span_of(self.facts, self.plan)
        return float(
            lost_stops(span, said.highlight_margin_ev, held[0].brightest_ev, held[-1].darkest_ev, self._body.film)
        )

    def highest_iso(self) -> float:
        return max(frame.iso for frame in self.plan.sequence.frames)

    def frames(self) -> int:
        return len(self.plan.sequence.frames)

    def total_s(self) -> float:
        # Frames that come after the light have no end.
        late = any(reason.code == "sequence.too_dark" for reason in self.plan.sequence.reasons)
        return math.inf if late else self.plan.sequence.total_s or 0.0

    def available_s(self) -> float | None:
        return self.plan.sequence.available_s

    def longest_s(self) -> float:
        return max(self._shutters_s)

    def by_hand_s(self) -> float | None:
        return slowest_by_hand_s(self.facts, self.settings, self.plan.depth.imaging)

    def dark_share(self) -> float:
        return cut_share(self.facts, self.settings, self._body)

    def f_number(self) -> float:
        return self.settings.f_number

    def iso(self) -> float:
        return self.settings.iso

    def filters_changed(self) -> int:
        return len(
            {item.id for item in self.facts.filters if item.on_lens}
            ^ {item.id for item in self.before.filters if item.on_lens}
        )


def cut_share(facts: ShotFacts, settings: Settings, body: Body) -> float:
    """Return the share of the half diagonal that filters cut off."""
    seen = shot_vignetting(facts, settings, body)
    return 0.0 if seen is None else max(0.0, 1 - seen.dark_from_mm / seen.corner_mm)


def stacks_unsaid(facts: ShotFacts) -> bool:
    """Whether a stack cannot be counted on: by hand, while nobody said how many frames a second are taken as one leans
    in.
    """
    return facts.frame.hold in IN_HAND and facts.depth.frames_per_s is None


def _times_now(facts: ShotFacts, plan: ShotPlan, wish: Wish) -> WantedTime:
    """Return the times that a wish asks for as a plan is focused, which may differ a little from the shot's own."""
    assert wish.times is not None
    item = next((item for item in plan.exposure.movers if item.id == wish.element_id and item.name == wish.name), None)
    if item is None:
        return wish.times
    return motion_wanted(facts, item) or WantedTime(0.0, item.freezes_s)
