"""The fine-tuner's answer as a response body, with moves in words."""

from __future__ import annotations

import math

from ....core.facts.shot import ShotFacts
from ....core.framing.projection import Camera
from ....core.framing.tuner import Relief, Solution, Target
from ....core.units.lengths import compass_point, format_distance, format_move
from ....core.units.spelling import percent
from ....operations.shots.measuring import Measured
from ....operations.shots.tuner import TunedShot
from ..schemas import tuning as out

_FREEDOM_WORDS = {
    "east_m": ("further west", "further east"),
    "north_m": ("further south", "further north"),
    "height_m": ("lower", "higher"),
    "focal_mm": ("shorter", "longer"),
    "bearing_deg": ("further left", "further right"),
    "pitch_deg": ("further down", "further up"),
}


def present_tuned(found: TunedShot) -> out.TunedOut:
    """Return up to three cameras with their changes and misses, and the obstacles."""
    return out.TunedOut(solutions=[_solution(found, item) for item in found.tuned.solutions], remarks=_remarks(found))


def present_measured(found: Measured) -> out.MeasureOut:
    """Return a measurement with its sentence."""
    distance, size = format_distance(found.distance_m), format_distance(found.size_m)
    follows = f"{size} look so from {distance}" if found.size_given else f"at {distance} that is {size}"
    return out.MeasureOut(
        angle_deg=found.angle_deg,
        distance_m=found.distance_m,
        distance_label=distance,
        size_m=found.size_m,
        words=f"{found.how} are {found.angle_deg:.2f}°: {follows}.",
    )


def _solution(found: TunedShot, solution: Solution) -> out.TunedCameraOut:
    to = solution.camera
    changes: dict[str, float | None] = {
        "camera_east_m": round(to.east_m, 2),
        "camera_north_m": round(to.north_m, 2),
        "camera_height_m": round(to.height_m, 2),
        "focal_mm": round(to.focal_mm, 1),
        "bearing_deg": round(to.bearing_deg % 360, 1),
        "pitch_deg": round(to.pitch_deg, 1),
    }
    if found.cropped:
        # What the lens does not reach is left to the crop.
        changes["focal_mm"] = round(min(to.focal_mm, found.lens.focal_max_mm), 1)
        changes["crop_focal_mm"] = round(to.focal_mm, 1) if to.focal_mm > found.lens.focal_max_mm * 1.01 else None
    return out.TunedCameraOut(
        changes=changes,
        words=_move(found, to),
        all_met=all(solution.met),
        misses=[
            out.MissOut(words=_target_words(found.facts, target, miss, met), met=met, miss=miss)
            for target, miss, met in zip(found.targets, solution.misses, solution.met, strict=True)
        ],
    )


def _move(found: TunedShot, to: Camera) -> str:
    camera, parts = found.camera, []
    if math.hypot(to.east_m - camera.east_m, to.north_m - camera.north_m) >= 0.02:
        parts.append(_step(camera, to))
    lift = to.height_m - camera.height_m
    if abs(lift) >= 0.01:
        parts.append(f"{format_move(abs(lift))} {'higher' if lift > 0 else 'lower'}")
    if abs(to.focal_mm - camera.focal_mm) >= 0.3:
        longest = found.lens.focal_max_mm
        beyond = found.cropped and to.focal_mm > longest * 1.01
        parts.append(f"{longest:g} mm cropped as {to.focal_mm:.0f} mm" if beyond else f"{to.focal_mm:.0f} mm")
    turn = (to.bearing_deg - camera.bearing_deg + 180) % 360 - 180
    if abs(turn) >= 0.1:
        parts.append(
            f"turned {abs(turn):.1f}° {'right' if turn > 0 else 'left'} to {to.bearing_deg % 360:.0f}° "
            f"{compass_point(to.bearing_deg % 360)}"
        )
    tilt = to.pitch_deg - camera.pitch_deg
    if abs(tilt) >= 0.1:
        parts.append(f"tilted {abs(tilt):.1f}° {'up' if tilt > 0 else 'down'}")
    return ", ".join(parts) or "stay as you are"


def _target_words(facts: ShotFacts, target: Target, miss: float, met: bool) -> str:
    name = facts.elements[target.element].name if target.element is not None else ""
    if target.kind == "clearance":
        assert target.other is not None
        words = f"{percent(target.clearance)} clearance between {name} and {facts.elements[target.other].name}"
    elif target.kind == "horizon":
        words = f"horizon at {percent(target.y or 0.0)} from the top"
    elif target.kind == "whole":
        words = f"{name} whole in the frame"
    else:
        spots = [
            f"{percent(target.x)} from the left" if target.x is not None else "",
            f"{percent(target.y)} from the top" if target.y is not None else "",
        ]
        words = f"{name} at {' and '.join(spot for spot in spots if spot)}"
    return words if met else f"{words}, missed by {percent(miss, 1)}"


def _remarks(found: TunedShot) -> list[str]:
    tuned = found.tuned
    if not tuned.solutions or all(tuned.solutions[0].met):
        return []
    remarks = []
    if tuned.conflicts:
        wishes = " or ".join(
            f"“{_target_words(found.facts, found.targets[index], 0.0, True)}”" for index in tuned.conflicts
        )
        remarks.append(f"These wishes contradict each other: without {wishes} all others can be met.")
    remarks += [_relief(found, relief) for relief in tuned.reliefs[:2]]
    return remarks or ["No camera within these limits meets everything: this is the best compromise."]


def _relief(found: TunedShot, relief: Relief) -> str:
    best = found.tuned.solutions[0]
    share = 1 - math.sqrt(relief.cost / best.cost) if best.cost > 0 else 1.0
    gain = "would meet it all" if share > 0.97 else f"would bring it {percent(share)} nearer"
    if relief.freedom == "area" and relief.camera is not None:
        forbids = (
            "the edge forbids it" if found.facts.standing and found.facts.standing.drops else "there one cannot stand"
        )
        return (
            f"{_step(best.camera, relief.camera)} {gain}, {format_distance(relief.step)} outside the "
            f"standing area: {forbids}."
        )
    word = _FREEDOM_WORDS[relief.freedom][relief.step > 0]
    unit = {"focal_mm": " mm", "bearing_deg": "°", "pitch_deg": "°"}.get(relief.freedom, " m")
    return f"{abs(relief.step):g}{unit} {word} {gain}; the limit forbids it."


def _step(camera: Camera, to: Camera) -> str:
    """Return a step over the ground, seen from behind the camera: "1.2 m to the right"."""
    east, north = to.east_m - camera.east_m, to.north_m - camera.north_m
    ahead = (math.degrees(math.atan2(east, north)) - camera.bearing_deg + 180) % 360 - 180
    sides = (
        (22.5, "forward"),
        (67.5, "forward to the {}"),
        (112.5, "to the {}"),
        (157.5, "back to the {}"),
        (181.0, "back"),
    )
    way = next(words for limit, words in sides if abs(ahead) <= limit).format("right" if ahead > 0 else "left")
    return f"{format_distance(math.hypot(east, north))} {way}"
