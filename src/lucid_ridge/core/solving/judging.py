"""All candidates of one way of holding and one start, judged at once by the rules that judge a plan.

Arrays have the axes (set of exposures, method of focus, aperture, ISO, glass), those of one set the last four; what
does not depend on one of them is one long there.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, field, replace

import numpy as np
from numpy.typing import NDArray

from ..facts.choices import BracketMode
from ..facts.settings import settings_of
from ..facts.shot import ShotFacts
from ..planning.exposure.water import WantedTime
from ..planning.focus.holding import slowest_by_hand_s
from ..planning.light.changing_light import changing_light
from ..planning.light.plan import LightStep
from ..planning.plan.shot_plan import ShotPlan
from ..planning.sequence.timeline import Overheads, overheads_of
from .exposed_sets import Exposed, dark_frames_s, exposed_sets
from .focus_table import FocusTable
from .goals import Goal, Wish
from .missed import missed
from .space import Space
from .wishes import cut_share, stacks_unsaid

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class Judged:
    """missed: by how much each wish is missed. figures: what a plan costs, for choosing among those that do."""

    missed: dict[Wish, Floats]
    frames: Floats
    total_s: Floats
    carrying_s: Floats
    blur_times: Floats
    iso: Floats
    shape: tuple[int, ...] = field(default=())


def judge(
    facts: ShotFacts,
    plan: ShotPlan,
    light: LightStep,
    space: Space,
    focus: FocusTable,
    before: ShotFacts,
    wishes: tuple[Wish, ...],
    shift_stops: float = 0.0,
) -> Judged | None:
    """Return all candidates' judgement; None while there is no light to expose for.

    facts: with this way of holding and this start; plan: of the shot as it stands; light: of this start. shift_stops:
    by how much brighter the light is than it is thought to be.
    """
    frozen = [
        item.times.to_s
        for item in wishes
        if item.goal == Goal.MOTION and item.frozen and item.times is not None and item.times.from_s == 0
    ]
    sets = exposed_sets(facts, light, space, focus.extension_stops, min(frozen, default=math.inf), shift_stops)
    if sets is None:
        return None
    figures = _ManyFigures(facts, plan, light, space, focus, before, sets)
    by_wish = {wish: np.asarray(missed(wish, figures, before), dtype=np.float64) for wish in wishes}
    return Judged(
        by_wish,
        figures.frames(),
        figures.total_s(),
        figures.carrying_s,
        figures.blur_times(),
        figures.highest_iso(),
        figures.shape,
    )


def _followed(item: Exposed) -> NDArray[np.bool_]:
    return item.followed if item.followed is not None else np.zeros(1, dtype=bool)


class _ManyFigures:
    """Of all candidates."""

    def __init__(
        self,
        facts: ShotFacts,
        plan: ShotPlan,
        light: LightStep,
        space: Space,
        focus: FocusTable,
        before: ShotFacts,
        sets: tuple[Exposed, ...],
    ) -> None:
        settings, body = settings_of(facts), facts.body
        assert settings is not None and body is not None
        self.facts, self.plan, self.light, self.space, self.before, self.sets = facts, plan, light, space, before, sets
        self.settings, self.body = settings, body
        self.aims = (
            max(1, len(plan.frame.panorama.plan.aims)) if plan.frame.panorama and plan.frame.panorama.plan else 1
        )
        self.darks = np.array([glass.dark_stops for glass in space.glasses])
        self.carrying_s = np.stack([item.carrying_s for item in sets])
        self.shape = self.carrying_s.shape
        unsaid = (focus.frames > 1) & stacks_unsaid(facts)
        self._blur_times = np.where(unsaid, np.inf, focus.blur_times)[None, :, :, None, None]
        self._frames, self._total_s = self._frames_and_total_s(sets, focus.frames)

    def can_be_timed(self) -> NDArray[np.bool_]:
        follows = self.facts.exposure.follow_fading
        return np.stack(
            [
                (item.shortest_s >= self.body.shortest_s)
                & (item.longest_s <= self.body.longest_s)
                & np.broadcast_to(
                    _followed(item) if follows and item.steady is not None else item.gathers, item.longest_s.shape
                )
                for item in self.sets
            ]
        ) & np.isfinite(self._total_s)

    def blur_times(self) -> Floats:
        return self._blur_times

    def time_of(self, wish: Wish) -> tuple[Floats, WantedTime]:
        assert wish.times is not None
        pairs = [wish.frozen and mode == BracketMode.FROZEN_AND_LONG for mode in self.space.sets]
        times = [item.short_s if pair else item.carrying_s for item, pair in zip(self.sets, pairs, strict=True)]
        return np.stack(times), wish.times

    def lost_stops(self) -> Floats:
        return np.stack([item.lost if item.lost is not None else np.zeros(item.carrying_s.shape) for item in self.sets])

    def highest_iso(self) -> Floats:
        return np.stack([np.broadcast_to(item.iso, self.shape[1:]) for item in self.sets])

    def frames(self) -> Floats:
        return self._frames

    def total_s(self) -> Floats:
        return self._total_s

    def available_s(self) -> float | None:
        start, end = self.facts.light.time_utc, self.light.window_end_utc
        return (end - start).total_seconds() if start is not None and end is not None else None

    def longest_s(self) -> Floats:
        return np.stack([item.longest_s for item in self.sets])

    def by_hand_s(self) -> float | None:
        return slowest_by_hand_s(self.facts, self.settings, self.plan.depth.imaging)

    def f_number(self) -> Floats:
        return np.array(self.space.apertures)[:, None, None]

    def iso(self) -> Floats:
        return np.array(self.space.isos)[:, None]

    def filters_changed(self) -> Floats:
        now = {item.id for item in self.before.filters if item.on_lens}
        return np.array([float(len(glass.ids ^ now)) for glass in self.space.glasses])

    def dark_share(self) -> Floats:
        """Return the share of the half diagonal that filters cut off, by aperture and glass."""
        known: dict[tuple[object, ...], float] = {}
        found = np.zeros((len(self.space.apertures), len(self.space.glasses)))
        for at, glass in enumerate(self.space.glasses):
            rings = tuple((item.mount, item.thickness_mm if item.mount == "screw" else 0.0) for item in glass.filters)
            filters = tuple(replace(item, on_lens=True) for item in glass.filters)
            for row, f_number in enumerate(self.space.apertures):
                key = (rings, f_number)
                if key not in known:
                    known[key] = cut_share(
                        replace(self.facts, filters=filters), replace(self.settings, f_number=f_number), self.body
                    )
                found[row, at] = known[key]
        return found[None, None, :, None, :]

    def _frames_and_total_s(self, sets: tuple[Exposed, ...], count: Floats) -> tuple[Floats, Floats]:
        """Return how many frames there are and how long they take [s], later ones as long as their own light needs
        where that is followed.
        """
        frames, totals = self._steady_frames_and_total_s(sets, count)
        changing = changing_light(self.facts) if self.facts.exposure.follow_fading else None
        if changing is None:
            return frames, totals
        still = tuple(item.steady or item for item in sets)
        _, of_start = self._steady_frames_and_total_s(still, count)
        shut = tuple(
            replace(
                item,
                open_s=0 * item.open_s,
                dark_s=0 * item.dark_s,
                longest_s=0 * item.longest_s,
                shortest_s=0 * item.shortest_s,
            )
            for item in still
        )
        _, waits = self._steady_frames_and_total_s(shut, count)
        goes = np.stack([np.broadcast_to(_followed(item), self.shape[1:]) for item in sets])
        return frames, np.where(goes, changing.lasting_s(waits, of_start - waits), of_start)

    def _steady_frames_and_total_s(self, sets: tuple[Exposed, ...], count: Floats) -> tuple[Floats, Floats]:
        """Return how many frames there are and how long they take [s]."""
        n = count[:, :, None, None]
        frames, totals = [], []
        for item in sets:
            overheads = overheads_of(self.facts, self.body, 0.0, False)
            if item.one_far:
                # Of several focus positions the sky has one; in a panorama it has them all.
                several = (n > 1) & (item.count > 1) & (self.aims == 1)
                each = np.where(several, n + 1, n * item.count) * self.aims
                open_s = np.where(several, n * item.longest_s + item.shortest_s, n * item.open_s * self.aims)
                dark_s = np.where(
                    several,
                    n * dark_frames_s(self.body, item.longest_s) + dark_frames_s(self.body, item.shortest_s),
                    n * item.dark_s * self.aims,
                )
            else:
                each, open_s, dark_s = (
                    n * item.count * self.aims,
                    n * item.open_s * self.aims,
                    n * item.dark_s * self.aims,
                )
            frames.append(each)
            totals.append(self._lasts_s(overheads, item, n, each, open_s, dark_s))
        return np.stack(frames), np.stack(totals)

    def _lasts_s(
        self, overheads: Overheads, item: Exposed, n: Floats, frames: Floats, open_s: Floats, dark_s: Floats
    ) -> Floats:
        places = n * self.aims
        if overheads.burst_per_s:
            return np.asarray(overheads.burst_s(frames, open_s))
        automatic = item.automatic if item.automatic is not None else False
        block = overheads.block_s(places, frames / places, 1, open_s, dark_s, automatic)
        # The second of two groups goes through all positions again; each settles before its first frame.
        groups = np.where((item.count > 1) & (places > 1), 2.0, 1.0) if item.apart else 1.0
        settles = 1 + (groups - 1) * places
        if item.apart:
            # At a single focus it is the change of filters that has to settle.
            settles = settles + np.where((item.count > 1) & (self.darks > 0) & (places == 1), 1.0, 0.0)
        changes = (
            np.where((item.count > 1) & (self.darks > 0), self._dark_pieces, 0.0) * overheads.filter_change_s
            if item.apart
            else 0.0
        )
        turns = n * (self.aims - 1) * overheads.turn_s + (n - 1) * (overheads.turn_s if self.aims > 1 else 0.0)
        return np.asarray(block + settles * overheads.settle_s + changes + turns)

    @property
    def _dark_pieces(self) -> Floats:
        return np.array(
            [sum(item.kind.lengthens_exposure for item in glass.filters) for glass in self.space.glasses],
            dtype=np.float64,
        )
