"""The fine-tuner's answer as its response body: moves as one would say them."""

from __future__ import annotations

import math

from ...core.framing.projection import Camera
from ...core.framing.tuner import Solution, Target, Tuned
from ...core.planning.facts import ShotFacts
from ...core.units.lengths import compass_point, format_distance
from ..schemas import shots as out

_FREEDOM_WORDS = {
    "east_m": ("further west", "further east"), "north_m": ("further south", "further north"), "height_m": ("lower", "higher"),
    "focal_mm": ("shorter", "longer"), "bearing_deg": ("further left", "further right"), "pitch_deg": ("further down", "further up"),
}  # fmt: skip


def present_tuned(facts: ShotFacts, camera: Camera, targets: tuple[Target, ...], tuned: Tuned) -> out.TunedOut:
    """Return up to three cameras with what each changes and misses, and what stands in the way."""
    return out.TunedOut(
        solutions=[_solution(facts, camera, targets, item) for item in tuned.solutions],
        remarks=_remarks(facts, targets, tuned),
    )


def _solution(facts: ShotFacts, camera: Camera, targets: tuple[Target, ...], found: Solution) -> out.TunedCameraOut:
    to = found.camera
    changes = {
        "camera_east_m": round(to.east_m, 2), "camera_north_m": round(to.north_m, 2), "camera_height_m": round(to.height_m, 2),
        "focal_mm": round(to.focal_mm, 1), "bearing_deg": round(to.bearing_deg % 360, 1), "pitch_deg": round(to.pitch_deg, 1),
    }  # fmt: skip
    return out.TunedCameraOut(
        changes=changes,
        words=_move(camera, to),
        all_met=all(found.met),
        misses=[
            out.MissOut(words=_target_words(facts, target, miss, met), met=met, miss=miss)
            for target, miss, met in zip(targets, found.misses, found.met, strict=True)
        ],
    )


def _move(camera: Camera, to: Camera) -> str:
    parts = []
    east, north = to.east_m - camera.east_m, to.north_m - camera.north_m
    far = math.hypot(east, north)
    if far >= 0.02:
        # As one stands behind the camera.
        ahead = (math.degrees(math.atan2(east, north)) - camera.bearing_deg + 180) % 360 - 180
        sides = ((22.5, "forward"), (67.5, "forward to the {}"), (112.5, "to the {}"), (157.5, "back to the {}"), (181.0, "back"))
        way = next(words for limit, words in sides if abs(ahead) <= limit).format("right" if ahead > 0 else "left")
        parts.append(f"{format_distance(far)} {way}")
    lift = to.height_m - camera.height_m
    if abs(lift) >= 0.01:
        parts.append(f"{abs(lift) * 100:.0f} cm {'higher' if lift > 0 else 'lower'}")
    if abs(to.focal_mm - camera.focal_mm) >= 0.3:
        parts.append(f"{to.focal_mm:.0f} mm")
    turn = (to.bearing_deg - camera.bearing_deg + 180) % 360 - 180
    if abs(turn) >= 0.1:
        parts.append(
            f"turned {abs(turn):.1f}° {'right' if turn > 0 else 'left'} to {to.bearing_deg % 360:.0f}° {compass_point(to.bearing_deg % 360)}"
        )
    tilt = to.pitch_deg - camera.pitch_deg
    if abs(tilt) >= 0.1:
        parts.append(f"tilted {abs(tilt):.1f}° {'up' if tilt > 0 else 'down'}")
    return ", ".join(parts) or "stay as you are"


def _target_words(facts: ShotFacts, target: Target, miss: float, met: bool) -> str:
    name = facts.elements[target.element].name if target.element is not None else ""
    if target.kind == "air":
        assert target.other is not None
        words = f"{target.air:.0%} of air between {name} and {facts.elements[target.other].name}"
    elif target.kind == "horizon":
        words = f"horizon at {target.y:.0%} from the top"
    elif target.kind == "whole":
        words = f"{name} whole in the frame"
    else:
        spots = [
            f"{target.x:.0%} from the left" if target.x is not None else "",
            f"{target.y:.0%} from the top" if target.y is not None else "",
        ]
        words = f"{name} at {' and '.join(spot for spot in spots if spot)}"
    return words if met else f"{words}, missed by {miss:.1%}"


def _remarks(facts: ShotFacts, targets: tuple[Target, ...], tuned: Tuned) -> list[str]:
    if not tuned.solutions or all(tuned.solutions[0].met):
        return []
    remarks = []
    if tuned.conflicts:
        wishes = " or ".join(f"“{_target_words(facts, targets[index], 0.0, True)}”" for index in tuned.conflicts)
        remarks.append(f"These wishes contradict each other: without {wishes} all others can be met.")
    best = tuned.solutions[0].cost
    for relief in tuned.reliefs[:2]:
        word = _FREEDOM_WORDS[relief.freedom][relief.step > 0]
        unit = {"focal_mm": " mm", "bearing_deg": "°", "pitch_deg": "°"}.get(relief.freedom, " m")
        share = 1 - math.sqrt(relief.cost / best) if best > 0 else 1.0
        remarks.append(f"{abs(relief.step):g}{unit} {word} would bring it {share:.0%} nearer; the limit forbids it.")
    return remarks or ["No camera within these limits meets everything: this is the best compromise."]
