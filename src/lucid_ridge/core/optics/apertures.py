"""One frame at every aperture: how sharp is a range at best, diffraction included?

Source: [1] P. K. Hansma, View Camera Focusing in Practice, Photo Techniques, 1996 (from memory): the best single
f-number is sqrt(375 Δv), which follows from defocus and diffraction in quadrature.
"""

from __future__ import annotations

import math
from typing import Any

import numpy as np

from ..units.quantities import Quantity, in_callers_shape, positive
from .conjugates import effective_f_number, image_distance_mm, magnification
from .depth import airy_diameter_mm, blur_diameter_mm, total_blur_mm


def worst_blur_mm(focal_mm: Quantity, f_number: Quantity, near_mm: Quantity, far_mm: Quantity, object_distance_mm: Quantity) -> Any:
    """Return the worst blur [mm] over near_mm to far_mm in one frame focused at object_distance_mm. Broadcasts.

    Defocus at the worse end and diffraction at the effective f-number, in quadrature.
    """
    defocus = np.maximum(
        blur_diameter_mm(focal_mm, f_number, object_distance_mm, near_mm),
        blur_diameter_mm(focal_mm, f_number, object_distance_mm, far_mm),
    )
    scale = magnification(focal_mm, object_distance_mm)
    return in_callers_shape(total_blur_mm(defocus, airy_diameter_mm(effective_f_number(f_number, scale))))


def best_f_number_hansma1996(focus_spread_mm: float) -> float:
    """Return sqrt(375 Δv), the f-number of least worst blur for a focus spread Δv [mm on the image side]. Source: [1]."""
    return math.sqrt(375 * float(positive("focus_spread_mm", focus_spread_mm)))


def focus_spread_mm(focal_mm: float, near_mm: float, far_mm: float) -> float:
    """Return the spread of image distances Δv = v(near) - v(far) [mm]."""
    return float(image_distance_mm(focal_mm, near_mm) - image_distance_mm(focal_mm, far_mm))
