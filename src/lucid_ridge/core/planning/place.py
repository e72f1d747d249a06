"""Step 1: where the tripod stands and what stands before it."""

from __future__ import annotations

from dataclasses import dataclass

from ..units.lengths import compass_point, format_distance
from .facts import ShotFacts
from .marks import HOLDS, UNSAID, Reason, Verdict, worst_mark


@dataclass(frozen=True)
class PlaceStep:
    verdict: Verdict
    reasons: tuple[Reason, ...]


def plan_place(facts: ShotFacts) -> PlaceStep:
    """Return what is known of the place, and what is missing before the next steps can compute."""
    reasons = []
    if facts.location is None:
        reasons.append(Reason("place", UNSAID, "Choose a viewpoint: light and depth start from it.", "viewpoint_id"))
        return PlaceStep(Verdict("place", UNSAID, "no viewpoint yet"), tuple(reasons))
    if not facts.elements:
        reasons.append(Reason("place", UNSAID, f"{facts.viewpoint_name} has no elements: add what stands in the scene.", "elements"))
        return PlaceStep(Verdict("place", UNSAID, f"{facts.location.name}, no elements"), tuple(reasons))
    nearest = min(facts.elements, key=lambda item: item.distance_m)
    reasons.append(
        Reason(
            "place",
            HOLDS,
            f"{facts.location.name}, {facts.viewpoint_name}: nearest is {nearest.name} at "
            f"{format_distance(nearest.distance_m)}, {compass_point(nearest.bearing_deg)}.",
        )
    )
    count = len(facts.elements)
    text = f"{facts.location.name}, {count} element{'s' if count != 1 else ''}"
    return PlaceStep(Verdict("place", worst_mark(reasons), text), tuple(reasons))
