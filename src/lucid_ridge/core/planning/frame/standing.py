"""The standing area with its edges, and whether the tripod reaches the camera height."""

from __future__ import annotations

import math

from ...facts.choices import Hold
from ...facts.place import HazardKind
from ...facts.settings import Settings
from ...facts.shot import ShotFacts
from ..reasons import Reason
from . import wording as say

# Nearer to a drop than this, a tripod leg or a step back is over it.
_DROP_CAUTION_M = 1.0
_OUTSIDE_M = 0.05


def standing_reasons(facts: ShotFacts, settings: Settings) -> list[Reason]:
    """Return reasons from the standing area and the tripod."""
    return [*_area(facts), *_support(facts, settings)]


def _area(facts: ShotFacts) -> list[Reason]:
    if facts.standing is None:
        return _unknown_edge(facts)
    here = (facts.frame.camera_east_m, facts.frame.camera_north_m)
    reasons = []
    outside = float(facts.standing.outside_m(*here))
    if outside > _OUTSIDE_M:
        reasons.append(say.outside_area(outside_m=outside).fails("camera_east_m"))
    drop = facts.standing.to_drop_m(*here)
    if drop is not None and (drop < _DROP_CAUTION_M or outside > _OUTSIDE_M):
        reasons.append(say.near_edge(drop_m=max(0.01, drop)).caution("camera_east_m"))
    return reasons


def _unknown_edge(facts: ShotFacts) -> list[Reason]:
    """Return the reason about a camera moved off the tripod mark at a place with an edge but no standing area."""
    off = math.hypot(facts.frame.camera_east_m, facts.frame.camera_north_m)
    if off <= _OUTSIDE_M or not edge_unknown(facts):
        return []
    return [say.edge_not_drawn(moved_m=off).unsaid("camera_east_m")]


def edge_unknown(facts: ShotFacts) -> bool:
    """Return whether the place has an edge with a drop, but no standing area that shows where it runs."""
    return facts.standing is None and any(item.kind is HazardKind.EDGE for item in facts.hazards)


def _support(facts: ShotFacts, settings: Settings) -> list[Reason]:
    support, height = facts.support, settings.camera_height_m
    if support is None or facts.frame.hold != Hold.TRIPOD:
        return []
    if height > support.height_max_m * 1.005:
        words = say.tripod_too_low(
            support=support.name, reach_m=support.height_max_m, over_m=height - support.height_max_m
        )
        return [words.fails("camera_height_m")]
    if height >= support.height_min_m * 0.995:
        words = say.tripod_reaches(
            support=support.name, height_m=height, lowest_m=support.height_min_m, reach_m=support.height_max_m
        )
        return [words.holds("camera_height_m")]
    if support.inverted_min_m is not None and height >= support.inverted_min_m * 0.995:
        return [say.column_reversed(support=support.name, height_m=height).tight("camera_height_m")]
    lowest = support.height_min_m if support.inverted_min_m is None else support.inverted_min_m
    words = say.tripod_too_high(support=support.name, lowest_m=lowest, over_m=max(0.01, lowest - height))
    return [words.tight("camera_height_m")]
