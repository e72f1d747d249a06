"""What a composition does, in sentences with figures: placement, air, horizon. Each can be muted by the photographer."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ..framing.outlines import Solid
from ..framing.projection import Camera
from ..framing.reading import ON_LINE, TOUCHING, Pair, Placement, read_frame
from .facts import Element, ShotFacts
from .marks import HOLDS, TIGHT, Reason

_PLACED_MOST = 4


@dataclass(frozen=True)
class FrameReading:
    """A verdict on the frame. key: what it is about, stable while the elements are; mark: holds or tight; muted: wanted so."""

    key: str
    mark: str
    text: str
    muted: bool
    reason: Reason | None = None


def scene_solids(facts: ShotFacts) -> list[Solid]:
    """Return the shot's elements as solids, from the viewpoint's mark."""
    return [Solid(item.shape, item.bearing_deg, item.distance_m, item.width_m, item.height_m, item.base_m) for item in facts.elements]


def frame_readings(facts: ShotFacts, camera: Camera, solids: Sequence[Solid]) -> tuple[FrameReading, ...]:
    """Return the reading of the frame: pairs that collide first, then placements and the horizon. Nothing for a single subject close up."""
    if not solids or facts.close_up:
        return ()
    reading = read_frame(solids, camera, facts.guide)
    found = [_pair(facts, pair) for pair in sorted(reading.pairs, key=lambda pair: pair.air)]
    largest = sorted(reading.placements, key=lambda item: -reading.shares[item.element])[:_PLACED_MOST]
    found += [_placement(facts, item) for item in largest]
    if 0 < reading.horizon_y < 1:
        found.append(_reading(facts, "horizon", HOLDS, f"The horizon lies at {reading.horizon_y:.0%} from the top.", None))
    return tuple(found)


def _pair(facts: ShotFacts, pair: Pair) -> FrameReading:
    one, other = facts.elements[pair.one], facts.elements[pair.other]
    names = f"{one.name} and {other.name}"
    move = f" {pair.move[0].upper()}{pair.move[1:]} opens it by {pair.opens:.1%}." if pair.move else ""
    key = f"air:{min(one.id, other.id)}:{max(one.id, other.id)}"
    if pair.air < 0:
        return _reading(facts, key, TIGHT, f"{names} run into each other by {-pair.air:.1%} of the width.{move}", "camera_height_m")
    if pair.air < TOUCHING:
        return _reading(facts, key, TIGHT, f"{names} touch: {pair.air:.1%} of air.{move}", "camera_height_m")
    return _reading(facts, key, HOLDS, f"{names} stand {pair.air:.1%} of the width apart.", None)


def _placement(facts: ShotFacts, item: Placement) -> FrameReading:
    element: Element = facts.elements[item.element]
    line = (
        "middle"
        if facts.guide == "centre"
        else f"{'left' if item.line < 0.5 else 'right'} {'third' if facts.guide == 'thirds' else 'golden line'}"
    )
    key = f"place:{element.id}"
    if abs(item.off) <= ON_LINE:
        return _reading(facts, key, HOLDS, f"{element.name} stands on the {line}.", None)
    side = "right" if item.off > 0 else "left"
    return _reading(facts, key, HOLDS, f"{element.name} stands {abs(item.off):.0%} {side} of the {line}.", None)


def _reading(facts: ShotFacts, key: str, mark: str, text: str, dial: str | None) -> FrameReading:
    muted = key in facts.muted_readings
    return FrameReading(key, mark, text, muted, Reason("frame", mark, text, dial) if mark != HOLDS else None)
