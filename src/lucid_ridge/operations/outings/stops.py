"""Facts of an outing's stops: place, duration, and when they may begin."""

from __future__ import annotations

import logging
from dataclasses import replace

from sqlalchemy.orm import Session

from ...core.facts import outing as core
from ...core.facts.declaring import facts_of
from ...core.outing.stop_facts import StopFacts
from ...core.outing.stop_windows import Days, daylight_windows, stop_windows
from ...core.planning.plan.shot_plan import plan_shot
from ...store.outings import OutingStop
from ...store.places import KeptForecast, Location
from ...store.shots import Shot
from ..places.forecasts import forecast_of, hours_around, state_of
from ..shots.facts import location_facts, shot_facts

_log = logging.getLogger(__name__)


def stop_facts(session: Session, owner_id: int, stop: OutingStop, days: Days) -> StopFacts:
    """Return the facts of a stop. A broken stop is left out with a reason, and its error is in the log."""
    said = core.OutingStop(**{name: getattr(stop, name) for name in facts_of(core.OutingStop)})
    name = (
        stop.shot.name
        if stop.shot is not None
        else f"Scouting {stop.location.name}"
        if stop.location is not None
        else said.note or "Rest"
    )
    try:
        if stop.shot is not None and stop.shot.viewpoint is not None:
            return shot_stop(session, said, stop.shot, days)
        if stop.location is not None:
            return place_stop(session, owner_id, said, stop.location, name, days)
    except Exception:
        _log.exception("Stop %s of an outing cannot be planned.", stop.id)
        return StopFacts(
            said=said, name=name, windows=(), why_none="it cannot be planned: the reason is in the server's log."
        )
    return StopFacts(said=said, name=name)


def shot_stop(session: Session, said: core.OutingStop, shot: Shot, days: Days) -> StopFacts:
    """Return a shot as a stop. It must have a place."""
    point = shot.viewpoint
    assert point is not None
    facts = replace(
        shot_facts(session, shot),
        forecast=hours_around(forecast_of(point.location.forecast), days.dates[0], days.dates[-1]),
    )
    lasts = plan_shot(facts).sequence.total_s or 0.0
    forecast = state_of(session.get(KeptForecast, point.location_id)).forecast
    windows, why_none = stop_windows(facts, lasts, forecast, days)
    return StopFacts(
        said=said,
        name=shot.name,
        facts=facts,
        windows=windows,
        lasts_s=lasts,
        location_id=point.location_id,
        viewpoint_id=point.id,
        shot_id=shot.id,
        why_none=why_none,
    )


def place_stop(
    session: Session, owner_id: int, said: core.OutingStop, location: Location, name: str, days: Days
) -> StopFacts:
    """Return a place as a stop, by daylight."""
    facts = location_facts(session, location, owner_id)
    point_id = location.viewpoints[0].id if location.viewpoints else 0
    return StopFacts(
        said=said,
        name=name,
        facts=facts,
        windows=daylight_windows(facts, said, days.dates),
        lasts_s=0.0,
        location_id=location.id,
        viewpoint_id=point_id,
    )
