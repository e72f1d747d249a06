"""Reasons from closures: tide, gates, opening hours and permits at the shot's time."""

from __future__ import annotations

from datetime import timedelta

from ...facts.place import Hazard
from ...facts.shot import ShotFacts
from ..reasons import Reason
from . import wording as say
from .closures import Closure, caught_legs, closure_words, closures_of_way
from .plan import Way

# Closures this near the way are mentioned.
_AROUND = timedelta(hours=5)


def closure_reasons(facts: ShotFacts, way: Way) -> list[Reason]:
    """Return a reason for each closure near the way in, the stay or the way out."""
    first, last = way.walk_in.start_utc, way.walk_out.end_utc
    near = [
        item for item in closures_of_way(facts, way)
        if item.span.end_utc >= first - _AROUND and item.span.start_utc <= last + _AROUND
    ]  # fmt: skip
    return [reason for item in near for reason in [_reason(facts, way, item)] if reason]


def _reason(facts: ShotFacts, way: Way, closure: Closure) -> Reason | None:
    span, note, text = closure.span, closure.cause.note, closure_words(facts, closure)
    caught = tuple((name, facts.at(leg.start_utc), facts.at(leg.end_utc)) for name, leg in caught_legs(way, closure))
    if not closure.known:
        return say.not_known(closure=text, note=note).unsaid("time_utc") if caught else None
    if caught:
        return say.closed(closure=text, legs=caught, note=note).fails("time_utc")
    if way.stay.start_utc <= span.start_utc and span.end_utc <= way.stay.end_utc:
        return say.no_way_back(closure=text, note=note).tight("time_utc")
    if span.start_utc > way.walk_out.end_utc:
        latest = facts.at(span.start_utc - (way.walk_out.end_utc - way.walk_out.start_utc))
        return say.closes_later(closure=text, leave_by=latest, note=note).caution("time_utc")
    if isinstance(closure.cause, Hazard):
        return say.open_again(closure=text, walk_in_at=facts.at(way.walk_in.start_utc), note=note).caution("time_utc")
    return None
