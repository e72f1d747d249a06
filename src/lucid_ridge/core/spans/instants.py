"""Instants: turning datetimes into Julian dates and local days into spans of UTC."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import UTC, date, datetime, time, timedelta
from functools import cache
from typing import Any
from zoneinfo import ZoneInfo, available_timezones

import numpy as np
from numpy.typing import NDArray

from ..errors import InputError

_EPOCH = datetime(1970, 1, 1, tzinfo=UTC)
# DE421 reaches from 1899-07-29 to 2053-10-09; whole years inside it.
FIRST_YEAR, LAST_YEAR = 1900, 2052
EARLIEST_S = (datetime(1899, 8, 1, tzinfo=UTC) - _EPOCH).total_seconds()
LATEST_S = (datetime(2053, 10, 1, tzinfo=UTC) - _EPOCH).total_seconds()


def unix_seconds(times_utc: datetime | Sequence[datetime] | NDArray[Any]) -> NDArray[np.float64]:
    """Return seconds since 1970-01-01 UTC for aware datetimes, datetime64 (taken as UTC) or float seconds.

    The caller's shape is kept. Raises InputError for naive datetimes and for years the ephemeris does not reach.
    """
    if isinstance(times_utc, datetime):
        result = np.array(_one(times_utc))
    else:
        array = np.asarray(times_utc)
        if array.dtype.kind == "M":
            result = array.astype("datetime64[us]").astype(np.int64) / 1e6
        elif array.dtype.kind in "fi":
            result = array.astype(np.float64)
        else:
            result = np.array([_one(moment) for moment in array.ravel()], dtype=np.float64).reshape(array.shape)
    low, high = ((datetime(year, 1, 1, tzinfo=UTC) - _EPOCH).total_seconds() for year in (FIRST_YEAR, LAST_YEAR + 1))
    if result.size and not ((result >= low) & (result < high)).all():
        raise InputError("times_utc", f"Sun and moon are known for the years {FIRST_YEAR} to {LAST_YEAR}.")
    return np.asarray(result, dtype=np.float64)


def from_unix(seconds: float) -> datetime:
    """Return the UTC datetime for seconds since 1970-01-01 UTC."""
    return _EPOCH + timedelta(seconds=float(seconds))


def zone_info(zone: str) -> ZoneInfo:
    """Return the IANA zone of that name. Raises InputError for an unknown one."""
    if zone not in _known_zones():
        raise InputError("zone", f"“{zone}” is not an IANA time zone. Write one like Europe/London.")
    return ZoneInfo(zone)


@cache
def _known_zones() -> frozenset[str]:
    """The names of all zones; looking them up walks a whole directory, so it is done once."""
    return frozenset(available_timezones())


def local_day(day: date, zone: str) -> tuple[datetime, datetime]:
    """Return the UTC instants of local midnight at the start and the end of a day: 23, 24 or 25 hours apart.

    Raises InputError for an unknown zone or a year outside 1900 to 2052.
    """
    if not FIRST_YEAR <= day.year <= LAST_YEAR or day == date(LAST_YEAR, 12, 31):
        raise InputError("date_local", f"Choose a date in the years {FIRST_YEAR} to {LAST_YEAR}.")
    info = zone_info(zone)
    start = datetime.combine(day, time(), tzinfo=info).astimezone(UTC)
    end = datetime.combine(day + timedelta(days=1), time(), tzinfo=info).astimezone(UTC)
    return start, end


def _one(moment: Any) -> float:
    if not isinstance(moment, datetime) or moment.tzinfo is None:
        raise InputError("times_utc", "Times must be datetimes with a time zone.")
    return (moment - _EPOCH).total_seconds()
