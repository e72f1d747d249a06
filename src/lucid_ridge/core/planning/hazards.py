"""Where a recorded hazard meets the plan. Local rules, signs, wardens and guides come first."""

from __future__ import annotations

from datetime import datetime, timedelta

from ..facts.place import Hazard, HazardKind
from ..facts.shot import ShotFacts
from ..light.season import in_season
from ..spans.intervals import Interval
from ..tides.heights import water_spans
from ..units.lengths import format_height
from .arrival import walk_minutes
from .marks import CAUTION, FAILS, Reason

_WORDS = {
    "edge": "An edge with a drop is near: stay back from it, and never step backwards with the eye at the finder.",
    "swell": "Swell reaches higher than the waves one has watched: look for ten minutes, keep above wet rock, never turn your back.",
    "slippery rock": "The rock is slippery: soles that grip, hands free, tripod as a third leg.",
    "loose rock": "The rock is loose: test every hold, keep out from under it, tripod well back.",
    "river": "The river can rise quickly: do not stand where the way back floods.",
    "bog": "The ground is soft: keep to boards and paths.",
    "avalanche": "The slopes can avalanche: read the bulletin of the day and leave steep lee slopes alone.",
    "remoteness": "Help is far and signal doubtful: leave word of the way and the hour of return.",
    "heat": "It can be hot: water, shade and an early start.",
    "cold": "It can be cold: layers, gloves one can work in, batteries carried warm.",
}
_WORSE_IN_THE_DARK = ("edge", "loose rock", "slippery rock", "bog", "river")
_AROUND = timedelta(hours=5)


def hazard_reasons(facts: ShotFacts, sun_altitude_deg: float | None) -> list[Reason]:
    """Return what each hazard of the place says to the shot at its time; all of them while no time is chosen."""
    reasons = []
    for hazard in facts.hazards:
        if facts.light.time_utc is not None and not _in_its_months(facts, hazard, facts.light.time_utc):
            continue
        reasons += _tide(facts, hazard) if hazard.kind == HazardKind.TIDE else [_plain(hazard, sun_altitude_deg)]
    return reasons


def cut_off_spans(facts: ShotFacts, hazard: Hazard, start_utc: datetime, end_utc: datetime) -> list[Interval]:
    """Return the spans from start_utc to end_utc in which the tide cuts the place off."""
    tide = facts.location.tide if facts.location else None
    if tide is None or hazard.cut_off_m is None:
        return []
    return water_spans(tide, start_utc, end_utc, hazard.cut_off_m, None)


def _plain(hazard: Hazard, sun_altitude_deg: float | None) -> Reason:
    dark = sun_altitude_deg is not None and sun_altitude_deg < -4 and hazard.kind in _WORSE_IN_THE_DARK
    parts = [_WORDS[hazard.kind], "It will be dark by then." if dark else "", hazard.note]
    return Reason("place", CAUTION, " ".join(part for part in parts if part))


def _tide(facts: ShotFacts, hazard: Hazard) -> list[Reason]:
    note = f" {hazard.note}" if hazard.note else ""
    tide = facts.location.tide if facts.location else None
    if tide is None or hazard.cut_off_m is None:
        return [Reason("place", CAUTION, f"The tide can cut this place off: read a tide table for the day.{note}")]
    if facts.light.time_utc is None:
        return [Reason("place", CAUTION, f"The tide cuts this place off above {format_height(hazard.cut_off_m)}.{note}", "time_utc")]
    back = timedelta(minutes=(walk_minutes(facts.approach) if facts.approach else None) or 0.0)
    reasons = []
    for span in cut_off_spans(facts, hazard, facts.light.time_utc - _AROUND, facts.light.time_utc + _AROUND):
        start, end = facts.clock(span.start_utc), facts.clock(span.end_utc)
        text = f"The place is cut off from {start} to {end} on this tide (simulated, above {format_height(hazard.cut_off_m)})."
        if span.start_utc - back <= facts.light.time_utc <= span.end_utc:
            reasons.append(Reason("place", FAILS, f"{text} At {facts.clock(facts.light.time_utc)} there is no way back.{note}", "time_utc"))
        else:
            last = facts.clock(span.start_utc - back)
            way = f" Be on the way back by {last}." if span.start_utc > facts.light.time_utc else " The way is open again by then."
            reasons.append(Reason("place", CAUTION, f"{text}{way}{note}", "time_utc"))
    return reasons


def _in_its_months(facts: ShotFacts, hazard: Hazard, moment: datetime) -> bool:
    if hazard.from_month is None or hazard.to_month is None:
        return True
    return in_season(moment.astimezone(facts.zone), hazard.from_month, 1, hazard.to_month, 31)
