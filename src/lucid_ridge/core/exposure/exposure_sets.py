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
    """Return the time [s] that a camera sets for shutter_s: its nearest third-stop marking, on bulb its nearest
    second.

    Source: [1].

    slowest_s: the longest that is marked. rounding: -1 for the marking that is no longer, 1 for the one that is no
    shorter.
    """
    return float(marked_times_s(shutter_s, slowest_s, rounding))


def marked_times_s(shutter_s: Any, slowest_s: float, rounding: int = 0) -> Floats:
    """Return the same for many times at once. Broadcasts."""
    wanted = positive("shutter_s", shutter_s)
    bulb = {-1: np.floor(wanted + _SLACK), 0: np.round(wanted), 1: np.ceil(wanted - _SLACK)}[rounding]
    nearest = 2.0 ** (np.round(3 * np.log2(wanted)) / 3)
    if rounding < 0:
        nearest = np.where(nearest > wanted * (1 + _SLACK), nearest * 2 ** (-1 / 3), nearest)
    if rounding > 0:
        nearest = np.where(nearest < wanted * (1 - _SLACK), nearest * 2 ** (1 / 3), nearest)
    return np.asarray(np.where(wanted > slowest_s * 2 ** (1 / 6), bulb, nearest))


def times_around_s(base_s: float, count: int, step_ev: float, slowest_s: float) -> tuple[float, ...]:
    """Return the times [s] of count exposures a step apart around a base, the darkest first; of an even number one
    more lies above it.

    """
    first = -((count - 1) // 2)
    return tuple(marked_time_s(base_s * 2 ** (step_ev * index), slowest_s) for index in range(first, first + count))


def times_over_s(
    base_s: float,
    least_stops: float,
    most_stops: float,
    count: int,
    step_ev: float,
    slowest_s: float,
    tolerance_stops: float = 0.0,
) -> tuple[float, ...]:
    """Return the times [s] of count exposures a step apart whose darkest lies between two distances from the base
    [stops, brighter positive].

    Where one of them can fall upon the base's own marking it does, as near to the middle of them as it goes; else the
    darkest is as bright as it may be.
    One more exposure is taken where the markings leave no set of count within. tolerance_stops: by how much a set on
    the base's marking may miss.
    """
    darkest, frames = darkest_over_s(base_s, least_stops, most_stops, count, step_ev, slowest_s, tolerance_stops)
    return tuple(marked_time_s(float(darkest) * 2 ** (step_ev * at), slowest_s) for at in range(int(frames)))


def darkest_over_s(
    base_s: Any,
    least_stops: Any,
    most_stops: Any,
    count: Any,
    step_ev: float,
    slowest_s: float,
    tolerance_stops: float = 0.0,
) -> tuple[Floats, Floats]:
    """Return the darkest time [s] of such a set, from which the others follow by steps, and how many there are.

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
    darkest = marked_times_s(base * 2.0**most_stops, slowest_s, -1)
    more = np.where(np.log2(darkest / base) >= least_stops - _SLACK, 0, 1)
    found = np.isfinite(best)
    return np.where(found, marked * 2.0 ** (-step_ev * index), darkest), np.asarray(
        np.where(found, count, count + more)
    )


def carrying_index(times_s: tuple[float, ...], base_s: float) -> int:
    """Return which exposure of a set carries the picture: the one nearest to the base in stops, of two alike the
    shorter.

    """
    return min(range(len(times_s)), key=lambda index: round(abs(math.log2(times_s[index] / base_s)), 9))
