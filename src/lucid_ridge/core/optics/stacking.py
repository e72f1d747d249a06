"""Focus stacks: turning the ring with the camera still, or moving the camera on a rail.

Sources: [1] thin-lens geometry: in image space the slices of consecutive ring positions form a geometric series with the
ratio (A + c)/(A - c); [2] total depth up close 2 N c (1 + m/p)/m^2, any close-up handbook;
[3] S. Inoué and K. R. Spring, Video Microscopy, 2nd ed., 1997 (from memory).
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..errors import InputError
from ..units.quantities import positive
from .conjugates import image_distance_mm
from .depth import GREEN_WAVELENGTH_MM

# Guards ceil() against a slice count that is whole but for rounding.
_WHOLE = 1e-9
MAX_FRAMES = 2000


@dataclass(frozen=True)
class RingStack:
    """Focus positions for a camera that stands still.

    object_distances_mm: from the lens, nearest first. near_limits_mm, far_limits_mm: what each position holds
    at the wanted circle of confusion. worst_blur_mm: defocus where two slices meet, at most the wanted one.
    """

    object_distances_mm: NDArray[np.float64]
    near_limits_mm: NDArray[np.float64]
    far_limits_mm: NDArray[np.float64]
    worst_blur_mm: float

    @property
    def count(self) -> int:
        return len(self.object_distances_mm)


@dataclass(frozen=True)
class RailStack:
    """Camera positions on a rail: count frames, step_mm apart, each sharp over slice_mm."""

    step_mm: float
    slice_mm: float
    count: int

    @property
    def travel_mm(self) -> float:
        return self.step_mm * (self.count - 1)


def plan_ring_stack(focal_mm: float, f_number: float, coc_mm: float, near_mm: float, far_mm: float, overlap: float = 0.0) -> RingStack:
    """Return the fewest focus positions that hold near_mm to far_mm [mm from the lens] within coc_mm.

    overlap: share of each slice that the next one repeats, 0 <= overlap < 0.9. The count is rounded up, and what rounding
    leaves over is spread evenly, so that the slices meet at a blur smaller than asked: with L = ln(v_near/v_far) and n
    frames they meet at c' = A tanh(L / 2n). far_mm may be infinite. Raises InputError for far < near, for near within the
    focal length, or where more than 2000 frames would be needed. Source: [1].
    """
    focal, marked = float(positive("focal_mm", focal_mm)), float(positive("f_number", f_number))
    coc = float(positive("coc_mm", coc_mm))
    check_overlap(overlap)
    near = float(positive("near_mm", near_mm))
    far = float(positive("far_mm", far_mm, allow_infinite=True))
    if far < near:
        raise InputError("far_mm", f"The far limit ({far:g} mm) must not be closer than the near limit ({near:g} mm).")
    pupil = focal / marked
    near_image, far_image = image_distance_mm(focal, near), image_distance_mm(focal, far)
    span = math.log(near_image / far_image)
    slice_span = math.inf if coc >= pupil else 2 * math.atanh(coc / pupil)
    beyond_first = max(0.0, span / slice_span - 1)
    frames = 1 + beyond_first / (1 - overlap)
    if frames > MAX_FRAMES:
        raise InputError("coc_mm", f"That would take {frames:.0f} focus positions; at most {MAX_FRAMES} are planned.")
    count = max(1, math.ceil(frames - _WHOLE))
    meeting_blur = pupil * math.tanh(span / (2 * count))
    ratio = (pupil - meeting_blur) / (pupil + meeting_blur)
    images = near_image * (1 - meeting_blur / pupil) * ratio ** np.arange(count)
    distances = _object_mm(focal, images)
    near_images = np.where(coc < pupil, pupil * images / max(pupil - coc, 1e-300), np.inf)
    return RingStack(
        object_distances_mm=distances,
        near_limits_mm=_object_mm(focal, near_images),
        far_limits_mm=_object_mm(focal, pupil * images / (pupil + coc)),
        worst_blur_mm=meeting_blur,
    )


def slice_depth_mm(magnification: float, f_number: float, coc_mm: float, pupil_ratio: float = 1.0) -> float:
    """Return the total depth of field up close, 2 N c (1 + m/p) / m^2 [mm]. Source: [2]."""
    scale, marked = float(positive("magnification", magnification)), float(positive("f_number", f_number))
    coc, ratio = float(positive("coc_mm", coc_mm)), float(positive("pupil_ratio", pupil_ratio))
    return 2 * marked * coc * (1 + scale / ratio) / scale**2


def slice_depth_inoue1997_mm(magnification: float, f_number: float, coc_mm: float, wavelength_mm: float = GREEN_WAVELENGTH_MM) -> float:
    """Return the microscopist's depth λ/NA^2 + e/(M NA) [mm] in air, with NA = m / (2 N (1 + m)) and e = coc_mm.

    Meant for magnifications above 1:1, where diffraction sets the depth. Source: [3].
    """
    scale, marked = float(positive("magnification", magnification)), float(positive("f_number", f_number))
    coc, wavelength = float(positive("coc_mm", coc_mm)), float(positive("wavelength_mm", wavelength_mm))
    aperture = scale / (2 * marked * (1 + scale))
    return wavelength / aperture**2 + coc / (scale * aperture)


def plan_rail_stack(
    magnification: float, f_number: float, coc_mm: float, depth_mm: float, pupil_ratio: float = 1.0, overlap: float = 0.0
) -> RailStack:
    """Return the rail steps that hold a subject depth_mm deep: moves of (1 - overlap) slices, frames = moves + 1.

    The first frame is focused on the nearest point, the last on or behind the farthest. Raises InputError for values
    that are not positive, for overlap outside 0 to 0.9, or where more than 2000 frames would be needed. Source: [2].
    """
    depth = float(positive("depth_mm", depth_mm))
    check_overlap(overlap)
    thickness = slice_depth_mm(magnification, f_number, coc_mm, pupil_ratio)
    step = thickness * (1 - overlap)
    if depth / step > MAX_FRAMES:
        raise InputError("depth_mm", f"That would take {depth / step:.0f} frames; at most {MAX_FRAMES} are planned.")
    return RailStack(step_mm=step, slice_mm=thickness, count=math.ceil(depth / step - _WHOLE) + 1)


def check_overlap(overlap: float) -> None:
    """Raise InputError unless 0 <= overlap < 0.9."""
    if not 0 <= overlap < 0.9:
        raise InputError("overlap", f"The overlap of two slices must be 0 or more and under 0.9, not {overlap:g}.")


def _object_mm(focal_mm: float, image_mm: NDArray[np.float64]) -> NDArray[np.float64]:
    beyond = image_mm <= focal_mm * (1 + _WHOLE)
    with np.errstate(divide="ignore", invalid="ignore"):
        return np.asarray(np.where(beyond, np.inf, focal_mm / (1 - focal_mm / image_mm)), dtype=np.float64)
