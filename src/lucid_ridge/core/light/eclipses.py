"""Eclipses of the sun and of the moon at a place: how deep, and what light they leave.

Sources: [1] Explanatory Supplement to the Astronomical Almanac, 3rd ed., chapter 11: the Earth's shadow at the moon,
enlarged by a fiftieth for the air, with the radius of the Earth at mid latitude (from memory); [2] J. Meeus,
Astronomical Algorithms, 2nd ed., chapter 54 (magnitude); [3] the moon in the umbra has about a ten-thousandth of its
light, by an order of magnitude either way (from memory, after F. Link, Eclipse Phenomena in Astronomy, 1969).
"""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from .geocentric import geocentric
from .track import MOON_RADIUS_KM, SUN_RADIUS_KM, Track

Floats = NDArray[np.float64]
Horizontal = tuple[Any, Any, Any]
_EARTH_RADIUS_KM, _MID_LATITUDE, _AIR = 6378.137, 0.998340, 1.02
# In the umbra the moon is lit by the ring of all the Earth's twilights [3].
_IN_UMBRA = 1e-4
_RINGS = 16


def apart_deg(one: Horizontal, other: Horizontal) -> Floats:
    """Return the angle [degrees] between two directions, each as Track.horizontal gives it. Broadcasts."""
    lift, level = np.radians(np.subtract(one[0], other[0])), np.radians(np.subtract(one[1], other[1]))
    cosines = np.cos(np.radians(one[0])) * np.cos(np.radians(other[0]))
    half = np.sin(lift / 2) ** 2 + cosines * np.sin(level / 2) ** 2
    return np.asarray(2 * np.degrees(np.arcsin(np.sqrt(np.clip(half, 0.0, 1.0)))))


def covered_share(radius_deg: Any, covering_deg: Any, apart: Any) -> Floats:
    """Return the share of a disc's area that another disc covers, by their radii and distance [degrees]. Broadcasts."""
    r, s, d = np.broadcast_arrays(*(np.asarray(item, dtype=np.float64) for item in (radius_deg, covering_deg, apart)))
    safe = np.clip(d, 1e-9, None)
    of_one = np.arccos(np.clip((safe**2 + r**2 - s**2) / (2 * safe * r), -1.0, 1.0))
    of_other = np.arccos(np.clip((safe**2 + s**2 - r**2) / (2 * safe * s), -1.0, 1.0))
    kite = (-safe + r + s) * (safe + r - s) * (safe - r + s) * (safe + r + s)
    area = r**2 * of_one + s**2 * of_other - 0.5 * np.sqrt(np.clip(kite, 0.0, None))
    inside = np.minimum(1.0, (s / r) ** 2)
    share = np.where(d >= r + s, 0.0, np.where(d <= np.abs(r - s), inside, area / (np.pi * r**2)))
    return np.asarray(np.clip(share, 0.0, 1.0))


def sun_covered_share(sun: Track, sun_at: Horizontal, moon: Track, moon_at: Horizontal) -> Floats:
    """Return the share of the sun's disc that the moon covers as seen from a place, 0 to 1. Broadcasts."""
    return covered_share(
        sun.semidiameter_at_deg(sun_at[2]), moon.semidiameter_at_deg(moon_at[2]), apart_deg(sun_at, moon_at)
    )


def sun_bite_deg(sun: Track, sun_at: Horizontal, moon: Track, moon_at: Horizontal) -> Floats:
    """Return how far the moon reaches over the sun's edge [degrees]: positive during an eclipse of the sun."""
    radii = sun.semidiameter_at_deg(sun_at[2]) + moon.semidiameter_at_deg(moon_at[2])
    return np.asarray(radii - apart_deg(sun_at, moon_at))


def umbral_magnitude(seconds: Any) -> Floats:
    """Return how deep the moon stands in the Earth's umbra, as a share of its diameter: 0 touches, 1 and more total.

    Negative outside. The same everywhere on the Earth. seconds: Unix time. Sources: [1], [2].
    """
    moon_radius, umbra, _, apart = _shadow(seconds)
    return np.asarray((moon_radius + umbra - apart) / (2 * moon_radius))


def moon_lit_share(seconds: Any) -> Floats:
    """Return the moon's light as a share of what it has outside the Earth's shadow, 0.0001 to 1. Sources: [1], [3].

    Across the penumbra the sun is taken to come out evenly; the mean is taken over the disc.
    """
    moon_radius, umbra, penumbra, apart = _shadow(seconds)
    if float(np.min(apart - penumbra - moon_radius, initial=1.0)) > 0:
        return np.ones(np.shape(apart))
    # Slices of the disc at right angles to the line to the shadow's middle, weighted by their area.
    x = (np.arange(_RINGS) + 0.5) / _RINGS * 2 - 1
    weight = np.sqrt(1 - x**2)
    moon_radius, umbra, penumbra, apart = (
        np.asarray(item)[..., None] for item in (moon_radius, umbra, penumbra, apart)
    )
    out = (np.abs(apart + x * moon_radius) - umbra) / (penumbra - umbra)
    lit = (np.clip(out, 0.0, 1.0) * weight).sum(axis=-1) / weight.sum()
    return np.asarray(_IN_UMBRA + (1 - _IN_UMBRA) * lit)


def _shadow(seconds: Any) -> tuple[Floats, Floats, Floats, Floats]:
    """Return the moon's radius, the radii of umbra and penumbra, and the moon's distance from their middle [degrees],
    as seen from the Earth's centre.
    """
    when = np.asarray(seconds, dtype=np.float64)
    start, end = float(when.min()), float(when.max())
    sun, moon = (geocentric(body, start, end).position_km(when) for body in ("sun", "moon"))
    sun_km, moon_km = (np.sqrt((vector * vector).sum(axis=-1)) for vector in (sun, moon))
    across = np.linalg.norm(np.cross(sun, moon), axis=-1)
    apart = np.arctan2(across, -(sun * moon).sum(axis=-1))
    moon_parallax = _MID_LATITUDE * np.arcsin(_EARTH_RADIUS_KM / moon_km)
    sun_parallax, sun_radius = np.arcsin(_EARTH_RADIUS_KM / sun_km), np.arcsin(SUN_RADIUS_KM / sun_km)
    umbra = _AIR * (moon_parallax + sun_parallax - sun_radius)
    penumbra = _AIR * (moon_parallax + sun_parallax + sun_radius)
    radius = np.arcsin(MOON_RADIUS_KM / moon_km)
    return np.degrees(radius), np.degrees(umbra), np.degrees(penumbra), np.degrees(apart)
