"""Positions of sun and moon as seen from a place on the ground.

Sources: [1] JPL ephemeris DE421, through Skyfield; [2] Reda and Andreas, Solar Position Algorithm, NREL/TP-560-34302,
equation 42 (refraction, after Bennett and Meeus).
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Any

import numpy as np
from skyfield.api import Star, load, load_file, wgs84
from skyfield.framelib import itrs, true_equator_and_equinox_of_date

from ..errors import InputError
from ..spans.instants import unix_seconds
from ..units.quantities import finite, in_callers_shape

STANDARD_PRESSURE_MBAR = 1010.0
STANDARD_TEMPERATURE_C = 10.0
# Below this airless altitude refraction models disagree and none is applied.
LOWEST_REFRACTED_DEG = -1.0
# Without parallax: as far away as the library takes a star to be. The galactic centre's source stands in stars.py.
_STARS = {"galactic_centre": Star(ra_hours=(17, 45, 40), dec_degrees=(-29, 0, 28))}


@dataclass(frozen=True)
class SkyPosition:
    """Where a body's centre stands, in the shape of the times asked for.

    altitude_deg: airless, topocentric. apparent_altitude_deg: with refraction. azimuth_deg: from north, clockwise.
    distance_km: from the observer.
    """

    altitude_deg: Any
    apparent_altitude_deg: Any
    azimuth_deg: Any
    distance_km: Any


def sun_position(
    latitude_deg: float,
    longitude_deg: float,
    elevation_m: float,
    times_utc: Any,
    pressure_mbar: float = STANDARD_PRESSURE_MBAR,
    temperature_c: float = STANDARD_TEMPERATURE_C,
) -> SkyPosition:
    """Return the sun's topocentric position at times_utc (a datetime, a sequence or a datetime64 array; UTC).

    latitude_deg -90..90, longitude_deg -180..180 (east positive), elevation_m above the ellipsoid. Years 1900 to 2052.
    Raises InputError for coordinates or times outside those. Sources: [1], [2].
    """
    return _position("sun", latitude_deg, longitude_deg, elevation_m, times_utc, pressure_mbar, temperature_c)


def moon_position(
    latitude_deg: float,
    longitude_deg: float,
    elevation_m: float,
    times_utc: Any,
    pressure_mbar: float = STANDARD_PRESSURE_MBAR,
    temperature_c: float = STANDARD_TEMPERATURE_C,
) -> SkyPosition:
    """Return the moon's topocentric position, parallax included; arguments as for sun_position."""
    return _position("moon", latitude_deg, longitude_deg, elevation_m, times_utc, pressure_mbar, temperature_c)


def refraction_deg(
    altitude_deg: Any, pressure_mbar: float = STANDARD_PRESSURE_MBAR, temperature_c: float = STANDARD_TEMPERATURE_C
) -> Any:
    """Return the lift by refraction [degrees] at an airless altitude; zero below -1 degree. Broadcasts. Source: [2]."""
    altitude = finite("altitude_deg", altitude_deg)
    inside = np.maximum(altitude, LOWEST_REFRACTED_DEG)
    lift = (
        pressure_mbar / 1010.0 * 283.0 / (273.0 + temperature_c)
        * 1.02 / (60 * np.tan(np.radians(inside + 10.3 / (inside + 5.11))))
    )  # fmt: skip
    # The formula turns slightly negative near the zenith, where there is nothing to lift.
    return in_callers_shape(np.where(altitude >= LOWEST_REFRACTED_DEG, np.maximum(lift, 0.0), 0.0))


def apparent_altitude_deg(altitude_deg: Any) -> Any:
    """Return the altitude at which a body is seen [degrees] for its airless altitude, in air as usual.

    Broadcasts. Source: [2].
    """
    altitude = finite("altitude_deg", altitude_deg)
    return in_callers_shape(altitude + np.asarray(refraction_deg(altitude)))


def apparent_of_date_km(body: str, seconds: Any) -> tuple[Any, Any]:
    """Return a body's apparent place from the Earth's centre [km, shape (n, 3)] and the sidereal angle [rad] at unix
    seconds.

    body: "sun", "moon" or "galactic_centre"; axes of the true equator and equinox of date. Source: [1].
    """
    bodies, _ = _ephemeris()
    moments = _moments(np.asarray(seconds, dtype=np.float64))
    if body in _STARS:
        seen = bodies["earth"].at(moments).observe(_STARS[body]).apparent()
        return seen.frame_xyz(true_equator_and_equinox_of_date).km.T, np.radians(moments.gast * 15.0)
    place = (
        bodies["earth"].at(moments).observe(bodies[body]).apparent().frame_xyz(true_equator_and_equinox_of_date).km.T
    )
    # The Earth moves on while the light comes, which stretches this vector by up to 1e-4; the moon's parallax
    # wants the true length.
    true_km = (bodies[body] - bodies["earth"]).at(moments).distance().km
    place *= (true_km / np.linalg.norm(place, axis=1))[:, None]
    return place, np.radians(moments.gast * 15.0)


def star_directions(directions: Any, moment: Any) -> Any:
    """Return J2000 unit vectors [shape (…, 3)] in Earth-fixed axes at one instant.

    Aberration is left out: a third of an arc minute.
    """
    return np.asarray(directions) @ itrs.rotation_at(_moments(unix_seconds(moment))).T


def observer_km(latitude_deg: float, longitude_deg: float, elevation_m: float) -> Any:
    """Return a place on the WGS 84 ellipsoid in Earth-fixed axes [km, shape (3,)]."""
    check_place(latitude_deg, longitude_deg, elevation_m)
    return wgs84.latlon(latitude_deg, longitude_deg, elevation_m).itrs_xyz.km


def check_place(latitude_deg: float, longitude_deg: float, elevation_m: float) -> None:
    """Raise InputError unless the coordinates are a place on the ground."""
    for name, value, low, high in (
        ("latitude_deg", latitude_deg, -90.0, 90.0),
        ("longitude_deg", longitude_deg, -180.0, 180.0),
        ("elevation_m", elevation_m, -500.0, 9000.0),
    ):
        number = float(finite(name, value))
        if not low <= number <= high:
            raise InputError(name, f"{name} must lie from {low:g} to {high:g}, not {number:g}.")


@cache
def _ephemeris() -> tuple[Any, Any]:
    path = files("skyfield_data").joinpath("data", "de421.bsp")
    return load_file(str(path)), load.timescale(builtin=True)


def _moments(seconds: Any) -> Any:
    _, timescale = _ephemeris()
    days, within = np.divmod(seconds, 86400.0)
    # Skyfield looks leap seconds up by the day, so the seconds since 1970 must not all go into its seconds argument.
    return timescale.utc(1970, 1, 1 + days.astype(np.int64), 0, 0, within)


def _position(
    body: str, latitude: float, longitude: float, elevation: float, times: Any, pressure: float, temperature: float
) -> SkyPosition:
    check_place(latitude, longitude, elevation)
    bodies, _ = _ephemeris()
    seconds = unix_seconds(times)
    moments = _moments(np.atleast_1d(seconds).ravel())
    observer = bodies["earth"] + wgs84.latlon(latitude, longitude, elevation)
    altitude, azimuth, distance = observer.at(moments).observe(bodies[body]).apparent().altaz()
    airless = altitude.degrees.reshape(seconds.shape)
    return SkyPosition(
        altitude_deg=in_callers_shape(airless),
        apparent_altitude_deg=in_callers_shape(airless + refraction_deg(airless, pressure, temperature)),
        azimuth_deg=in_callers_shape(azimuth.degrees.reshape(seconds.shape)),
        distance_km=in_callers_shape(distance.km.reshape(seconds.shape)),
    )
