"""Graduated filters: strength, position, and how softly the lens sees their edge.

Source: [1] plane geometry: through a pupil of diameter A each point of the picture looks through a patch of the plate
A wide (for a far object), so an edge at a distance d before the entrance pupil is smeared over A/d.
"""

from __future__ import annotations

from enum import StrEnum
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..units.quantities import Quantity, finite, in_callers_shape, positive

Floats = NDArray[np.float64]


class Gradation(StrEnum):
    """How a plate goes from clear to dark."""

    SOFT = "soft"
    MEDIUM = "medium"
    HARD = "hard"
    REVERSE = "reverse"


# Height of the transition on the plate [mm]: common practice for plates 150 mm high, makers differ.
TRANSITION_MM = {Gradation.SOFT: 50.0, Gradation.MEDIUM: 25.0, Gradation.HARD: 6.0, Gradation.REVERSE: 6.0}
# A reverse plate is darkest at its edge and falls to this share of its stops over this many mm.
_REVERSE_LEFT, _REVERSE_MM = 1 / 3, 50.0
# Difference to leave between sky and land so that it still looks like a sky [stops]: common practice.
LEFT_STOPS = 1.0
_SAMPLES = 33


def edge_smear_deg(focal_mm: Quantity, f_number: Quantity, filter_distance_mm: Quantity) -> Any:
    """Return the angle [degrees] over which the lens smears an edge on a plate: 2 atan(A/2d) with A = f/N.

    Broadcasts. Source: [1].

    filter_distance_mm: from the plate to the entrance pupil.
    """
    pupil = positive("focal_mm", focal_mm) / positive("f_number", f_number)
    return in_callers_shape(2 * np.degrees(np.arctan(pupil / (2 * positive("filter_distance_mm", filter_distance_mm)))))


def needed_stops(sky_ev: Quantity, land_ev: Quantity, left_stops: float = LEFT_STOPS) -> Any:
    """Return the filter strength that leaves the sky left_stops brighter than the land [stops]; 0 if none is needed.

    Broadcasts. Common practice.
    """
    return in_callers_shape(np.maximum(0.0, finite("sky_ev", sky_ev) - finite("land_ev", land_ev) - left_stops))


def plate_stops(gradation: Gradation, strength_stops: float, from_edge_mm: Quantity) -> Any:
    """Return the density of a plate [stops] at a height above the middle of its transition [mm], negative below it.

    Broadcasts.
    """
    height = finite("from_edge_mm", from_edge_mm)
    half = TRANSITION_MM[gradation] / 2
    share = np.clip((height + half) / (2 * half), 0.0, 1.0)
    # Density climbs without a visible corner at either end.
    eased = share * share * (3 - 2 * share)
    if gradation == Gradation.REVERSE:
        above = np.clip((height - half) / _REVERSE_MM, 0.0, 1.0)
        eased = eased * (1 - (1 - _REVERSE_LEFT) * above)
    return in_callers_shape(strength_stops * eased)


def seen_stops(gradation: Gradation, strength_stops: float, from_edge_mm: Quantity, pupil_mm: float) -> Any:
    """Return the density of a plate as the lens sees it [stops]: transmitted light averaged over the round patch that
    each point looks through.

    from_edge_mm: height of the patch's middle above the middle of the transition; pupil_mm: diameter of the patch,
    f/N. Broadcasts. Source: [1].
    """
    height = finite("from_edge_mm", from_edge_mm)
    # Strips of a disc by the mid-points of equal heights, each weighted with its length.
    at = (np.arange(_SAMPLES) + 0.5) / _SAMPLES * 2 - 1
    weight = np.sqrt(1 - at * at)
    plate = np.asarray(
        plate_stops(gradation, strength_stops, height[..., None] + at * positive("pupil_mm", pupil_mm) / 2)
    )
    return in_callers_shape(-np.log2((np.exp2(-plate) * weight).sum(axis=-1) / weight.sum()))


def plate_seen_mm(field_deg: Quantity, filter_distance_mm: Quantity) -> Any:
    """Return the length of the plate [mm] that the frame covers from edge to edge, at the middle of the pupil.

    Broadcasts. Source: [1].
    """
    half = np.radians(positive("field_deg", field_deg) / 2)
    return in_callers_shape(2 * positive("filter_distance_mm", filter_distance_mm) * np.tan(half))
