"""On how many days the tide is known, where the way or the picture asks for it."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import date

from ...facts.place import HazardKind
from ...facts.shot import ShotFacts
from ...spans.instants import local_day
from .closures import in_its_months


def days_of_known_tide(facts: ShotFacts, dates: Iterable[date]) -> int | None:
    """Return on how many of the local dates the tide is known from midnight to midnight; None where nothing asks for a
    tide on any of them.

    A date on which nothing asks for it counts as known: a hazard has its months.
    """
    here = facts.location
    if here is None:
        return None
    cuts_off = [item for item in facts.hazards if item.kind is HazardKind.TIDE and item.cut_off_m is not None]
    asked, known = False, 0
    for day in dates:
        start, end = local_day(day, here.zone)
        asks = facts.wants_water or any(in_its_months(facts, item, start) for item in cuts_off)
        asked |= asks
        known += not asks or (here.tide is not None and here.tide.covers(start, end))
    return known if asked else None
