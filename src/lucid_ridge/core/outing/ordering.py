"""The order of an outing's stops: the best sum of what their windows promise within hard limits, found by dynamic
programming over sets of stops.

Source: [1] M. Held and R. M. Karp, A dynamic programming approach to sequencing problems, Journal of the SIAM 10 (1962)
196: of all orders of a set that end at one stop only the best need be kept. Here several are, none of which is as late,
worth as little and walked as far as another.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from .stops import Beds, Leg, Limits, Place, Stop, Window, way_between
from .visits import EPSILON_S, LONG_WAIT_S, Bed, Stay, Visit, earliest_inside, earliest_out, earliest_rest, stays

# Up to this many stops are ordered exactly; more are divided into parts, earliest windows first.
MOST_EXACT = 12


@dataclass(frozen=True)
class Order:
    """visits: in order; out_s: when the last place is left; back_s: at home again.

    value: what they promise together; walk_m: in all.
    """

    visits: tuple[Visit, ...]
    out_s: float
    back_s: float
    value: float
    walk_m: float


@dataclass(frozen=True, slots=True)
class _Label:
    """A way to have visited a set of stops and be at the last of them.

    place: where one is, None at home. leave_s: when one has packed there, or is free at the car; car_s: when one can be
    at the car, from out_s on. at_car: one is there already. waited_s: at places, where it was long.
    """

    place: Place | None
    leave_s: float
    out_s: float
    car_s: float
    value: float
    walk_m: float
    nights: int
    waited_s: float = 0.0
    at_car: bool = False
    visit: Visit | None = None
    before: _Label | None = None


def best_order(stops: Sequence[Stop], limits: Limits, pinned: bool = False) -> Order:
    """Return the order of as many of the stops as is worth most; of those worth the same the one with the least long
    waits on the spot, then the one back soonest, then the one walked least.

    Source: [1].

    Equal to a search of all orders up to MOST_EXACT stops. pinned: all stops in the order given, or none.
    """
    if len(stops) > MOST_EXACT and not pinned:
        return _in_parts(stops, limits)
    start = _start(limits)
    labels: dict[tuple[int, int, bool], list[_Label]] = {(0, -1, start.at_car): [start]}
    best: tuple[tuple[float, float, float, float], _Label] | None = None
    known: dict[tuple[int, int], Leg] = {}
    latest = [max((window.end_s for window in stop.windows), default=-math.inf) + EPSILON_S for stop in stops]
    most = [max((window.value for window in stop.windows), default=0.0) for stop in stops]
    # What some order is worth at least: labels from which nothing as good can come any more are not followed.
    least = 0.0 if pinned else _worth_quickly(stops, limits) - 1e-9
    masks = [(1 << count) - 1 for count in range(len(stops) + 1)] if pinned else range(1 << len(stops))
    for mask in masks:
        for last in range(-1, len(stops)):
            for at_car in (False, True):
                for label in labels.pop((mask, last, at_car), ()):
                    free = label.leave_s - EPSILON_S
                    left = [
                        at for at in range(len(stops)) if not mask >> at & 1 and free + stops[at].set_up_s <= latest[at]
                    ]
                    if label.value + sum(most[at] for at in left if most[at] > 0) < least:
                        continue
                    home = _home(label, limits)
                    if home is not None and (not pinned or mask == masks[-1]):
                        waited = _waits_to_leave_s(label)
                        value = label.value - limits.wait_cost * waited / 3600
                        rank = (-round(value, 9), round(label.waited_s + waited), *home)
                        if best is None or rank < best[0]:
                            best = (rank, label)
                    for at in left:
                        if pinned and at != mask.bit_length():
                            continue
                        stop = stops[at]
                        leg = known.get((last, at))
                        if leg is None:
                            leg = known[last, at] = _leg(label.place, stop)
                        if _ready_s(label, stop, leg) > latest[at]:
                            continue
                        # After a rest one is where one was.
                        there = at if stop.place is not None else last
                        for made in _onwards(label, stop, leg, limits):
                            if _home(made, limits) is not None:
                                _keep(labels.setdefault((mask | 1 << at, there, made.at_car), []), made)
    return _order(best[1], limits) if best else Order((), limits.leave_s, limits.leave_s, 0.0, 0.0)


def _worth_quickly(stops: Sequence[Stop], limits: Limits) -> float:
    """Worth of an order found without a search: stops are added by the end of their windows, earliest first, each
    where it fits.
    """
    best = 0.0
    for key in (0, -1):
        label = _start(limits)
        for stop in sorted((stop for stop in stops if stop.windows), key=lambda stop: stop.windows[key].end_s):
            found = [
                made
                for made in _onwards(label, stop, _leg(label.place, stop), limits)
                if _home(made, limits) is not None
            ]
            better = [made for made in found if made.value > label.value]
            label = min(better, key=lambda made: made.leave_s, default=label)
        waited = limits.wait_cost * _waits_to_leave_s(label) / 3600
        best = max(best, label.value - waited)
    return best


_ANY = Window(-math.inf, math.inf, 0.0, doubtful=True)


def _start(limits: Limits) -> _Label:
    here, leave = limits.at, limits.leave_s
    nights = limits.beds.owed_by(leave) if limits.beds is not None else 0
    if here is None:
        return _Label(None, leave, leave, leave, 0.0, 0.0, nights, at_car=True)
    out = earliest_out(here, _ANY, leave)
    out = leave if out is None else out
    return _Label(here, leave, out, out + here.walk_s, 0.0, 0.0, nights)


def _leg(here: Place | None, stop: Stop) -> Leg:
    if stop.place is None:
        return Leg(drive_s=stop.leg_s or 0.0)
    return way_between(here, stop.place, stop.leg_s)


def _onwards(label: _Label, stop: Stop, leg: Leg, limits: Limits) -> Iterator[_Label]:
    """Yield the labels of continuing to a stop, for each window and each feasible way of reaching it."""
    ready = _ready_s(label, stop, leg) - EPSILON_S
    for index, window in enumerate(stop.windows):
        if ready > window.end_s:
            continue
        for leg_taken, stay, bed, inside in _ways_to(label, stop, window, leg, limits.beds):
            walk = label.walk_m + leg_taken.walk_m
            if walk > limits.most_walk_m + EPSILON_S:
                continue
            nights = label.nights
            if limits.beds is not None:
                nights = nights if bed is None else limits.beds.slept(nights, bed.from_s, bed.to_s)
                # Who has not left yet has slept at home.
                nights = max(nights, limits.beds.owed_by(stay.begin_s)) if label.place is None else nights
                if nights < limits.beds.owed_by(stay.begin_s):
                    continue
            out = label.leave_s if inside else label.out_s
            if label.place is None and bed is None:
                # Who is still at home leaves no earlier than he must.
                out = stay.enter_s - leg_taken.drive_s
            visit = Visit(
                stop=stop,
                leg=leg_taken,
                out_s=out,
                enter_s=stay.enter_s,
                arrive_s=stay.arrive_s,
                begin_s=stay.begin_s,
                leave_s=stay.leave_s,
                window=index,
                bed=bed,
                inside=inside,
            )
            place = stop.place if stop.place is not None else label.place
            at_car = stop.place is None and not inside
            wait = _long(stay.waits_s(stop)) + (0.0 if inside else _waits_to_leave_s(label))
            value = label.value + window.value - limits.wait_cost * wait / 3600
            yield _Label(
                place=place,
                leave_s=stay.leave_s,
                out_s=stay.out_s,
                car_s=stay.car_s,
                value=value,
                walk_m=walk,
                nights=nights,
                waited_s=label.waited_s + wait,
                at_car=at_car,
                visit=visit,
                before=label,
            )


def _ready_s(label: _Label, stop: Stop, leg: Leg) -> float:
    """Return before when a stop cannot begin, whatever is closed [s]."""
    here, there = label.place, stop.place
    if there is None or (here is not None and here.key == there.key):
        return label.leave_s + stop.set_up_s
    return label.car_s + leg.drive_s + there.walk_s + stop.set_up_s


def _waits_to_leave_s(label: _Label) -> float:
    """Return how long one waits where one is until the way out is open, where that is long [s]."""
    return 0.0 if label.place is None or label.at_car else _long(label.out_s - label.leave_s)


def _long(wait_s: float) -> float:
    return wait_s if wait_s > LONG_WAIT_S else 0.0


def _ways_to(
    label: _Label, stop: Stop, window: Window, leg: Leg, beds: Beds | None
) -> Iterator[tuple[Leg, Stay, Bed | None, bool]]:
    """Yield the ways of getting to a stop in one of its windows: the leg, the visit, the night on the way, and whether
    one stays within the place.
    """
    here, there = label.place, stop.place
    if there is None:
        # Who is still at home needs no rest on the way.
        if here is None:
            return
        drive = leg.drive_s
        if not label.at_car:
            rest = earliest_inside(stop, window, here, label.leave_s + drive, 0.0)
            if rest is not None:
                yield Leg(drive_s=drive), rest, None, True
        rest = earliest_rest(stop, window, label.car_s + drive)
        if rest is not None:
            walked = Leg(drive, 0.0 if label.at_car else here.walk_s, 0.0, 0.0 if label.at_car else here.walk_m)
            yield walked, rest, None, False
        return
    if here is not None and here.key == there.key:
        if not label.at_car:
            stay: Stay | None = earliest_inside(stop, window, here, label.leave_s, leg.walk_in_s)
            if stay is not None:
                yield leg, stay, None, True
        leg = Leg(0.0, here.walk_s, there.walk_s, here.walk_m + there.walk_m)
    if label.at_car and here is not None:
        leg = replace(leg, walk_out_s=0.0, walk_m=there.walk_m)
    for stay in stays(stop, window, label.car_s + leg.drive_s, there.reserve_s if here is not None else 0.0):
        yield leg, stay, None, False
    if beds is None or here is None or label.nights >= len(beds.noons_s):
        return
    home, on = way_between(here, None), way_between(None, there, stop.leg_s)
    drives = (
        home.drive_s if beds.evening_s is None else beds.evening_s,
        on.drive_s if beds.morning_s is None else beds.morning_s,
    )
    bed_s = label.car_s + drives[0]
    up_s = max(bed_s, beds.noons_s[label.nights] - 86_400.0) + beds.least_s
    for stay in stays(stop, window, up_s + drives[1]):
        out_s = 0.0 if label.at_car else here.walk_s
        walked = Leg(
            drives[1],
            out_s,
            there.walk_s,
            (0.0 if label.at_car else here.walk_m) + there.walk_m,
            home.estimated or on.estimated,
        )
        yield walked, stay, Bed(bed_s, stay.enter_s - drives[1], drives[0], drives[1]), False


def _home(label: _Label, limits: Limits) -> tuple[float, float] | None:
    """Return when one is at home again and how far one has walked by then; None where that is too late or too far on
    foot.
    """
    if label.place is None:
        return label.leave_s, label.walk_m
    back = label.car_s + (label.place.drive_s or 0.0)
    walk = label.walk_m + (0.0 if label.at_car else label.place.walk_m)
    if back > limits.back_s + EPSILON_S or walk > limits.most_walk_m + EPSILON_S:
        return None
    return back, walk


def _keep(kept: list[_Label], made: _Label) -> None:
    """Put a label among others unless one of them is as good in every way; drop those that it is as good as."""
    if any(_as_good(other, made, EPSILON_S) for other in kept):
        return
    kept[:] = [other for other in kept if not _as_good(made, other, 0.0)]
    kept.append(made)


def _as_good(one: _Label, other: _Label, slack: float) -> bool:
    return (
        one.leave_s <= other.leave_s + slack
        and one.car_s <= other.car_s + slack
        and one.value >= other.value - slack
        and one.walk_m <= other.walk_m + slack
        and one.nights >= other.nights
        and one.waited_s <= other.waited_s + slack
    )


def _order(label: _Label, limits: Limits) -> Order:
    home = _home(label, replace(limits, back_s=math.inf, most_walk_m=math.inf))
    assert home is not None
    visits: list[Visit] = []
    last: _Label | None = label
    while last is not None and last.visit is not None:
        visits.append(last.visit)
        last = last.before
    return Order(tuple(visits[::-1]), label.out_s, home[0], label.value, home[1])


def _in_parts(stops: Sequence[Stop], limits: Limits) -> Order:
    """Return an order of many stops: those whose windows end first exactly, then the rest from there."""
    first = sorted(stops, key=lambda stop: min((window.end_s for window in stop.windows), default=math.inf))
    done = Order((), limits.leave_s, limits.leave_s, 0.0, 0.0)
    here, leave, walk = limits.at, limits.leave_s, 0.0
    for begin in range(0, len(first), MOST_EXACT):
        part = replace(limits, leave_s=leave, most_walk_m=limits.most_walk_m - walk, at=here)
        found = best_order(first[begin : begin + MOST_EXACT], part)
        if found.visits:
            done = Order(
                (*done.visits, *found.visits), found.out_s, found.back_s, done.value + found.value, walk + found.walk_m
            )
            leave, walk = found.visits[-1].leave_s, walk + sum(visit.leg.walk_m for visit in found.visits)
            here = next((visit.stop.place for visit in reversed(found.visits) if visit.stop.place is not None), here)
    return done
