"""Checks before the first frame: camera set-up, aim and reminders."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ..facts.shot import ShotFacts
from ..planning.frame.plan import FrameStep
from ..planning.plan.shot_plan import ShotPlan
from ..units.lengths import compass_point, format_distance

# Nearer to the viewpoint's mark than this is upon it [m].
_OFF_THE_MARK_M = 0.05
# Light that enters by the finder fogs a long exposure (common practice) [stops of filters].
_EYEPIECE_FROM_STOPS = 6


@dataclass(frozen=True)
class Check:
    """Something to look at once; key names it in the log of events."""

    key: str
    words: str


@dataclass(frozen=True)
class FocusCheck:
    """A place where sharpness is checked on a frame just taken, and the remedy if it is soft."""

    what: str
    distance: str
    when_soft: str


def checks_before(facts: ShotFacts, plan: ShotPlan) -> tuple[Check, ...]:
    """Return the checks before the first frame, in order."""
    found = []
    if facts.support is not None:
        found.append(Check("tripod", "Tripod firm, legs locked"))
    stabiliser = next((item.value for item in plan.settings if item.name == "Stabiliser"), None)
    if stabiliser:
        found.append(Check("stabiliser", f"Stabiliser {stabiliser}"))
    found += [
        Check("level", "Camera level, horizon checked"),
        Check("focus", "Autofocus off"),
        Check("file", "Card in, battery full"),
    ]
    if any(item.on_lens for item in facts.filters):
        found.append(Check("clean", "Filters clean, both sides"))
        if facts.dark_stops >= _EYEPIECE_FROM_STOPS:
            found.append(Check("eyepiece", "Eyepiece covered"))
    return tuple(found)


def focus_checks(plan: ShotPlan) -> tuple[FocusCheck, ...]:
    """Return where sharpness is looked at after a frame."""
    return tuple(FocusCheck(item.short, format_distance(item.distance_m), item.when_soft) for item in plan.depth.checks)


def framing_words(facts: ShotFacts, frame: FrameStep) -> str:
    """Return set-up and aim of the camera as a line of the run sheet. The frame must have bearing and camera height."""
    assert frame.bearing_deg is not None and frame.camera_height_m is not None
    bearing = f"{frame.bearing_deg:.0f}° {compass_point(frame.bearing_deg)}"
    said = [f"{frame.focal_mm:g} mm {facts.frame.orientation}", bearing]
    if abs(facts.frame.pitch_deg) >= 0.5:
        said.append(f"{'up' if facts.frame.pitch_deg > 0 else 'down'} {abs(facts.frame.pitch_deg):.0f}°")
    said.append(f"camera at {format_distance(frame.camera_height_m)}")
    east, north = facts.frame.camera_east_m, facts.frame.camera_north_m
    if math.hypot(east, north) >= _OFF_THE_MARK_M:
        toward = compass_point(math.degrees(math.atan2(east, north)) % 360)
        said.append(f"{format_distance(math.hypot(east, north))} {toward} of the mark")
    if facts.depth.magnification is not None:
        said.append(f"{facts.depth.magnification:g}:1")
    if facts.frame.crop_aspect is not None or facts.frame.crop_focal_mm is not None:
        said.append(f"cropped{f' to {facts.frame.crop_aspect}' if facts.frame.crop_aspect is not None else ''}")
    return ", ".join(said)
