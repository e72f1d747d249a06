"""Moments of the shot's day that frames may wait for."""

from __future__ import annotations

from datetime import datetime, timedelta

from ...facts.frame_groups import FrameGroup, GroupStart, Moment
from ...facts.shot import ShotFacts
from ...light.day import LightDay
from .plan import LightStep, day_of_light

_EVENTS = {
    Moment.CIVIL_DAWN: "civil_dawn",
    Moment.SUNRISE: "sunrise",
    Moment.SUNSET: "sunset",
    Moment.CIVIL_DUSK: "civil_dusk",
    Moment.NAUTICAL_DUSK: "nautical_dusk",
    Moment.MOONRISE: "moonrise",
    Moment.MOONSET: "moonset",
}
_HALF_A_DAY = timedelta(hours=12)


def moments_of_day(facts: ShotFacts, light: LightStep) -> dict[Moment, datetime]:
    """Return when each moment comes: the first not before the shot's time, else the last of that day.

    What does not come is left out.
    """
    start = facts.light.time_utc
    if facts.location is None or facts.light.date_local is None or start is None:
        return {}
    day = day_of_light(facts.location, facts.light.date_local)
    found = {}
    for moment in Moment:
        times = sorted(_times(day, light, moment))
        if times:
            found[moment] = next((item for item in times if item >= start), times[-1])
    return found


def _times(day: LightDay, light: LightStep, moment: Moment) -> list[datetime]:
    if moment in _EVENTS:
        return [event.time_utc for event in (*day.events, *day.moon_events) if event.kind == _EVENTS[moment]]
    if moment == Moment.SUN_ON_RIM:
        return [span.start_utc for span in day.sun_shows if span.start_utc > day.start_utc]
    if moment == Moment.SUN_BEHIND_LAND:
        return [span.end_utc for span in day.sun_shows if span.end_utc < day.end_utc]
    instant = light.window_start_utc if moment == Moment.LIGHT_BEGINS else light.window_end_utc
    return [] if instant is None else [instant]


def starts_at(facts: ShotFacts, light: LightStep, group: FrameGroup) -> datetime | None:
    """Return before which instant a group does not begin; None where it waits for nothing, or for what does not come
    or was not said.
    """
    if group.start == GroupStart.MOMENT and group.start_moment is not None:
        moment = moments_of_day(facts, light).get(group.start_moment)
        return None if moment is None else moment + timedelta(minutes=group.start_min)
    if group.start == GroupStart.CLOCK and group.start_clock is not None and facts.light.date_local is not None:
        local = datetime.combine(facts.light.date_local, group.start_clock, facts.zone)
        # A sequence that began in the evening goes on after midnight.
        if facts.light.time_utc is not None and facts.light.time_utc - local > _HALF_A_DAY:
            local += timedelta(days=1)
        return local
    return None
