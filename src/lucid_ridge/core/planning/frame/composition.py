"""What a composition does, in sentences with figures: placement, clearance, edges, horizon, lines, room. Each can be muted by the photographer."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from ...facts.place import Element
from ...facts.shot import ShotFacts
from ...framing.composition import ON_LINE, TOUCHING, Composition, Edge, Lead, Pair, Placement, read_frame
from ...framing.projection import Camera
from ...framing.solids import Solid
from ..verdicts import HOLDS, TIGHT, Reason, Severity

_PLACED_MOST, _PAIRS_MOST = 4, 8
_LEANS_FROM_DEG, _VERTICALS_FROM_DEG = 0.3, 3.0
_POINTS_WITHIN = 0.06


@dataclass(frozen=True)
class FrameReading:
    """A verdict on the frame. key: what it is about, stable while the elements are; mark: holds or tight; muted: wanted so."""

    key: str
    mark: str
    text: str
    muted: bool
    reason: Reason | None = None


def composition_readings(
    facts: ShotFacts,
    camera: Camera,
    solids: Sequence[Solid],
    window: tuple[float, float, float, float],
    melted: frozenset[int] = frozenset(),
) -> tuple[tuple[FrameReading, ...], Composition | None]:
    """Return the reading of the frame: what collides first, then placements, lines, horizon and room; nothing without elements."""
    if not solids:
        return (), None
    reading = read_frame(solids, camera, facts.frame.guide, facts.ground, window, melted)
    found = [_edge(facts, item) for item in reading.edges]
    found += [_pair(facts, pair) for pair in sorted(reading.pairs, key=lambda pair: pair.clearance)[:_PAIRS_MOST]]
    largest = sorted(reading.placements, key=lambda item: -reading.coverage.shares[item.element])[:_PLACED_MOST]
    found += [_placement(facts, item) for item in largest]
    found += [_lead(facts, item) for item in reading.leads]
    found += _horizon(facts, reading)
    found.append(_room(facts, reading))
    return tuple(found), reading


def _edge(facts: ShotFacts, item: Edge) -> FrameReading:
    element = facts.elements[item.element]
    way = "just inside" if item.margin >= 0 else "just over"
    dial = "pitch_deg" if item.edge in ("top", "bottom") else "bearing_deg"
    text = f"{element.name} touches the {item.edge} edge ({way}, {abs(item.margin):.1%}): cut it clearly or leave a gap."
    return _reading(facts, f"edge:{item.edge}:{element.id}", TIGHT, text, dial)


def _pair(facts: ShotFacts, pair: Pair) -> FrameReading:
    one, other = facts.elements[pair.one], facts.elements[pair.other]
    names = f"{one.name} and {other.name}"
    move = f" {pair.move[0].upper()}{pair.move[1:]} opens it by {pair.opens:.1%}." if pair.move else ""
    key = f"air:{min(one.id, other.id)}:{max(one.id, other.id)}"
    if pair.clearance < 0:
        return _reading(facts, key, TIGHT, f"{names} run into each other by {-pair.clearance:.1%} of the width.{move}", "camera_height_m")
    if pair.clearance < TOUCHING:
        return _reading(facts, key, TIGHT, f"{names} touch: {pair.clearance:.1%} of the width between them.{move}", "camera_height_m")
    return _reading(facts, key, HOLDS, f"{names} stand {pair.clearance:.1%} of the width apart.", None)


def _placement(facts: ShotFacts, item: Placement) -> FrameReading:
    element: Element = facts.elements[item.element]
    key = f"place:{element.id}"
    if math.isnan(item.line):
        where = "on a diagonal" if item.off <= ON_LINE else f"{item.off:.0%} of the width off the nearer diagonal"
        return _reading(facts, key, HOLDS, f"{element.name} stands {where}.", None)
    line = (
        "middle"
        if facts.frame.guide == "centre"
        else f"{'left' if item.line < 0.5 else 'right'} {'third' if facts.frame.guide == 'thirds' else 'golden line'}"
    )
    if abs(item.off) <= ON_LINE:
        return _reading(facts, key, HOLDS, f"{element.name} stands on the {line}.", None)
    side = "right" if item.off > 0 else "left"
    return _reading(facts, key, HOLDS, f"{element.name} stands {abs(item.off):.0%} {side} of the {line}.", None)


def _lead(facts: ShotFacts, item: Lead) -> FrameReading:
    name = facts.elements[item.element].name
    x, y = item.line.enters
    share = f"{x:.0%} from the left" if item.line.edge in ("top", "bottom") else f"{y:.0%} from the top"
    enters = f"enters at the {item.line.edge}, {share}" if item.line.edge else f"begins inside the frame, {x:.0%} from the left"
    key = f"lead:{facts.elements[item.element].id}"
    if item.target is None:
        return _reading(facts, key, HOLDS, f"{name} {enters}, and leads to nothing that stands in the frame.", None)
    target = facts.elements[item.target].name
    if item.off <= _POINTS_WITHIN:
        return _reading(facts, key, HOLDS, f"{name} {enters}, and points at {target} ({item.off:.0%} off).", None)
    return _reading(facts, key, HOLDS, f"{name} {enters}, and passes {target} by {item.off:.0%} of the width.", None)


def _horizon(facts: ShotFacts, reading: Composition) -> list[FrameReading]:
    found = []
    if 0 < reading.horizon_y < 1:
        found.append(_reading(facts, "horizon", HOLDS, f"The horizon lies at {reading.horizon_y:.0%} from the top.", None))
    if abs(reading.leans_deg) >= _LEANS_FROM_DEG:
        side = "right" if reading.leans_deg > 0 else "left"
        text = f"The camera leans {abs(reading.leans_deg):.1f}° to the {side}: level it, or lean it as meant."
        found.append(_reading(facts, "level", TIGHT, text, "roll_deg"))
    if reading.verticals_lean_deg >= _VERTICALS_FROM_DEG and not facts.close_up:
        way = "converge upwards" if facts.frame.pitch_deg > 0 else "converge downwards"
        text = f"Pitched {abs(facts.frame.pitch_deg):g}°, verticals {way}: they lean {reading.verticals_lean_deg:.0f}° at the sides."
        found.append(_reading(facts, "uprights", HOLDS, text, None))
    return found


def _room(facts: ShotFacts, reading: Composition) -> FrameReading:
    bare = reading.coverage.bare
    where = f", most of it {reading.coverage.emptiest}" if 0.05 < bare < 0.95 else ""
    return _reading(facts, "room", HOLDS, f"{bare:.0%} of the frame is bare ground and sky{where}.", None)


def _reading(facts: ShotFacts, key: str, mark: Severity, text: str, dial: str | None) -> FrameReading:
    muted = key in facts.frame.muted_readings
    return FrameReading(key, mark, text, muted, Reason("frame", mark, text, dial) if mark != HOLDS else None)
