"""The scene before a simulated camera: a planned scene as a raster with distances, motion and colour."""

from __future__ import annotations

import numpy as np

from ..core.facts.settings import settings_of
from ..core.facts.shot import ShotFacts
from ..core.planning.plan.shot_plan import ShotPlan
from ..core.planning.tones.plan import plan_tones
from ..core.tones.exposed import SceneRaster, textured
from ..core.tones.picture import GROUND, SKY, rays

# A low sun reddens what it lights (our own figures).
_WARM, _PLAIN = (1.18, 1.0, 0.82), (1.0, 1.0, 1.0)
_NEAREST_M, _FARTHEST_M = 0.05, 1e6


def scene_rasters(facts: ShotFacts, plan: ShotPlan, points: int, seed: int) -> tuple[SceneRaster, SceneRaster] | None:
    """Return the scene as the camera sees it without a polariser, and with one turned to its strongest (beyond its
    cost); None without body, lens or time. points: along the longer side.
    """
    tones, settings = plan_tones(facts, plan, points), settings_of(facts)
    if tones is None or settings is None:
        return None
    marks = tones.picture.marks
    towards = rays(tones.camera, marks.shape[1], marks.shape[0])
    with np.errstate(divide="ignore", invalid="ignore"):
        ground = np.where(towards[..., 2] < -1e-6, tones.camera.height_m / -towards[..., 2], _FARTHEST_M)
    distance = np.where(marks == GROUND, np.clip(ground, _NEAREST_M, _FARTHEST_M), _FARTHEST_M)
    moves = np.zeros(marks.shape)
    by_element = {item.element.id: item for item in plan.exposure.movers if item.element is not None}
    for at, element in enumerate(facts.elements):
        here = marks == at
        distance[here] = max(_NEAREST_M, element.distance_m)
        if element.id in by_element and here.any():
            moves[here] = by_element[element.id].streak_share(1.0) * min(marks.shape)
    low_sun = plan.light.sun_altitude_deg is not None and plan.light.sun_altitude_deg < 6
    tint = np.where((marks == SKY)[..., None], _WARM if low_sun else _PLAIN, _PLAIN)
    bare = textured(tones.bare_ev, seed, stops=0.35)
    return SceneRaster(bare, distance, moves, tint), SceneRaster(
        bare + tones.picture.polariser_stops, distance, moves, tint
    )
