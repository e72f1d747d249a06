"""What is known of an outing's stops: their place, how long they take, and when they may begin."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta

from sqlalchemy.orm import Session

from ..core.facts import outing as core
from ..core.facts.declaring import facts_of
from ..core.facts.shot import ShotFacts
from ..core.outing.plan import StopFacts
from ..core.planning.light import day_of_light, plan_light
from ..core.planning.plan import ShotPlan, plan_shot
from ..core.planning.windows import windows_of_date
from ..core.spans.intervals import Interval
from ..core.weather.forecast import Forecast
from ..store.outings import OutingStop
from ..store.places import KeptForecast, Location
from ..store.shots import Shot
from .facts import location_facts, shot_facts
from .forecasts import forecast_of, hours_around, state_of

# Of a light that no forecast reaches nothing is promised, neither much nor little.
_UNTOLD, _BEFORE, _SCOUTED = 0.5, 0.8, 0.25
# One scouts by daylight.
_SCOUTING_BANDS = ("golden hour", "daylight")


@dataclass(frozen=True)
class Days:
    """The days of an outing as they are planned now. weights: of the photographer's light."""

    dates: Sequence[date]
    now_utc: datetime
    weights: Mapping[str, float]


def stop_facts(session: Session, owner_id: int, stop: OutingStop, days: Days) -> tuple[StopFacts, ShotPlan | None]:
    """Return a stop with what is known of it, and the plan of its shot."""
    said = core.OutingStop(**{name: getattr(stop, name) for name in facts_of(core.OutingStop)})
    if stop.shot is not None and stop.shot.viewpoint is not None:
        return shot_stop(session, said, stop.shot, days)
    if stop.location is not None:
        return place_stop(session, owner_id, said, stop.location, f"Scouting {stop.location.name}", days), None
    return StopFacts(said, said.note or "Rest"), None


def shot_stop(session: Session, said: core.OutingStop, shot: Shot, days: Days) -> tuple[StopFacts, ShotPlan]:
    """Return a shot as a stop. It must have a place."""
    point = shot.viewpoint
    assert point is not None
    facts = replace(shot_facts(session, shot), forecast=hours_around(forecast_of(point.location.forecast), days.dates[0], days.dates[-1]))
    plan = plan_shot(facts)
    lasts = plan.sequence.total_s or 0.0
    forecast = state_of(session.get(KeptForecast, point.location_id)).forecast
    windows = [found for day in days.dates for found in _windows(facts, day, lasts, forecast, days)]
    return StopFacts(said, shot.name, facts, tuple(windows), lasts, point.location_id, point.id, shot.id), plan


def place_stop(session: Session, owner_id: int, said: core.OutingStop, location: Location, name: str, days: Days) -> StopFacts:
    """Return a place as a stop: by daylight."""
    facts = location_facts(session, location, owner_id)
    point_id = location.viewpoints[0].id if location.viewpoints else 0
    return StopFacts(said, name, facts, _daylight(facts, said, days.dates), 0.0, location.id, point_id)


def _daylight(facts: ShotFacts, said: core.OutingStop, days: Sequence[date]) -> tuple[tuple[Interval, float, str], ...]:
    """Return when a place can be scouted: by daylight, and no earlier than was said."""
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
        if start < end:
            found.append((Interval(start, end, False, False), _SCOUTED, "daylight"))
    return tuple(found)


def _windows(facts: ShotFacts, day: date, lasts_s: float, forecast: Forecast | None, days: Days) -> list[tuple[Interval, float, str]]:
    """Return when a shot may begin on a day, with what each window promises. On the day that it is planned for its own time counts: the light that holds it."""
    here = facts.location
    if here is None:
        return []
    own = facts.light.time_utc if facts.light.date_local == day else None
    on_day = replace(
        facts, light=replace(facts.light, date_local=day, time_utc=own, window_end_utc=facts.light.window_end_utc if own else None)
    )
    found = windows_of_date(on_day, day_of_light(here, day), lasts_s, forecast, days.now_utc, days.weights).windows
    usable = [
        (item.usable.span, item.promise.rating / 100 if item.promise else _UNTOLD, item.window.kind)
        for item in found
        if item.usable.span is not None
    ]
    spans = [(span, value, str(kind)) for span, value, kind in usable if span is not None]
    if own is None:
        return spans
    holding = [item for item in spans if item[0].start_utc <= own <= item[0].end_utc]
    if holding:
        span, value, name = max(holding, key=lambda item: item[1])
        # What was planned for a moment is worth a little less before it.
        before = [(Interval(span.start_utc, own, False, False), _BEFORE * value, name)] if own > span.start_utc else []
        return [(Interval(own, span.end_utc, False, False), value, name), *before]
    light = plan_light(on_day)
    last = light.window_end_utc - timedelta(seconds=lasts_s) if light.window_end_utc is not None else own
    return [(Interval(own, max(own, last), False, False), _UNTOLD, light.band or "its time")]
