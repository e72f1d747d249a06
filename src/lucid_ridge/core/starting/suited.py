"""Which lens of a bag suits a kind of picture, and which usual one where the bag has none."""

from __future__ import annotations

import math
from collections.abc import Sequence

from ..facts.kit import Body, Lens
from ..optics.circle_of_confusion import crop_factor
from .picture_kind import PictureKind

_LONG_FROM_MM = 70.0


def suited_lens(kind: PictureKind, lenses: Sequence[Lens], body: Body | None) -> Lens | None:
    """Return the lens that suits a kind: close up the one that magnifies most, else the one that comes nearest to the
    kind's focal length, a prime before a zoom. None without lenses. body: None counts as 36 × 24 mm.
    """
    if kind.focal_mm is None:
        return max(lenses, key=lambda lens: lens.largest_magnification(lens.focal_max_mm), default=None)
    wanted = kind.focal_mm / (crop_factor(body.sensor_width_mm, body.sensor_height_mm) if body else 1.0)

    def away(lens: Lens) -> tuple[float, float]:
        nearest = min(max(wanted, lens.focal_min_mm), lens.focal_max_mm)
        return round(abs(math.log2(nearest / wanted)), 6), lens.focal_max_mm / lens.focal_min_mm

    return min(lenses, key=away, default=None)


def usual_lens(kind: PictureKind) -> str:
    """Return the key of the preset lens that suits a kind."""
    if kind.focal_mm is None:
        return "lens-100-macro"
    return "lens-70-200" if kind.focal_mm > _LONG_FROM_MM else "lens-24-70" if kind.focal_mm >= 24 else "lens-16-35"
