"""Conversion of an outing and its stops to the seconds and metres used for ordering."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import replace
from datetime import datetime, time, timedelta

from ..facts.outing import Nights, Outing, OutingStop, StopKind
from ..facts.place import Location
from ..planning.way.arrival import walk_minutes
from ..planning.way.closures import Closure, closures
from ..planning.way.plan import PACK_UP_MIN
from ..spans.instants import zone_info
from .stop_facts import SCOUTING_MIN, StopFacts
from .stops import Beds, Limits, Place, Stop, Window
from .visits import merged

# How long one rests where nothing is said.
_REST_MIN = 30.0
# A drive that nobody has said, where no other is known either [s].
_UNKNOWN_DRIVE_S = 1800.0
# A way that is not known to be open is worth this share of one that is.
_DOUBTFUL = 0.5
# An hour of a long wait on the spot takes as much off what an outing is worth: nobody sits there half a day for a
# light that is not wanted.
_WAIT_COST = 0.05
# What closes a place is looked for so long before and after the outing.
AROUND = timedelta(days=1)


def with_drives(stops: Sequence[Stop]) -> list[Stop]:
    """Return the stops with the longest known drive from home in the place of those that nobody has said, so that an
    unknown way is not the shortest.
    """
    known = [stop.place.drive_s for stop in stops if stop.place is not None and stop.place.drive_s is not None]
    guess = max(known, default=_UNKNOWN_DRIVE_S)
    return [
        replace(stop, place=replace(stop.place, drive_s=guess, drive_guessed=True))
        if stop.place is not None and stop.place.drive_s is None
        else stop
        for stop in stops
    ]


def limits_of(outing: Outing, start: datetime, zone: str) -> Limits:
    """Return the hard limits of an outing. start: local midnight of its first day."""
    leave = _after(outing.leave_clock, outing, 0, start, zone) if outing.leave_clock else 0.0
    back = (
        _after(outing.back_clock, outing, outing.days - 1, start, zone)
        if outing.back_clock
        else outing.days * 86_400.0 + 6 * 3600
    )
    most_walk_m = outing.most_walk_m if outing.most_walk_m is not None else math.inf
    return Limits(leave, back, most_walk_m, None, _WAIT_COST, _beds(outing, start, zone))


def _beds(outing: Outing, start: datetime, zone: str) -> Beds | None:
    if outing.days < 2 or outing.nights == Nights.OUT:
        return None
    noons = tuple(_after(time(12), outing, day, start, zone) for day in range(1, outing.days))
    if outing.nights == Nights.HOME:
        return Beds(outing.night_h * 3600, noons)
    return Beds(outing.night_h * 3600, noons, outing.base_evening_min * 60, outing.base_morning_min * 60)


def _after(clock: time, outing: Outing, day: int, start: datetime, zone: str) -> float:
    local = datetime.combine(outing.date_local + timedelta(days=day), clock, zone_info(zone))
    return (local - start).total_seconds()


def made_stop(at: int, item: StopFacts, outing: Outing, start: datetime, zone: str) -> Stop:
    """Return a stop for the ordering, with times in seconds after start. at: its index in the list."""
    said, facts = item.said, item.facts
    usual = {StopKind.SCOUTING: SCOUTING_MIN, StopKind.REST: _REST_MIN}.get(said.kind, 0.0)
    lasts = said.minutes * 60 if said.minutes is not None else item.lasts_s or usual * 60
    shot = said.kind == StopKind.SHOT
    set_up = facts.approach.setting_up_min * 60 if shot and facts is not None and facts.approach is not None else 0.0
    place = _place(item, outing, start)
    if item.windows is not None:
        windows = [
            Window(
                (found.span.start_utc - start).total_seconds(),
                (found.span.end_utc - start).total_seconds(),
                said.worth * found.promise,
                found.name,
                found.mark,
            )
            for found in item.windows
        ]
    else:
        # What needs no light may begin at any time, and is worth little beside what does.
        windows = [Window(first, last, 0.25 * said.worth) for first, last in _clock_spans(said, outing, start, zone)]
    if place is not None and place.walks_unknown:
        windows += [replace(window, value=_DOUBTFUL * window.value, doubtful=True) for window in windows]
    stay = lasts + (PACK_UP_MIN * 60 if shot else 0.0)
    return Stop(at, item.name, tuple(windows), set_up, stay, place, None if said.leg_min is None else said.leg_min * 60)


def _clock_spans(said: OutingStop, outing: Outing, start: datetime, zone: str) -> list[tuple[float, float]]:
    """Return when a stop without a light of its own may begin: between its clock times, on each of the days."""
    if said.after_clock is None and said.before_clock is None:
        return [(0.0, outing.days * 86_400.0)]
    found = []
    for day in range(outing.days):
        first = _after(said.after_clock or time(), outing, day, start, zone)
        last = (
            _after(said.before_clock, outing, day, start, zone)
            if said.before_clock
            else _after(time(), outing, day + 1, start, zone)
        )
        # Past midnight: "from 22:00 to 01:00".
        found.append((first, last if last >= first else last + 86_400.0))
    return found


def _place(item: StopFacts, outing: Outing, start: datetime) -> Place | None:
    facts = item.facts
    if facts is None or facts.location is None:
        return None
    here: Location = facts.location
    approach = facts.approach
    walk = (walk_minutes(approach) or 0.0) * 60 if approach is not None else 0.0
    drive = approach.drive_min * 60 if approach is not None and approach.drive_min is not None else None
    walked = approach.walk_m or 0.0 if approach is not None else 0.0
    closed = closures(facts, start - AROUND, start + timedelta(days=outing.days) + AROUND)

    def spans(found: Iterable[Closure]) -> tuple[tuple[float, float], ...]:
        return merged(
            ((item.span.start_utc - start).total_seconds(), (item.span.end_utc - start).total_seconds())
            for item in found
        )

    return Place(
        key=item.location_id,
        latitude_deg=here.latitude_deg,
        longitude_deg=here.longitude_deg,
        walk_s=walk,
        walk_m=walked,
        drive_s=drive,
        viewpoint=item.viewpoint_id,
        reserve_s=approach.reserve_min * 60 if approach is not None else 0.0,
        walks_closed=spans(found for found in closed if found.known),
        stay_closed=spans(found for found in closed if found.known and not found.walks_only),
        walks_unknown=spans(found for found in closed if not found.known),
    )
