"""The choices open to the solver: apertures, ISOs, filter combinations, focusing and exposure methods, supports, and
start times.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from itertools import combinations, product

from ..exposure.proposals import MAX_STACKED
from ..facts.choices import BracketMode, DepthMethod, Hold
from ..facts.filters import Filter
from ..facts.settings import settings_of
from ..facts.shot import ShotFacts
from ..facts.wishes import Stake
from ..planning.exposure.exposures import ledger_filter
from ..planning.exposure.movers import must_be_frozen
from ..planning.exposure.reading_in_force import read_times
from ..planning.plan.shot_plan import ShotPlan
from ..units.markings import APERTURE_MARKINGS, ISO_MARKINGS
from .wishes import span_of

_START_STEP_MIN, _MOST_STARTS = 5.0, 7


@dataclass(frozen=True)
class Glass:
    """Filters on the lens together.

    set_stops: what those that can be turned are turned to, by id. stops: what they take of the whole frame.
    """

    filters: tuple[Filter, ...]

    @property
    def stops(self) -> float:
        return sum(ledger_filter(item).stops for item in self.filters)

    @property
    def dark_stops(self) -> float:
        return sum(item.stops for item in self.filters if item.kind.lengthens_exposure)

    @property
    def ids(self) -> frozenset[int]:
        return frozenset(item.id for item in self.filters)


@dataclass(frozen=True)
class Space:
    """methods: one frame, or the stack that suits. starts: None where no time is said; now: the one that is set."""

    apertures: tuple[float, ...]
    isos: tuple[float, ...]
    glasses: tuple[Glass, ...]
    methods: tuple[DepthMethod, ...]
    sets: tuple[BracketMode, ...]
    holds: tuple[Hold, ...]
    starts: tuple[datetime | None, ...]
    now: datetime | None

    @property
    def ways(self) -> list[tuple[Hold, datetime | None]]:
        """Ways of holding with starts: another hold is weighed at the start that is set."""
        return [(self.holds[0], start) for start in self.starts] + [(hold, self.now) for hold in self.holds[1:]]


@dataclass(frozen=True)
class Candidate:
    f_number: float
    iso: float
    glass: Glass
    method: DepthMethod
    bracket: BracketMode
    hold: Hold
    start: datetime | None

    def applied_to(self, facts: ShotFacts) -> ShotFacts:
        """Return a shot's facts with these choices; a list of groups of one's own is let go."""
        on = {item.id: item for item in self.glass.filters}
        filters = tuple(
            replace(item, on_lens=item.id in on, stops=on[item.id].stops if item.id in on else item.stops)
            for item in facts.filters
        )
        chosen = facts.choosing(
            f_number=self.f_number,
            iso=self.iso,
            depth_method=self.method,
            bracket=self.bracket,
            hold=self.hold,
            time_utc=self.start,
            # A reading stays of its own time.
            **read_times(facts),
        )
        return replace(chosen, filters=filters, frame_groups=())


def candidate_of(facts: ShotFacts) -> Candidate:
    """Return the choices that a shot with body and lens stands at."""
    settings = settings_of(facts)
    assert settings is not None
    glass = Glass(tuple(item for item in facts.filters if item.on_lens))
    return Candidate(
        settings.f_number,
        settings.iso,
        glass,
        facts.depth.depth_method,
        facts.exposure.bracket,
        facts.frame.hold,
        facts.light.time_utc,
    )


def space_of(facts: ShotFacts, plan: ShotPlan) -> Space:
    """Return the choices for a shot with body and lens. plan: of the shot as it stands."""
    settings, body, lens = settings_of(facts), facts.body, facts.lens
    assert settings is not None and body is not None and lens is not None
    apertures = [mark.value for mark in APERTURE_MARKINGS if lens.takes_aperture(mark.value, settings.focal_mm)]
    # The extended range gains nothing that can be computed: it is used only where it is set by hand.
    isos = [mark.value for mark in ISO_MARKINGS if body.reads_iso(mark.value)] if body.film_exponent is None else []
    return Space(
        apertures=_with(apertures, settings.f_number),
        isos=_with(isos, settings.iso),
        glasses=glasses(facts),
        methods=(DepthMethod.SINGLE, DepthMethod.AUTO),
        sets=_sets(facts, plan),
        holds=_holds(facts),
        starts=_starts(facts),
        now=facts.light.time_utc,
    )


def _with(values: Sequence[float], now: float) -> tuple[float, ...]:
    """Return markings with the current value, which need not be a marking."""
    near = any(math.isclose(value, now, rel_tol=1e-9) for value in values)
    return tuple(sorted(values if near else (*values, now)))


def glasses(facts: ShotFacts) -> tuple[Glass, ...]:
    """Return all combinations of filters that fit the lens: a polariser that is on stays, for its effect; of the
    others up to a limit, and one graduated.
    """
    kept = [item for item in facts.filters if item.on_lens and item.kind.stays_on]
    dark = [item for item in facts.filters if item.kind.lengthens_exposure]
    graduated = [item for item in facts.filters if item.kind.graduates]
    room = max(0, MAX_STACKED - len(kept))
    found = []
    for size in range(room + 1):
        for chosen in combinations(dark, size):
            for turned in product(*(_settings(item) for item in chosen)):
                for grad in ((), *((item,) for item in graduated)) if size < room else ((),):
                    found.append(Glass((*kept, *turned, *grad)))
    return tuple(found)


def _settings(item: Filter) -> list[Filter]:
    """Return a filter at each whole stop that it can be turned to."""
    if item.stops_max is None or item.stops_min is None:
        return [item]
    count = math.floor(item.stops_max - item.stops_min + 1e-9)
    return [replace(item, stops=item.stops_min + step) for step in range(count + 1)]


def _sets(facts: ShotFacts, plan: ShotPlan) -> tuple[BracketMode, ...]:
    """Return the ways to expose that something is known for."""
    span = span_of(facts, plan)
    found = [BracketMode.NONE, BracketMode.AROUND]
    if span.highlight_ev is not None:
        found += [BracketMode.HIGHLIGHTS, BracketMode.LAND_AND_SKY]
    if span.stops is not None and facts.exposure.bracket_step_ev <= 4:
        found.append(BracketMode.RANGE)
    if must_be_frozen(facts, plan.exposure.movers):
        found.append(BracketMode.FROZEN_AND_LONG)
    return tuple(found)


def _holds(facts: ShotFacts) -> tuple[Hold, ...]:
    now = facts.frame.hold
    if facts.wishes.keep_hold == Stake.MUST:
        return (now,)
    return (now, Hold.HAND if now != Hold.HAND else Hold.TRIPOD)


def _starts(facts: ShotFacts) -> tuple[datetime | None, ...]:
    now = facts.light.time_utc
    if now is None or facts.wishes.keep_start == Stake.MUST:
        return (now,)
    step = max(_START_STEP_MIN, facts.wishes.within_min * 2 / (_MOST_STARTS - 1))
    count = int(facts.wishes.within_min / step + 1e-9)
    return tuple(now + timedelta(minutes=step * turn) for turn in range(-count, count + 1))
