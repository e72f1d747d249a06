"""Plans that fulfil the wishes, the best and others that differ in kind; if none does, the requirements to relax.

Every candidate is judged; the few that are shown are then planned, and their plans decide about the wishes.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..facts.choices import Hold
from ..facts.settings import settings_of
from ..facts.shot import ShotFacts
from ..facts.wishes import STAKE_WEIGHTS, Leaning, Stake
from ..labels import NamedEnum
from ..planning.exposure.reading_in_force import at_another_time, reading_in_force
from ..planning.light.plan import LightStep, plan_light
from ..planning.plan.shot_plan import ShotPlan, plan_shot
from .focus_table import FocusTable, focus_table
from .goals import NEVER_RELEASED, Goal, Wish
from .judging import Judged, judge
from .space import Candidate, Space, candidate_of, space_of
from .wishes import missed_by, stated_wishes

Floats = NDArray[np.float64]
# So many plans of other kinds beside the best, so many ways to give way, and so many tries until a plan keeps what
# was judged of it.
MOST_OTHERS, MOST_WAYS, _TRIES = 3, 4, 6
# What a wish's amount has to come to for a whole unit of annoyance.
_UNITS: dict[Goal, float] = {Goal.LIGHT: 10.0, Goal.START: 15.0, Goal.CORNERS: 0.2}
# Costs by school: a doubling of frames, a minute, a stop of ISO, a filter, a stop from the sharpest aperture, blur
# over half the limit, a stop away from what is set.
_COSTS: dict[Leaning, tuple[float, float, float, float, float, float]] = {
    Leaning.EVEN: (0.9, 0.10, 1.0, 0.35, 0.25, 0.6),
    Leaning.FEW: (3.0, 0.10, 0.8, 0.35, 0.20, 0.4),
    Leaning.SHARP: (0.3, 0.05, 0.8, 0.35, 0.80, 3.0),
    Leaning.CLEAN: (0.6, 0.05, 3.0, 0.30, 0.20, 0.5),
    Leaning.QUICK: (1.2, 1.00, 0.6, 0.50, 0.20, 0.4),
}
_CHANGE, _TIGHT = 0.04, 2.0


class PlanKind(NamedEnum):
    NOW = "now"
    BEST = "best"
    ONE_FRAME = "one_frame"
    FEWEST_FILTERS = "fewest_filters"
    SHARPEST = "sharpest"
    QUICKEST = "quickest"


@dataclass(frozen=True)
class Solved:
    """A candidate that is shown. missed: what its plan misses of the wishes, as that plan has it."""

    kind: PlanKind
    candidate: Candidate
    facts: ShotFacts
    plan: ShotPlan
    missed: dict[Wish, float]

    @property
    def blur_times(self) -> float | None:
        """Worst blur as a multiple of the limit; None if nothing must be sharp."""
        settings = settings_of(self.facts)
        return (
            self.plan.depth.worst_blur_mm / settings.coc_mm
            if settings and self.plan.depth.worst_blur_mm is not None
            else None
        )


@dataclass(frozen=True)
class Concession:
    """A smallest set of wishes whose release makes a plan possible, with by how much each is missed in the plan that
    asks least of them.
    """

    released: tuple[Wish, ...]
    solved: Solved


@dataclass(frozen=True, kw_only=True)
class Solution:
    """now: the shot as it stands.

    judged: how many candidates were. concessions: only where no candidate keeps all musts. if_darker, if_brighter: the
    best where the light is a stop less or more than predicted; None where it was metered, or nothing changes but the
    time.
    """

    wishes: tuple[Wish, ...]
    judged: int
    now: Solved
    best: Solved | None
    others: tuple[Solved, ...] = ()
    concessions: tuple[Concession, ...] = ()
    if_darker: Candidate | None = None
    if_brighter: Candidate | None = None
    predicted: bool = False


def solve(facts: ShotFacts) -> Solution | None:
    """Return the plans that fulfil a shot's wishes; None while body, lens or light are unknown, or if a flash lights
    the picture.

    Deterministic. If no candidate keeps all requirements: the smallest sets of them whose release does.
    """
    facts = reading_in_force(facts)
    plan = plan_shot(replace(facts, frame_groups=()))
    if settings_of(facts) is None or not plan.exposure.exposures or plan.exposure.flash is not None:
        return None
    facts = replace(facts, frame_groups=())
    wishes = stated_wishes(facts, plan)
    field = _Field(facts, plan, space_of(facts, plan), wishes)
    now = Solved(PlanKind.NOW, candidate_of(facts), facts, plan, missed_by(facts, plan, wishes, facts))
    best, others = field.found()
    if best is not None:
        darker, brighter = field.otherwise(best.candidate) if plan.exposure.predicted else (None, None)
        return Solution(
            wishes=wishes,
            judged=field.size,
            now=now,
            best=best,
            others=others,
            concessions=(),
            if_darker=darker,
            if_brighter=brighter,
            predicted=plan.exposure.predicted,
        )
    # What is kept by custom may give way too: another start, another hold.
    wide = _Field(facts, plan, space_of(_free(facts), plan), wishes, field.focus)
    return Solution(
        wishes=wishes,
        judged=wide.size,
        now=now,
        best=None,
        others=(),
        concessions=wide.concessions(),
        predicted=plan.exposure.predicted,
    )


def _free(facts: ShotFacts) -> ShotFacts:
    return facts.choosing(keep_hold=Stake.WISH, keep_start=Stake.WISH)


class _Field:
    """All candidates of a space, judged.

    masks: which musts each misses, a bit each; costs: what each costs where it misses none.
    """

    def __init__(
        self,
        facts: ShotFacts,
        plan: ShotPlan,
        space: Space,
        wishes: tuple[Wish, ...],
        focus: FocusTable | None = None,
        shift_stops: float = 0.0,
    ) -> None:
        self.facts, self.plan, self.space, self.wishes = facts, plan, space, wishes
        self.musts = tuple(wish for wish in wishes if wish.must)
        self.parts: list[tuple[Hold, Any, Judged]] = []
        self.focus = focus if focus is not None else focus_table(facts, plan, space)
        for hold, start in space.ways:
            here = at_another_time(facts.choosing(hold=hold), start)
            found = judge(
                facts=here,
                plan=plan,
                light=self._light_at(here),
                space=space,
                focus=self.focus,
                before=facts,
                wishes=wishes,
                shift_stops=shift_stops,
            )
            if found is not None:
                self.parts.append((hold, start, found))
        self.masks = np.stack([self._masks(part) for _, _, part in self.parts])
        self.costs = np.stack([self._costs(part, hold) for hold, _, part in self.parts])
        self.shape = self.masks.shape
        self.size = int(self.masks.size)

    def _light_at(self, facts: ShotFacts) -> LightStep:
        return self.plan.light if facts.light.time_utc == self.facts.light.time_utc else plan_light(facts)

    def _masks(self, part: Judged) -> NDArray[np.uint32]:
        found = np.zeros(part.shape, dtype=np.uint32)
        for bit, wish in enumerate(self.musts):
            found |= np.where(part.missed[wish] > 0, np.uint32(1 << bit), np.uint32(0))
        return found

    def _costs(self, part: Judged, hold: Hold) -> Floats:
        """Return the cost of a plan: by the school, by the optional wishes it misses, and a little for every change."""
        facts, space = self.facts, self.space
        settings, lens, body = settings_of(facts), facts.lens, facts.body
        assert settings is not None and lens is not None and body is not None
        frames, minute, iso, filters, aperture, blur = _COSTS[facts.wishes.leaning]
        apertures = np.array(space.apertures)[:, None, None]
        glass = np.array([float(len(item.filters)) for item in space.glasses])
        changed = np.array(
            [float(len(item.ids ^ {one.id for one in facts.filters if one.on_lens})) for item in space.glasses]
        )
        isos = np.array(space.isos)[:, None]
        # What hangs on aperture, ISO and glass alone first: the rest is as large as the field.
        small = aperture * np.abs(2 * np.log2(apertures / lens.sharpest_f_number)) + filters * glass
        small = small + _CHANGE * (
            np.abs(2 * np.log2(apertures / settings.f_number)) + np.abs(np.log2(isos / settings.iso)) + changed
        )
        soft = blur * np.clip(part.blur_times - 0.5, 0.0, 20.0)
        cost = iso * np.maximum(0.0, np.log2(part.iso / body.base_iso)) + small + soft
        cost = cost + frames * np.log2(np.maximum(part.frames, 1)) + minute / 60 * np.minimum(part.total_s, 1e6)
        for wish in self.wishes:
            if wish.goal == Goal.MOTION and wish.times is not None:
                # What is only tight is not as good as what holds.
                cost = cost + _TIGHT * np.minimum(np.abs(wish.times.errors_stops(part.carrying_s)), 20.0) * (
                    not wish.frozen
                )
            if not wish.must:
                cost = cost + STAKE_WEIGHTS[wish.stake] * np.minimum(
                    part.missed[wish] / _UNITS.get(wish.goal, 1.0), 1e3
                )
        return np.asarray(cost)

    def found(self) -> tuple[Solved | None, tuple[Solved, ...]]:
        """Return the cheapest of what keeps all musts, and the best of other kinds."""
        kept = self.masks == 0
        if not kept.any():
            return None, ()
        costs = np.where(kept, self.costs, np.inf)
        best = self._first(PlanKind.BEST, costs)
        if best is None:
            return None, ()
        frames, total, blur = (
            np.stack([np.broadcast_to(getattr(part, name), part.shape) for _, _, part in self.parts])
            for name in ("frames", "total_s", "blur_times")
        )
        glass = np.broadcast_to(np.array([float(len(item.filters)) for item in self.space.glasses]), self.shape)
        kinds = (
            (PlanKind.ONE_FRAME, np.where(frames == 1, costs, np.inf)),
            (
                PlanKind.FEWEST_FILTERS,
                np.where(glass == np.min(np.where(np.isfinite(costs), glass, np.inf)), costs, np.inf),
            ),
            (
                PlanKind.SHARPEST,
                np.where(blur <= np.min(np.where(np.isfinite(costs), blur, np.inf)) * 1.02, costs, np.inf),
            ),
            (
                PlanKind.QUICKEST,
                np.where(total <= np.min(np.where(np.isfinite(costs), total, np.inf)) * 1.02, costs, np.inf),
            ),
        )
        shown, others = [best.candidate], list[Solved]()
        for kind, of_kind in kinds:
            one = self._first(kind, of_kind) if len(others) < MOST_OTHERS else None
            if one is not None and one.candidate not in shown:
                shown.append(one.candidate)
                others.append(one)
        return best, tuple(others)

    def _first(self, kind: PlanKind, costs: Floats, allowed: int = 0) -> Solved | None:
        """Return the cheapest whose own plan misses no must but those allowed; None where there is none among the
        first few.
        """
        for at in self._cheapest(costs):
            one = self._solved(kind, at)
            if self._mask_of(one.missed) & ~allowed == 0:
                return one
        return None

    def _cheapest(self, costs: Floats) -> Iterator[int]:
        flat = costs.ravel()
        for _ in range(_TRIES):
            at = int(np.argmin(flat))
            if not math.isfinite(flat[at]):
                return
            yield at
            flat = flat.copy()
            flat[at] = np.inf

    def _mask_of(self, missed: dict[Wish, float]) -> int:
        return sum(1 << bit for bit, wish in enumerate(self.musts) if missed[wish] > 0)

    def candidate(self, at: int) -> Candidate:
        """Return a candidate by its place."""
        part, mode, method, aperture, iso, glass = np.unravel_index(at, self.shape)
        hold, start, _ = self.parts[int(part)]
        space = self.space
        return Candidate(
            space.apertures[aperture],
            space.isos[iso],
            space.glasses[glass],
            space.methods[method],
            space.sets[mode],
            hold,
            start,
        )

    def _solved(self, kind: PlanKind, at: int) -> Solved:
        chosen = self.candidate(at)
        facts = chosen.applied_to(self.facts)
        plan = plan_shot(facts)
        return Solved(kind, chosen, facts, plan, missed_by(facts, plan, self.wishes, self.facts))

    def concessions(self) -> tuple[Concession, ...]:
        """Return the smallest sets of musts whose release leaves a plan, those that ask least first."""
        never = sum(1 << bit for bit, wish in enumerate(self.musts) if wish.goal in NEVER_RELEASED)
        masks = [int(mask) for mask in np.unique(self.masks) if not int(mask) & never]
        least = smallest_sets(masks)
        asked = self._asked()
        found = []
        for mask in least:
            costs = np.where(self.masks == mask, asked, np.inf)
            one = self._first(PlanKind.BEST, costs, mask)
            if one is not None:
                released = tuple(wish for bit, wish in enumerate(self.musts) if mask >> bit & 1)
                found.append((float(np.min(costs)), Concession(released, one)))
        found.sort(key=lambda item: item[0])
        return tuple(item for _, item in found[:MOST_WAYS])

    def _asked(self) -> Floats:
        """Return the requirements that each candidate misses, and a little of its cost."""
        found = []
        for at, (_, _, part) in enumerate(self.parts):
            asked = 0.02 * np.minimum(self.costs[at], 1e4)
            for wish in self.musts:
                asked = asked + np.minimum(part.missed[wish] / _UNITS.get(wish.goal, 1.0), 1e6)
            found.append(asked)
        return np.stack(found)

    def otherwise(self, best: Candidate) -> tuple[Candidate | None, Candidate | None]:
        """Return the best where the light is a stop less, and a stop more; None where the same settings are."""
        found = []
        for shift in (-1.0, 1.0):
            other = _Field(self.facts, self.plan, self.space, self.wishes, self.focus, shift)
            costs = np.where(other.masks == 0, other.costs, np.inf)
            at = int(np.argmin(costs))
            one = other.candidate(at) if math.isfinite(costs.ravel()[at]) else None
            found.append(one if one != best else None)
        return found[0], found[1]


def smallest_sets(masks: list[int]) -> list[int]:
    """Return those of some sets, each a mask of bits, that hold no other of them."""
    found: list[int] = []
    for mask in sorted(masks, key=lambda item: (item.bit_count(), item)):
        if not any(mask & other == other for other in found):
            found.append(mask)
    return found
