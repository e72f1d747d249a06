"""Sizes from angles: a thumb at arm's length, and a test frame.

Of angle (or pixels), distance and size two give the third.
"""

from __future__ import annotations

import math

from ..errors import InputError
from ..units.quantities import positive


def thumb_angle_deg(thumb_mm: float, arm_mm: float) -> float:
    """Return the angle that a thumb of a width covers at arm's length [degrees], both in mm; a thumb is near 2 degrees
    (common practice).
    """
    return math.degrees(2 * math.atan(float(positive("thumb_mm", thumb_mm)) / 2 / float(positive("arm_mm", arm_mm))))


def angle_in_frame_deg(pixels: float, pixel_pitch_mm: float, focal_mm: float) -> float:
    """Return the angle that pixels around the middle of a test frame cover [degrees]."""
    size_mm = float(positive("pixels", pixels)) * float(positive("pixel_pitch_mm", pixel_pitch_mm))
    return math.degrees(2 * math.atan(size_mm / 2 / float(positive("focal_mm", focal_mm))))


def size_m(angle_deg: float, distance_m: float) -> float:
    """Return the size [m] of what covers an angle (0..180 degrees) at a distance [m], seen square on."""
    return 2 * float(positive("distance_m", distance_m)) * math.tan(_half(angle_deg))


def distance_m(angle_deg: float, size: float) -> float:
    """Return the distance [m] of something of a known size [m] that covers an angle (0..180 degrees)."""
    return float(positive("size_m", size)) / 2 / math.tan(_half(angle_deg))


def _half(angle_deg: float) -> float:
    if not 0 < angle_deg < 180:
        raise InputError("angle_deg", f"The angle must lie between 0 and 180 degrees, not {angle_deg:g}.")
    return math.radians(angle_deg) / 2
