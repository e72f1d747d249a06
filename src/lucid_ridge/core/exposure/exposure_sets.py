"""The times of a set of exposures, as a camera can set them.

Source: [1] third-stop markings of the shutter (ISO 516); beyond the slowest that is marked, times are taken on bulb by whole seconds.
"""

from __future__ import annotations

import math

from ..units.markings import nearest_third_shutter_s
from ..units.quantities import positive

_SLACK = 1e-6


def marked_time_s(shutter_s: float, slowest_s: float, rounding: int = 0) -> float:
    """Return the time [s] that a camera sets for shutter_s: its nearest third-stop marking, on bulb its nearest second. Source: [1].

    slowest_s: the longest that is marked. rounding: -1 for the marking that is no longer, 1 for the one that is no shorter.
    """
    wanted = float(positive("shutter_s", shutter_s))
    if wanted > slowest_s * 2 ** (1 / 6):
        return float({-1: math.floor(wanted + _SLACK), 0: round(wanted), 1: math.ceil(wanted - _SLACK)}[rounding])
    nearest = nearest_third_shutter_s(wanted)
    if rounding < 0 and nearest > wanted * (1 + _SLACK):
        return nearest * 2 ** (-1 / 3)
    if rounding > 0 and nearest < wanted * (1 - _SLACK):
        return nearest * 2 ** (1 / 3)
    return nearest


def times_around_s(base_s: float, count: int, step_ev: float, slowest_s: float) -> tuple[float, ...]:
    """Return the times [s] of count exposures a step apart around a base, the darkest first; of an even number one more lies above it."""
    first = -((count - 1) // 2)
    return tuple(marked_time_s(base_s * 2 ** (step_ev * index), slowest_s) for index in range(first, first + count))


def times_over_s(
    base_s: float, least_stops: float, most_stops: float, count: int, step_ev: float, slowest_s: float, tolerance_stops: float = 0.0
) -> tuple[float, ...]:
    """Return the times [s] of count exposures a step apart whose darkest lies between two distances from the base [stops, brighter positive].

    Where one of them can fall upon the base's own marking it does, as near to the middle of them as it goes; else the darkest is as bright as it may be.
    One more exposure is taken where the markings leave no set of count within. tolerance_stops: by how much a set on the base's marking may miss.
    """
    base = marked_time_s(base_s, slowest_s)
    own = math.log2(base / base_s)
    middle, miss = (count - 1) / 2, tolerance_stops + _SLACK
    fits = [index for index in range(count) if least_stops - miss <= own - index * step_ev <= most_stops + miss]
    if fits:
        index = min(fits, key=lambda item: abs(item - middle))
        return tuple(marked_time_s(base * 2 ** (step_ev * (at - index)), slowest_s) for at in range(count))
    darkest = marked_time_s(base_s * 2**most_stops, slowest_s, -1)
    more = 0 if math.log2(darkest / base_s) >= least_stops - _SLACK else 1
    return tuple(marked_time_s(darkest * 2 ** (step_ev * at), slowest_s) for at in range(count + more))


def carrying_index(times_s: tuple[float, ...], base_s: float) -> int:
    """Return which exposure of a set carries the picture: the one nearest to the base in stops, of two alike the shorter."""
    return min(range(len(times_s)), key=lambda index: round(abs(math.log2(times_s[index] / base_s)), 9))
