"""The path of the sun over some hours, quick to ask for any instant.

Positions are computed every ten minutes and the direction vector between them interpolated by a cubic spline; the sun moves
so smoothly that this adds less than 0.0001 degree.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from datetime import datetime
from functools import lru_cache
from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy.interpolate import CubicSpline

from ..units.quantities import in_callers_shape
from .ephemeris import sun_position
from .instants import unix_seconds

KNOT_S = 600.0


@dataclass(frozen=True)
class SunTrack:
    """The sun's airless direction from start_s to end_s [unix seconds] at one place."""

    start_s: float
    end_s: float
    _direction: CubicSpline

    def altitude_deg(self, seconds: Any) -> Any:
        """Return the airless altitude of the centre [degrees] at unix seconds, in their shape."""
        east, north, up = self._unit(seconds)
        return in_callers_shape(np.degrees(np.arctan2(up, np.hypot(east, north))))

    def azimuth_deg(self, seconds: Any) -> Any:
        """Return the azimuth [degrees from north, clockwise] at unix seconds, in their shape."""
        east, north, _ = self._unit(seconds)
        return in_callers_shape(np.degrees(np.arctan2(east, north)) % 360)

    def _unit(self, seconds: Any) -> NDArray[np.float64]:
        values = self._direction(np.asarray(seconds, dtype=np.float64) - self.start_s)
        return np.moveaxis(np.asarray(values, dtype=np.float64), -1, 0)


def sun_track(latitude_deg: float, longitude_deg: float, elevation_m: float, start_utc: datetime, end_utc: datetime) -> SunTrack:
    """Return the sun's track from start_utc to end_utc. Recent ones are kept: drawings ask again and again."""
    start, end = (float(unix_seconds(moment)) for moment in (start_utc, end_utc))
    return _sun_track(float(latitude_deg), float(longitude_deg), float(elevation_m), start, end)


@lru_cache(maxsize=128)
def _sun_track(latitude: float, longitude: float, elevation: float, start: float, end: float) -> SunTrack:
    # A knot on either side keeps the spline's free ends out of the span asked for.
    count = max(4, math.ceil((end - start) / KNOT_S) + 3)
    knots = start - KNOT_S + KNOT_S * np.arange(count)
    position = sun_position(latitude, longitude, elevation, knots)
    altitude, azimuth = np.radians(position.altitude_deg), np.radians(position.azimuth_deg)
    vectors = np.stack((np.cos(altitude) * np.sin(azimuth), np.cos(altitude) * np.cos(azimuth), np.sin(altitude)), axis=-1)
    return SunTrack(start, end, CubicSpline(knots - start, vectors))
