"""The stops of an outing in the order given, feasible or not, and the first conflict if not."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

from ..labels import NamedEnum
from .ordering import Order, best_order
from .stops import Leg, Limits, Place, Stop, Window, way_between
from .visits import Visit, earliest_out, earliest_stay


class Cause(NamedEnum):
    """What keeps a stop out of an outing."""

    NO_WINDOW = "no_window"
    CLOSED = "closed"
    LATE = "late"
    BACK = "back"
    WALK = "walk"
    NIGHT = "night"
    WORTHLESS = "worthless"


@dataclass(frozen=True)
class Break:
    """What breaks, for which stop (None: for the outing), and by how much [s, or m of a walk]."""

    cause: Cause
    stop: Stop | None = None
    by: float = 0.0


def as_listed(stops: Sequence[Stop], limits: Limits) -> tuple[Order, list[Break]]:
    """Return the stops in the order given, with the conflicts; none if the order is feasible."""
    taken = [stop for stop in stops if stop.windows]
    broken = [Break(Cause.NO_WINDOW, stop, math.inf) for stop in stops if not stop.windows]
    found = best_order(taken, limits, pinned=True)
    if len(found.visits) == len(taken):
        return found, broken
    forced, late = _forced(taken, limits)
    return forced, [*late, *_beyond(forced, limits), *broken]


def _forced(stops: Sequence[Stop], limits: Limits) -> tuple[Order, list[Break]]:
    """Return stops one after the other, each as early as possible, even if it is closed or too late by then."""
    visits: list[Visit] = []
    broken: list[Break] = []
    here, clock, nights = limits.at, limits.leave_s, 0
    inside = limits.at is not None
    for stop in stops:
        leg = way_between(here, stop.place, stop.leg_s) if stop.place is not None else Leg(drive_s=stop.leg_s or 0.0)
        within = inside and here is not None and (stop.place is None or here.key == stop.place.key)
        walk_out = leg.walk_out_s if inside else 0.0
        out = clock if within or here is None or not inside else _out(here, clock)
        car = out + walk_out + leg.drive_s
        visit, cause = _visited(stop, leg, out, car, within, here is None)
        if cause is not None:
            broken.append(cause)
        if limits.beds is not None and limits.beds.owed_by(visit.begin_s) > nights:
            nights = limits.beds.owed_by(visit.begin_s)
            if here is not None:
                broken.append(Break(Cause.NIGHT, stop))
        visits.append(visit)
        clock, inside = visit.leave_s, inside if stop.place is None else True
        here = stop.place if stop.place is not None else here
    if not visits:
        return Order((), limits.leave_s, limits.leave_s, 0.0, 0.0), broken
    home = way_between(here, None)
    out = _out(here, clock) if here is not None else clock
    value = sum(visit.stop.windows[visit.window].value for visit in visits)
    walk = sum(visit.leg.walk_m for visit in visits) + home.walk_m
    return Order(tuple(visits), out, out + home.walk_out_s + home.drive_s, value, walk), broken


_ANY = Window(-math.inf, math.inf, 0.0, doubtful=True)


def _out(place: Place, leave_s: float) -> float:
    found = earliest_out(place, _ANY, leave_s)
    return leave_s if found is None else found


def _visited(
    stop: Stop, leg: Leg, out_s: float, car_s: float, within: bool, from_home: bool
) -> tuple[Visit, Break | None]:
    """Return a visit from the car on, in the first window that it is in time for, else in the last."""
    if not within and stop.place is not None:
        for index, window in enumerate(stop.windows):
            stay = earliest_stay(stop, window, car_s)
            if stay is not None:
                out_s = stay.enter_s - leg.drive_s if from_home else out_s
                return Visit(
                    stop=stop,
                    leg=leg,
                    out_s=out_s,
                    enter_s=stay.enter_s,
                    arrive_s=stay.arrive_s,
                    begin_s=stay.begin_s,
                    leave_s=stay.leave_s,
                    window=index,
                ), None
    enter = out_s if within else car_s
    arrive = enter + leg.walk_in_s + (leg.drive_s if within else 0.0)
    ready = arrive + stop.set_up_s
    index = next((at for at, window in enumerate(stop.windows) if ready <= window.end_s), len(stop.windows) - 1)
    begin = max(ready, stop.windows[index].start_s)
    late = begin - stop.windows[index].end_s
    if from_home:
        # Who would wait for a window leaves home later.
        spare = begin - ready
        out_s, enter, arrive = out_s + spare, enter + spare, arrive + spare
    visit = Visit(
        stop=stop,
        leg=leg,
        out_s=out_s,
        enter_s=enter,
        arrive_s=arrive,
        begin_s=begin,
        leave_s=begin + stop.stay_s,
        window=index,
        inside=within,
    )
    if late > 0:
        return visit, Break(Cause.LATE, stop, late)
    return visit, None if within else Break(Cause.CLOSED, stop)


def _beyond(order: Order, limits: Limits) -> list[Break]:
    found = []
    if order.back_s > limits.back_s + 1.0:
        found.append(Break(Cause.BACK, None, order.back_s - limits.back_s))
    if order.walk_m > limits.most_walk_m + 1.0:
        found.append(Break(Cause.WALK, None, order.walk_m - limits.most_walk_m))
    return found


def why_left(order: Order, left: Stop, limits: Limits) -> Break:
    """Return the first thing that breaks where a stop that was left out is put in after all: by itself, else among the
    others where it breaks least.
    """
    if not left.windows:
        return Break(Cause.NO_WINDOW, left, math.inf)
    alone = best_order([left], limits)
    if not alone.visits:
        return _why_alone(left, limits)
    if all(window.value <= 0 for window in left.windows):
        return Break(Cause.WORTHLESS, left)
    stops = [visit.stop for visit in order.visits]
    tries = [as_listed([*stops[:at], left, *stops[at:]], limits)[1] for at in range(len(stops) + 1)]
    broken = min(tries, key=_weight)
    return broken[0] if broken else Break(Cause.WORTHLESS, left)


def _weight(broken: Sequence[Break]) -> float:
    """Sort key of a way to put a stop in [s]: the largest delay; any other reason that breaks it counts as an hour."""
    late = [item.by for item in broken if item.cause in (Cause.LATE, Cause.BACK)]
    return max(late, default=0.0) + 3600.0 * (len(broken) - len(late))


def _why_alone(stop: Stop, limits: Limits) -> Break:
    """Return the limit that makes a stop infeasible even by itself."""
    if best_order([stop], replace(limits, back_s=math.inf)).visits:
        found = best_order([stop], replace(limits, back_s=math.inf))
        return Break(Cause.BACK, None, found.back_s - limits.back_s)
    if best_order([stop], replace(limits, most_walk_m=math.inf)).visits:
        found = best_order([stop], replace(limits, most_walk_m=math.inf))
        return Break(Cause.WALK, None, found.walk_m - limits.most_walk_m)
    place = replace(stop.place, walks_closed=(), stay_closed=(), walks_unknown=()) if stop.place is not None else None
    open_ = replace(stop, place=place)
    if best_order([open_], limits).visits:
        return Break(Cause.CLOSED, stop)
    forced, broken = _forced([stop], limits)
    return broken[0] if broken else next(iter(_beyond(forced, limits)), Break(Cause.LATE, stop))
