"""The plan of an outing: its order, its day clock, and its reasons."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from datetime import datetime, timedelta

from ..facts.outing import Outing, StopOrder
from ..planning.reasons import Reason, worst_mark
from ..planning.verdicts import Severity
from ..spans.instants import local_day
from .as_listed import as_listed
from .day_clock import Part, day_clock, place_after
from .made_stops import limits_of, made_stop, with_drives
from .ordering import Order, best_order
from .reasons import OutingReasons
from .stop_facts import StopFacts
from .stops import Limits, Place, Stop, way_between
from .visits import Visit


@dataclass(frozen=True, kw_only=True)
class OutingPlan:
    """order: of the stops by their place in the list; left: those that are left out.

    verdict: its worst mark. leave_utc, back_utc: of home; None without a stop. out_s: when the last place is left [s
    after the start].

    marks: of the stops that are taken, by their place in the list.
    """

    start_utc: datetime
    zone: str
    parts: tuple[Part, ...]
    visits: tuple[Visit, ...]
    order: tuple[int, ...]
    left: tuple[int, ...]
    mark: Severity
    reasons: tuple[Reason, ...]
    leave_utc: datetime | None
    back_utc: datetime | None
    walk_m: float
    value: float
    out_s: float
    marks: dict[int, Severity] = field(default_factory=dict)

    def at(self, seconds: float) -> datetime:
        """Return the time the given number of seconds after the outing's start."""
        return self.start_utc + timedelta(seconds=seconds)

    def begins_utc(self, at: int) -> datetime | None:
        """Return when a stop begins, by its place in the list; None where it is left out."""
        return next((self.at(visit.begin_s) for visit in self.visits if visit.stop.at == at), None)


@dataclass(frozen=True)
class Onwards:
    """From where the rest of an outing is put in order.

    kept: visits that stay as they are; here: where one is then, None at home; from_s: when [s after the start].
    """

    kept: tuple[Visit, ...]
    here: Place | None
    from_s: float


def plan_outing(outing: Outing, stops: Sequence[StopFacts], onwards: Onwards | None = None) -> OutingPlan:
    """Return an outing's order and times.

    A delay moves the stops still to come: they are ordered again from the current place, or as onwards says.
    """
    zone = next((item.facts.location.zone for item in stops if item.facts and item.facts.location), "UTC")
    start, _ = local_day(outing.date_local, zone)
    made = with_drives([made_stop(at, item, outing, start, zone) for at, item in enumerate(stops)])
    limits = limits_of(outing, start, zone)
    if onwards is None:
        planned = _ordered(outing, made, limits)
        onwards = _after_delay(outing, planned, stops, limits)
    if onwards is not None:
        planned, limits = _anew(outing, made, limits, onwards)
    taken = [visit.stop.at for visit in planned.visits]
    left = [stop for stop in made if stop.at not in taken]
    parts = day_clock(planned, stops, start, outing)
    said = OutingReasons(outing, stops, planned, start, zone)
    kept = {visit.stop.at for visit in onwards.kept} if onwards is not None else set()
    reasons = said.reasons(left, limits, parts, kept)
    leave = parts[0].span.start_utc if parts else None
    back = parts[-1].span.end_utc if parts else None
    return OutingPlan(
        start_utc=start,
        zone=zone,
        parts=tuple(parts),
        visits=planned.visits,
        order=tuple(taken),
        left=tuple(stop.at for stop in left),
        mark=worst_mark(list(reasons)),
        reasons=tuple(reasons),
        leave_utc=leave,
        back_utc=back,
        walk_m=planned.walk_m,
        value=planned.value,
        out_s=planned.out_s,
        marks=said.marks,
    )


def _ordered(outing: Outing, stops: Sequence[Stop], limits: Limits) -> Order:
    if outing.stop_order == StopOrder.PINNED:
        return as_listed(stops, limits)[0]
    return best_order(stops, limits)


def _after_delay(outing: Outing, planned: Order, stops: Sequence[StopFacts], limits: Limits) -> Onwards | None:
    """Return the state from which a late outing continues: the stops already done stay as planned.

    None: nothing is late, and nothing done.
    """
    late, done = 60 * outing.late_min, tuple(visit for visit in planned.visits if stops[visit.stop.at].said.done)
    if done:
        return Onwards(done, place_after(done), done[-1].leave_s + late)
    if late <= 0:
        return None
    first = planned.visits[0] if planned.visits else None
    leave = first.out_s if first is not None else limits.leave_s
    return Onwards((), None, max(limits.leave_s, leave) + late)


def _anew(outing: Outing, made: Sequence[Stop], limits: Limits, onwards: Onwards) -> tuple[Order, Limits]:
    """Split a running outing into the stops kept, the rest in a new order, and the limits of the rest."""
    kept, walked = onwards.kept, sum(visit.leg.walk_m for visit in onwards.kept)
    rest = [stop for stop in made if stop.at not in {visit.stop.at for visit in kept}]
    limits = replace(limits, leave_s=onwards.from_s, at=onwards.here, most_walk_m=limits.most_walk_m - walked)
    again = _ordered(outing, rest, limits)
    home = way_between(onwards.here, None)
    out, back, walk = again.out_s, again.back_s, again.walk_m
    if not again.visits:
        out, back, walk = onwards.from_s, onwards.from_s + home.walk_out_s + home.drive_s, home.walk_m
    value = sum(visit.stop.windows[visit.window].value for visit in (*kept, *again.visits))
    return Order((*kept, *again.visits), out, back, value, walked + walk), limits
