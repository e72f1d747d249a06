"""The way in and out of a shot: each leg with its times, and whether it is dark.

Civil twilight, the sun's centre 6° down, is where one walks without a lamp until (common practice).
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta

import numpy as np

from ...facts.calibrations import Calibrated
from ...facts.place import Approach
from ...facts.shot import ShotFacts
from ...light.bands import CIVIL_DEG
from ...light.track import sun_track
from ...spans.instants import unix_seconds
from ...spans.intervals import Interval
from ...units.spelling import format_day
from ..verdicts import CAUTION, HOLDS, Reason
from .arrival import Arrival, plan_arrival, walk_minutes

# To put away camera and tripod (common practice).
PACK_UP_MIN = 10.0
# The leg that begins at home, and those that are walked.
DRIVE = "drive"
WALKS = ("walk in", "walk out")


@dataclass(frozen=True)
class Way:
    """walk_in, stay (set-up, sequence, packing up) and walk_out in UTC, one after the other; a walk that is not known takes no time.

    moment_utc: when the first frame is due.
    """

    moment_utc: datetime
    arrival: Arrival
    walk_in: Interval
    stay: Interval
    walk_out: Interval

    @property
    def legs(self) -> tuple[tuple[str, Interval], ...]:
        """The whole span by name, from leaving home to being back at the car; legs that take no time are left out."""
        home, packed = self.arrival.leave_home_utc, self.walk_out.start_utc
        done = packed - timedelta(minutes=PACK_UP_MIN)
        times = (
            (DRIVE, home or self.walk_in.start_utc, self.walk_in.start_utc), ("walk in", self.walk_in.start_utc, self.walk_in.end_utc),
            ("set up", self.stay.start_utc, self.moment_utc), ("frames", self.moment_utc, done), ("pack up", done, packed),
            ("walk out", packed, self.walk_out.end_utc),
        )  # fmt: skip
        return tuple((name, Interval(start, end, False, False)) for name, start, end in times if end > start)


def plan_way(facts: ShotFacts, sequence_s: float, moment_utc: datetime | None = None) -> Way | None:
    """Return the way to a shot and back after a sequence of so many seconds; None while it has no place or no time.

    moment_utc: for a shot that begins then, instead of at the time chosen.
    """
    moment, approach = moment_utc or facts.light.time_utc, facts.approach or Approach(set_up_min=0.0)
    if moment is None or facts.location is None:
        return None
    arrival = plan_arrival(approach, moment)
    gone = moment + timedelta(seconds=sequence_s, minutes=PACK_UP_MIN)
    back = gone + timedelta(minutes=walk_minutes(approach) or 0.0)
    legs = ((arrival.leave_car_utc, arrival.set_up_utc), (arrival.set_up_utc, gone), (gone, back))
    return Way(moment, arrival, *(Interval(start, end, False, False) for start, end in legs))


def way_words(facts: ShotFacts, way: Way) -> str:
    """Return the latest times of the way there, and when one is back, as a sentence or two."""
    arrival = way.arrival
    back = f" Back at the car about {facts.clock(way.walk_out.end_utc)}." if arrival.walk_min else ""
    walk = f", {arrival.walk_min:.0f} min on foot" if arrival.walk_min else ""
    if arrival.leave_home_utc is None and arrival.walk_min is None:
        return f"Set up by {facts.clock(arrival.set_up_utc)}; neither the drive nor the walk is known."
    if arrival.leave_home_utc is None:
        return f"Set up by {facts.clock(arrival.set_up_utc)}{walk}: start walking at {facts.clock(arrival.leave_car_utc)}.{back}"
    return (
        f"Leave home by {facts.clock(arrival.leave_home_utc)}, the car by {facts.clock(arrival.leave_car_utc)}{walk}; "
        f"set up from {facts.clock(arrival.set_up_utc)}.{back}"
    )


def way_reasons(facts: ShotFacts, way: Way) -> list[Reason]:
    """Return the times of the way, and whether they are the photographer's own by the log."""
    found = [Reason("place", HOLDS, way_words(facts, way))]
    approach = facts.approach
    if approach is not None and approach.taught_walk is not None and way.arrival.walk_min:
        taught = approach.taught_walk
        text = f"You walk {taught.value:.2f} times as long as the rule says, by {_outs(taught)}: the way is reckoned so."
        found.append(Reason("place", HOLDS, text))
    if approach is not None and approach.taught_set_up is not None:
        taught = approach.taught_set_up
        text = f"Setting up takes {approach.setting_up_min:.0f} min by {_outs(taught)}, not {approach.set_up_min:g}."
        found.append(Reason("place", HOLDS, text))
    return found


def _outs(taught: Calibrated) -> str:
    return f"{taught.frames} {'time' if taught.frames == 1 else 'times'} out"


def darkness_reasons(facts: ShotFacts, way: Way) -> list[Reason]:
    """Return which walk is in the dark, by the sun's altitude over each of them."""
    dark = [
        f"the walk {name} ({facts.clock(leg.start_utc)} to {facts.clock(leg.end_utc)})" if way.arrival.walk_min else f"the way {name} at {facts.clock(leg.end_utc)}"
        for name, leg in (("in", way.walk_in), ("out", way.walk_out))
        if is_dark(facts, leg)
    ]  # fmt: skip
    if not dark:
        return []
    visit = facts.scouted
    known = (
        f"; you were there by day on {format_day(visit.visited_on)}"
        if visit
        else ", and do not rely on paths you have not walked in daylight"
    )
    text = f"Dark on {' and '.join(dark)}: carry a head torch{known}."
    return [Reason("place", CAUTION, text, "time_utc")]


def is_dark(facts: ShotFacts, leg: Interval) -> bool:
    """Whether it is dark at any time of a leg: the sun further down than civil twilight."""
    return _lowest_sun_deg(facts, leg) < CIVIL_DEG


def _lowest_sun_deg(facts: ShotFacts, leg: Interval) -> float:
    here = facts.location
    assert here is not None
    track = sun_track(here.latitude_deg, here.longitude_deg, here.elevation_m, leg.start_utc, leg.end_utc)
    moments = np.linspace(float(unix_seconds(leg.start_utc)), float(unix_seconds(leg.end_utc)), 13)
    return float(np.min(track.altitude_deg(moments)))
