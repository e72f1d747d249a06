"""Step 3 close up: field, working distance and ways to it, background, level with the subject, shadows."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ..facts.place import Element
from ..facts.settings import Settings
from ..facts.shot import ShotFacts
from ..optics.close_up import (
    MELTS_SHARE,
    Background,
    CloseUpSetup,
    background_behind,
    close_up_setups,
    field_width_mm,
    melts_from_mm,
    shadow_on_subject,
)
from ..optics.conjugates import object_distance_for_magnification_mm
from ..units.lengths import format_distance
from .light import LightStep
from .marks import CAUTION, FAILS, HOLDS, TIGHT, Reason

_LENS_RADIUS_M = 0.035
_FLIES_OFF_M = 0.10
# Less than a fifth farther away than the subject a thing is what it lies upon.
_LIES_ON = 1.2


@dataclass(frozen=True)
class CloseUpStep:
    """field_mm: width and height that fill the frame. working_mm: from the lens's front (from its principal plane where its length is not known).

    background_name None: nothing is known behind the subject, and background counts as at infinity.
    """

    field_mm: tuple[float, float]
    object_mm: float
    working_mm: float
    working_known: bool
    setups: tuple[CloseUpSetup, ...]
    background: Background
    background_name: str | None
    reasons: tuple[Reason, ...]


def plan_close_up(facts: ShotFacts, settings: Settings, frame_mm: tuple[float, float], light: LightStep) -> CloseUpStep | None:
    """Return the bench of a close-up; None for a shot that is none."""
    lens = facts.lens
    if facts.depth.magnification is None or lens is None:
        return None
    scale, focal = facts.depth.magnification, settings.focal_mm
    setups = close_up_setups(focal, _own_largest(facts), scale, frame_mm[0], lens.front_mm, lens.pupil_ratio)
    object_mm = float(object_distance_for_magnification_mm(focal, scale))
    working = object_mm - (lens.front_mm or 0.0)
    subject = facts.subject or (facts.elements[0] if facts.elements else None)
    behind = _behind(facts, subject)
    gap_m = behind.distance_m - (subject.distance_m if subject else object_mm / 1000) if behind else math.inf
    background = background_behind(focal, settings.f_number, scale, frame_mm[0], gap_m * 1000)
    field = (field_width_mm(frame_mm[0], scale), field_width_mm(frame_mm[1], scale))
    reasons = [Reason("frame", HOLDS, f"At {scale:g}:1 the frame holds {field[0]:.1f} × {field[1]:.1f} mm.", "magnification")]
    reasons += _room(facts, working, lens.front_mm is not None)
    reasons.append(_melting(background, behind, melts_from_mm(focal, settings.f_number, scale, frame_mm[0])))
    reasons += _level(facts, settings, subject)
    reasons += _shadows(facts, settings, light, object_mm, working)
    return CloseUpStep(
        field, object_mm, working, lens.front_mm is not None, setups, background, behind.name if behind else None, tuple(reasons)
    )


def _own_largest(facts: ShotFacts) -> float:
    """Return the lens's largest magnification: as told, else from its closest focus (D >= 4f) by the thin lens."""
    lens = facts.lens
    assert lens is not None
    if lens.max_magnification:
        return lens.max_magnification
    focal = facts.frame.focal_mm or lens.focal_min_mm
    half = lens.closest_focus_mm / 2
    object_mm = half + math.sqrt(max(0.0, half * half - lens.closest_focus_mm * focal))
    return focal / (object_mm - focal) if object_mm > focal else 1.0


def _behind(facts: ShotFacts, subject: Element | None) -> Element | None:
    """Return the nearest thing behind the subject; what it lies upon is none."""
    if subject is None:
        return None
    further = [item for item in facts.elements if item.id != subject.id and item.distance_m > subject.distance_m * _LIES_ON]
    return min(further, key=lambda item: item.distance_m, default=None)


def _room(facts: ShotFacts, working_mm: float, known: bool) -> list[Reason]:
    if working_mm <= 0:
        return [Reason("frame", FAILS, "The subject would have to lie inside the lens: take a longer lens or a smaller magnification.", "magnification")]  # fmt: skip
    what = f"{working_mm:.0f} mm from the front of the lens" if known else f"{working_mm:.0f} mm from the lens (its length is not known)"
    alive = any(item.shape == "insect" for item in facts.elements)
    if alive and working_mm < _FLIES_OFF_M * 1000:
        return [Reason("frame", TIGHT, f"The subject is {what}: an insect will fly. Twice the focal length gives nearly twice the room.", "lens_id")]  # fmt: skip
    return [Reason("frame", HOLDS, f"The subject is {what}.", "magnification")]


def _melting(background: Background, behind: Element | None, melts_from_mm: float) -> Reason:
    if behind is None:
        if math.isinf(melts_from_mm):
            text = f"Nothing is noted behind the subject; at this aperture no background blurs over {MELTS_SHARE:.0%} of the width: open up for one that melts."
        else:
            text = f"Nothing is noted behind the subject: what lies {format_distance(melts_from_mm / 1000)} behind it and further melts."
        return Reason("frame", HOLDS, text, "elements")
    share = f"{background.blur_share:.0%}" if background.blur_share >= 0.01 else f"{background.blur_share:.1%}"
    lies = f"{behind.name} lies {background.times:.1f} times as far behind the subject as the camera stands before it"
    if background.melts:
        return Reason("frame", HOLDS, f"{lies}, and melts: its blur is {share} of the frame's width.", "elements")
    more = (
        "open up"
        if math.isinf(melts_from_mm) or background.by_rule
        else f"it melts from {format_distance(melts_from_mm / 1000)} on, or open up"
    )
    return Reason("frame", TIGHT, f"{lies}, and does not melt: its blur is {share} of the frame's width, and {MELTS_SHARE:.0%} is wanted: {more}.", "f_number")  # fmt: skip


def _level(facts: ShotFacts, settings: Settings, subject: Element | None) -> list[Reason]:
    if subject is None:
        return []
    middle = subject.base_m + subject.height_m / 2
    off_mm = (settings.camera_height_m - middle) * 1000
    if abs(off_mm) <= max(3.0, subject.height_m * 500):
        return [
            Reason("frame", HOLDS, f"The camera is level with {subject.name} ({abs(off_mm):.0f} mm off its middle).", "camera_height_m")
        ]
    way = "above" if off_mm > 0 else "below"
    return [Reason("frame", HOLDS, f"The camera looks from {abs(off_mm):.0f} mm {way} the middle of {subject.name}.", "camera_height_m")]


def _shadows(facts: ShotFacts, settings: Settings, light: LightStep, object_mm: float, working_mm: float) -> list[Reason]:
    if light.sun_altitude_deg is None or light.sun_azimuth_deg is None or light.sun_hidden or working_mm <= 0:
        return []
    cast = shadow_on_subject(
        settings.bearing_deg,
        facts.frame.pitch_deg,
        light.sun_azimuth_deg,
        light.sun_altitude_deg,
        object_mm / 1000,
        working_mm / 1000,
        _LENS_RADIUS_M,
    )
    if cast.lens:
        return [Reason("frame", TIGHT, f"The lens stands in the sun's way ({cast.angle_deg:.0f}° off it) and shades the subject: move round it or back with a longer lens.", "bearing_deg")]  # fmt: skip
    if cast.photographer:
        return [Reason("frame", TIGHT, "The sun comes over your shoulder, low: your own shadow falls on the subject.", "bearing_deg")]
    return [
        Reason(
            "frame", CAUTION, "Watch where your shadow and your knees go: nothing is tidied away, bent or uprooted for the picture.", None
        )
    ]
