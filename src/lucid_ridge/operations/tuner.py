"""Fine-tuning a shot's camera: what the photographer says in, the core's answer out. Nothing is changed here."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from sqlalchemy.orm import Session

from ..core.errors import InputError
from ..core.framing.projection import Camera
from ..core.framing.tuner import Target, Tuned, tune
from ..core.planning.facts import ShotFacts, settings_of
from ..core.planning.frame_reading import scene_solids
from ..store.shots import Shot
from .errors import Refused
from .facts import shot_facts
from .rows import owned

# A camera is turned at most so far from where it aims now.
_TURN_DEG, _TILT_DEG = 60.0, 25.0


def tune_shot(
    session: Session, owner_id: int, shot_id: int, wish: Mapping[str, Any]
) -> tuple[ShotFacts, Camera, tuple[Target, ...], Tuned]:
    """Return the shot's facts, its camera now, the targets, and the cameras that meet them best.

    Raises Refused where body, lens or elements are missing or a target names what is not there, InputError for what cannot be tuned.
    """
    facts = shot_facts(session, owned(session, owner_id, Shot, shot_id))
    settings = settings_of(facts)
    if settings is None or facts.body is None or facts.lens is None:
        raise Refused("body_id", "The tuner needs a body and a lens.")
    if not facts.elements:
        raise Refused("targets", "The tuner needs elements in the scene: add them in step 1.")
    camera = Camera(
        settings.bearing_deg, settings.focal_mm, facts.body.sensor_width_mm, facts.body.sensor_height_mm, facts.pitch_deg, facts.orientation,
        facts.camera_east_m, facts.camera_north_m, settings.camera_height_m,
    )  # fmt: skip
    targets = tuple(_target(facts, item) for item in wish["targets"])
    return facts, camera, targets, tune(scene_solids(facts), targets, camera, _limits(facts, camera, wish))


def _target(facts: ShotFacts, wish: Mapping[str, Any]) -> Target:
    indices = {item.id: index for index, item in enumerate(facts.elements)}
    named = {}
    for name, key in (("element", "element_id"), ("other", "other_id")):
        wanted = wish[key]
        if wanted is not None and wanted not in indices:
            raise Refused("targets", "A target names an element that is not one of the viewpoint's.")
        named[name] = indices[wanted] if wanted is not None else None
    return Target(wish["kind"], **named, x=wish["x"], y=wish["y"], air=wish["air"], weight=wish["weight"])


def _limits(facts: ShotFacts, camera: Camera, wish: Mapping[str, Any]) -> dict[str, tuple[float, float]]:
    lens = facts.lens
    assert lens is not None
    limits: dict[str, tuple[float, float]] = {}
    if wish["step_m"] > 0:
        limits["east_m"] = (camera.east_m - wish["step_m"], camera.east_m + wish["step_m"])
        limits["north_m"] = (camera.north_m - wish["step_m"], camera.north_m + wish["step_m"])
    low, high = wish["height_low_m"], wish["height_high_m"]
    if (low is None) != (high is None):
        raise InputError("height_low_m" if low is None else "height_high_m", "The height needs both its limits, or neither.")
    if low is not None and high is not None:
        limits["height_m"] = (low, high)
    if wish["focal"] and lens.focal_max_mm > lens.focal_min_mm:
        limits["focal_mm"] = (lens.focal_min_mm, lens.focal_max_mm)
    if wish["bearing"]:
        limits["bearing_deg"] = (camera.bearing_deg - _TURN_DEG, camera.bearing_deg + _TURN_DEG)
    if wish["pitch"]:
        limits["pitch_deg"] = (max(-90.0, camera.pitch_deg - _TILT_DEG), min(90.0, camera.pitch_deg + _TILT_DEG))
    return limits
