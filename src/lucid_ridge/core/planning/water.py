"""Step 5, what moves: the looks of water as shutter times for this scene, and the streak that a shutter draws."""

from __future__ import annotations

from dataclasses import dataclass

from ..exposure.motion import LookName, look_times_s, middle_time_s, streak_mm
from ..facts.place import Element
from ..facts.settings import Settings
from ..facts.shot import ShotFacts
from .depth import DepthStep


@dataclass(frozen=True)
class LookBand:
    """Shutter times [s] that give a look to the moving element of this shot. from_s is 0 for frozen."""

    name: LookName
    from_s: float
    to_s: float


def moving_element(facts: ShotFacts) -> Element | None:
    """Return the element whose motion counts: the one chosen, else the first that has a speed."""
    chosen = facts.element(facts.exposure.moving_element_id)
    if chosen is not None and chosen.speed_mps:
        return chosen
    return next((item for item in facts.elements if item.speed_mps), None)


def look_bands(facts: ShotFacts, settings: Settings, depth: DepthStep, moving: Element | None) -> tuple[LookBand, ...]:
    """Return the shutter times that give each look to the moving element; none without one, behind the camera or within the focal length."""
    distance_mm = _distance_mm(settings, depth, moving)
    if distance_mm is None or moving is None or facts.body is None or not moving.speed_mps:
        return ()
    short_side = min(facts.body.sensor_width_mm, facts.body.sensor_height_mm)
    scene = (settings.focal_mm, distance_mm, moving.speed_mps, short_side, settings.coc_mm)
    return tuple(LookBand(name, *look_times_s(name, *scene)) for name in LookName)


def streak_of(settings: Settings, depth: DepthStep, moving: Element | None, shutter_s: float) -> float | None:
    """Return the streak [mm on the sensor] that the moving element draws in shutter_s."""
    distance_mm = _distance_mm(settings, depth, moving)
    if distance_mm is None or moving is None or not moving.speed_mps:
        return None
    return float(streak_mm(settings.focal_mm, distance_mm, moving.speed_mps, shutter_s))


def _distance_mm(settings: Settings, depth: DepthStep, moving: Element | None) -> float | None:
    """Return how far the nearest visible part of what moves lies along the optical axis: there it draws longest."""
    span = depth.along.spans.get(moving.id) if moving and depth.along else None
    return span.near_m * 1000 if span and span.near_m * 1000 > settings.focal_mm * 1.001 else None


def wanted_shutter_s(facts: ShotFacts, bands: tuple[LookBand, ...]) -> float | None:
    """Return the shutter time [s] asked for, typed or as the middle of a look's band; None without a wish."""
    if facts.exposure.wanted_shutter_s is not None:
        return facts.exposure.wanted_shutter_s
    band = next((band for band in bands if band.name == facts.exposure.wanted_look), None)
    return middle_time_s((band.from_s, band.to_s)) if band else None
