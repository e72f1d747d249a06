"""What an outing is made of, in seconds after its start and metres, and the ways between."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ..ground.geodesy import distance_m
from ..ground.walk import naismith_h
from ..planning.verdicts import HOLDS, Severity

# Between two places that nobody has typed a time for: roads are so much longer than the straight line, and driven at
# so much (our own model).
ROAD_FACTOR, ROAD_KM_PER_H = 1.35, 55.0
# Between two viewpoints of one place one walks off the path.
OFF_PATH_FACTOR = 1.4

# Spans of time (start, end) [s after the outing's start], in order of time and without overlaps.
Spans = tuple[tuple[float, float], ...]


@dataclass(frozen=True)
class Window:
    """When a stop may begin [s after the outing's start], and what it is worth then.

    name: of its light.

    mark: how good it is for the stop. doubtful: it counts with a tide that is not known; the other windows take such a
    tide as closed.
    """

    start_s: float
    end_s: float
    value: float
    name: str = ""
    mark: Severity = HOLDS
    doubtful: bool = False


@dataclass(frozen=True)
class Place:
    """Where a stop is.

    walk_s, walk_m: from where the car stands, one way; drive_s: from home; None where nobody knows.

    key: of its location; stops of one location have their car in one place. reserve_s: by which one is there earlier.
    drive_guessed: nobody has said how long the drive from home takes. walks_closed: when nobody can walk in or out;
    stay_closed: when nobody may be there; walks_unknown: when the tide on the way is not known.
    """

    key: int
    latitude_deg: float
    longitude_deg: float
    walk_s: float
    walk_m: float
    drive_s: float | None
    viewpoint: int = 0
    reserve_s: float = 0.0
    drive_guessed: bool = False
    walks_closed: Spans = ()
    stay_closed: Spans = ()
    walks_unknown: Spans = ()


@dataclass(frozen=True)
class Stop:
    """set_up_s before it begins, stay_s from then on, with packing up.

    place None: a rest, wherever one is. leg_s: the way there as it was typed.
    """

    at: int
    name: str
    windows: tuple[Window, ...]
    set_up_s: float
    stay_s: float
    place: Place | None = None
    leg_s: float | None = None


@dataclass(frozen=True)
class Leg:
    """A way: by car and on foot [s], how far on foot [m]. estimated: nobody has said how long the drive takes."""

    drive_s: float = 0.0
    walk_out_s: float = 0.0
    walk_in_s: float = 0.0
    walk_m: float = 0.0
    estimated: bool = False


@dataclass(frozen=True)
class Beds:
    """Where the nights of several days are spent.

    least_s: each at least; noons_s: of the days after the first [s after the start]: a night lies between two.

    evening_s, morning_s: the drives to and from a base; None: home.
    """

    least_s: float
    noons_s: tuple[float, ...]
    evening_s: float | None = None
    morning_s: float | None = None

    def owed_by(self, moment_s: float) -> int:
        """Return how many nights must have been slept by a time."""
        return sum(moment_s >= noon for noon in self.noons_s)

    def slept(self, before: int, from_s: float, to_s: float) -> int:
        """Return the number of nights slept after a stay in bed, given the number before."""
        count = before
        while count < len(self.noons_s):
            start = max(from_s, self.noons_s[count] - 86_400.0)
            if min(to_s, self.noons_s[count]) - start < self.least_s - 1e-6:
                break
            count += 1
        return count


@dataclass(frozen=True)
class Limits:
    """Of an outing: when home is left at the earliest, when one must be back, how far one will walk [s after the
    start, m].

    at: the place one is at now; None: at home.

    wait_cost: what an hour of a long wait on the spot takes off the value. beds: None where no night has to be slept.
    """

    leave_s: float = 0.0
    back_s: float = math.inf
    most_walk_m: float = math.inf
    at: Place | None = None
    wait_cost: float = 0.0
    beds: Beds | None = None


def way_between(before: Place | None, after: Place | None, typed_s: float | None = None) -> Leg:
    """Return the way from one place to another, None being home.

    typed_s: the drive, or the walk within one location, as it was said.
    """
    if before is None and after is None:
        return Leg()
    if before is None or after is None:
        place = after if after is not None else before
        assert place is not None
        walk = place.walk_s
        drive = typed_s if typed_s is not None else place.drive_s
        if before is None and drive is not None:
            drive += place.reserve_s
        return Leg(
            drive or 0.0,
            walk if after is None else 0.0,
            walk if before is None else 0.0,
            place.walk_m,
            drive is None or (place.drive_guessed and typed_s is None),
        )
    if before.key == after.key:
        if before.viewpoint == after.viewpoint:
            return Leg()
        apart = float(distance_m(before.latitude_deg, before.longitude_deg, after.latitude_deg, after.longitude_deg))
        walk = typed_s if typed_s is not None else OFF_PATH_FACTOR * float(naismith_h(apart, 0.0)) * 3600
        return Leg(0.0, 0.0, walk, apart, typed_s is None and apart > 0)
    apart = float(distance_m(before.latitude_deg, before.longitude_deg, after.latitude_deg, after.longitude_deg))
    drive = typed_s if typed_s is not None else apart / 1000 * ROAD_FACTOR / ROAD_KM_PER_H * 3600
    return Leg(drive, before.walk_s, after.walk_s, before.walk_m + after.walk_m, typed_s is None)
