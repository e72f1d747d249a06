"""The times of a set of exposures, as a camera can set them.

Source: [1] third-stop markings of the shutter (ISO 516); beyond the slowest that is marked, times are taken on bulb by
whole seconds.
"""

from __future__ import annotations

import math
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..units.quantities import positive

Floats = NDArray[np.float64]
_SLACK = 1e-6


def marked_time_s(shutter_s: float, slowest_s: float, rounding: int = 0) -> float:
    """Return the time [s] that a camera sets for shutter_s: its nearest third-stop marking, or on bulb the nearest
    second.

    slowest_s: the longest marked time. rounding: -1 for the next shorter marking, 1 for the next longer one.

    Source: [1].
    """
    return float(marked_times_s(shutter_s, slowest_s, rounding))


def marked_times_s(shutter_s: Any, slowest_s: float, rounding: int = 0) -> Floats:
    """Return the marked times [s] for an array of times. Broadcasts."""
    wanted = positive("shutter_s", shutter_s)
    bulb = {-1: np.floor(wanted + _SLACK), 0: np.round(wanted), 1: np.ceil(wanted - _SLACK)}[rounding]
    nearest = 2.0 ** (np.round(3 * np.log2(wanted)) / 3)
    if rounding < 0:
        nearest = np.where(nearest > wanted * (1 + _SLACK), nearest * 2 ** (-1 / 3), nearest)
    if rounding > 0:
        nearest = np.where(nearest < wanted * (1 - _SLACK), nearest * 2 ** (1 / 3), nearest)
    return np.asarray(np.where(wanted > slowest_s * 2 ** (1 / 6), bulb, nearest))


def stepped_times_s(first_s: Any, stops: float, slowest_s: float) -> Floats:
    """Return the times [s] that lie some stops from marked ones. Broadcasts.

    A camera set to halves steps in even halves, one set to thirds in even thirds: beside a marked time the step is kept
    and not rounded again; on bulb whole seconds are.
    """
    wanted = positive("first_s", first_s) * 2.0**stops
    return np.asarray(np.where(wanted > slowest_s * 2 ** (1 / 6), np.round(wanted), wanted))


def times_around_s(base_s: float, count: int, step_ev: float, slowest_s: float) -> tuple[float, ...]:
    """Return the times [s] of count exposures spaced by step_ev around a base, the darkest first.

    An even count has one more above the base.
    """
    first, base = -((count - 1) // 2), marked_time_s(base_s, slowest_s)
    return tuple(
        float(stepped_times_s(base, step_ev * index, slowest_s)) if index else base
        for index in range(first, first + count)
    )


def times_over_s(
    base_s: float,
    least_stops: float,
    most_stops: float,
    count: int,
    step_ev: float,
    slowest_s: float,
    tolerance_stops: float = 0.0,
) -> tuple[float, ...]:
    """Return the times [s] of count exposures spaced by step_ev whose darkest lies between two distances from the base
    [stops, positive is brighter].

    If an exposure can fall on the base's own marking, it does, as near to the middle of the set as possible; otherwise
    the darkest is as bright as the range allows. If no set of count exposures fits the markings, one more is added.
    tolerance_stops: the error allowed for a set on the base's marking.
    """
    darkest, frames = darkest_over_s(base_s, least_stops, most_stops, count, step_ev, slowest_s, tolerance_stops)
    return tuple(float(stepped_times_s(darkest, step_ev * at, slowest_s)) for at in range(int(frames)))


def darkest_over_s(
    base_s: Any,
    least_stops: Any,
    most_stops: Any,
    count: Any,
    step_ev: float,
    slowest_s: float,
    tolerance_stops: float = 0.0,
) -> tuple[Floats, Floats]:
    """Return the darkest time [s] of such a set, from which the others follow by steps, and the number of exposures.

    Broadcasts.
    """
    base = positive("base_s", base_s)
    marked = marked_times_s(base, slowest_s)
    own, middle, miss = np.log2(marked / base), (np.asarray(count) - 1) / 2, tolerance_stops + _SLACK
    best, index = np.full(np.broadcast_shapes(own.shape, np.shape(count), np.shape(least_stops)), np.inf), np.zeros(())
    for at in range(int(np.max(count))):
        fits = (
            (at < np.asarray(count))
            & (least_stops - miss <= own - at * step_ev)
            & (own - at * step_ev <= most_stops + miss)
        )
        nearer = np.where(fits, np.abs(at - middle), np.inf)
        index = np.where(nearer < best, at, index)
        best = np.minimum(best, nearer)
    # What is let go at either end may just make an exact fit.
    darkest = marked_times_s(base * 2.0 ** (most_stops + tolerance_stops), slowest_s, -1)
    more = np.where(np.log2(darkest / base) >= least_stops - miss, 0, 1)
    found = np.isfinite(best)
    return np.where(found, marked * 2.0 ** (-step_ev * index), darkest), np.asarray(
        np.where(found, count, count + more)
    )


def carrying_index(times_s: tuple[float, ...], base_s: float) -> int:
    """Return the index of the exposure that carries the picture: the nearest to the base in stops; of two equally
    near, the shorter.
    """
    return min(range(len(times_s)), key=lambda index: round(abs(math.log2(times_s[index] / base_s)), 9))
