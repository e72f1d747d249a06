"""Sun and moon from the centre of the Earth, as splines that every place shares.

The apparent direction changes slowly: knots every six hours and a cubic spline between them add less than 0.1 arc
second, also for the moon. What depends on the place (the turning Earth, parallax) is then plain geometry. Source: [1]
JPL ephemeris DE421, through Skyfield.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy.interpolate import CubicSpline

from ..spans.instants import EARLIEST_S, LATEST_S
from .ephemeris import apparent_of_date_km

KNOT_S = 6 * 3600.0
_BLOCK_S = 64 * 86400.0
_MARGIN_S = 2 * 86400.0
# One turn of the Earth against the stars takes a mean sidereal day.
_TURN_RAD_PER_S = 2 * math.pi * 1.00273790935 / 86400.0


@dataclass(frozen=True)
class Geocentric:
    """at(seconds): the apparent place in the true equator of date [km], shape (…, 3), and the sidereal angle [rad]."""

    at: Callable[[Any], tuple[NDArray[np.float64], NDArray[np.float64]]]

    def position_km(self, seconds: Any) -> NDArray[np.float64]:
        """Return the apparent place alone [km], shape (…, 3)."""
        return self.at(seconds)[0]


def geocentric(body: str, start_s: float, end_s: float) -> Geocentric:
    """Return the splines of a body ("sun", "moon", "galactic_centre") over start_s to end_s [unix seconds].

    Source: [1].
    """
    return _blocks(body, math.floor((start_s - _MARGIN_S) / _BLOCK_S), math.ceil((end_s + _MARGIN_S) / _BLOCK_S))


@lru_cache(maxsize=48)
def _blocks(body: str, first: int, last: int) -> Geocentric:
    knots = np.arange(max(first * _BLOCK_S, EARLIEST_S), min(last * _BLOCK_S, LATEST_S) + KNOT_S, KNOT_S)
    origin = float(knots[0])
    kilometres, sidereal_rad = apparent_of_date_km(body, knots)
    # The even turn is taken out, so that what is interpolated is only nutation and the slow change of the day's length.
    rest = np.unwrap(sidereal_rad - _TURN_RAD_PER_S * (knots - origin))
    # One spline for both: asking it costs more than what it computes.
    spline = CubicSpline(knots - origin, np.column_stack((kilometres, rest)))

    def at(seconds: Any) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
        since = np.asarray(seconds, dtype=np.float64) - origin
        found = np.asarray(spline(since), dtype=np.float64)
        return found[..., :3], _TURN_RAD_PER_S * since + found[..., 3]

    return Geocentric(at)
