"""Step 5, ways to hold sky and land: a graduated filter, a bracket, two frames, or one for the highlights, side by
side with what each costs. Each is judged by its own frames, as exposure plans them, on the picture's own tones.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from ...errors import InputError
from ...exposure.bracketing import HIGHLIGHT_ROOM_STOPS, plan_bracket
from ...facts.choices import BracketMode, ExposureChoices
from ...facts.declaring import facts_of
from ...facts.filters import Filter
from ...facts.kit import Body
from ...facts.shot import ShotFacts
from ...framing.solids import BROAD, FLAT
from ...tones.picture import SKY
from ...units.lengths import format_duration
from ...units.spelling import percent
from ..exposure.exposures import through_stops
from ..exposure.plan import ExposureStep, plan_exposure
from ..exposure.reading_in_force import reading_in_force
from ..exposure.tonal_range import Exposure, scene_range
from ..plan.shot_plan import ShotPlan
from ..sequence.timeline import filter_change_s, overheads_of
from .plan import LET_GO, TonesStep, seen_through, tone_range_ev
from .reasons import nearest_graduated, needed_graduated_stops

Floats = NDArray[np.float64]
# What moves less between the frames of a set, over the frame's short side, blends as if it stood still.
_SEEN_SHARE = 0.002
# Shadows lifted by more than this show their noise (common practice).
_LIFT_STOPS = 3.0
# The most frames that a shot can say of a bracket.
_MOST_AROUND = int(facts_of(ExposureChoices)["bracket_count"].fact.high or 0)
_READ_FIRST = "read the highlights first; "


@dataclass(frozen=True, kw_only=True)
class SkyWay:
    """A way to hold sky and land.

    bracket, bracket_count and filters: the shot's values once it is taken; chosen: they are set now.

    frames and total_s: its cost; holds: whether its frames hold all tones of the picture but a hundredth at either end;
    lost_share: the part of the picture that none of them holds; risk: what may go wrong.
    """

    name: str
    bracket: BracketMode
    filters: tuple[Filter, ...]
    frames: int
    total_s: float
    holds: bool
    lost_share: float
    risk: str
    chosen: bool
    bracket_count: int | None = None


def sky_ways(facts: ShotFacts, plan: ShotPlan, step: TonesStep) -> tuple[SkyWay, ...]:
    """Return the ways, by the tones as they are predicted or read; empty without a sky in the frame or an exposure."""
    sky = step.picture.marks == SKY
    if facts.body is None or plan.exposure.shutter_s is None or not sky.any() or sky.all():
        return ()
    made = _Ways(reading_in_force(facts), plan, step, facts.body)
    return (*made.graduated(), *made.bracket(), made.land_and_sky(), made.for_the_highlights())


def lost_shares(seen_ev: Floats, exposures: tuple[Exposure, ...]) -> tuple[float, float, float]:
    """Return which shares of a picture no exposure of a set holds: above all, below all, and between two of them."""
    over = seen_ev > max(item.brightest_ev for item in exposures)
    under = seen_ev < min(item.darkest_ev for item in exposures)
    held = np.zeros(seen_ev.shape, dtype=bool)
    for item in exposures:
        held |= (seen_ev >= item.darkest_ev) & (seen_ev <= item.brightest_ev)
    return float(over.mean()), float(under.mean()), float((~held & ~over & ~under).mean())


@dataclass(frozen=True)
class _Ways:
    facts: ShotFacts
    plan: ShotPlan
    step: TonesStep
    body: Body

    def graduated(self) -> tuple[SkyWay, ...]:
        """Return the way by the filter of the bag that comes nearest to what the sky asks for; empty without one."""
        best = nearest_graduated(self.facts, needed_graduated_stops(self.step) or 0.0)
        if best is None:
            return ()
        through = [
            item.name
            for at, item in enumerate(self.facts.elements)
            if item.shape not in (*BROAD, *FLAT) and _meets_the_sky(self.step, at)
        ]
        risk = f"darkens {' and '.join(through)} at the top" if through else "its edge must lie on the skyline"
        made = self._way(best.name, _with_graduated(self.facts, best.id), BracketMode.NONE, risk)
        return (replace(made, total_s=made.total_s + filter_change_s(self.facts)),)

    def bracket(self) -> tuple[SkyWay, ...]:
        """Return the way by a bracket: over the range where that was read, else around the reading in as many frames
        as hold the picture; empty where one frame holds it all, or no bracket does.
        """
        said = self.facts.exposure
        span = scene_range(replace(self.facts, filters=self.bare), 0.0, metered=not self.plan.exposure.predicted)
        shadow, highlight = span.shadow_ev, span.highlight_ev
        read = shadow is not None and highlight is not None
        ends = (shadow, highlight) if shadow is not None and highlight is not None else self._ends()
        try:
            count = plan_bracket(*ends, self.step.held_stops, said.bracket_step_ev, said.highlight_margin_ev).count
        except InputError:
            return ()
        if count < 2:
            return ()
        risk = "frames must fit each other: tripod"
        if read:
            return (self._way("bracket over the range", self.bare, BracketMode.RANGE, risk),)
        # The reading is seldom the middle of the range: frames are added until the farther end is held.
        made = None
        for frames in range(count, _MOST_AROUND + 1):
            made = self._way("bracket around the reading", self.bare, BracketMode.AROUND, risk, frames)
            if made.holds:
                break
        return (made,) if made is not None else ()

    def land_and_sky(self) -> SkyWay:
        """Return the way by two frames."""
        risk = f"{self._first}a mask along the skyline, by hand"
        return self._way("land and sky, blended", self.bare, BracketMode.LAND_AND_SKY, risk)

    def for_the_highlights(self) -> SkyWay:
        """Return the way by one frame that holds the highlights, its shadows lifted afterwards."""
        _, high = tone_range_ev(self.step.bare_ev)
        lifted = max(0.0, high - self.step.middle_ev - HIGHLIGHT_ROOM_STOPS)
        noisy = lifted > _LIFT_STOPS
        risk = f"{self._first}land lifted by {lifted:.1f} stops afterwards{': noise' if noisy else ''}"
        made = self._way("one, for the highlights", self.bare, BracketMode.HIGHLIGHTS, risk)
        return replace(made, holds=made.holds and not noisy)

    @property
    def bare(self) -> tuple[Filter, ...]:
        """The bag with no graduated filter on the lens."""
        return _with_graduated(self.facts, None)

    @property
    def _first(self) -> str:
        said = self.facts.exposure
        return "" if said.highlight_ev is not None or self.facts.spots else _READ_FIRST

    def _ends(self) -> tuple[float, float]:
        return tone_range_ev(self.step.bare_ev)

    def _way(
        self, name: str, filters: tuple[Filter, ...], bracket: BracketMode, risk: str, count: int | None = None
    ) -> SkyWay:
        facts, said = self.facts, self.facts.exposure
        taken = replace(facts, filters=filters).choosing(bracket=bracket, bracket_count=count or said.bracket_count)
        exposure = self._exposed(taken)
        seen = seen_through(self.step, taken)
        total, between = self._lasts_s(taken, exposure)
        moved = _moved_words(exposure, between) if len(exposure.exposures) > 1 else ""
        over, under, gap = lost_shares(seen, exposure.exposures)
        return SkyWay(
            name=name,
            bracket=bracket,
            filters=filters,
            frames=len(exposure.exposures),
            total_s=total,
            holds=max(over, under, gap) <= LET_GO,
            lost_share=over + under + gap,
            risk=f"{moved}; {risk}" if moved else risk,
            chosen=said.bracket == bracket
            and filters == facts.filters
            and (count is None or said.bracket_count == count),
            bracket_count=count,
        )

    def _lasts_s(self, facts: ShotFacts, exposure: ExposureStep) -> tuple[float, float]:
        """Return how long a way's frames take as the sequence has them, and the time from the first opening of the
        shutter to the last closing [s].
        """
        automatic = exposure.bracket_automatic is True
        overheads = overheads_of(facts, self.body, 0.0, automatic)
        times = [item.shutter_s for item in exposure.exposures]
        dark = math.fsum(overheads.dark_s(time) for time in times)
        total = float(overheads.block_s(1, len(times), 1, math.fsum(times), dark, automatic))
        after = overheads.write_s + overheads.dark_s(times[-1])
        return total, total - overheads.timer_s - overheads.mirror_s - after

    def _exposed(self, facts: ShotFacts) -> ExposureStep:
        """Return the exposures of a way. Where the range was not read, the picture's own tones stand for readings."""
        if facts.exposure.highlight_ev is None and not facts.spots:
            low, high = self._ends()
            through = through_stops(facts, metered=not self.plan.exposure.predicted)
            shadow = facts.exposure.shadow_ev
            facts = facts.choosing(
                highlight_ev=high - through - _read_through_graduated(facts, self.plan.exposure),
                shadow_ev=low - through if shadow is None else shadow,
            )
        return plan_exposure(facts.seen_from_camera, self.plan.light, self.plan.depth)


def _moved_words(exposure: ExposureStep, span_s: float) -> str:
    """Return how far what moves goes from the first frame of a set to the last, over the frame's short side; empty
    where nothing moves so far that it is seen.
    """
    moved = [(item.name, item.streak_mm_per_s * span_s / item.short_side_mm) for item in exposure.movers]
    seen = [(name, share) for name, share in moved if share >= _SEEN_SHARE]
    if not seen:
        return ""
    words = " and ".join(f"{name} {percent(share) if share < 1 else 'more than all'}" for name, share in seen)
    return f"in {format_duration(span_s)} from first to last, {words} of the frame's short side"


def _read_through_graduated(facts: ShotFacts, exposure: ExposureStep) -> float:
    """Return how much graduated filters darkened a reading of the highlights [stops]."""
    if exposure.predicted:
        return 0.0
    return sum(item.stops for item in facts.filters if item.kind.graduates and item.on_when_metered)


def _with_graduated(facts: ShotFacts, filter_id: int | None) -> tuple[Filter, ...]:
    """Return the bag with one graduated filter on the lens, or none."""
    return tuple(replace(item, on_lens=item.id == filter_id) if item.kind.graduates else item for item in facts.filters)


def _meets_the_sky(step: TonesStep, at: int) -> bool:
    """Whether an element stands against the sky in the picture."""
    mask = step.picture.marks == at
    above = np.zeros_like(mask)
    above[:-1] = mask[1:]
    return bool((above & (step.picture.marks == SKY)).any())
