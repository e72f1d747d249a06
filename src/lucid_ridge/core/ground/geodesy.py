"""Distances and bearings over the ground, by great circles on the mean sphere.

Good to 0.5 % of a distance, which is a fraction of what a compass and a pace can tell. Source: [1] great-circle
formulas, any text on navigation; mean radius of the Earth 6,371.0088 km (IUGG).
"""

from __future__ import annotations

from typing import Any

import numpy as np

from ..errors import InputError
from ..units.quantities import finite, in_callers_shape

EARTH_RADIUS_M = 6_371_008.8
# Of light near the ground, as surveyors take it (any surveying text).
REFRACTION_K = 0.13


def curvature_drop_m(distance_m: Any) -> Any:
    """Return how far level ground seems to drop below the horizontal at a distance [m], refraction counted. Broadcasts.

    d²/2R · (1 - k), with k as surveyors take it: 27.3 m at 20 km. Source: any surveying text.
    """
    distance = finite("distance_m", distance_m)
    return in_callers_shape(distance * distance / (2 * EARTH_RADIUS_M) * (1 - REFRACTION_K))


def distance_m(latitude_1_deg: Any, longitude_1_deg: Any, latitude_2_deg: Any, longitude_2_deg: Any) -> Any:
    """Return the great-circle distance [m]. Broadcasts. Source: [1]."""
    lat1, lon1, lat2, lon2 = (
        np.radians(finite("position", value))
        for value in (latitude_1_deg, longitude_1_deg, latitude_2_deg, longitude_2_deg)
    )
    half = np.sin((lat2 - lat1) / 2) ** 2 + np.cos(lat1) * np.cos(lat2) * np.sin((lon2 - lon1) / 2) ** 2
    return in_callers_shape(2 * EARTH_RADIUS_M * np.arcsin(np.sqrt(np.clip(half, 0, 1))))


def bearing_deg(latitude_1_deg: Any, longitude_1_deg: Any, latitude_2_deg: Any, longitude_2_deg: Any) -> Any:
    """Return the bearing [degrees from north] from the first to the second place. Broadcasts. Source: [1]."""
    lat1, lon1, lat2, lon2 = (
        np.radians(finite("position", value))
        for value in (latitude_1_deg, longitude_1_deg, latitude_2_deg, longitude_2_deg)
    )
    east = np.sin(lon2 - lon1) * np.cos(lat2)
    north = np.cos(lat1) * np.sin(lat2) - np.sin(lat1) * np.cos(lat2) * np.cos(lon2 - lon1)
    return in_callers_shape(np.degrees(np.arctan2(east, north)) % 360)


def offset(latitude_deg: float, longitude_deg: float, bearing: float, along_m: float) -> tuple[float, float]:
    """Return (latitude, longitude) [degrees] of the place along_m away at a bearing [degrees]. Source: [1].

    Raises InputError for a distance below zero or over half the Earth.
    """
    if not 0 <= along_m <= 20_000_000:
        raise InputError("distance_m", f"A distance must lie from 0 to 20,000 km, not {along_m:g} m.")
    lat, lon, turn, angle = (
        np.radians(latitude_deg),
        np.radians(longitude_deg),
        np.radians(bearing),
        along_m / EARTH_RADIUS_M,
    )
    lat2 = np.arcsin(np.clip(np.sin(lat) * np.cos(angle) + np.cos(lat) * np.sin(angle) * np.cos(turn), -1, 1))
    lon2 = lon + np.arctan2(np.sin(turn) * np.sin(angle) * np.cos(lat), np.cos(angle) - np.sin(lat) * np.sin(lat2))
    return float(np.degrees(lat2)), float((np.degrees(lon2) + 540) % 360 - 180)


def east_north_m(
    latitude_deg: Any, longitude_deg: Any, origin_latitude_deg: float, origin_longitude_deg: float
) -> tuple[Any, Any]:
    """Return metres east and north of an origin, for a sketch of a few kilometres. Broadcasts."""
    metre = np.radians(EARTH_RADIUS_M)
    turn = (np.asarray(longitude_deg, dtype=np.float64) - origin_longitude_deg + 540) % 360 - 180
    east = turn * metre * np.cos(np.radians(origin_latitude_deg))
    north = (np.asarray(latitude_deg, dtype=np.float64) - origin_latitude_deg) * metre
    return in_callers_shape(east), in_callers_shape(north)
