"""Heights of the tide as a sum of cosines.

Sources: [1] P. Schureman, Manual of Harmonic Analysis and Prediction of Tides, US Coast and Geodetic Survey Special Publication 98,
1940: speeds (table 2) and equilibrium arguments; [2] J. Meeus, Astronomical Algorithms, 2nd ed., chapters 25 and 47: mean
longitudes. Nodal corrections are left out: over 18.6 years they change heights by a few per cent.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..errors import InputError
from ..units.quantities import in_callers_shape

_J2000_S = 946_728_000.0
_CENTURY_S = 36525 * 86400.0


@dataclass(frozen=True)
class Constituent:
    """speed in degrees an hour; argument: multiples of T, s, h, p (hour angle of the mean sun; mean longitudes of moon, sun, perigee)
    and a constant [degrees]. Source: [1]."""

    speed_deg_per_h: float
    argument: tuple[int, int, int, int]
    constant_deg: float


# T counts from the mean sun's lower passage, midnight UTC.
CONSTITUENTS: Mapping[str, Constituent] = {
    "M2": Constituent(28.984104, (2, -2, 2, 0), 0.0),
    "S2": Constituent(30.0, (2, 0, 0, 0), 0.0),
    "N2": Constituent(28.439730, (2, -3, 2, 1), 0.0),
    "K1": Constituent(15.041069, (1, 0, 1, 0), 90.0),
    "O1": Constituent(13.943036, (1, -2, 1, 0), -90.0),
}


@dataclass(frozen=True)
class HarmonicConstants:
    """A reference place: mean_m above its zero, and per constituent (amplitude [m], lag behind the equilibrium tide at Greenwich [degrees])."""

    mean_m: float
    waves: tuple[tuple[str, float, float], ...]

    def __post_init__(self) -> None:
        for name, amplitude, _ in self.waves:
            if name not in CONSTITUENTS:
                raise InputError("waves", f"“{name}” is not one of {', '.join(CONSTITUENTS)}.")
            if not amplitude >= 0:
                raise InputError("waves", f"The amplitude of {name} must not be negative.")


def equilibrium_argument_deg(name: str, seconds: Any) -> NDArray[np.float64]:
    """Return a constituent's equilibrium argument at Greenwich [degrees, not wrapped] at unix seconds. Sources: [1], [2]."""
    time = np.asarray(seconds, dtype=np.float64)
    century = (time - _J2000_S) / _CENTURY_S
    hour_angle = 360.0 * (time / 86400.0)
    moon, sun, perigee = 218.3164477 + 481267.88123421 * century, 280.46646 + 36000.76983 * century, 83.3532465 + 4069.0137287 * century
    wave = CONSTITUENTS[name]
    return np.asarray(
        wave.argument[0] * hour_angle + wave.argument[1] * moon + wave.argument[2] * sun + wave.argument[3] * perigee + wave.constant_deg
    )


def tide_height_m(constants: HarmonicConstants, seconds: Any) -> Any:
    """Return the tide's height [m above the place's zero] at unix seconds, in their shape."""
    total = np.full(np.shape(seconds), constants.mean_m)
    for name, amplitude, lag in constants.waves:
        total = total + amplitude * np.cos(np.radians(equilibrium_argument_deg(name, seconds) - lag))
    return in_callers_shape(total)


def tide_rate_m_per_h(constants: HarmonicConstants, seconds: Any) -> Any:
    """Return how fast the tide rises [m an hour, negative on the ebb] at unix seconds, in their shape."""
    total = np.zeros(np.shape(seconds))
    for name, amplitude, lag in constants.waves:
        speed = np.radians(CONSTITUENTS[name].speed_deg_per_h)
        total = total - amplitude * speed * np.sin(np.radians(equilibrium_argument_deg(name, seconds) - lag))
    return in_callers_shape(total)


@dataclass(frozen=True)
class HarmonicTide:
    """A tide that is summed from its constants. told: where they come from."""

    name: str
    constants: HarmonicConstants
    told: str = "from constants"

    def covers(self, start_utc: datetime, end_utc: datetime) -> bool:
        return True

    def height_m(self, seconds: Any) -> Any:
        return tide_height_m(self.constants, seconds)

    def rate_m_per_h(self, seconds: Any) -> Any:
        return tide_rate_m_per_h(self.constants, seconds)
