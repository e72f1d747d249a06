"""Forecasts of locations: requested at most every half hour, stored, and shown with their age if nothing newer is
available.
"""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass, replace
from datetime import UTC, date, datetime, timedelta
from threading import Lock

from sqlalchemy import select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session

from ...core.weather.forecast import Forecast, ForecastHour
from ...formats.forecasts import read_forecast, read_forecast_json
from ...services.forecast_client import Unreachable, ask_forecast
from ...store.photographer import Photographer
from ...store.places import KeptForecast, Location
from ...store.rows import Row
from ..platform.errors import Refused
from ..platform.invalidation import stale_at
from ..platform.rows import owned
from ..platform.write_lock import invalidate_owner_context

ASK_AGAIN_AFTER = timedelta(minutes=30)
# After a failure the service is not called for a while, so that no page waits for it repeatedly.
TRY_AGAIN_AFTER = timedelta(seconds=60)
FROM_SERVICE, FROM_FILE = "service", "file"
_AROUND = timedelta(hours=48)
# Parsed forecasts by location, time and edits: parsing one takes longer than planning a shot.
_read: dict[tuple[int, datetime, str], Forecast | None] = {}
_MOST_READ = 400
_one_at_a_time = Lock()


@dataclass(frozen=True)
class ForecastState:
    """The state of a forecast.

    forecast None: none yet. problem: why there is nothing newer; empty if all is well. by_hand: hours edited by hand.
    """

    forecast: Forecast | None
    source: str
    simulated: bool
    fetched_at_utc: datetime | None
    problem: str
    by_hand: frozenset[datetime] = frozenset()


@dataclass(frozen=True)
class Question:
    """A request to a forecast service, to be made outside a transaction."""

    location_id: int
    latitude_deg: float
    longitude_deg: float
    zone: str


@dataclass(frozen=True)
class Answered:
    """A service's answer. content None: the service failed; problem says how, or what was odd."""

    content: dict[str, object] | None
    problem: str


def question_for(
    session: Session, owner_id: int, location_id: int, service_url: str | None, now_utc: datetime, simulated: bool
) -> Question | None:
    """Return the request for a location; None while its forecast is fresh, comes from a file, or there is no
    service. simulated: the service is the simulated one, which only a notebook that practises with it asks.
    """
    location = owned(session, owner_id, Location, location_id)
    kept = session.get(KeptForecast, location.id)
    if simulated and not session.get_one(Photographer, owner_id).simulated_weather:
        return None
    if service_url is None or (kept is not None and (kept.source == FROM_FILE or _fresh(kept, now_utc))):
        return None
    return Question(location.id, location.latitude_deg, location.longitude_deg, location.zone)


def ask(question: Question, service_url: str, now_utc: datetime) -> Answered:
    """Call the service. Uses no database and never raises for a failing service."""
    try:
        answer = ask_forecast(service_url, question.latitude_deg, question.longitude_deg, question.zone, now_utc)
    except Unreachable as error:
        return Answered(None, str(error))
    return Answered(json.loads(answer.content), " ".join(answer.remarks))


def keep_answer(session: Session, owner_id: int, question: Question, answered: Answered, now_utc: datetime) -> None:
    """Store a service's answer; of two at once the later one stays. A forecast from a file is not replaced."""
    # Take the write lock first, as every writer does.
    invalidate_owner_context(session, owner_id)
    values: Row = {"location_id": question.location_id, "tried_at_utc": now_utc, "problem": answered.problem}
    if answered.content is not None:
        values |= {
            "content": answered.content,
            "fetched_at_utc": now_utc,
            "simulated": bool(answered.content.get("simulated", False)),
        }
    statement = insert(KeptForecast).values(**{"source": FROM_SERVICE, "simulated": True} | values)
    try:
        with session.begin_nested():
            session.execute(
                statement.on_conflict_do_update(
                    index_elements=["location_id"], set_=values, where=KeptForecast.source != FROM_FILE
                )
            )
    except IntegrityError:
        # The location was deleted while the service was called.
        pass
    stale_at(session, question.location_id)
    session.expire_all()


def drop_simulated(session: Session, owner_id: int) -> None:
    """Delete the simulated forecasts of a notebook; forecasts from a service or a file stay."""
    kept = session.scalars(
        select(KeptForecast).join(Location).where(Location.owner_id == owner_id, KeptForecast.simulated)
    ).all()
    for row in kept:
        session.delete(row)
    session.flush()


def kept_state(session: Session, owner_id: int, location_id: int) -> ForecastState:
    """Return the stored forecast of a location."""
    return state_of(session.get(KeptForecast, owned(session, owner_id, Location, location_id).id))


def state_of(kept: KeptForecast | None) -> ForecastState:
    """Return the state of a stored row, without calling a service."""
    if kept is None:
        return ForecastState(None, FROM_SERVICE, True, None, "")
    forecast = forecast_of(kept)
    return ForecastState(
        forecast, kept.source, kept.simulated, kept.fetched_at_utc, kept.problem, frozenset(_hours_of(kept.edits))
    )


def forecast_of(kept: KeptForecast | None) -> Forecast | None:
    """Return the stored forecast with edits by hand; None if there is none."""
    if kept is None or kept.fetched_at_utc is None:
        return None
    key = (kept.location_id, kept.fetched_at_utc, json.dumps([kept.simulated, kept.edits], sort_keys=True))
    with _one_at_a_time:
        if key in _read:
            return _read[key]
    # Parse outside the lock: the row may still have to be fetched, and others need not wait for that.
    forecast = _parsed(kept)
    with _one_at_a_time:
        while len(_read) >= _MOST_READ:
            _read.pop(next(iter(_read)))
        _read[key] = forecast
    return forecast


def hours_around(whole: Forecast | None, day: date | None, last: date | None = None) -> Forecast | None:
    """Return the hours of a forecast around a date, or around the dates up to last; None without a forecast, a date,
    or hours of it.
    """
    if whole is None or day is None:
        return None
    noons = [datetime(item.year, item.month, item.day, 12, tzinfo=UTC) for item in (day, last or day)]
    hours = whole.between(noons[0] - _AROUND, noons[1] + _AROUND)
    return replace(whole, hours=hours) if hours else None


def edit_hour(
    session: Session, owner_id: int, location_id: int, moment: datetime, figures: Mapping[str, float]
) -> ForecastState:
    """Edit figures of an hour by hand; they stay until removed, even with a newer forecast. Raises Refused."""
    location = owned(session, owner_id, Location, location_id)
    kept = session.get(KeptForecast, location.id)
    forecast = forecast_of(kept)
    if kept is None or forecast is None:
        raise Refused("time_utc", "There is no forecast whose hours could be changed: ask for one, or import one.")
    hour = forecast.at(moment)
    if hour is None:
        raise Refused("time_utc", "The forecast does not hold this hour.")
    key = hour.time_utc.isoformat()
    kept.edits = {**kept.edits, key: {**kept.edits.get(key, {}), **figures}}
    session.flush()
    stale_at(session, location.id)
    return state_of(kept)


def drop_edits(session: Session, owner_id: int, location_id: int) -> ForecastState:
    """Remove all edits by hand from a location's forecast."""
    location = owned(session, owner_id, Location, location_id)
    kept = session.get(KeptForecast, location.id)
    if kept is not None:
        kept.edits = {}
        session.flush()
        stale_at(session, location.id)
    return state_of(kept)


def _parsed(kept: KeptForecast) -> Forecast | None:
    if kept.content is None or kept.fetched_at_utc is None:
        return None
    forecast = read_forecast_json(json.dumps(kept.content).encode(), kept.fetched_at_utc)
    by_hand = _hours_of(kept.edits)
    hours = tuple(_changed(hour, by_hand.get(hour.time_utc, {})) for hour in forecast.hours)
    return replace(forecast, hours=hours, simulated=kept.simulated)


def _changed(hour: ForecastHour, figures: Mapping[str, float]) -> ForecastHour:
    values: Row = dict(figures)
    return replace(hour, **values)


def _hours_of(edits: Mapping[str, Mapping[str, float]]) -> dict[datetime, Mapping[str, float]]:
    return {datetime.fromisoformat(text): figures for text, figures in edits.items()}


def import_forecast(
    session: Session, owner_id: int, location_id: int, file_name: str, content: bytes, now_utc: datetime
) -> ForecastState:
    """Import an hourly forecast from a file; it stays until it is dropped. Raises FormatError and changes nothing."""
    location = owned(session, owner_id, Location, location_id)
    forecast = read_forecast(file_name, content, now_utc)
    kept = session.get(KeptForecast, location.id) or KeptForecast(location_id=location.id)
    kept.source, kept.simulated, kept.problem = FROM_FILE, False, ""
    kept.fetched_at_utc = kept.tried_at_utc = now_utc
    kept.content = _plain(forecast)
    session.add(kept)
    session.flush()
    stale_at(session, location.id)
    return state_of(kept)


def drop_forecast(session: Session, owner_id: int, location_id: int) -> None:
    """Delete the stored forecast, so that the service is called again."""
    location = owned(session, owner_id, Location, location_id)
    kept = session.get(KeptForecast, location.id)
    if kept is not None:
        session.delete(kept)
        session.flush()
        stale_at(session, location.id)


def _fresh(kept: KeptForecast, now_utc: datetime) -> bool:
    wait = TRY_AGAIN_AFTER if kept.problem and not _remark_only(kept) else ASK_AGAIN_AFTER
    return timedelta(0) <= now_utc - kept.tried_at_utc < wait


def _remark_only(kept: KeptForecast) -> bool:
    """Return whether the last request returned a forecast, if an odd one."""
    return kept.fetched_at_utc == kept.tried_at_utc


def _plain(forecast: Forecast) -> dict[str, object]:
    return {
        "issued": forecast.issued_utc.isoformat(),
        "hours": [
            {
                "time": hour.time_utc.isoformat(),
                **{name: getattr(hour, name) for name in hour.__dataclass_fields__ if name != "time_utc"},
            }
            for hour in forecast.hours
        ],
    }
