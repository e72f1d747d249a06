"""By how much wishes are missed: one rule for a plan and for all candidates at once."""

from __future__ import annotations

from typing import Any, Protocol

import numpy as np

from ..facts.shot import ShotFacts
from ..planning.exposure.water import WantedTime
from .goals import Goal, Wish

# What rounding of marked times leaves.
SLACK = 1e-6
HAND_SLACK = 1.07


class Figures(Protocol):
    """What wishes are judged by: of one plan numbers, of many candidates arrays that broadcast together.

    None: nobody knows, and nothing is missed.
    """

    @property
    def facts(self) -> ShotFacts:
        """How it is held and when it begins."""
        ...

    def can_be_timed(self) -> Any:
        """Whether the body has all the times, and the light lasts for them."""
        ...

    def blur_times(self) -> Any:
        """The worst blur over the limit; infinite where it cannot be counted on."""
        ...

    def time_of(self, wish: Wish) -> tuple[Any, WantedTime]:
        """The time [s] that a motion's wish is judged by, and the times that it asks for."""
        ...

    def lost_stops(self) -> Any: ...

    def highest_iso(self) -> Any: ...

    def frames(self) -> Any: ...

    def total_s(self) -> Any: ...

    def available_s(self) -> float | None:
        """From the start until the light has ended."""
        ...

    def longest_s(self) -> Any: ...

    def by_hand_s(self) -> float | None:
        """The longest time that the hand holds still; None on a support."""
        ...

    def dark_share(self) -> Any:
        """The share of the half diagonal that filters cut off."""
        ...

    def f_number(self) -> Any: ...

    def iso(self) -> Any: ...

    def filters_changed(self) -> Any: ...


def missed(wish: Wish, figures: Figures, before: ShotFacts) -> Any:
    """Return by how much a wish is missed, in the units of its goal; 0 where it is not.

    before: the shot as it stands.
    """
    said = before.wishes
    match wish.goal:
        case Goal.TIMES:
            return np.where(figures.can_be_timed(), 0.0, np.inf)
        case Goal.SHARP:
            return over_log2(figures.blur_times())
        case Goal.MOTION:
            time, times = figures.time_of(wish)
            return over_log2(time / times.to_s) if wish.frozen and times.from_s == 0 else times.over_stops(time)
        case Goal.RANGE:
            return figures.lost_stops()
        case Goal.NOISE:
            return over_log2(figures.highest_iso() / (said.most_iso or 1))
        case Goal.FRAMES:
            return over_log2(figures.frames() / (said.most_frames or 1))
        case Goal.MINUTES:
            return over_log2(figures.total_s() / 60 / (said.most_min or 1))
        case Goal.LIGHT:
            available = figures.available_s()
            return 0.0 if available is None else np.maximum(0.0, figures.total_s() - available) / 60
        case Goal.STEADY:
            limit, longest = figures.by_hand_s(), figures.longest_s()
            return 0.0 if limit is None else np.where(longest > limit * HAND_SLACK, np.log2(longest / limit), 0.0)
        case Goal.CORNERS:
            return figures.dark_share()
        case _:
            return _changed(wish.goal, figures, before)


def _changed(goal: Goal, figures: Figures, before: ShotFacts) -> Any:
    """Return by how much a choice of the photographer is changed, 0 if it is kept."""
    match goal:
        case Goal.APERTURE:
            return np.abs(2 * np.log2(figures.f_number() / (before.depth.f_number or figures.f_number())))
        case Goal.ISO:
            return np.abs(np.log2(figures.iso() / (before.exposure.iso or figures.iso())))
        case Goal.FILTERS:
            return figures.filters_changed()
        case Goal.HOLD:
            return float(figures.facts.frame.hold != before.frame.hold)
        case Goal.START:
            here, there = figures.facts.light.time_utc, before.light.time_utc
            return abs((here - there).total_seconds()) / 60 if here is not None and there is not None else 0.0
        case _:
            raise ValueError(f"{goal} is no choice of settings")


def over_log2(times: Any) -> Any:
    """Return by how many doublings something is over one; what rounding leaves is none."""
    return np.where(np.asarray(times) > 1 + SLACK, np.log2(np.maximum(times, 1.0)), 0.0)
