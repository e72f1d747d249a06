"""The order of an outing's stops: the best sum of what their windows promise within hard limits, found by dynamic programming over sets of stops.

Source: [1] M. Held and R. M. Karp, A dynamic programming approach to sequencing problems, Journal of the SIAM 10 (1962) 196: of all orders of a set that end at one stop
only the best need be kept. Here several are, none of which is both later and worth less than another, or both later and walked farther.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from .stops import Leg, Limits, Place, Stop, way_between

# So many stops are put in order exactly; more are taken in parts, those of the earliest windows first.
MOST_EXACT = 12
_EPSILON = 1e-6


@dataclass(frozen=True)
class Visit:
    """A stop as it is taken: the way there, when one is there, when it begins and when one leaves [s after the start], and in which of its windows."""

    stop: Stop
    leg: Leg
    arrive_s: float
    begin_s: float
    leave_s: float
    window: int


@dataclass(frozen=True)
class Order:
    """visits: in order; back_s: at home again. value: what they promise together; walk_m: in all."""

    visits: tuple[Visit, ...]
    back_s: float
    value: float
    walk_m: float


@dataclass(frozen=True)
class _Label:
    """A way to have visited a set of stops and be at the last of them."""

    leave_s: float
    value: float
    walk_m: float
    visit: Visit | None
    before: _Label | None


def best_order(stops: Sequence[Stop], limits: Limits) -> Order:
    """Return the order of as many of the stops as is worth most; of those worth the same the one back soonest, then the one walked least. Source: [1].

    Equal to a search of all orders up to MOST_EXACT stops.
    """
    if len(stops) > MOST_EXACT:
        return _in_parts(stops, limits)
    labels: dict[tuple[int, int], list[_Label]] = {(0, -1): [_Label(limits.leave_s, 0.0, 0.0, None, None)]}
    best: tuple[tuple[float, float, float], _Label] | None = None
    known: dict[tuple[int, int], Leg] = {}
    for mask in range(1 << len(stops)):
        for last in range(-1, len(stops)):
            kept = labels.pop((mask, last), None)
            if kept is None:
                continue
            here = stops[last].place if last >= 0 else limits.at
            for label in kept:
                home = _home(label, here, limits)
                if home is not None:
                    rank = (-round(label.value, 9), home.leave_s, home.walk_m)
                    if best is None or rank < best[0]:
                        best = (rank, label)
                for at, stop in enumerate(stops):
                    if mask >> at & 1:
                        continue
                    leg = known.get((last, at))
                    if leg is None:
                        leg = known[last, at] = _leg(here, stop)
                    # After a rest one is where one was.
                    there = at if stop.place is not None else last
                    for made in _onwards(label, stop, leg, here, limits):
                        _keep(labels.setdefault((mask | 1 << at, there), []), made)
    return _order(best[1] if best else None, stops, limits)


def _leg(here: Place | None, stop: Stop) -> Leg:
    if stop.place is None:
        return Leg(drive_s=stop.leg_s or 0.0)
    return way_between(here, stop.place, stop.leg_s)


def _onwards(label: _Label, stop: Stop, leg: Leg, here: Place | None, limits: Limits) -> list[_Label]:
    """Return the labels of going on to a stop, one for each window that can still be had."""
    if stop.place is None and here is None:
        # Who is still at home needs no rest on the way.
        return []
    walk = label.walk_m + leg.walk_m
    if walk > limits.most_walk_m + _EPSILON:
        return []
    arrive = label.leave_s + leg.total_s
    found = []
    for index, window in enumerate(stop.windows):
        begin = max(arrive + stop.set_up_s, window.start_s)
        if begin > window.end_s + _EPSILON:
            continue
        leave = begin + stop.stay_s
        visit = Visit(stop, leg, arrive, begin, leave, index)
        made = _Label(leave, label.value + window.value, walk, visit, label)
        if _home(made, stop.place if stop.place is not None else here, limits) is not None:
            found.append(made)
    return found


def _home(label: _Label, here: Place | None, limits: Limits) -> _Label | None:
    """Return the label at home again; None where that is too late or too far on foot."""
    if label.visit is None and limits.at is None:
        return label
    way = way_between(here, None)
    back, walk = label.leave_s + way.total_s, label.walk_m + way.walk_m
    if back > limits.back_s + _EPSILON or walk > limits.most_walk_m + _EPSILON:
        return None
    return _Label(back, label.value, walk, None, label)


def _keep(kept: list[_Label], made: _Label) -> None:
    """Put a label among others unless one of them is as good in every way; drop those that it is as good as."""
    for other in kept:
        if other.leave_s <= made.leave_s + _EPSILON and other.value >= made.value - _EPSILON and other.walk_m <= made.walk_m + _EPSILON:
            return
    kept[:] = [other for other in kept if not (made.leave_s <= other.leave_s and made.value >= other.value and made.walk_m <= other.walk_m)]
    kept.append(made)


def _order(label: _Label | None, stops: Sequence[Stop], limits: Limits) -> Order:
    visits: list[Visit] = []
    while label is not None and label.visit is not None:
        visits.append(label.visit)
        label = label.before
    return timed(visits[::-1], limits)


def timed(visits: Sequence[Visit], limits: Limits) -> Order:
    """Return visits with the way home, begun no earlier than they must: who would wait before the first stop leaves home later."""
    if not visits:
        return Order((), limits.leave_s, 0.0, 0.0)
    first = visits[0]
    if limits.at is None:
        spare = max(0.0, first.begin_s - first.stop.set_up_s - first.arrive_s)
        visits = [Visit(first.stop, first.leg, first.arrive_s + spare, first.begin_s, first.leave_s, first.window), *visits[1:]]
    here = next((visit.stop.place for visit in reversed(visits) if visit.stop.place is not None), limits.at)
    way = way_between(here, None)
    value = sum(visit.stop.windows[visit.window].value for visit in visits)
    return Order(tuple(visits), visits[-1].leave_s + way.total_s, value, sum(visit.leg.walk_m for visit in visits) + way.walk_m)


def _in_parts(stops: Sequence[Stop], limits: Limits) -> Order:
    """Return an order of many stops: those whose windows end first exactly, then the rest from there."""
    first = sorted(stops, key=lambda stop: min((window.end_s for window in stop.windows), default=math.inf))
    done: list[Visit] = []
    here, leave, walk = limits.at, limits.leave_s, 0.0
    for begin in range(0, len(first), MOST_EXACT):
        part = Limits(leave, limits.back_s, limits.most_walk_m - walk, here)
        found = best_order(first[begin : begin + MOST_EXACT], part)
        done += found.visits
        if found.visits:
            leave, walk = found.visits[-1].leave_s, walk + sum(visit.leg.walk_m for visit in found.visits)
            here = next((visit.stop.place for visit in reversed(found.visits) if visit.stop.place is not None), here)
    return timed(done, limits)


def as_listed(stops: Sequence[Stop], limits: Limits) -> tuple[Order, dict[int, float]]:
    """Return the stops in the order given, each in the window that it is in time for, else in its last; and by how much each comes too late [s], by its place in the list."""
    visits: list[Visit] = []
    late: dict[int, float] = {}
    here, clock = limits.at, limits.leave_s
    for stop in stops:
        leg = _leg(here, stop)
        arrive = clock + leg.total_s
        ready = arrive + stop.set_up_s
        index = next((at for at, window in enumerate(stop.windows) if ready <= window.end_s + _EPSILON), len(stop.windows) - 1)
        begin = max(ready, stop.windows[index].start_s) if stop.windows else ready
        if not stop.windows:
            late[stop.at] = math.inf
        elif begin > stop.windows[index].end_s + _EPSILON:
            late[stop.at] = begin - stop.windows[index].end_s
        visits.append(Visit(stop, leg, arrive, begin, begin + stop.stay_s, max(0, index)))
        clock = begin + stop.stay_s
        here = stop.place if stop.place is not None else here
    return timed([visit for visit in visits if visit.stop.windows], limits), late


def shortest_delay(order: Order, left: Stop, limits: Limits) -> tuple[float, Stop | None]:
    """Return by how little a stop that was left out misses [s]: put in where it is least late, and which stop would then come too late; None: the way home, or itself.

    Infinite where it has no window at all.
    """
    if not left.windows:
        return math.inf, None
    best: tuple[float, Stop | None] = (math.inf, None)
    stops = [visit.stop for visit in order.visits]
    for at in range(len(stops) + 1):
        tried, late = as_listed([*stops[:at], left, *stops[at:]], limits)
        over = max(0.0, tried.back_s - limits.back_s)
        worst = max(late.values(), default=0.0)
        missed = max(worst, over)
        if missed < best[0]:
            which = next((visit.stop for visit in tried.visits if late.get(visit.stop.at, 0.0) == worst and worst > 0), None)
            best = (missed, which if worst >= over else None)
    return best
