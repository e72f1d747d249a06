"""How long a walk takes.

Sources: [1] W. W. Naismith, Scottish Mountaineering Club Journal 2 (1892) 136: an hour for 3 miles and another for 2,000 feet of
ascent, in round metric figures 5 km and 600 m; [2] W. Tobler, Three presentations on geographical analysis and modeling, NCGIA
technical report 93-1, 1993: 6 exp(-3.5 |slope + 0.05|) km/h.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
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
# Heights noted along a track jump about; smaller rises than this are its noise.
_NOISE_M = 3.0


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


def walk_along(points: Sequence[tuple[float, float, float | None]]) -> Walk:
    """Return the walk along (latitude [deg], longitude [deg], height [m] or None). Fewer than two points are no way at all.

    Climbs are counted once they exceed 3 m, so that the noise of a receiver does not add up.
    """
    if len(points) < 2:
        return Walk(0.0, 0.0, 0.0, 0.0, None)
    latitude, longitude = (np.array([point[index] for point in points], dtype=np.float64) for index in (0, 1))
    steps = np.asarray(distance_m(latitude[:-1], longitude[:-1], latitude[1:], longitude[1:]))
    heights = np.array([np.nan if point[2] is None else point[2] for point in points], dtype=np.float64)
    known = np.isfinite(heights)
    ascent, descent = _climbs(heights[known].tolist())
    length = float(steps.sum())
    return Walk(length, ascent, descent, float(naismith_h(length, ascent)), _tobler_h(steps, heights) if known.all() else None)


def _climbs(heights: Sequence[float]) -> tuple[float, float]:
    up = down = 0.0
    if not heights:
        return up, down
    turn = heights[0]
    for height in heights[1:]:
        if abs(height - turn) >= _NOISE_M:
            up, down = up + max(0.0, height - turn), down + max(0.0, turn - height)
            turn = height
    rest = heights[-1] - turn
    return up + max(0.0, rest), down + max(0.0, -rest)


def _tobler_h(steps: Any, heights: Any) -> float:
    moving = steps > 0
    slopes = np.clip(np.diff(heights)[moving] / steps[moving], -2, 2)
    return float((steps[moving] / 1000 / np.asarray(tobler_speed_km_per_h(slopes))).sum())
