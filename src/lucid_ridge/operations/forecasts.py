"""The forecast of a location: asked for at most every half hour, kept, and shown with its age when nothing newer is to be had."""

from __future__ import annotations

import json
from dataclasses import dataclass
from datetime import datetime, timedelta

from sqlalchemy.orm import Session

from ..core.weather.forecast import Forecast
from ..formats.forecasts import read_forecast, read_forecast_json
from ..services.forecast_client import Unreachable, ask_forecast
from ..store.places import KeptForecast, Location
from .rows import owned

ASK_AGAIN_AFTER = timedelta(minutes=30)
# After a failure the service is left alone for a while, so that no screen waits for it again and again.
TRY_AGAIN_AFTER = timedelta(seconds=60)
FROM_SERVICE, FROM_FILE = "service", "file"


@dataclass(frozen=True)
class ForecastState:
    """What is known. forecast None: nothing yet. problem: why there is nothing newer, empty when all is well."""

    forecast: Forecast | None
    source: str
    simulated: bool
    fetched_at_utc: datetime | None
    problem: str


def forecast_state(session: Session, owner_id: int, location_id: int, service_url: str | None, now_utc: datetime) -> ForecastState:
    """Return a location's forecast, asking the service where the kept one has grown old. Flushes. Never raises for a failing service."""
    location = owned(session, owner_id, Location, location_id)
    kept = session.get(KeptForecast, location.id)
    if kept is None or kept.source != FROM_FILE:
        kept = _refreshed(session, location, kept, service_url, now_utc)
    return state_of(kept)


def state_of(kept: KeptForecast | None) -> ForecastState:
    """Return what a kept row says, without asking anyone."""
    if kept is None:
        return ForecastState(None, FROM_SERVICE, True, None, "")
    forecast = None
    if kept.content is not None and kept.fetched_at_utc is not None:
        forecast = read_forecast_json(json.dumps(kept.content).encode(), kept.fetched_at_utc)
    return ForecastState(forecast, kept.source, kept.simulated, kept.fetched_at_utc, kept.problem)


def import_forecast(session: Session, owner_id: int, location_id: int, file_name: str, content: bytes, now_utc: datetime) -> ForecastState:
    """Take an hourly forecast from a file; it stands until it is dropped. Raises FormatError and changes nothing for what is none."""
    location = owned(session, owner_id, Location, location_id)
    forecast = read_forecast(file_name, content, now_utc)
    kept = session.get(KeptForecast, location.id) or KeptForecast(location_id=location.id)
    kept.source, kept.simulated, kept.problem = FROM_FILE, False, ""
    kept.fetched_at_utc = kept.tried_at_utc = now_utc
    kept.content = _plain(forecast)
    session.add(kept)
    session.flush()
    return state_of(kept)


def drop_forecast(session: Session, owner_id: int, location_id: int) -> None:
    """Forget what is kept, so that the service is asked again."""
    location = owned(session, owner_id, Location, location_id)
    kept = session.get(KeptForecast, location.id)
    if kept is not None:
        session.delete(kept)
        session.flush()


def _refreshed(
    session: Session, location: Location, kept: KeptForecast | None, service_url: str | None, now_utc: datetime
) -> KeptForecast | None:
    if kept is not None:
        wait = TRY_AGAIN_AFTER if kept.problem and not _remark_only(kept) else ASK_AGAIN_AFTER
        if timedelta(0) <= now_utc - kept.tried_at_utc < wait:
            return kept
    if service_url is None:
        return kept
    kept = kept or KeptForecast(location_id=location.id, source=FROM_SERVICE, simulated=True)
    kept.tried_at_utc = now_utc
    try:
        answer = ask_forecast(service_url, location.latitude_deg, location.longitude_deg, location.zone, now_utc)
    except Unreachable as error:
        kept.problem = str(error)
    else:
        content = json.loads(answer.content)
        kept.content, kept.fetched_at_utc = content, now_utc
        kept.simulated = bool(content.get("simulated", False))
        kept.problem = " ".join(answer.remarks)
    session.add(kept)
    session.flush()
    return kept


def _remark_only(kept: KeptForecast) -> bool:
    """Whether the last try did bring a forecast, if an odd one."""
    return kept.fetched_at_utc == kept.tried_at_utc


def _plain(forecast: Forecast) -> dict[str, object]:
    return {
        "issued": forecast.issued_utc.isoformat(),
        "hours": [
            {"time": hour.time_utc.isoformat(), **{name: getattr(hour, name) for name in hour.__dataclass_fields__ if name != "time_utc"}}
            for hour in forecast.hours
        ],
    }
