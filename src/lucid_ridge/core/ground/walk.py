"""How long a walk takes.

Sources: [1] W. W. Naismith, Scottish Mountaineering Club Journal 2 (1892) 136: an hour for 3 miles and another for
2,000 feet of ascent, in round metric figures 5 km and 600 m; [2] W. Tobler, Three presentations on geographical
analysis and modeling, NCGIA technical report 93-1, 1993: 6 exp(-3.5 |slope + 0.05|) km/h.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Collection, Sequence
from dataclasses import dataclass
from enum import StrEnum
from itertools import pairwise
from typing import Any

import numpy as np

from ..errors import InputError
from ..units.quantities import finite, in_callers_shape
from .geodesy import distance_m

NAISMITH_KM_PER_H, NAISMITH_ASCENT_M_PER_H = 5.0, 600.0


class Terrain(StrEnum):
    PATH = "path"
    ROUGH = "rough"
    BOULDERS = "boulders"
    BOG = "bog"
    SAND = "sand"
    SNOW = "snow"


# Times on a made path are stretched by rougher ground (common practice of walkers).
TERRAIN_FACTORS = {
    Terrain.PATH: 1.0,
    Terrain.ROUGH: 1.3,
    Terrain.BOULDERS: 1.8,
    Terrain.BOG: 1.6,
    Terrain.SAND: 1.4,
    Terrain.SNOW: 1.7,
}
# Heights of a track jump about and wander: they are averaged over this length, and rises of less than the threshold
# are noise (common practice: 5 to 10 m).
SMOOTHED_OVER_M, CLIMB_FROM_M = 100.0, 10.0
# Slopes for Tobler's rule are taken over this length.
_SLOPE_M = 25.0


@dataclass(frozen=True)
class Walk:
    """Along a track: length and climb [m], and the hours by both rules; tobler_h is None without heights."""

    length_m: float
    ascent_m: float
    descent_m: float
    naismith_h: float
    tobler_h: float | None


def naismith_h(length_m: Any, ascent_m: Any) -> Any:
    """Return the time [h] for a length and an ascent [m], both not negative. Broadcasts. Source: [1]."""
    length, ascent = finite("length_m", length_m), finite("ascent_m", ascent_m)
    if (length < 0).any() or (ascent < 0).any():
        raise InputError("length_m", "Length and ascent must not be negative.")
    return in_callers_shape(length / 1000 / NAISMITH_KM_PER_H + ascent / NAISMITH_ASCENT_M_PER_H)


def tobler_speed_km_per_h(slope: Any) -> Any:
    """Return the walking speed [km/h] on a slope (rise over run, downhill negative). Broadcasts. Source: [2]."""
    return in_callers_shape(6 * np.exp(-3.5 * np.abs(finite("slope", slope) + 0.05)))


def walk_along(points: Sequence[tuple[float, float, float | None]], breaks: Collection[int] = ()) -> Walk:
    """Return the walk along (latitude [deg], longitude [deg], height [m] or None).

    Fewer than two points are no way at all.

    Heights are averaged over SMOOTHED_OVER_M, and climbs counted between turning points at least CLIMB_FROM_M apart, so
    that the noise of a receiver does not add up. breaks: at which points a new segment begins; the gap before it is not
    walked. tobler_h is None where any height is missing.
    """
    starts = [0, *sorted(index for index in set(breaks) if 0 < index < len(points)), len(points)]
    parts = [_segment(points[start:end]) for start, end in pairwise(starts) if end - start > 1]
    if not parts:
        return Walk(0.0, 0.0, 0.0, 0.0, None)
    length, ascent, descent = (
        sum(values) for values in zip(*((part[0], part[1], part[2]) for part in parts), strict=True)
    )
    hours = [part[3] for part in parts]
    tobler = None if any(math.isnan(hour) for hour in hours) else sum(hours)
    return Walk(length, ascent, descent, float(naismith_h(length, ascent)), tobler)


def _segment(points: Sequence[tuple[float, float, float | None]]) -> tuple[float, float, float, float]:
    """Return length, ascent and descent [m] of one unbroken stretch, and its time by Tobler's rule [h], NaN where a
    height is missing.
    """
    latitude, longitude = (np.array([point[index] for point in points], dtype=np.float64) for index in (0, 1))
    steps = np.asarray(distance_m(latitude[:-1], longitude[:-1], latitude[1:], longitude[1:]))
    along = np.concatenate(([0.0], np.cumsum(steps)))
    heights = np.array([np.nan if point[2] is None else point[2] for point in points], dtype=np.float64)
    known, length = np.isfinite(heights), float(along[-1])
    if not known.any() or length == 0:
        return length, 0.0, 0.0, 0.0 if known.all() and length == 0 else math.nan
    smooth = _smoothed(along[known], heights[known])
    ascent, descent = _climbs(smooth(along[known]).tolist())
    if not known.all():
        return length, ascent, descent, math.nan
    at = np.linspace(0.0, length, max(2, math.ceil(length / _SLOPE_M) + 1))
    slopes = np.clip(np.diff(smooth(at)) / np.diff(at), -2, 2)
    return length, ascent, descent, float((np.diff(at) / 1000 / np.asarray(tobler_speed_km_per_h(slopes))).sum())


def _smoothed(along: Any, heights: Any) -> Callable[[Any], Any]:
    """Return heights at distances [m] as means over SMOOTHED_OVER_M around them, less at the ends, where as much is
    taken to either side.
    """
    at, first = np.unique(along, return_index=True)
    if len(at) < 2:
        return lambda where: np.full(np.shape(where), float(np.mean(heights)))
    # Several heights at one place count as their mean.
    here = np.add.reduceat(heights, first) / np.diff(np.append(first, len(heights)))
    sums = np.concatenate(([0.0], np.cumsum(np.diff(at) * (here[1:] + here[:-1]) / 2)))

    def area(where: Any) -> Any:
        index = np.clip(np.searchsorted(at, where, side="right") - 1, 0, len(at) - 2)
        part = where - at[index]
        slope = (here[index + 1] - here[index]) / (at[index + 1] - at[index])
        return sums[index] + part * (here[index] + slope * part / 2)

    def smooth(where: Any) -> Any:
        half = np.minimum(SMOOTHED_OVER_M / 2, np.minimum(where - at[0], at[-1] - where))
        wide = half > 1e-6
        mean = (area(where + half) - area(where - half)) / np.where(wide, 2 * half, 1.0)
        return np.where(wide, mean, np.interp(where, at, here))

    return smooth


def _climbs(heights: Sequence[float]) -> tuple[float, float]:
    """Return the sums of rises and falls between turning points that lie CLIMB_FROM_M apart at least; less than that
    in all counts as it is.
    """
    up = down = 0.0
    low = high = pivot = extreme = heights[0]
    way = 0
    for height in heights[1:]:
        if way == 0:
            low, high = min(low, height), max(high, height)
            if height - low >= CLIMB_FROM_M:
                way, pivot, extreme = 1, low, height
            elif high - height >= CLIMB_FROM_M:
                way, pivot, extreme = -1, high, height
        elif way * (height - extreme) > 0:
            extreme = height
        elif way * (extreme - height) >= CLIMB_FROM_M:
            up, down = up + max(0.0, extreme - pivot), down + max(0.0, pivot - extreme)
            way, pivot, extreme = -way, extreme, height
    if way == 0:
        extreme, pivot = heights[-1], heights[0]
    return up + max(0.0, extreme - pivot), down + max(0.0, pivot - extreme)
