"""Fixed stars, the galactic centre and the galactic band: where they stand at a place.

Right ascension and declination are those of the equator and equinox of 2000 (J2000). A star is so far away that
parallax and its own motion do not count here.

Sources: [1] the galactic centre, 17h 45m 40s, −29° 00′ 28″ (Reid and Brunthaler, Astrophysical Journal 616 (2004) 872,
to the second); [2] the galactic pole at 192.85948°, 27.12825°, with the celestial pole at the longitude 122.93192°: The
Hipparcos and Tycho Catalogues, ESA SP-1200, volume 1, section 1.5.3.
"""

from __future__ import annotations

from datetime import datetime
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..units.quantities import Quantity, as_floats
from .bands import NAUTICAL_DEG
from .ephemeris import check_place, star_directions
from .track import Track, body_track

Floats = NDArray[np.float64]
GALACTIC_CENTRE = "galactic_centre"
# Stars show for the camera from nautical dusk on (common practice).
STARS_BELOW_DEG = NAUTICAL_DEG
# Half the width of the band as it is seen around its middle line [degrees]; brightest within it (common practice).
BAND_HALF_WIDTH_DEG = 8.0
_POLE_RA_DEG, _POLE_DEC_DEG, _NORTH_AT_DEG = 192.85948, 27.12825, 122.93192


def galactic_centre_track(
    latitude_deg: float, longitude_deg: float, elevation_m: float, start_utc: datetime, end_utc: datetime
) -> Track:
    """Return the track of the galactic centre from start_utc to end_utc; arguments and errors as for sun_track.

    Source: [1].
    """
    return body_track(GALACTIC_CENTRE, latitude_deg, longitude_deg, elevation_m, start_utc, end_utc)


def from_galactic(longitude_deg: Quantity, latitude_deg: Quantity) -> tuple[Floats, Floats]:
    """Return right ascension and declination [degrees, J2000] of galactic coordinates [degrees]. Broadcasts.

    Source: [2].
    """
    along = np.radians(_NORTH_AT_DEG - as_floats("longitude_deg", longitude_deg))
    b = np.radians(as_floats("latitude_deg", latitude_deg))
    pole = np.radians(_POLE_DEC_DEG)
    sine = np.sin(pole) * np.sin(b) + np.cos(pole) * np.cos(b) * np.cos(along)
    east = np.cos(b) * np.sin(along)
    north = np.cos(pole) * np.sin(b) - np.sin(pole) * np.cos(b) * np.cos(along)
    ra = (_POLE_RA_DEG + np.degrees(np.arctan2(east, north))) % 360
    return np.asarray(ra), np.asarray(np.degrees(np.arcsin(np.clip(sine, -1.0, 1.0))))


def star_horizontal_deg(
    latitude_deg: float, longitude_deg: float, moment: datetime, ra_deg: Quantity, declination_deg: Quantity
) -> tuple[Floats, Floats]:
    """Return airless altitude and azimuth [degrees] of stars at one instant, in the shape of ra_deg.

    ra_deg, declination_deg: J2000. Precession, nutation and the Earth's turn are counted, aberration (a third of an arc
    minute) is not. Raises InputError for an impossible place or a year that the ephemeris does not reach.
    """
    check_place(latitude_deg, longitude_deg, 0.0)
    ra, declination = np.radians(as_floats("ra_deg", ra_deg)), np.radians(as_floats("declination_deg", declination_deg))
    towards = np.stack(
        (np.cos(declination) * np.cos(ra), np.cos(declination) * np.sin(ra), np.sin(declination)), axis=-1
    )
    x, y, z = np.moveaxis(star_directions(towards, moment), -1, 0)
    lat, lon = np.radians(latitude_deg), np.radians(longitude_deg)
    out, east = x * np.cos(lon) + y * np.sin(lon), y * np.cos(lon) - x * np.sin(lon)
    up, north = out * np.cos(lat) + z * np.sin(lat), z * np.cos(lat) - out * np.sin(lat)
    altitude = np.degrees(np.arcsin(np.clip(up, -1.0, 1.0)))
    return np.asarray(altitude), np.asarray(np.degrees(np.arctan2(east, north)) % 360)


def galactic_line(
    latitude_deg: float,
    longitude_deg: float,
    moment: datetime,
    galactic_latitude_deg: float = 0.0,
    step_deg: float = 5.0,
) -> tuple[Floats, Floats, Floats]:
    """Return a circle of constant galactic latitude [degrees] as galactic longitude, airless altitude and azimuth.

    From −180 to 180° of longitude, so that the galactic centre is in the middle. Arguments as for star_horizontal_deg.
    """
    longitudes: Any = np.arange(-180.0, 180.0 + step_deg / 2, step_deg)
    ra, declination = from_galactic(longitudes, galactic_latitude_deg)
    return longitudes, *star_horizontal_deg(latitude_deg, longitude_deg, moment, ra, declination)
