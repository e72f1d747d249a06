"""Small finder drawings."""

from __future__ import annotations

from typing import cast

from ...core.framing.solids import FLAT
from ...core.planning.frame import FrameStep
from ...core.planning.plan import ShotPlan
from ...store.summaries import KeptThumb
from ..schemas import framings as out
from .frame import polygons


def draw_thumb(plan: ShotPlan) -> KeptThumb | None:
    """Return a plan's finder in small, as it is kept for the notebook."""
    thumb = present_thumb(plan.frame)
    return cast(KeptThumb, thumb.model_dump()) if thumb else None


def present_thumb(frame: FrameStep) -> out.ThumbOut | None:
    """Return a finder in small; None without a camera."""
    if frame.width_mm is None or frame.height_mm is None:
        return None
    # What lies flat on the ground first, then the farthest.
    farthest_first = sorted(frame.elements, key=lambda item: (item.shape not in FLAT, -item.distance_m))
    return out.ThumbOut(
        aspect=frame.width_mm / frame.height_mm,
        shapes=[
            out.ThumbShapeOut(shape=item.shape, distance_m=item.distance_m, polygons=polygons(item.outline.polygons))
            for item in farthest_first
        ],
        horizon=polygons([frame.horizon])[0] if frame.horizon is not None else [],
    )
