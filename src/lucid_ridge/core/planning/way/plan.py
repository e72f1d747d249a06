"""The way in and out of a shot: each leg with its times, and whether it is dark.

Civil twilight, the sun's centre 6° down, is where one walks without a lamp until (common practice).
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta

import numpy as np

from ...facts.place import Approach
from ...facts.shot import ShotFacts
from ...light.bands import CIVIL_DEG
from ...light.track import sun_track
from ...spans.instants import unix_seconds
from ...spans.intervals import Interval
from ..reasons import Reason
from ..wording import Sentence
from . import wording as say
from .arrival import Arrival, plan_arrival, walk_minutes

# Time to pack up camera and tripod (common practice).
PACK_UP_MIN = 10.0
# The leg that begins at home, and those that are walked.
DRIVE = "drive"
WALKS = ("walk in", "walk out")


@dataclass(frozen=True)
class Way:
    """walk_in, stay (set-up, sequence, packing up) and walk_out in UTC, one after the other; a walk that is not known
    takes no time.

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
            (DRIVE, home or self.walk_in.start_utc, self.walk_in.start_utc),
            ("walk in", self.walk_in.start_utc, self.walk_in.end_utc),
            ("set up", self.stay.start_utc, self.moment_utc),
            ("frames", self.moment_utc, done),
            ("pack up", done, packed),
            ("walk out", packed, self.walk_out.end_utc),
        )
        return tuple((name, Interval(start, end, False, False)) for name, start, end in times if end > start)


def plan_way(facts: ShotFacts, sequence_s: float, moment_utc: datetime | None = None) -> Way | None:
    """Return the way to a shot and back after a sequence that lasts sequence_s; None without a place or a time.

    moment_utc: for a shot that begins then, instead of at the chosen time.
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
    return _times(facts, way).text


def _times(facts: ShotFacts, way: Way) -> Sentence:
    arrival = way.arrival
    return say.times(
        leave_home=facts.at(arrival.leave_home_utc) if arrival.leave_home_utc else None,
        leave_car=facts.at(arrival.leave_car_utc),
        set_up=facts.at(arrival.set_up_utc),
        back=facts.at(way.walk_out.end_utc),
        walk_min=arrival.walk_min,
    )


def way_reasons(facts: ShotFacts, way: Way) -> list[Reason]:
    """Return the times of the way, and which of them come from the photographer's own log."""
    found = [_times(facts, way).holds()]
    approach = facts.approach
    if approach is not None and (pace := approach.taught_walk) is not None and way.arrival.walk_min:
        found.append(say.own_pace(times_the_rule=pace.value, sessions=pace.frames).holds())
    if approach is not None and (set_up := approach.taught_set_up) is not None:
        words = say.own_set_up(own_min=approach.setting_up_min, entered_min=approach.set_up_min, sessions=set_up.frames)
        found.append(words.holds())
    return found


def darkness_reasons(facts: ShotFacts, way: Way) -> list[Reason]:
    """Return which walk is in the dark, by the sun's altitude over each of them."""
    legs = tuple(
        (name, facts.at(leg.start_utc), facts.at(leg.end_utc))
        for name, leg in (("in", way.walk_in), ("out", way.walk_out))
        if is_dark(facts, leg)
    )
    if not legs:
        return []
    visit = facts.scouted
    words = say.dark(legs=legs, walk_known=bool(way.arrival.walk_min), scouted_on=visit.visited_on if visit else None)
    return [words.caution("time_utc")]


def is_dark(facts: ShotFacts, leg: Interval) -> bool:
    """Whether it is dark at any time of a leg: the sun further down than civil twilight."""
    return _lowest_sun_deg(facts, leg) < CIVIL_DEG


def _lowest_sun_deg(facts: ShotFacts, leg: Interval) -> float:
    here = facts.location
    assert here is not None
    track = sun_track(here.latitude_deg, here.longitude_deg, here.elevation_m, leg.start_utc, leg.end_utc)
    moments = np.linspace(float(unix_seconds(leg.start_utc)), float(unix_seconds(leg.end_utc)), 13)
    return float(np.min(track.altitude_deg(moments)))
