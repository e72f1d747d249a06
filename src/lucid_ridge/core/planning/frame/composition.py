"""Readings of a composition: placement, clearance, edges, horizon, lines, room.

The photographer can mute each of them.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from ...facts.place import Element
from ...facts.shot import ShotFacts
from ...framing.composition import ON_LINE, TOUCHING, Composition, Edge, Lead, Pair, Placement, read_frame
from ...framing.projection import Camera
from ...framing.solids import Solid
from ..reasons import Reason
from ..verdicts import HOLDS, TIGHT, Severity
from ..wording import Sentence
from . import wording as say

_PLACED_MOST, _PAIRS_MOST = 4, 8
_LEANS_FROM_DEG, _VERTICALS_FROM_DEG = 0.3, 3.0
_POINTS_WITHIN = 0.06


@dataclass(frozen=True)
class FrameReading:
    """A reading of the frame.

    key: what it is about, stable while the elements stay; mark: holds or tight; muted: by the photographer.
    """

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
    """Return the readings of the frame: collisions first, then placements, lines, horizon and room; empty without
    elements.
    """
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
    dial = "pitch_deg" if item.edge in ("top", "bottom") else "bearing_deg"
    words = say.touches_edge(element=element.name, edge=item.edge, margin=item.margin)
    return _reading(facts, f"edge:{item.edge}:{element.id}", TIGHT, words, dial)


def _pair(facts: ShotFacts, pair: Pair) -> FrameReading:
    one, other = facts.elements[pair.one], facts.elements[pair.other]
    touching = pair.clearance < TOUCHING
    words = say.pair(
        one=one.name,
        other=other.name,
        clearance=pair.clearance,
        touching=touching,
        move=pair.move or "",
        opens=pair.opens,
    )
    key = f"air:{min(one.id, other.id)}:{max(one.id, other.id)}"
    return _reading(facts, key, TIGHT, words, "camera_height_m") if touching else _reading(facts, key, HOLDS, words)


def _placement(facts: ShotFacts, item: Placement) -> FrameReading:
    element: Element = facts.elements[item.element]
    key = f"place:{element.id}"
    if math.isnan(item.line):
        return _reading(
            facts, key, HOLDS, say.on_diagonal(element=element.name, off=item.off, on_line=item.off <= ON_LINE)
        )
    line = (
        "middle"
        if facts.frame.guide == "centre"
        else f"{'left' if item.line < 0.5 else 'right'} {'third' if facts.frame.guide == 'thirds' else 'golden line'}"
    )
    return _reading(
        facts, key, HOLDS, say.on_line(element=element.name, line=line, off=item.off, is_on=abs(item.off) <= ON_LINE)
    )


def _lead(facts: ShotFacts, item: Lead) -> FrameReading:
    element = facts.elements[item.element]
    words = say.lead(
        element=element.name,
        edge=item.line.edge or "",
        at=item.line.enters,
        target=None if item.target is None else facts.elements[item.target].name,
        off=item.off,
        points=item.off <= _POINTS_WITHIN,
    )
    return _reading(facts, f"lead:{element.id}", HOLDS, words)


def _horizon(facts: ShotFacts, reading: Composition) -> list[FrameReading]:
    found = []
    if 0 < reading.horizon_y < 1:
        found.append(_reading(facts, "horizon", HOLDS, say.horizon(from_top=reading.horizon_y)))
    if abs(reading.leans_deg) >= _LEANS_FROM_DEG:
        found.append(_reading(facts, "level", TIGHT, say.not_level(leans_deg=reading.leans_deg), "roll_deg"))
    if reading.verticals_lean_deg >= _VERTICALS_FROM_DEG and not facts.close_up:
        words = say.verticals(pitch_deg=facts.frame.pitch_deg, lean_deg=reading.verticals_lean_deg)
        found.append(_reading(facts, "uprights", HOLDS, words))
    return found


def _room(facts: ShotFacts, reading: Composition) -> FrameReading:
    bare = reading.coverage.bare
    words = say.room(bare=bare, emptiest=reading.coverage.emptiest if 0.05 < bare < 0.95 else "")
    return _reading(facts, "room", HOLDS, words)


def _reading(facts: ShotFacts, key: str, mark: Severity, words: Sentence, dial: str | None = None) -> FrameReading:
    muted = key in facts.frame.muted_readings
    return FrameReading(key, mark, words.text, muted, words.reason(mark, dial) if mark != HOLDS else None)
