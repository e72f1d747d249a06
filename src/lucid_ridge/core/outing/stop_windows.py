"""When a stop of an outing may begin: a shot in the light and water that it looks for, a place to scout by daylight."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta

from ..facts.outing import OutingStop
from ..facts.shot import ShotFacts
from ..labels import label_of
from ..light.windows import DateHours
from ..planning.day.windows import ShotWindow, promise_of, shot_windows
from ..planning.light.light_to_use import shot_scene
from ..planning.light.plan import day_of_light, plan_light
from ..planning.light.sought import SoughtBy, SoughtLight, sought_light
from ..planning.verdicts import FAILS, HOLDS, UNSAID
from ..spans.intervals import Interval
from ..weather.forecast import Forecast
from .stop_facts import StopFacts, StopWindow

# Of a light that no forecast reaches nothing is promised, neither much nor little.
_UNTOLD, _BEFORE, _SCOUTED = 0.5, 0.8, 0.25
# Factor on the value of a window that is unwanted, too short or not known to be open.
_COUNTS = {HOLDS: 1.0, UNSAID: 0.5, FAILS: 0.15}
# One scouts by daylight.
_SCOUTING_BANDS = ("golden_hour", "daylight")


@dataclass(frozen=True)
class Days:
    """The days of an outing as they are planned now. weights: of the photographer's light."""

    dates: Sequence[date]
    now_utc: datetime
    weights: Mapping[str, float]


def daylight_windows(facts: ShotFacts, said: OutingStop, days: Sequence[date]) -> tuple[StopWindow, ...]:
    """Return when a place can be scouted: by daylight, between the clock times said."""
    here = facts.location
    assert here is not None
    found = []
    for day in days:
        bands = [band.span for band in day_of_light(here, day).bands if band.kind in _SCOUTING_BANDS]
        if not bands:
            continue
        start, end = min(span.start_utc for span in bands), max(span.end_utc for span in bands)
        if said.after_clock is not None:
            start = max(start, datetime.combine(day, said.after_clock, facts.zone))
        if said.before_clock is not None:
            end = min(end, datetime.combine(day, said.before_clock, facts.zone))
        if start < end:
            found.append(StopWindow(Interval(start, end, False, False), _SCOUTED, "daylight"))
    return tuple(found)


def stop_windows(
    facts: ShotFacts, lasts_s: float, forecast: Forecast | None, days: Days
) -> tuple[tuple[StopWindow, ...], str]:
    """Return when a shot may begin on the days of an outing with all its frames in its light and water, and why there
    is no such time.

    Other light, too little time for the frames or water that is not wanted are offered only where these days hold
    nothing better, and count less.
    """
    sought = sought_light(facts)
    found = [window for day in days.dates for window in _windows(facts, day, lasts_s, sought, forecast, days)]
    good = tuple(window for window in found if window.mark != FAILS)
    return good or tuple(found), "" if found else "on these days there is no light that it could be taken in."


def held_for(item: StopFacts, lasts_s: float) -> tuple[StopWindow, ...] | None:
    """Return a stop's windows for frames that last longer than was thought: it must begin so much earlier in each."""
    if item.windows is None:
        return None
    less = timedelta(seconds=lasts_s - item.lasts_s)
    return tuple(
        replace(window, span=replace(window.span, end_utc=max(window.span.start_utc, window.span.end_utc - less)))
        for window in item.windows
    )


def _windows(
    facts: ShotFacts, day: date, lasts_s: float, sought: SoughtLight, forecast: Forecast | None, days: Days
) -> list[StopWindow]:
    """Return when a shot may begin on a day.

    On the day that it is planned for its own time counts: the light that holds it.

    What closes the way is left to the outing, which knows when one really walks there.
    """
    here = facts.location
    if here is None:
        return []
    own = facts.light.time_utc if facts.light.date_local == day else None
    on_day = facts.choosing(date_local=day, time_utc=own, window_end_utc=facts.light.window_end_utc if own else None)
    hours = DateHours(day_of_light(here, day).noon_utc, own)
    scene = shot_scene(on_day, *hours.around())
    assert scene is not None
    wanted, _ = shot_windows(on_day, scene, hours, lasts_s, [], sought.kinds)
    spans = [_stop_window(on_day, item, forecast, days) for item in wanted]
    if not any(item.mark != FAILS for item in spans):
        others, _ = shot_windows(on_day, scene, hours, lasts_s, [])
        kinds = {item.name for item in spans}
        spans += [
            replace(_stop_window(on_day, item, forecast, days), mark=FAILS)
            for item in others
            if item.window.kind not in kinds
        ]
        spans = [replace(item, promise=_COUNTS[FAILS] * item.promise) for item in spans]
    if own is None or sought.by is SoughtBy.WANTED:
        return _own_first(spans, own)
    holding = [item for item in spans if item.span.start_utc <= own <= item.span.end_utc]
    if holding:
        return _own_first(holding, own)
    planned = plan_light(on_day)
    last = planned.window_end_utc - timedelta(seconds=lasts_s) if planned.window_end_utc is not None else own
    return [StopWindow(Interval(own, max(own, last), False, False), _UNTOLD, label_of(planned.band or "its time"))]


def _stop_window(facts: ShotFacts, item: ShotWindow, forecast: Forecast | None, days: Days) -> StopWindow:
    span = item.usable.span or item.window.span
    promise = promise_of(facts, item.window.kind, item.window.span, forecast, days.now_utc, days.weights)
    value = promise.rating / 100 if promise is not None else _UNTOLD
    return StopWindow(span, _COUNTS.get(item.mark, 1.0) * value, item.window.kind, item.mark)


def _own_first(windows: list[StopWindow], own: datetime | None) -> list[StopWindow]:
    """Return windows with the one that contains the shot's own time divided there: before that time it is worth a
    little less.
    """
    found = []
    for item in windows:
        span = item.span
        if own is None or not span.start_utc < own <= span.end_utc:
            found.append(item)
            continue
        found.append(replace(item, span=replace(span, start_utc=own)))
        found.append(replace(item, span=replace(span, end_utc=own), promise=_BEFORE * item.promise))
    return found
