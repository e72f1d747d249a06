"""Calls a forecast service with short timeouts."""

from __future__ import annotations

import json
from dataclasses import dataclass
from datetime import datetime, timedelta
from functools import cache
from urllib.parse import urlencode
from zoneinfo import ZoneInfo

import urllib3

from ..core.weather.forecast import Forecast
from ..formats.errors import FormatError
from ..formats.forecasts import read_forecast_json

CONNECT_S, READ_S = 0.5, 1.5
LARGEST_BYTES = 2_000_000
LATE_AFTER = timedelta(hours=18)


class Unreachable(Exception):
    """The service returned nothing usable; the message says why, for the photographer."""


@dataclass(frozen=True)
class Answer:
    """A forecast, its bytes, and what is odd about it (empty if nothing is)."""

    forecast: Forecast
    content: bytes
    remarks: tuple[str, ...]


@cache
def _pool() -> urllib3.PoolManager:
    retry = urllib3.Retry(
        total=1,
        connect=1,
        read=0,
        status=1,
        status_forcelist=(502, 503, 504),
        backoff_factor=0.1,
        raise_on_status=False,
    )
    return urllib3.PoolManager(timeout=urllib3.Timeout(connect=CONNECT_S, read=READ_S), retries=retry)


def ask_forecast(url: str, latitude_deg: float, longitude_deg: float, zone: str, now_utc: datetime) -> Answer:
    """Return the forecast of a place.

    Raises Unreachable for no answer within two seconds or one that cannot be used.
    """
    query = urlencode({"latitude_deg": latitude_deg, "longitude_deg": longitude_deg, "zone": zone})
    try:
        response = _pool().request("GET", f"{url}?{query}", preload_content=False, redirect=False)
        content = response.read(LARGEST_BYTES + 1)
        response.release_conn()
    except urllib3.exceptions.TimeoutError:
        raise Unreachable("The forecast service is too slow to answer.") from None
    except urllib3.exceptions.MaxRetryError as error:
        # The library counts a refused connection as a timeout.
        slow = isinstance(error.reason, urllib3.exceptions.TimeoutError) and not isinstance(
            error.reason, urllib3.exceptions.NewConnectionError
        )
        raise Unreachable(
            "The forecast service is too slow to answer." if slow else "The forecast service cannot be reached."
        ) from None
    except urllib3.exceptions.HTTPError:
        raise Unreachable("The forecast service broke off its answer.") from None
    if response.status != 200:
        raise Unreachable(f"The forecast service is out of order (it answered {response.status}).")
    if len(content) > LARGEST_BYTES:
        raise Unreachable("The forecast service answered with far too much.")
    try:
        forecast = read_forecast_json(content, now_utc)
    except FormatError as error:
        raise Unreachable(f"The forecast service's answer cannot be used. {error.message}") from None
    return Answer(forecast, content, tuple(_remarks(forecast, content, zone, now_utc)))


def _remarks(forecast: Forecast, content: bytes, zone: str, now_utc: datetime) -> list[str]:
    remarks = []
    if now_utc - forecast.issued_utc > LATE_AFTER:
        hours = (now_utc - forecast.issued_utc).total_seconds() / 3600
        remarks.append(f"The service's newest forecast is {hours:.0f} h old.")
    if _other_offset(forecast, content, zone):
        remarks.append("The service answered in another time zone; its hours were converted.")
    first, last = forecast.hours[0].time_utc, forecast.hours[-1].time_utc
    missing = round((last - first).total_seconds() / 3600) + 1 - len(forecast.hours)
    if missing:
        remarks.append(f"{missing} hours are missing from the forecast.")
    return remarks


def _other_offset(forecast: Forecast, content: bytes, zone: str) -> bool:
    """Return whether the first hour has another offset than the place at that time."""
    written = datetime.fromisoformat(json.loads(content)["hours"][0]["time"])
    return written.utcoffset() not in (forecast.hours[0].time_utc.astimezone(ZoneInfo(zone)).utcoffset(), timedelta(0))
