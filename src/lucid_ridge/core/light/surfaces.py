"""What surfaces send back of the light that falls on them.

Sources: [1] Lambert's law and ISO 2720 (K = 12.5): L = ρE/π, EV = log2(8 L); [2] A. Fresnel 1823, any optics text, for
water of n = 1.333; [3] C. Cox and W. Munk, Measurement of the roughness of the sea surface, J. Opt. Soc. Am. 44 (1954)
838: variance of slopes 0.003 + 0.00512 times the wind [m/s].
"""

from __future__ import annotations

from typing import Any

import numpy as np

from ..errors import InputError
from ..exposure.ev import ev100_from_luminance
from ..units.quantities import Quantity, finite, in_callers_shape, not_negative, positive

WATER_INDEX = 1.333


def luminance_of_surface(illuminance_lux: Quantity, reflectance: Quantity) -> Any:
    """Return the luminance [cd/m²] of a matt surface, ρE/π. reflectance over 0 to 1. Broadcasts. Source: [1]."""
    share = positive("reflectance", reflectance)
    if (share > 1).any():
        raise InputError("reflectance", "A surface gives back 1 (all) of the light at most.")
    return in_callers_shape(share * not_negative("illuminance_lux", illuminance_lux) / np.pi)


def ev100_of_surface(illuminance_lux: Quantity, reflectance: Quantity) -> Any:
    """Return the EV at ISO 100 that a spot meter reads of a matt surface: 100,000 lux on 0.18 is 15.5.

    Broadcasts. Source: [1].
    """
    return ev100_from_luminance(luminance_of_surface(positive("illuminance_lux", illuminance_lux), reflectance))


def water_reflectances(incidence_deg: Quantity) -> tuple[Any, Any]:
    """Return the reflectance of water for light polarised parallel to the surface and perpendicular to that, 0 to 1.

    Broadcasts. Source: [2].

    incidence_deg: from the vertical, 0 to 90.
    """
    angle = finite("incidence_deg", incidence_deg)
    if ((angle < 0) | (angle > 90)).any():
        raise InputError("incidence_deg", "incidence_deg must lie from 0 (straight down) to 90.")
    level, upright = mirrored_by_cosine(np.cos(np.radians(angle)))
    return in_callers_shape(level), in_callers_shape(upright)


def water_reflectance(incidence_deg: Quantity) -> Any:
    """Return the reflectance of water for unpolarised light, 0 to 1: 2 % straight down, 1 along the surface.

    Broadcasts. Source: [2].
    """
    level, upright = water_reflectances(incidence_deg)
    return in_callers_shape((np.asarray(level) + np.asarray(upright)) / 2)


def mirrored_by_cosine(cosine: Any) -> tuple[Any, Any]:
    """Return the two reflectances from the cosine of the incidence, 0 to 1. Source: [2]."""
    inside = np.sqrt(1 - (1 - np.square(cosine)) / WATER_INDEX**2)
    level = np.square((cosine - WATER_INDEX * inside) / (cosine + WATER_INDEX * inside))
    upright = np.square((inside - WATER_INDEX * cosine) / (inside + WATER_INDEX * cosine))
    return level, upright


def slope_variance_cox1954(wind_mps: Quantity) -> Any:
    """Return the mean square slope of water under a wind [m/s] of 0 to 14.

    Broadcasts. Source: [3]; still water keeps none.
    """
    wind = not_negative("wind_mps", wind_mps)
    return in_callers_shape(np.where(wind > 0, 0.003 + 0.00512 * wind, 0.0))
