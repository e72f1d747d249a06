"""Depth of field, hyperfocal distance and blur of an exact thin lens.

A = f/N is the pupil diameter, with N the marked f-number: never multiplied by (1 + m) again for geometry.
Sources: [1] thin-lens geometry; [2] S. F. Ray, Applied Photographic Optics, 3rd ed., ch. 22 (from memory);
[3] G. B. Airy, On the Diffraction of an Object-glass with Circular Aperture, 1835.
"""

from __future__ import annotations

from typing import Any

import numpy as np

from ..units.quantities import Quantity, in_callers_shape, positive
from . import conjugates

# Radius of the first dark ring of the Airy pattern in units of λN; its diameter is twice that. Source: [3].
AIRY_RADIUS_FACTOR = 1.219670
# Middle of the visible band, where the eye is most sensitive (555 nm), rounded as the handbooks do.
GREEN_WAVELENGTH_MM = 0.00055
# An image this close (relative) to the focal plane is at infinity: rounding would decide otherwise.
_AT_INFINITY = 1e-9


def hyperfocal_distance_mm(focal_mm: Quantity, f_number: Quantity, coc_mm: Quantity) -> Any:
    """Return the hyperfocal distance H = f^2 / (N c) + f [mm, from the lens]. Broadcasts. Source: [2]."""
    focal, marked, coc = positive("focal_mm", focal_mm), positive("f_number", f_number), positive("coc_mm", coc_mm)
    return in_callers_shape(focal * focal / (marked * coc) + focal)


def near_limit_mm(focal_mm: Quantity, f_number: Quantity, coc_mm: Quantity, object_distance_mm: Quantity) -> Any:
    """Return the nearest object distance [mm] whose blur stays within coc_mm when focused at object_distance_mm.

    Focused at infinity this is f^2 / (N c), without + f. Where the pupil is no wider than the circle of confusion
    everything down to the focal length counts as sharp. Broadcasts. Source: [1].
    """
    focal, pupil, coc, image = _lens(focal_mm, f_number, coc_mm, object_distance_mm)
    with np.errstate(divide="ignore", invalid="ignore"):
        near_image = np.where(pupil > coc, pupil * image / (pupil - coc), np.inf)
        near = focal / (1 - focal / near_image)
    return in_callers_shape(near)


def far_limit_mm(focal_mm: Quantity, f_number: Quantity, coc_mm: Quantity, object_distance_mm: Quantity) -> Any:
    """Return the farthest object distance [mm] whose blur stays within coc_mm; infinity from the hyperfocal distance on.

    Far is infinite when v <= f + N c, to 1e-9. Broadcasts. Source: [1].
    """
    focal, pupil, coc, image = _lens(focal_mm, f_number, coc_mm, object_distance_mm)
    far_image = pupil * image / (pupil + coc)
    with np.errstate(divide="ignore", invalid="ignore"):
        far = np.where(far_image <= focal * (1 + _AT_INFINITY), np.inf, focal / (1 - focal / far_image))
    return in_callers_shape(far)


def blur_diameter_mm(focal_mm: Quantity, f_number: Quantity, object_distance_mm: Quantity, other_distance_mm: Quantity) -> Any:
    """Return the blur disc [mm on the sensor] of a point at other_distance_mm when focused at object_distance_mm.

    A |v' - v| / v', with v' the image distance of the point; both distances are from the lens and may be infinite.
    Broadcasts. Source: [1].
    """
    focal, marked = positive("focal_mm", focal_mm), positive("f_number", f_number)
    image = np.asarray(conjugates.image_distance_mm(focal_mm, object_distance_mm))
    other_image = np.asarray(conjugates.image_distance_mm(focal_mm, other_distance_mm))
    return in_callers_shape(focal / marked * np.abs(other_image - image) / other_image)


def airy_diameter_mm(effective_f_number: Quantity, wavelength_mm: float = GREEN_WAVELENGTH_MM) -> Any:
    """Return the diameter [mm] of the first dark ring of the diffraction pattern, 2.44 λ N_e. Source: [3]."""
    marked, wavelength = positive("effective_f_number", effective_f_number), positive("wavelength_mm", wavelength_mm)
    return in_callers_shape(2 * AIRY_RADIUS_FACTOR * wavelength * marked)


def total_blur_mm(defocus_mm: Quantity, diffraction_mm: Quantity) -> Any:
    """Return defocus and diffraction together, added in quadrature [mm]: a usual approximation. Broadcasts."""
    return in_callers_shape(np.hypot(defocus_mm, diffraction_mm))


def blur_balanced_focus_mm(near_mm: Quantity, far_mm: Quantity) -> Any:
    """Return the object distance 2ab/(a+b) [mm] that blurs near a and far b equally; 2a when b is infinite. Source: [1]."""
    near = positive("near_mm", near_mm)
    far = positive("far_mm", far_mm, allow_infinite=True)
    return in_callers_shape(2 / (1 / near + 1 / far))


def _lens(focal_mm: Quantity, f_number: Quantity, coc_mm: Quantity, object_distance_mm: Quantity) -> tuple[Any, ...]:
    focal, marked, coc = positive("focal_mm", focal_mm), positive("f_number", f_number), positive("coc_mm", coc_mm)
    return focal, focal / marked, coc, np.asarray(conjugates.image_distance_mm(focal_mm, object_distance_mm))
