"""What a polariser takes from the sky.

Source: [1] Rayleigh scattering, any text on atmospheric optics: light scattered by an angle γ is polarised by sin²γ/(1
+ cos²γ), across the plane of sun and view; a clear sky reaches about 0.75 of it at most (common practice).
"""

from __future__ import annotations

from typing import Any

import numpy as np

from ..errors import InputError
from ..units.quantities import Quantity, finite, in_callers_shape

CLEAR_SKY_MAXIMUM = 0.75


def polarisation_degree(
    sun_altitude_deg: Quantity,
    sun_azimuth_deg: Quantity,
    view_altitude_deg: Quantity,
    view_azimuth_deg: Quantity,
    maximum: Quantity = 1.0,
) -> Any:
    """Return how far light from a direction of the clear sky is polarised, 0 to maximum: most at 90° from the sun.

    Broadcasts. Source: [1].

    maximum: at 90°, 0 to 1.
    """
    cosine = _cosine_from_sun(sun_altitude_deg, sun_azimuth_deg, view_altitude_deg, view_azimuth_deg)
    return in_callers_shape(degree_by_cosine(cosine, _share("maximum", maximum)))


def from_sun_deg(
    sun_altitude_deg: Quantity, sun_azimuth_deg: Quantity, view_altitude_deg: Quantity, view_azimuth_deg: Quantity
) -> Any:
    """Return the angle between the sun and a direction [deg], 0 to 180. Broadcasts."""
    cosine = _cosine_from_sun(sun_altitude_deg, sun_azimuth_deg, view_altitude_deg, view_azimuth_deg)
    return in_callers_shape(np.degrees(np.arccos(np.clip(cosine, -1.0, 1.0))))


def _cosine_from_sun(
    sun_altitude_deg: Quantity, sun_azimuth_deg: Quantity, view_altitude_deg: Quantity, view_azimuth_deg: Quantity
) -> Any:
    sun, view = (
        np.radians(finite(*item))
        for item in (("sun_altitude_deg", sun_altitude_deg), ("view_altitude_deg", view_altitude_deg))
    )
    turn = np.radians(finite("sun_azimuth_deg", sun_azimuth_deg) - finite("view_azimuth_deg", view_azimuth_deg))
    return np.sin(sun) * np.sin(view) + np.cos(sun) * np.cos(view) * np.cos(turn)


def degree_by_cosine(cosine: Any, maximum: Any = 1.0) -> Any:
    """Return the degree of polarisation from the cosine of the angle between sun and view. Source: [1]."""
    squared = np.clip(np.square(cosine), 0.0, 1.0)
    return maximum * (1 - squared) / (1 + squared)


def darkening_stops(polarisation_degree: Quantity) -> Any:
    """Return the stops between a polariser turned the wrong and the right way, log2((1 + P)/(1 - P)); 0.75 gives 2.8.

    Infinite at 1. Broadcasts.
    """
    degree = _share("polarisation_degree", polarisation_degree)
    with np.errstate(divide="ignore"):
        return in_callers_shape(np.log2((1 + degree) / (1 - degree)))


def beyond_cost_stops(polarisation_degree: Quantity, turned_deg: Quantity = 90.0) -> Any:
    """Return the stops that a polariser changes polarised light by, beyond the one that it takes from all light;
    negative darkens.

    Broadcasts.

    turned_deg: between the filter's axis and the direction in which the light swings; 90 darkens most, 0 brightens.
    Malus's law: the share let through is (1 + P cos 2ψ)/2. Minus infinity for P = 1 at 90°.
    """
    degree = _share("polarisation_degree", polarisation_degree)
    return in_callers_shape(beyond_cost_by_cosine(degree, np.cos(np.radians(finite("turned_deg", turned_deg)))))


def beyond_cost_by_cosine(degree: Any, cosine: Any) -> Any:
    """Return the same from the cosine of the angle between the filter's axis and the swing: cos 2ψ = 2 cos²ψ - 1."""
    with np.errstate(divide="ignore"):
        return np.log2(np.maximum(0.0, 1 + degree * (2 * np.square(cosine) - 1)))


def _share(name: str, value: Quantity) -> Any:
    share = finite(name, value)
    if ((share < 0) | (share > 1)).any():
        raise InputError(name, f"{name} must lie from 0 to 1.")
    return share
