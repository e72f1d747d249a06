"""The path of sun or moon at a place, quick to ask for any instant."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import datetime
from functools import lru_cache
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..spans.instants import unix_seconds
from ..units.quantities import in_callers_shape
from .ephemeris import observer_km
from .geocentric import Geocentric, geocentric

SUN_RADIUS_KM, MOON_RADIUS_KM = 696_000.0, 1737.4
_EARTH_TURN_RAD_PER_S = 7.2921150e-5
_LIGHT_KM_PER_S = 299_792.458


@dataclass(frozen=True)
class Track:
    """A body's airless direction from start_s to end_s [unix seconds] at one place, parallax included."""

    start_s: float
    end_s: float
    body: str
    _geocentric: Geocentric = field(repr=False)
    _observer_km: NDArray[np.float64] = field(repr=False)
    _to_enu: NDArray[np.float64] = field(repr=False)
    _longitude_rad: float = field(repr=False)

    def horizontal(self, seconds: Any) -> tuple[NDArray[np.float64], NDArray[np.float64], NDArray[np.float64]]:
        """Return airless altitude [degrees], azimuth [degrees] and distance [km] of the centre, in the shape of
        seconds.
        """
        space, turn = self._geocentric.at(seconds)
        cos, sin = np.cos(turn), np.sin(turn)
        x, y, z = space[..., 0], space[..., 1], space[..., 2]
        here, turned = self._observer_km, self._to_enu
        fixed = (cos * x + sin * y - here[0], cos * y - sin * x - here[1], z - here[2])
        east, north, up = (row[0] * fixed[0] + row[1] * fixed[1] + row[2] * fixed[2] for row in turned)
        distance = np.sqrt(east * east + north * north + up * up)
        # The place itself is carried east by the Earth's turn, which tilts the light by up to a third of an arc second.
        carried = _EARTH_TURN_RAD_PER_S * np.hypot(self._observer_km[0], self._observer_km[1]) / _LIGHT_KM_PER_S
        east = east + carried * distance
        return np.degrees(np.arctan2(up, np.hypot(east, north))), np.degrees(np.arctan2(east, north)) % 360, distance

    def position_km(self, seconds: Any) -> NDArray[np.float64]:
        """Return the place seen from the Earth's centre, in the true equator of date [km, shape (…, 3)]."""
        return self._geocentric.position_km(seconds)

    def beyond_meridian(self, seconds: Any) -> Any:
        """Return how far the body has moved past the meridian plane [sine of the topocentric hour angle, west
        positive].
        """
        space, turn = self._geocentric.at(seconds)
        cos, sin = np.cos(turn), np.sin(turn)
        x = cos * space[..., 0] + sin * space[..., 1] - self._observer_km[0]
        y = cos * space[..., 1] - sin * space[..., 0] - self._observer_km[1]
        longitude = self._longitude_rad
        east, out = y * np.cos(longitude) - x * np.sin(longitude), x * np.cos(longitude) + y * np.sin(longitude)
        return in_callers_shape(-east / np.hypot(east, out))

    def altitude_deg(self, seconds: Any) -> Any:
        """Return the airless altitude of the centre [degrees] at unix seconds, in their shape."""
        return in_callers_shape(self.horizontal(seconds)[0])

    def azimuth_deg(self, seconds: Any) -> Any:
        """Return the azimuth [degrees from north, clockwise] at unix seconds, in their shape."""
        return in_callers_shape(self.horizontal(seconds)[1])

    def semidiameter_deg(self, seconds: Any) -> Any:
        """Return the angle from centre to limb [degrees] at unix seconds, in their shape."""
        return in_callers_shape(self.semidiameter_at_deg(self.horizontal(seconds)[2]))

    def semidiameter_at_deg(self, distance_km: Any) -> NDArray[np.float64]:
        """Return the angle from centre to limb [degrees] at a distance [km]."""
        radius = {"sun": SUN_RADIUS_KM, "moon": MOON_RADIUS_KM}.get(self.body, 0.0)
        return np.asarray(np.degrees(np.arcsin(radius / distance_km)))


def sun_track(
    latitude_deg: float, longitude_deg: float, elevation_m: float, start_utc: datetime, end_utc: datetime
) -> Track:
    """Return the sun's track from start_utc to end_utc. Recent ones are kept: drawings ask again and again.

    Raises InputError for an impossible place or a year the ephemeris does not reach.
    """
    return body_track("sun", latitude_deg, longitude_deg, elevation_m, start_utc, end_utc)


def moon_track(
    latitude_deg: float, longitude_deg: float, elevation_m: float, start_utc: datetime, end_utc: datetime
) -> Track:
    """Return the moon's track; arguments as for sun_track."""
    return body_track("moon", latitude_deg, longitude_deg, elevation_m, start_utc, end_utc)


def body_track(
    body: str, latitude_deg: float, longitude_deg: float, elevation_m: float, start_utc: datetime, end_utc: datetime
) -> Track:
    """Return the track of "sun", "moon" or "galactic_centre"."""
    start, end = (float(unix_seconds(moment)) for moment in (start_utc, end_utc))
    return _track(body, float(latitude_deg), float(longitude_deg), float(elevation_m), start, end)


@lru_cache(maxsize=256)
def _track(body: str, latitude: float, longitude: float, elevation: float, start: float, end: float) -> Track:
    lat, lon = np.radians(latitude), np.radians(longitude)
    to_enu = np.array(
        [
            [-np.sin(lon), np.cos(lon), 0.0],
            [-np.sin(lat) * np.cos(lon), -np.sin(lat) * np.sin(lon), np.cos(lat)],
            [np.cos(lat) * np.cos(lon), np.cos(lat) * np.sin(lon), np.sin(lat)],
        ]
    )
    return Track(
        start,
        end,
        body,
        geocentric(body, start, end),
        np.asarray(observer_km(latitude, longitude, elevation)),
        to_enu,
        float(lon),
    )
