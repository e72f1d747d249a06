"""The largest blur that still counts as sharp, by three named criteria.

Sources: [1] S. F. Ray, Applied Photographic Optics, 3rd ed. (from memory): 0.030 mm for 36 x 24 mm; [2] visual acuity
of one arc minute, any optics of the eye text.
"""

from __future__ import annotations

import math
from enum import StrEnum

from ..units.quantities import positive

HANDBOOK_COC_MM = 0.030
HANDBOOK_DIAGONAL_MM = math.hypot(36.0, 24.0)
NORMAL_ACUITY_ARCMIN = 1.0
PIXELS_ACROSS = 2.0


class CocCriterion(StrEnum):
    HANDBOOK = "handbook"
    PRINT = "print"
    PIXELS = "pixels"
    CUSTOM = "custom"


def crop_factor(sensor_width_mm: float, sensor_height_mm: float) -> float:
    """Return how many times the sensor's diagonal goes into that of 36 × 24 mm: a focal length shows as much as one so
    many times as long shows there.
    """
    width = float(positive("sensor_width_mm", sensor_width_mm))
    return HANDBOOK_DIAGONAL_MM / math.hypot(width, float(positive("sensor_height_mm", sensor_height_mm)))


def coc_handbook_mm(sensor_width_mm: float, sensor_height_mm: float) -> float:
    """Return 0.030 mm scaled from the 36 x 24 mm diagonal to this sensor's [mm]. Source: [1]."""
    return HANDBOOK_COC_MM / crop_factor(sensor_width_mm, sensor_height_mm)


def coc_print_mm(
    sensor_width_mm: float,
    print_width_mm: float,
    viewing_distance_mm: float,
    acuity_arcmin: float = NORMAL_ACUITY_ARCMIN,
) -> float:
    """Return the blur on the sensor [mm] that an eye of the given acuity just cannot see on the print. Source: [2].

    print_width_mm is the print's side that shows sensor_width_mm.
    """
    enlargement = float(positive("print_width_mm", print_width_mm)) / float(
        positive("sensor_width_mm", sensor_width_mm)
    )
    distance = float(positive("viewing_distance_mm", viewing_distance_mm))
    acuity = float(positive("acuity_arcmin", acuity_arcmin))
    return distance * math.tan(math.radians(acuity / 60)) / enlargement


def coc_pixels_mm(sensor_width_mm: float, pixels_wide: float) -> float:
    """Return two pixel pitches [mm]: the strictest of the three, for inspection at full size (common practice)."""
    width, pixels = float(positive("sensor_width_mm", sensor_width_mm)), float(positive("pixels_wide", pixels_wide))
    return PIXELS_ACROSS * width / pixels
