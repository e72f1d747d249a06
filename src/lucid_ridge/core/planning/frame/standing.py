"""Step 3, where the camera stands: the standing area with its edges, and whether the tripod reaches the height."""

from __future__ import annotations

import math

from ...facts.choices import Hold
from ...facts.place import HazardKind
from ...facts.settings import Settings
from ...facts.shot import ShotFacts
from ...units.lengths import format_distance
from ..verdicts import CAUTION, FAILS, HOLDS, TIGHT, UNSAID, Reason

# Nearer to a drop than this a tripod leg, or a step back, is over it.
_DROP_CAUTION_M = 1.0
_OUTSIDE_M = 0.05


def standing_reasons(facts: ShotFacts, settings: Settings) -> list[Reason]:
    """Return what the ground and the tripod say to the camera's place."""
    return [*_area(facts), *_support(facts, settings)]


def _area(facts: ShotFacts) -> list[Reason]:
    if facts.standing is None:
        return _unknown_edge(facts)
    here = (facts.frame.camera_east_m, facts.frame.camera_north_m)
    reasons = []
    outside = float(facts.standing.outside_m(*here))
    if outside > _OUTSIDE_M:
        reasons.append(
            Reason("frame", FAILS, f"The camera stands {format_distance(outside)} outside the area where one can stand.", "camera_east_m")
        )
    drop = facts.standing.to_drop_m(*here)
    if drop is not None and (drop < _DROP_CAUTION_M or outside > _OUTSIDE_M):
        reasons.append(
            Reason("frame", CAUTION, f"The edge is {format_distance(max(0.01, drop))} away: never step back with the eye at the finder, and keep the legs off it.", "camera_east_m")
        )  # fmt: skip
    return reasons


def _unknown_edge(facts: ShotFacts) -> list[Reason]:
    """Return what must be said of a camera moved from the mark where an edge is recorded, but not where it runs."""
    off = math.hypot(facts.frame.camera_east_m, facts.frame.camera_north_m)
    if off <= _OUTSIDE_M or not edge_unknown(facts):
        return []
    text = f"An edge is recorded here, but not where one can stand: the camera stands {format_distance(off)} from the mark. Draw the standing area first."
    return [Reason("frame", UNSAID, text, "camera_east_m")]


def edge_unknown(facts: ShotFacts) -> bool:
    """Whether an edge with a drop is recorded at the place, while no standing area says where it runs."""
    return facts.standing is None and any(item.kind is HazardKind.EDGE for item in facts.hazards)


def _support(facts: ShotFacts, settings: Settings) -> list[Reason]:
    support, height = facts.support, settings.camera_height_m
    if support is None or facts.frame.hold != Hold.TRIPOD:
        return []
    if height > support.height_max_m * 1.005:
        over = format_distance(height - support.height_max_m)
        text = (
            f"The tripod is too low: {support.name} reaches {format_distance(support.height_max_m)}, and the camera is meant {over} higher."
        )
        return [Reason("frame", FAILS, text, "camera_height_m")]
    if height >= support.height_min_m * 0.995:
        text = f"{support.name} holds the camera at {format_distance(height)} ({format_distance(support.height_min_m)} to {format_distance(support.height_max_m)})."
        return [Reason("frame", HOLDS, text, "camera_height_m")]
    if support.inverted_min_m is not None and height >= support.inverted_min_m * 0.995:
        text = f"The column must be inverted: at {format_distance(height)} the camera hangs between the legs of {support.name}."
        return [Reason("frame", TIGHT, text, "camera_height_m")]
    lowest = support.height_min_m if support.inverted_min_m is None else support.inverted_min_m
    under = format_distance(max(0.01, lowest - height))
    text = f"The tripod is too high: {support.name} goes no lower than {format_distance(lowest)}, {under} over the camera. Lay it on a bag on the ground."
    return [Reason("frame", TIGHT, text, "camera_height_m")]
