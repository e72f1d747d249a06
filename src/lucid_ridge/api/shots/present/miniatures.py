"""Small finder drawings."""

from __future__ import annotations

from collections.abc import Iterable
from typing import cast

import numpy as np
from numpy.typing import NDArray

from ....core.facts.shot import ShotFacts
from ....core.framing.solids import FLAT
from ....core.planning.frame.plan import FrameStep
from ....core.planning.plan.shot_plan import ShotPlan
from ....core.planning.tones.plan import picture_tones, plan_tones
from ....formats.tonal_png import as_data_url, tonal_png
from ....store.summaries import KeptMiniature
from ..schemas import framings as out

Floats = NDArray[np.float64]
_FAR, _LOW = 50.0, 3
# The resolution of the notebook's list.
_POINTS = 138


def draw_miniature(facts: ShotFacts, plan: ShotPlan) -> KeptMiniature | None:
    """Return a plan's finder in miniature, as stored for the notebook: in tones where the light is known."""
    miniature = present_miniature(plan.frame)
    if miniature is None:
        return None
    step = plan_tones(facts, plan, _POINTS)
    picture = as_data_url(tonal_png(picture_tones(step))) if step is not None else None
    return cast(KeptMiniature, miniature.model_copy(update={"picture": picture}).model_dump())


def present_miniature(frame: FrameStep) -> out.MiniatureOut | None:
    """Return a miniature finder; None without a camera."""
    if frame.width_mm is None or frame.height_mm is None:
        return None
    # Flat things on the ground first, then the farthest.
    farthest_first = sorted(frame.elements, key=lambda item: (item.shape not in FLAT, -item.distance_m))
    return out.MiniatureOut(
        aspect=frame.width_mm / frame.height_mm,
        shapes=[
            out.MiniatureShapeOut(shape=item.shape, distance_m=item.distance_m, outline=_path(item.outline.polygons))
            for item in farthest_first
        ],
        ground=_ground(frame.horizon) if frame.horizon is not None and len(frame.horizon) > 1 else "",
    )


def _path(polygons: Iterable[Floats]) -> str:
    """Return polygons as an SVG path one wide and one high, to a thousandth."""
    return "".join(f"M{_points(polygon)}Z" for polygon in polygons)


def _ground(horizon: Floats) -> str:
    """Return all below the horizon as a path."""
    return f"M{horizon[0][0]:.3f} {_LOW}L{_points(horizon)}L{horizon[-1][0]:.3f} {_LOW}Z"


def _points(line: Floats) -> str:
    inside = np.clip(line, -_FAR, _FAR)
    return "L".join(f"{x:.3f} {y:.3f}" for x, y in inside)
