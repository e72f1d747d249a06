"""How brightness lies over the sky.

Source: [1] CIE S 011/E:2003 (ISO 15469:2004), Spatial distribution of daylight, CIE standard general sky: fifteen types
by two functions, of the height over the horizon and of the distance from the sun (coefficients from memory, held to the
integrals that the standard and its forerunners give).
"""

from __future__ import annotations

from typing import Any

import numpy as np

from ..errors import InputError
from ..units.quantities import Quantity, finite, in_callers_shape

OVERCAST, UNIFORM, CLEAR = 1, 5, 12
# a, b of the gradation and c, d, e of the indicatrix, by type. Source: [1].
_TYPES_CIE2003 = {
    1: (4.0, -0.70, 0.0, -1.0, 0.0),
    2: (4.0, -0.70, 2.0, -1.5, 0.15),
    3: (1.1, -0.80, 0.0, -1.0, 0.0),
    4: (1.1, -0.80, 2.0, -1.5, 0.15),
    5: (0.0, -1.0, 0.0, -1.0, 0.0),
    6: (0.0, -1.0, 2.0, -1.5, 0.15),
    7: (0.0, -1.0, 5.0, -2.5, 0.30),
    8: (0.0, -1.0, 10.0, -3.0, 0.45),
    9: (-1.0, -0.55, 2.0, -1.5, 0.15),
    10: (-1.0, -0.55, 5.0, -2.5, 0.30),
    11: (-1.0, -0.55, 10.0, -3.0, 0.45),
    12: (-1.0, -0.32, 10.0, -3.0, 0.45),
    13: (-1.0, -0.32, 16.0, -3.0, 0.30),
    14: (-1.0, -0.15, 16.0, -3.0, 0.30),
    15: (-1.0, -0.15, 24.0, -2.8, 0.15),
}


def relative_luminance_cie2003(
    sky_type: int, sun_altitude_deg: Quantity, view_altitude_deg: Quantity, azimuth_difference_deg: Quantity
) -> Any:
    """Return the luminance of a direction of the sky relative to the zenith's.

    Broadcasts. Source: [1].

    sky_type: 1 (overcast) to 15; 5 is uniform, 12 clear, 13 hazy. sun_altitude_deg, view_altitude_deg: 0 to 90. Raises
    InputError outside.
    """
    if sky_type not in _TYPES_CIE2003:
        raise InputError("sky_type", f"A standard sky has a type from 1 to 15, not {sky_type}.")
    sun, view = (
        _from_horizon(name, value)
        for name, value in (("sun_altitude_deg", sun_altitude_deg), ("view_altitude_deg", view_altitude_deg))
    )
    turn = np.radians(finite("azimuth_difference_deg", azimuth_difference_deg))
    cosine = np.sin(sun) * np.sin(view) + np.cos(sun) * np.cos(view) * np.cos(turn)
    return in_callers_shape(luminance_by_cosines(sky_type, np.sin(sun), np.sin(view), cosine))


def luminance_by_cosines(sky_type: int, sun_up: Any, view_up: Any, towards_sun: Any) -> Any:
    """Return the luminance relative to the zenith's from cosines: of sun and view with the vertical (0 to 1), and of
    the two with each other.
    """
    return luminance_by_angle(sky_type, sun_up, view_up, np.arccos(np.clip(towards_sun, -1.0, 1.0)))


def luminance_by_angle(sky_type: int, sun_up: Any, view_up: Any, from_sun_rad: Any) -> Any:
    """Return the same from the angle between view and sun [rad]."""
    gradation, indicatrix = _functions(sky_type)
    of_zenith = np.arccos(np.clip(sun_up, -1.0, 1.0))
    return gradation(view_up) * indicatrix(from_sun_rad) / (gradation(1.0) * indicatrix(of_zenith))


def _functions(sky_type: int) -> tuple[Any, Any]:
    a, b, c, d, e = _TYPES_CIE2003[sky_type]

    def gradation(up: Any) -> Any:
        # At the horizon the exponential term vanishes.
        return 1 + a * np.exp(b / np.maximum(up, 1e-9))

    def indicatrix(angle: Any) -> Any:
        return 1 + c * (np.exp(d * angle) - np.exp(d * np.pi / 2)) + e * np.cos(angle) ** 2

    return gradation, indicatrix


def _from_horizon(name: str, value: Quantity) -> Any:
    angle = finite(name, value)
    if ((angle < 0) | (angle > 90)).any():
        raise InputError(name, f"{name} must lie from 0 to 90.")
    return np.radians(angle)
