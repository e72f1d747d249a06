"""Conjugate distances of a thin lens: object, image, focus distance, magnification, effective f-number.

Sources: [1] Gauss's lens equation, any optics text; [2] S. F. Ray, Applied Photographic Optics, 3rd ed., ch. 22 (from
memory).
"""

from __future__ import annotations

from typing import Any

import numpy as np

from ..errors import InputError
from ..units.quantities import Quantity, in_callers_shape, not_negative, positive


def object_distance_mm(focal_mm: Quantity, focus_distance_mm: Quantity) -> Any:
    """Return the object distance u [mm, from the lens] for a focus distance D [mm, from the sensor plane].

    u = (D + sqrt(D^2 - 4 D f)) / 2, the root with u >= 2f (magnification up to 1:1). Broadcasts; infinity gives
    infinity. Raises InputError where D < 4f: no lens of that focal length focuses closer than 1:1 at D = 4f.
    """
    focal = positive("focal_mm", focal_mm)
    distance = positive("focus_distance_mm", focus_distance_mm, allow_infinite=True)
    if (distance < 4 * focal).any():
        raise InputError(
            "focus_distance_mm",
            f"A focus distance under four focal lengths ({float(np.max(4 * focal)):g} mm) cannot be focused "
            "by a thin lens.",
        )
    with np.errstate(invalid="ignore"):
        finite = (distance + np.sqrt(distance * distance - 4 * distance * focal)) / 2
    return in_callers_shape(np.where(np.isinf(distance), np.inf, finite))


def focus_distance_mm(focal_mm: Quantity, object_distance_mm: Quantity) -> Any:
    """Return the focus distance D = u + v [mm, from the sensor plane] for an object distance u [mm, from the lens]."""
    image = image_distance_mm(focal_mm, object_distance_mm)
    return in_callers_shape(np.asarray(object_distance_mm, dtype=np.float64) + image)


def image_distance_mm(focal_mm: Quantity, object_distance_mm: Quantity) -> Any:
    """Return the image distance v = f u / (u - f) [mm] for an object distance u [mm]. Infinity gives f.

    Raises InputError where u <= f: no real image is formed.
    """
    focal, distance = _focal_and_object(focal_mm, object_distance_mm)
    return in_callers_shape(focal / (1 - focal / distance))


def magnification(focal_mm: Quantity, object_distance_mm: Quantity) -> Any:
    """Return the magnification m = f / (u - f) [image size over object size]. Infinity gives 0.

    Raises InputError where u <= f.
    """
    focal, distance = _focal_and_object(focal_mm, object_distance_mm)
    return in_callers_shape(focal / (distance - focal))


def object_distance_for_magnification_mm(focal_mm: Quantity, magnification: Quantity) -> Any:
    """Return the object distance u = f (1 + 1/m) [mm] at which a lens images at magnification m > 0."""
    focal, scale = positive("focal_mm", focal_mm), positive("magnification", magnification)
    return in_callers_shape(focal * (1 + 1 / scale))


def effective_f_number(f_number: Quantity, magnification: Quantity, pupil_ratio: Quantity = 1.0) -> Any:
    """Return the effective f-number N (1 + m/p), which sets exposure and diffraction up close.

    pupil_ratio: exit pupil over entrance pupil diameter, 1 for a symmetrical lens.
    """
    marked = positive("f_number", f_number)
    scale, ratio = not_negative("magnification", magnification), positive("pupil_ratio", pupil_ratio)
    return in_callers_shape(marked * (1 + scale / ratio))


def close_focal_length_mm(closest_focus_mm: float, max_magnification: float) -> float:
    """Return the real focal length [mm] of a lens at its closest focus D, D m / (1 + m)^2.

    Lenses that shorten when focused close: a "100 mm" that reaches 1:1 at 300 mm works at 75 mm there. Source: [1].
    """
    closest = float(positive("closest_focus_mm", closest_focus_mm))
    scale = float(positive("max_magnification", max_magnification))
    return closest * scale / (1 + scale) ** 2


def _focal_and_object(focal_mm: Quantity, object_distance_mm: Quantity) -> tuple[Any, Any]:
    focal = positive("focal_mm", focal_mm)
    distance = positive("object_distance_mm", object_distance_mm, allow_infinite=True)
    if (distance <= focal).any():
        raise InputError(
            "object_distance_mm",
            f"An object must be farther from the lens than its focal length ({float(np.max(focal)):g} mm) to "
            "form an image.",
        )
    return focal, distance
