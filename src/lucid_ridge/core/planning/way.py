"""The way in and out of a shot: each leg with its times, and whether it is dark or cut off by the tide.

Civil twilight, the sun's centre 6° down, is where one walks without a lamp until (common practice); the tide's cut-off closes the way.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta

import numpy as np

from ..facts.place import Approach, Hazard
from ..facts.shot import ShotFacts
from ..light.track import sun_track
from ..spans.instants import unix_seconds
from ..spans.intervals import Interval
from ..tides.heights import water_spans
from ..units.lengths import format_height
from .arrival import Arrival, plan_arrival, walk_minutes
from .marks import CAUTION, FAILS, TIGHT, Reason

DARK_BELOW_DEG = -6.0
# To put away camera and tripod (common practice).
PACK_UP_MIN = 10.0
# Cut-offs so near the way are said; they are looked for further out, so that none is told with an end that is only the search's.
_AROUND, _LOOKED_FOR = timedelta(hours=5), timedelta(hours=18)


@dataclass(frozen=True)
class Way:
    """walk_in, stay (set-up, sequence, packing up) and walk_out in UTC, one after the other; a walk that is not known takes no time."""

    arrival: Arrival
    walk_in: Interval
    stay: Interval
    walk_out: Interval


def plan_way(facts: ShotFacts, sequence_s: float) -> Way | None:
    """Return the way to a shot at its time and back after a sequence of so many seconds; None while no time is chosen."""
    moment, approach = facts.light.time_utc, facts.approach or Approach(set_up_min=0.0)
    if moment is None or facts.location is None:
        return None
    arrival = plan_arrival(approach, moment)
    gone = moment + timedelta(seconds=sequence_s, minutes=PACK_UP_MIN)
    back = gone + timedelta(minutes=walk_minutes(approach) or 0.0)
    legs = ((arrival.leave_car_utc, arrival.set_up_utc), (arrival.set_up_utc, gone), (gone, back))
    return Way(arrival, *(Interval(start, end, False, False) for start, end in legs))


def darkness_reasons(facts: ShotFacts, way: Way) -> list[Reason]:
    """Return which walk is in the dark, by the sun's altitude over each of them."""
    dark = [
        f"the walk {name} ({facts.clock(leg.start_utc)} to {facts.clock(leg.end_utc)})" if way.arrival.walk_min else f"the way {name} at {facts.clock(leg.end_utc)}"
        for name, leg in (("in", way.walk_in), ("out", way.walk_out))
        if _lowest_sun_deg(facts, leg) < DARK_BELOW_DEG
    ]  # fmt: skip
    if not dark:
        return []
    text = f"Dark on {' and '.join(dark)}: carry a head torch, and do not rely on paths you have not walked in daylight."
    return [Reason("place", CAUTION, text, "time_utc")]


def tide_reasons(facts: ShotFacts, hazard: Hazard, way: Way) -> list[Reason]:
    """Return what a tide that cuts the place off does to the way in, the stay and the way out."""
    note = f" {hazard.note}" if hazard.note else ""
    reasons = []
    first, last = way.walk_in.start_utc, way.walk_out.end_utc
    for span in cut_off_spans(facts, hazard, first - _LOOKED_FOR, last + _LOOKED_FOR):
        if span.end_utc < first - _AROUND or span.start_utc > last + _AROUND:
            continue
        start, end = facts.clock(span.start_utc), facts.clock(span.end_utc)
        assert hazard.cut_off_m is not None
        text = f"The place is cut off from {start} to {end} on this tide (simulated, above {format_height(hazard.cut_off_m)})."
        caught = [
            f"the way {name}, {facts.clock(leg.start_utc)} to {facts.clock(leg.end_utc)}"
            for name, leg in (("in", way.walk_in), ("out", way.walk_out))
            if span.start_utc <= leg.end_utc and leg.start_utc <= span.end_utc
        ]
        if caught:
            reasons.append(Reason("place", FAILS, f"{text} It closes {' and '.join(caught)}.{note}", "time_utc"))
        elif way.stay.start_utc <= span.start_utc and span.end_utc <= way.stay.end_utc:
            reasons.append(Reason("place", TIGHT, f"{text} So long there is no way back.{note}", "time_utc"))
        elif span.start_utc > way.walk_out.end_utc:
            latest = facts.clock(span.start_utc - (way.walk_out.end_utc - way.walk_out.start_utc))
            reasons.append(Reason("place", CAUTION, f"{text} Be on the way back by {latest}.{note}", "time_utc"))
        else:
            reasons.append(Reason("place", CAUTION, f"{text} The way is open again when you walk in at {facts.clock(way.walk_in.start_utc)}.{note}", "time_utc"))  # fmt: skip
    return reasons


def cut_off_spans(facts: ShotFacts, hazard: Hazard, start_utc: datetime, end_utc: datetime) -> list[Interval]:
    """Return the spans from start_utc to end_utc in which the tide cuts the place off."""
    tide = facts.location.tide if facts.location else None
    if tide is None or hazard.cut_off_m is None:
        return []
    return water_spans(tide, start_utc, end_utc, hazard.cut_off_m, None)


def _lowest_sun_deg(facts: ShotFacts, leg: Interval) -> float:
    here = facts.location
    assert here is not None
    track = sun_track(here.latitude_deg, here.longitude_deg, here.elevation_m, leg.start_utc, leg.end_utc)
    moments = np.linspace(float(unix_seconds(leg.start_utc)), float(unix_seconds(leg.end_utc)), 13)
    return float(np.min(track.altitude_deg(moments)))
