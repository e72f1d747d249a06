"""Depth of field, hyperfocal distance and blur of an exact thin lens.

A = f/N is the pupil diameter, with N the marked f-number: never multiplied by (1 + m) again for geometry. Sources: [1]
thin-lens geometry; [2] S. F. Ray, Applied Photographic Optics, 3rd ed., ch. 22 (from memory); [3] G. B. Airy, On the
Diffraction of an Object-glass with Circular Aperture, 1835.
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
# Of the blur allowed so much at least must be left for defocus; frames would otherwise be without number.
_LEAST_DEFOCUS = 0.1


def hyperfocal_distance_mm(focal_mm: Quantity, f_number: Quantity, coc_mm: Quantity) -> Any:
    """Return the hyperfocal distance H = f^2 / (N c) + f [mm, from the lens]. Broadcasts. Source: [2]."""
    focal, marked, coc = positive("focal_mm", focal_mm), positive("f_number", f_number), positive("coc_mm", coc_mm)
    return in_callers_shape(focal * focal / (marked * coc) + focal)


def near_limit_mm(
    focal_mm: Quantity, f_number: Quantity, coc_mm: Quantity, object_distance_mm: Quantity, pupil_ratio: Quantity = 1.0
) -> Any:
    """Return the nearest object distance [mm] whose blur stays within coc_mm when focused at object_distance_mm.

    (A v + c s) / (A m + c), with s the place of the entrance pupil (see pupil_offset_mm). Focused at infinity this is
    f^2 / (N c), without + f, for a symmetrical lens. Where the pupil is no wider than the circle of confusion
    everything down to the focal length counts as sharp. Broadcasts. Source: [1].
    """
    focal, pupil, coc, image = _lens(focal_mm, f_number, coc_mm, object_distance_mm)
    shift = pupil_offset_mm(focal_mm, pupil_ratio)
    near = (pupil * image + coc * shift) / (pupil * (image / focal - 1) + coc)
    return in_callers_shape(np.where(pupil > coc, np.maximum(near, focal), focal))


def far_limit_mm(
    focal_mm: Quantity, f_number: Quantity, coc_mm: Quantity, object_distance_mm: Quantity, pupil_ratio: Quantity = 1.0
) -> Any:
    """Return the farthest object distance [mm] whose blur stays within coc_mm; infinity from the hyperfocal distance
    on.

    (A v - c s) / (A m - c). Far is infinite when v <= f + N c, to 1e-9. Broadcasts. Source: [1].
    """
    focal, pupil, coc, image = _lens(focal_mm, f_number, coc_mm, object_distance_mm)
    shift = pupil_offset_mm(focal_mm, pupil_ratio)
    far_image = pupil * image / (pupil + coc)
    with np.errstate(divide="ignore", invalid="ignore"):
        far = (pupil * image - coc * shift) / (pupil * (image / focal - 1) - coc)
    return in_callers_shape(np.where(far_image <= focal * (1 + _AT_INFINITY), np.inf, far))


def pupil_offset_mm(focal_mm: Quantity, pupil_ratio: Quantity) -> Any:
    """Return how far in front of the front principal plane the entrance pupil stands, f (1 - 1/p) [mm]: 0 for a
    symmetrical lens, negative (inside the lens) for a telephoto.

    From 1/s - 1/(p s) = 1/f, the exit pupil being the image of the entrance pupil. Source: [1].
    """
    focal, ratio = positive("focal_mm", focal_mm), positive("pupil_ratio", pupil_ratio)
    return in_callers_shape(focal * (1 - 1 / ratio))


def blur_diameter_mm(
    focal_mm: Quantity,
    f_number: Quantity,
    object_distance_mm: Quantity,
    other_distance_mm: Quantity,
    pupil_ratio: Quantity = 1.0,
) -> Any:
    """Return the blur disc [mm on the sensor] of a point at other_distance_mm when focused at object_distance_mm.

    A |v' - v| / v' for a symmetrical lens, with v' the image distance of the point: the cone from the entrance pupil, A
    m |d - u| / (d - s). Both distances are from the lens and may be infinite. Broadcasts. Source: [1].
    """
    focal, marked = positive("focal_mm", focal_mm), positive("f_number", f_number)
    image = np.asarray(conjugates.image_distance_mm(focal_mm, object_distance_mm))
    other_image = np.asarray(conjugates.image_distance_mm(focal_mm, other_distance_mm))
    # |d - u| m / (d - s), written in image distances so that infinities need no case of their own.
    exit_share = 1 - (1 - 1 / positive("pupil_ratio", pupil_ratio)) * (1 - focal / other_image)
    return in_callers_shape(focal / marked * np.abs(other_image - image) / other_image / exit_share)


def airy_diameter_mm(effective_f_number: Quantity, wavelength_mm: float = GREEN_WAVELENGTH_MM) -> Any:
    """Return the diameter [mm] of the first dark ring of the diffraction pattern, 2.44 λ N_e. Source: [3]."""
    marked, wavelength = positive("effective_f_number", effective_f_number), positive("wavelength_mm", wavelength_mm)
    return in_callers_shape(2 * AIRY_RADIUS_FACTOR * wavelength * marked)


def total_blur_mm(defocus_mm: Quantity, diffraction_mm: Quantity) -> Any:
    """Return defocus and diffraction together, added in quadrature [mm]: a usual approximation. Broadcasts."""
    return in_callers_shape(np.hypot(defocus_mm, diffraction_mm))


def defocus_allowed_mm(coc_mm: Quantity, diffraction_mm: Quantity) -> Any:
    """Return the defocus [mm] that leaves defocus and diffraction together at coc_mm, sqrt(c^2 - d^2).

    NaN where diffraction alone is more, or leaves less than a tenth of it: no stack of any number of frames holds
    that. Broadcasts.
    """
    coc, diffraction = positive("coc_mm", coc_mm), np.asarray(diffraction_mm, dtype=np.float64)
    room = coc * coc - diffraction * diffraction
    return in_callers_shape(np.sqrt(np.where(room >= (_LEAST_DEFOCUS * coc) ** 2, room, np.nan)))


def blur_balanced_focus_mm(near_mm: Quantity, far_mm: Quantity, pupil_offset_mm: Quantity = 0.0) -> Any:
    """Return the object distance [mm] that blurs near a and far b equally: 2ab/(a+b), and 2a when b is infinite,
    measured from the entrance pupil (0: at the front principal plane).

    Source: [1].
    """
    shift = np.asarray(pupil_offset_mm, dtype=np.float64)
    near = positive("near_mm", near_mm) - shift
    far = positive("far_mm", far_mm, allow_infinite=True) - shift
    return in_callers_shape(2 / (1 / near + 1 / far) + shift)


def _lens(focal_mm: Quantity, f_number: Quantity, coc_mm: Quantity, object_distance_mm: Quantity) -> tuple[Any, ...]:
    focal, marked, coc = positive("focal_mm", focal_mm), positive("f_number", f_number), positive("coc_mm", coc_mm)
    return focal, focal / marked, coc, np.asarray(conjugates.image_distance_mm(focal_mm, object_distance_mm))
