"""One visit to a stop within the closures of its place: the earliest feasible one, and the return to the car.

Walks must avoid closures of the way, the whole stay closures of the place. Waiting happens at the car or at the
viewpoint.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator
from dataclasses import dataclass

from .stops import Leg, Place, Spans, Stop, Window

EPSILON_S = 1e-6
# A walk begins so long after what closed it has ended [s].
_AFTER_S = 1.0
# Who waits longer than this where he stands would rather wait at the car [s].
LONG_WAIT_S = 3600.0


@dataclass(frozen=True)
class Bed:
    """A night at home or at a base [s after the start], between the drive there and the drive on."""

    from_s: float
    to_s: float
    drive_there_s: float
    drive_on_s: float


@dataclass(frozen=True, kw_only=True)
class Visit:
    """A stop as it is taken, in seconds after the outing's start, and in which of its windows.

    out_s: the last place is left; leg: the way from there. enter_s: the walk in begins; arrive_s, begin_s, leave_s: one
    is there, begins, and has packed. bed: the night on the way there. inside: one walks there without going back to the
    car.
    """

    stop: Stop
    leg: Leg
    out_s: float
    enter_s: float
    arrive_s: float
    begin_s: float
    leave_s: float
    window: int
    bed: Bed | None = None
    inside: bool = False


@dataclass(frozen=True)
class Stay:
    """When one walks in, is there, begins and has packed; car_s: when one can be back at the car.

    All in seconds after the outing's start.
    """

    enter_s: float
    arrive_s: float
    begin_s: float
    leave_s: float
    out_s: float
    car_s: float

    def waits_s(self, stop: Stop) -> float:
        """Return how long one waits there before setting up [s]."""
        return self.begin_s - stop.set_up_s - self.arrive_s


def first_clear(closed: Spans, from_s: float, length_s: float) -> float:
    """Return the earliest start from from_s on of something that lasts length_s and meets none of the spans."""
    for start, end in closed:
        if from_s + length_s >= start and from_s <= end:
            from_s = end + _AFTER_S
    return from_s


def last_clear(closed: Spans, from_s: float, by_s: float, length_s: float) -> float | None:
    """Return the latest start from from_s to by_s of something that lasts length_s and meets none of the spans; None:
    there is none.
    """
    for start, end in reversed(closed):
        if by_s + length_s >= start and by_s <= end:
            by_s = start - length_s - _AFTER_S
    return by_s if by_s >= from_s else None


def first_met(closed: Spans, from_s: float, to_s: float) -> tuple[float, float] | None:
    """Return the first of the spans that meets a span of time; None: none does."""
    return next((span for span in closed if to_s >= span[0] and from_s <= span[1]), None)


def walks_closed(place: Place, window: Window) -> Spans:
    """Return when nobody walks in or out for a window: a tide that is not known counts as closed, unless the window is
    doubtful itself.
    """
    if window.doubtful or not place.walks_unknown:
        return place.walks_closed
    return merged((*place.walks_closed, *place.walks_unknown))


def merged(spans: Iterable[tuple[float, float]]) -> Spans:
    """Return spans in order of time, those that meet as one."""
    found: list[tuple[float, float]] = []
    for start, end in sorted(spans):
        if found and start <= found[-1][1]:
            found[-1] = (found[-1][0], max(end, found[-1][1]))
        else:
            found.append((start, end))
    return tuple(found)


def earliest_out(place: Place, window: Window, leave_s: float) -> float | None:
    """Return when the walk out begins at the earliest for who has packed at leave_s; None where the place closes
    before the way is open.
    """
    out = first_clear(walks_closed(place, window), leave_s, place.walk_s)
    return None if first_met(place.stay_closed, leave_s, out) else out


def stays(stop: Stop, window: Window, car_s: float, reserve_s: float = 0.0) -> Iterator[Stay]:
    """Yield the visits from the car at car_s: the earliest, and if it would wait long beyond a closure of the way, the
    earliest after that closure.
    """
    found = earliest_stay(stop, window, car_s, reserve_s)
    while found is not None:
        yield found
        if found.waits_s(stop) <= LONG_WAIT_S or stop.place is None:
            return
        enter, by = found.enter_s, found.begin_s
        ends = [end for start, end in walks_closed(stop.place, window) if end > enter and start <= by]
        found = earliest_stay(stop, window, ends[-1] + _AFTER_S, reserve_s) if ends else None


def earliest_stay(stop: Stop, window: Window, car_s: float, reserve_s: float = 0.0) -> Stay | None:
    """Return the earliest visit from the car at car_s, walking in; None if none begins in the window.

    The walk in begins as late as the way allows, reserve_s before it must.
    """
    place = stop.place
    assert place is not None
    closed, ways = place.stay_closed, walks_closed(place, window)
    at = car_s
    while math.isfinite(at):
        enter = first_clear(ways, at, place.walk_s)
        arrive = enter + place.walk_s
        begin = max(arrive + stop.set_up_s, window.start_s)
        if begin > window.end_s + EPSILON_S:
            return None
        leave = begin + stop.stay_s
        met = first_met(closed, arrive, leave)
        out = earliest_out(place, window, leave) if met is None else None
        if met is not None or out is None:
            # Who is there before the place closes is there when it does: only what comes after it is left.
            met = met or next((span for span in closed if span[1] >= leave), None)
            if met is None:
                return None
            at = max(at, met[1] + _AFTER_S - place.walk_s)
            continue
        latest = begin - stop.set_up_s - place.walk_s
        late = last_clear(ways, enter, max(enter, latest - reserve_s), place.walk_s)
        enter = late if late is not None else enter
        return Stay(enter, enter + place.walk_s, begin, leave, out, out + place.walk_s)
    return None


def earliest_inside(stop: Stop, window: Window, here: Place, leave_s: float, walk_s: float) -> Stay | None:
    """Return the earliest visit for who walks there from another viewpoint of the same place, or rests where one is;
    None where it cannot be.
    """
    place = stop.place or here
    arrive = leave_s + walk_s
    begin = max(arrive + stop.set_up_s, window.start_s)
    if begin > window.end_s + EPSILON_S:
        return None
    leave = begin + stop.stay_s
    if first_met(place.stay_closed, leave_s, leave) is not None:
        return None
    out = earliest_out(place, window, leave)
    return None if out is None else Stay(leave_s, arrive, begin, leave, out, out + place.walk_s)


def earliest_rest(stop: Stop, window: Window, car_s: float) -> Stay | None:
    """Return the earliest rest at the car."""
    begin = max(car_s, window.start_s)
    if begin > window.end_s + EPSILON_S:
        return None
    return Stay(car_s, car_s, begin, begin + stop.stay_s, begin + stop.stay_s, begin + stop.stay_s)
