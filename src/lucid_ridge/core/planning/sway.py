"""Step 5, what the wind moves while the shutter is open: plants that no speed was said of, and clouds.

Sources: [1] World Meteorological Organization, Beaufort scale: leaves rustle from force 2 (1.6 m/s). How fast tips of plants move is our own model,
a share of the wind by plant, to be calibrated; so is that the wind where clouds are is twice that on the ground, and that they hang 1,200 m up when low and
4,000 m when not.
"""

from __future__ import annotations

import math

from ..exposure.motion import look_of_streak
from ..facts.choices import IN_HAND
from ..facts.materials import material_of
from ..facts.place import Element
from ..facts.settings import Settings, camera_of
from ..facts.shot import ShotFacts
from ..framing.projection import field_of_view_deg
from ..framing.solids import Shape
from ..light.materials import Material
from ..units.markings import format_shutter, spoken_shutter
from ..weather.promise import RIPPLES_MPS
from .depth import DepthStep
from .marks import HOLDS, TIGHT, Reason
from .water import in_a_second_mm

_SHARES = {Shape.TREE: 0.05, Shape.FLOWER: 0.08}
_BY_MATERIAL = {Material.LEAVES: 0.05, Material.GRASS: 0.08, Material.CONIFERS: 0.04}
_ALOFT, _LOW_M, _HIGH_M = 2.0, 1200.0, 4000.0
# Ground that is grown over is a blanket, not stalks, from so far away [m].
_STALKS_WITHIN_M = 30.0


def sway_reasons(facts: ShotFacts, settings: Settings, depth: DepthStep, shutter_s: float) -> list[Reason]:
    """Return what the forecast wind does to plants that must be sharp and to clouds in shutter_s; nothing without a forecast, nor close up."""
    hour = facts.hour
    if hour is None or facts.close_up:
        return []
    found = []
    for item in facts.elements:
        share = _sways(facts, item)
        streak = in_a_second_mm(settings, depth, item, share * hour.gust_mps) if share and hour.gust_mps >= RIPPLES_MPS else None
        if streak is None or streak * shutter_s <= settings.coc_mm:
            continue
        times = streak * shutter_s / settings.coc_mm
        text = (
            f"Gusts of {hour.gust_mps:.0f} m/s may move {item.name} at {share * hour.gust_mps:.1f} m/s (our own model): {times:.0f}× the limit in "
            f"{spoken_shutter(shutter_s)}, {format_shutter(settings.coc_mm / streak)} freezes it. Give it the speed you see, or wait for a lull."
        )
        found.append(Reason("exposure", TIGHT, text, "elements"))
    return found + _clouds(facts, settings, hour.cover, hour.low_cloud, hour.wind_mps, shutter_s)


def _sways(facts: ShotFacts, item: Element) -> float:
    """Return the share of the wind that an element's tips move at; 0 for what stands still, has a speed of its own or need not be sharp."""
    if item.speed_mps or item.id not in facts.sharp_element_ids or item.distance_m > _STALKS_WITHIN_M:
        return 0.0
    if item.shape in _SHARES:
        return _SHARES[item.shape]
    return _BY_MATERIAL.get(material_of(item), 0.0) if item.shape == Shape.BLOCK else 0.0


def _clouds(facts: ShotFacts, settings: Settings, cover: float, low: float, wind_mps: float, shutter_s: float) -> list[Reason]:
    """Return how far clouds are drawn out over the frame; nothing for short times, a clear sky, a closed one, or a frame without sky."""
    body = facts.body
    if body is None or shutter_s < 1 or not 0.1 <= cover <= 0.95 or facts.frame.hold in IN_HAND:
        return []
    camera = camera_of(facts, settings, body)
    top = camera.pitch_deg + float(field_of_view_deg(camera.frame_mm[1], camera.focal_mm)) / 2
    if top <= 2:
        return []
    height = _LOW_M if low >= cover / 2 else _HIGH_M
    # Seen half way up to the frame's upper edge they are farther away than they are high.
    away = height / math.sin(math.radians(max(3.0, top / 2)))
    streak = camera.focal_mm * _ALOFT * wind_mps * shutter_s / away
    share = streak / min(camera.frame_mm)
    look = look_of_streak(streak, min(camera.frame_mm), settings.coc_mm)
    text = f"Clouds at some {height:,.0f} m draw about {share:.0%} of the frame's short side in {spoken_shutter(shutter_s)} (our own model of the wind up there): {look}."
    return [Reason("exposure", HOLDS, text, "wanted_shutter_s")]
