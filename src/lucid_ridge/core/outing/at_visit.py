"""A shot as it is taken on an outing: its facts at the time of the visit, and what its way, light and water are
then.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta

from ..facts.shot import ShotFacts
from ..planning.exposure.reading_in_force import read_times
from ..planning.light.plan import plan_light
from ..planning.reasons import Reason
from ..planning.sequence.plan import fit_reason
from ..planning.verdicts import CAUTION, FAILS, TIGHT, UNSAID
from ..planning.way.arrival import Arrival
from ..planning.way.closure_reasons import closure_reasons
from ..planning.way.plan import Way
from ..spans.intervals import Interval
from .visits import Visit

# What of a step counts against a stop; that something is unsaid of a shot's depth or exposure is no matter of the
# outing's.
_AGAINST = (FAILS, UNSAID)


def facts_at(facts: ShotFacts, begins_utc: datetime) -> ShotFacts:
    """Return a shot's facts for another start time.

    The chosen window holds for the shot's own time only. A meter reading keeps its time: the plan carries it
    along, or drops it.
    """
    light = facts.light
    stamps = read_times(facts)
    day = begins_utc.astimezone(facts.zone).date()
    end = light.window_end_utc
    holds = light.time_utc is not None and end is not None and light.time_utc <= begins_utc < end
    then = replace(
        facts,
        light=replace(light, date_local=day, time_utc=begins_utc, window_end_utc=end if holds else None),
        card=None,
    )
    return then.choosing(**stamps)


@dataclass(frozen=True)
class StayAtPlace:
    """Visits to one place between walking in and walking out, as one way; by their place in the outing's order."""

    visits: tuple[int, ...]
    way: Way


def stays_of(visits: Sequence[Visit], start_utc: datetime, out_s: float, walks: Sequence[float]) -> list[StayAtPlace]:
    """Return the stays of an outing: when one really walks in, is there, and walks out.

    out_s: when the last place is left. walks: the walk of each visit's place, one way [s].

    A rest within a place belongs to its stay; one at the car to none.
    """

    def at(seconds: float) -> datetime:
        return start_utc + timedelta(seconds=seconds)

    found: list[StayAtPlace] = []
    group: list[int] = []

    def close(leaves_s: float) -> None:
        if not group:
            return
        first, walk_s = visits[group[0]], walks[group[0]]
        enter, arrive, out, back = (at(value) for value in (first.enter_s, first.arrive_s, leaves_s, leaves_s + walk_s))
        arrival = Arrival(None, enter, arrive, walk_s / 60)
        way = Way(
            at(first.begin_s),
            arrival,
            *(Interval(one, other, False, False) for one, other in ((enter, arrive), (arrive, out), (out, back))),
        )
        found.append(StayAtPlace(tuple(group), way))
        group.clear()

    for index, visit in enumerate(visits):
        if visit.inside and group:
            group.append(index)
            continue
        close(visit.out_s)
        if visit.stop.place is not None:
            group.append(index)
    close(out_s)
    return found


def way_reasons(facts: ShotFacts, stay: StayAtPlace) -> list[Reason]:
    """Closures of the walk in, the stay and the walk out, found by the function that judges a shot's own way."""
    return [reason for reason in closure_reasons(facts, stay.way) if reason.severity in (*_AGAINST, TIGHT, CAUTION)]


def light_reasons(facts: ShotFacts, begins_utc: datetime, lasts_s: float) -> list[Reason]:
    """Reasons against starting the shot at that time: wrong light, wrong water, or frames that take longer than the
    light lasts.

    Found by the shot's own plan.
    """
    then = facts_at(facts, begins_utc)
    light = plan_light(then)
    found = [reason for reason in light.reasons if reason.severity in _AGAINST]
    if light.band is not None and not found:
        left = (light.window_end_utc - begins_utc).total_seconds() if light.window_end_utc else None
        fits = fit_reason(then, light, lasts_s, left)
        found += [fits] if fits.severity in (*_AGAINST, TIGHT) else []
    return found
