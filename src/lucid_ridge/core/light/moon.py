"""The moon's phase and its light.

Sources: [1] J. Meeus, Astronomical Algorithms, 2nd ed., chapter 48 (illuminated fraction and position angle); [2] P. M.
Janiczek and J. A. DeYoung, US Naval Observatory Circular 171, 1987 (from memory).
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np

from ..errors import InputError
from ..spans.instants import unix_seconds
from ..units.quantities import Quantity, as_floats, in_callers_shape
from .geocentric import geocentric

# Lower edge of each segment [degrees] and l0..l3 of log10 lux for a full moon at mean distance. Source: [2].
_SEGMENTS_JANICZEK1987 = (
    (-0.8, -2.79, 24.27, -252.95, 1321.29),
    (5.0, -2.58, 12.58, -42.58, 59.06),
    (20.0, -1.95, 4.06, -4.24, 1.56),
)
MEAN_DISTANCE_KM = 384_400.0
PHASE_WORDS = (
    "new moon",
    "waxing crescent",
    "first quarter",
    "waxing gibbous",
    "full moon",
    "waning gibbous",
    "last quarter",
    "waning crescent",
)
# Half the span of elongation [degrees] in which the four principal phases are called by their names: about half a day
# either way.
_NAMED_WITHIN_DEG = 6.5


@dataclass(frozen=True)
class MoonPhase:
    """fraction lit 0..1; elongation_deg 0 new, 90 first quarter, 180 full, 270 last quarter; words as in an almanac."""

    fraction: Any
    elongation_deg: Any
    phase_angle_deg: Any


def moon_phase(times_utc: Any) -> MoonPhase:
    """Return the phase as seen from the Earth's centre, in the shape of times_utc. Source: [1], eq. 48.1 to 48.3.

    elongation_deg runs on from 0 to 360 by the difference of ecliptic longitudes. Raises InputError for years unknown.
    """
    seconds = unix_seconds(times_utc)
    flat = np.atleast_1d(seconds).ravel()
    start, end = float(flat.min()), float(flat.max())
    sun, moon = (geocentric(body, start, end).position_km(flat) for body in ("sun", "moon"))
    sun_km, moon_km = (np.sqrt((vector * vector).sum(axis=-1)) for vector in (sun, moon))
    cosine = (sun * moon).sum(axis=-1) / (sun_km * moon_km)
    apart = np.arccos(np.clip(cosine, -1, 1))
    phase_angle = np.arctan2(sun_km * np.sin(apart), moon_km - sun_km * cosine)
    # The equator of date turned into the ecliptic of date; the phases are named by the difference of longitudes
    # [1, chapter 49].
    obliquity = np.radians(23.4393 - 0.0130042 * (flat - 946_728_000.0) / (36525 * 86400.0))
    of_sun, of_moon = (
        np.arctan2(vector[..., 1] * np.cos(obliquity) + vector[..., 2] * np.sin(obliquity), vector[..., 0])
        for vector in (sun, moon)
    )
    elongation = np.degrees(of_moon - of_sun) % 360
    return MoonPhase(
        in_callers_shape(((1 + np.cos(phase_angle)) / 2).reshape(seconds.shape)),
        in_callers_shape(elongation.reshape(seconds.shape)),
        in_callers_shape(np.degrees(phase_angle).reshape(seconds.shape)),
    )


def phase_words(elongation_deg: float) -> str:
    """Return the phase's name for an elongation [degrees, wraps at 360]."""
    quarter, rest = divmod(elongation_deg % 360, 90)
    if min(rest, 90 - rest) <= _NAMED_WITHIN_DEG:
        return PHASE_WORDS[2 * (round((elongation_deg % 360) / 90) % 4)]
    return PHASE_WORDS[2 * int(quarter) + 1]


def moon_illuminance_lux(
    altitude_deg: Quantity, phase_angle_deg: Quantity, distance_km: Quantity = MEAN_DISTANCE_KM
) -> Any:
    """Return the moon's horizontal illuminance [lux] under a clear sky.

    Broadcasts. Source: [2].

    altitude_deg: airless, -90..90; zero light below -0.8. phase_angle_deg: 0 full, 180 new. distance_km: from the
    place. NaN gives NaN. Raises InputError outside those.
    """
    altitude, phase = as_floats("altitude_deg", altitude_deg), as_floats("phase_angle_deg", phase_angle_deg)
    distance = as_floats("distance_km", distance_km)
    if (np.abs(altitude) > 90).any():
        raise InputError("altitude_deg", "altitude_deg must lie from -90 to 90.")
    if ((phase < 0) | (phase > 180)).any():
        raise InputError("phase_angle_deg", "phase_angle_deg must lie from 0 to 180.")
    if (distance <= 0).any():
        raise InputError("distance_km", "distance_km must be above 0.")
    edges = np.array([segment[0] for segment in _SEGMENTS_JANICZEK1987])
    inside = np.maximum(altitude, edges[0])
    which = np.clip(np.searchsorted(edges, inside, side="right") - 1, 0, len(edges) - 1)
    table = np.array([segment[1:] for segment in _SEGMENTS_JANICZEK1987])[which]
    x = inside / 90
    log_lux = table[..., 0] + x * (table[..., 1] + x * (table[..., 2] + x * table[..., 3]))
    log_lux = log_lux - 8.68e-3 * phase - 2.2e-9 * phase**4 + 2 * np.log10(MEAN_DISTANCE_KM / distance)
    return in_callers_shape(np.where(altitude < edges[0], 0.0, 10**log_lux))
