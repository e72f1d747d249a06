"""Focus stacks: turning the ring with the camera still, or moving the camera on a rail.

Sources: [1] thin-lens geometry: in image space the slices of consecutive ring positions form a geometric series with
the ratio (A + c)/(A - c); [2] total depth up close 2 N c (1 + m/p)/m^2, any close-up handbook; [3] S. Inoué and K. R.
Spring, Video Microscopy, 2nd ed., 1997 (from memory).
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..errors import InputError
from ..units.quantities import positive
from .depth import GREEN_WAVELENGTH_MM, pupil_offset_mm

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


def plan_ring_stack(
    focal_mm: float,
    f_number: float,
    coc_mm: float,
    near_mm: float,
    far_mm: float,
    overlap: float = 0.0,
    pupil_ratio: float = 1.0,
) -> RingStack:
    """Return the fewest focus positions that hold near_mm to far_mm [mm from the lens] within coc_mm.

    overlap: share of each slice that the next one repeats, 0 <= overlap < 0.9. The count is rounded up, and what
    rounding leaves over is spread evenly, so that the slices meet at a blur smaller than asked: with L =
    ln(z_far/z_near), z = 1 - f/(p (d - s)) for a point d behind the entrance pupil at s (f/v for a symmetrical lens)
    and B = p A the exit pupil, n frames meet at c' = B tanh(L / 2n). far_mm may be infinite. Raises InputError for far
    < near, for near within the focal length, or where more than 2000 frames would be needed. Source: [1].
    """
    focal, marked = float(positive("focal_mm", focal_mm)), float(positive("f_number", f_number))
    coc, ratio = float(positive("coc_mm", coc_mm)), float(positive("pupil_ratio", pupil_ratio))
    check_overlap(overlap)
    near = float(positive("near_mm", near_mm))
    far = float(positive("far_mm", far_mm, allow_infinite=True))
    if far < near:
        raise InputError("far_mm", f"The far limit ({far:g} mm) must not be closer than the near limit ({near:g} mm).")
    if near <= focal:
        raise InputError(
            "near_mm", f"An object must be farther from the lens than its focal length ({focal:g} mm) to form an image."
        )
    pupil, shift = ratio * focal / marked, float(pupil_offset_mm(focal, ratio))
    near_turn, far_turn = (1 - focal / ratio / (distance - shift) for distance in (near, far))
    span = math.log(far_turn / near_turn)
    slice_span = math.inf if coc >= pupil else 2 * math.atanh(coc / pupil)
    beyond_first = max(0.0, span / slice_span - 1)
    frames = 1 + beyond_first / (1 - overlap)
    if frames > MAX_FRAMES:
        raise InputError("coc_mm", f"That would take {frames:.0f} focus positions; at most {MAX_FRAMES} are planned.")
    count = max(1, math.ceil(frames - _WHOLE))
    meeting_blur = pupil * math.tanh(span / (2 * count))
    step = (pupil + meeting_blur) / (pupil - meeting_blur)
    turns = np.asarray(near_turn / (1 - meeting_blur / pupil) * step ** np.arange(count), dtype=np.float64)

    def distance_of(turn: NDArray[np.float64]) -> NDArray[np.float64]:
        """Return the object distances [mm] of z; what rounding puts beyond infinity is at infinity."""
        with np.errstate(divide="ignore"):
            return np.asarray(
                np.where(turn >= 1 - _WHOLE, np.inf, shift + focal / ratio / np.maximum(1 - turn, 1e-300))
            )

    return RingStack(
        object_distances_mm=distance_of(turns),
        near_limits_mm=np.maximum(focal, distance_of(turns * (1 - coc / pupil)))
        if coc < pupil
        else np.full(count, focal),
        far_limits_mm=distance_of(turns * (1 + coc / pupil)),
        worst_blur_mm=meeting_blur,
    )


def slice_depth_mm(magnification: float, f_number: float, coc_mm: float, pupil_ratio: float = 1.0) -> float:
    """Return the total depth of field up close, 2 N c (1 + m/p) / m^2 [mm]. Source: [2]."""
    scale, marked = float(positive("magnification", magnification)), float(positive("f_number", f_number))
    coc, ratio = float(positive("coc_mm", coc_mm)), float(positive("pupil_ratio", pupil_ratio))
    return 2 * marked * coc * (1 + scale / ratio) / scale**2


def slice_depth_inoue1997_mm(
    magnification: float, f_number: float, coc_mm: float, wavelength_mm: float = GREEN_WAVELENGTH_MM
) -> float:
    """Return the microscopist's depth λ/NA^2 + e/(M NA) [mm] in air, with NA = m / (2 N (1 + m)) and e = coc_mm.

    Meant for magnifications above 1:1, where diffraction sets the depth. Source: [3].
    """
    scale, marked = float(positive("magnification", magnification)), float(positive("f_number", f_number))
    coc, wavelength = float(positive("coc_mm", coc_mm)), float(positive("wavelength_mm", wavelength_mm))
    aperture = scale / (2 * marked * (1 + scale))
    return wavelength / aperture**2 + coc / (scale * aperture)


def plan_rail_stack(
    magnification: float,
    f_number: float,
    coc_mm: float,
    depth_mm: float,
    pupil_ratio: float = 1.0,
    overlap: float = 0.0,
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
