"""What tide, gates, hours and permits say to a shot at its time."""

from __future__ import annotations

from datetime import timedelta

from ...facts.place import Hazard
from ...facts.shot import ShotFacts
from ..verdicts import CAUTION, FAILS, TIGHT, UNSAID, Reason
from ..wording import ended
from .closures import Closure, caught_legs, closure_words, closures_of_way
from .plan import Way

# Closures so near the way are said.
_AROUND = timedelta(hours=5)


def closure_reasons(facts: ShotFacts, way: Way) -> list[Reason]:
    """Return what each closure around the way does to the way in, the stay and the way out."""
    first, last = way.walk_in.start_utc, way.walk_out.end_utc
    near = [
        item for item in closures_of_way(facts, way)
        if item.span.end_utc >= first - _AROUND and item.span.start_utc <= last + _AROUND
    ]  # fmt: skip
    return [reason for item in near for reason in [_reason(facts, way, item)] if reason]


def _reason(facts: ShotFacts, way: Way, closure: Closure) -> Reason | None:
    span, note = closure.span, f" {ended(closure.cause.note)}".rstrip()
    text = closure_words(facts, closure)
    caught = [f"the {name}, {facts.clock(leg.start_utc)} to {facts.clock(leg.end_utc)}" for name, leg in caught_legs(way, closure)]
    if not closure.known:
        return Reason("place", UNSAID, f"{text}{note}", "time_utc") if caught else None
    if caught:
        return Reason("place", FAILS, f"{text} It closes {' and '.join(caught)}.{note}", "time_utc")
    if way.stay.start_utc <= span.start_utc and span.end_utc <= way.stay.end_utc:
        return Reason("place", TIGHT, f"{text} So long there is no way back.{note}", "time_utc")
    if span.start_utc > way.walk_out.end_utc:
        latest = facts.clock(span.start_utc - (way.walk_out.end_utc - way.walk_out.start_utc))
        return Reason("place", CAUTION, f"{text} Be on the way back by {latest}.{note}", "time_utc")
    if isinstance(closure.cause, Hazard):
        return Reason("place", CAUTION, f"{text} The way is open again when you walk in at {facts.clock(way.walk_in.start_utc)}.{note}", "time_utc")  # fmt: skip
    return None
