"""Fine-tunes a shot's camera. Changes nothing."""

from __future__ import annotations

from dataclasses import dataclass, replace
from enum import StrEnum

from sqlalchemy.orm import Session

from ...core.errors import InputError
from ...core.facts.kit import Lens
from ...core.facts.settings import camera_of, crop_of, settings_of
from ...core.facts.shot import ShotFacts
from ...core.framing.many_cameras import InFocus
from ...core.framing.projection import Camera
from ...core.framing.solids import BROAD
from ...core.framing.tuner import Target, TargetKind, Tuned, tune
from ...core.planning.focus.camera import scene_solids
from ...core.planning.focus.plan import plan_depth
from ...core.planning.frame.standing import edge_unknown
from ...store.shots import Shot
from ..platform.errors import Refused
from ..platform.rows import owned
from .facts import shot_facts

# A camera is turned at most this far from its current aim.
_TURN_DEG, _TILT_DEG = 60.0, 25.0
# A crop may leave a quarter of the pixels.
_CROP_REACH = 2.0


class WishKind(StrEnum):
    """What the frame should contain; uncut: every upright element whole, with clearance to the edges."""

    PLACE = "place"
    CLEARANCE = "clearance"
    HORIZON = "horizon"
    WHOLE = "whole"
    UNCUT = "uncut"


@dataclass(frozen=True)
class TargetWish:
    """A target, in shares of the frame's width (x, clearance) or height (y). See core.framing.tuner.Target."""

    kind: WishKind
    element_id: int | None = None
    other_id: int | None = None
    x: float | None = None
    y: float | None = None
    clearance: float = 0.0
    weight: float = 1.0


@dataclass(frozen=True)
class TuneWish:
    """What may change: steps to each side of the camera's position, height, focal length, bearing, pitch and crop."""

    targets: tuple[TargetWish, ...]
    step_m: float = 0.0
    height_low_m: float | None = None
    height_high_m: float | None = None
    focal: bool = False
    bearing: bool = True
    pitch: bool = True
    crop: bool = False
    within_area: bool = True


@dataclass(frozen=True)
class TunedShot:
    """A shot's facts, its current camera, the targets, and the cameras that meet them best.

    cropped: a focal length beyond the lens means a crop.
    """

    facts: ShotFacts
    lens: Lens
    camera: Camera
    targets: tuple[Target, ...]
    tuned: Tuned
    cropped: bool


def tune_shot(session: Session, owner_id: int, shot_id: int, wish: TuneWish) -> TunedShot:
    """Return the cameras that meet a shot's targets best.

    Raises Refused if body, lens or elements are missing, or a target names an unknown element; InputError for
    impossible values.
    """
    facts = shot_facts(session, owned(session, owner_id, Shot, shot_id))
    settings = settings_of(facts)
    if settings is None or facts.body is None or facts.lens is None:
        raise Refused("body_id", "The tuner needs a body and a lens.")
    if not facts.elements:
        raise Refused("targets", "The tuner needs elements in the scene: add them in step 1.")
    if wish.step_m > 0 and edge_unknown(facts):
        raise Refused(
            "step_m",
            "An edge is recorded at this place: draw the area where one can stand before the camera may step "
            "aside, or let it step 0 m.",
        )
    # Focused close, the lens images longer, which equals a sensor smaller by 1 + m at the engraved focal length.
    imaging = plan_depth(facts).imaging
    now = camera_of(facts, settings, facts.body, imaging.image_mm if imaging else None)
    scale = now.focal_mm / settings.focal_mm
    camera = replace(
        now,
        focal_mm=settings.focal_mm,
        sensor_width_mm=facts.body.sensor_width_mm / scale,
        sensor_height_mm=facts.body.sensor_height_mm / scale,
    )
    crop = crop_of(facts, facts.body, settings.focal_mm)
    # If the crop may change, a longer focal length means a crop of the whole frame.
    window = (0.0, 0.0, 1.0, 1.0) if wish.crop else crop.window
    targets = tuple(target for item in wish.targets for target in _targets(facts, item))
    # Close up, distance follows from magnification and focal length, so the focal length stays.
    limits = _limits(facts.lens, camera, replace(wish, focal=wish.focal and not facts.close_up))
    focus = (
        InFocus(facts.elements.index(facts.subject), imaging.object_mm / 1000)
        if facts.close_up and imaging and facts.subject
        else None
    )
    area = facts.standing if wish.within_area else None
    tuned = tune(scene_solids(facts), targets, camera, limits, area, ground=facts.ground, window=window, in_focus=focus)
    return TunedShot(facts, facts.lens, camera, targets, tuned, bool(wish.crop))


def _targets(facts: ShotFacts, wish: TargetWish) -> list[Target]:
    """Return the targets of one wish; "uncut" has one for every upright element."""
    if wish.kind != WishKind.UNCUT:
        return [_target(facts, wish)]
    upright = [index for index, item in enumerate(facts.elements) if item.shape not in BROAD]
    return [Target(TargetKind.WHOLE, index, clearance=wish.clearance, weight=wish.weight) for index in upright]


def _target(facts: ShotFacts, wish: TargetWish) -> Target:
    indices = {item.id: index for index, item in enumerate(facts.elements)}
    if not {wish.element_id, wish.other_id} <= {None, *indices}:
        raise Refused("targets", "A target names an element that is not one of the viewpoint's.")
    element, other = (indices[wanted] if wanted is not None else None for wanted in (wish.element_id, wish.other_id))
    return Target(TargetKind(wish.kind), element, other, wish.x, wish.y, wish.clearance, wish.weight)


def _limits(lens: Lens, camera: Camera, wish: TuneWish) -> dict[str, tuple[float, float]]:
    limits: dict[str, tuple[float, float]] = {}
    if wish.step_m > 0:
        limits["east_m"] = (camera.east_m - wish.step_m, camera.east_m + wish.step_m)
        limits["north_m"] = (camera.north_m - wish.step_m, camera.north_m + wish.step_m)
    low, high = wish.height_low_m, wish.height_high_m
    if (low is None) != (high is None):
        raise InputError(
            "height_low_m" if low is None else "height_high_m", "The height needs both its limits, or neither."
        )
    if low is not None and high is not None:
        limits["height_m"] = (low, high)
    shortest, longest = (lens.focal_min_mm, lens.focal_max_mm) if wish.focal else (camera.focal_mm, camera.focal_mm)
    if wish.crop:
        longest *= _CROP_REACH
    if longest > shortest:
        limits["focal_mm"] = (shortest, longest)
    if wish.bearing:
        limits["bearing_deg"] = (camera.bearing_deg - _TURN_DEG, camera.bearing_deg + _TURN_DEG)
    if wish.pitch:
        limits["pitch_deg"] = (max(-90.0, camera.pitch_deg - _TILT_DEG), min(90.0, camera.pitch_deg + _TILT_DEG))
    return limits
