"""Hourly forecasts as JSON or as a table."""

from __future__ import annotations

import json
from collections.abc import Mapping
from datetime import UTC, datetime
from typing import Any

from ..core.weather.forecast import Forecast, ForecastHour
from .csv_points import read_table
from .errors import FormatError
from .geodata import number
from .text import as_text

MOST_HOURS = 24 * 21
# Each figure with its range, and its value if the file lacks it (None: required).
FIGURES: Mapping[str, tuple[float, float, float | None]] = {
    "low_cloud": (0.0, 1.0, None),
    "middle_cloud": (0.0, 1.0, 0.0),
    "high_cloud": (0.0, 1.0, 0.0),
    "wind_mps": (0.0, 100.0, None),
    "gust_mps": (0.0, 130.0, 0.0),
    "rain_mm": (0.0, 300.0, 0.0),
    "temperature_c": (-80.0, 60.0, None),
    "fog": (0.0, 1.0, 0.0),
}
# Many files lack it; mist is then judged from the fog alone.
DEW_POINT_C = (-80.0, 40.0)


def read_forecast(file_name: str, content: bytes, now_utc: datetime) -> Forecast:
    """Return the hourly forecast of a .json or .csv file. Raises FormatError naming the wrong hour and figure.

    now_utc: time of issue if the file has none.
    """
    ending = file_name.rpartition(".")[2].lower()
    if ending == "json":
        return read_forecast_json(content, now_utc)
    if ending == "csv":
        rows = read_table(content)
        return Forecast(now_utc, _hours(rows, first_line=2))
    raise FormatError(f"“{file_name[:80]}” does not end in .json or .csv.")


def read_forecast_json(content: bytes, now_utc: datetime) -> Forecast:
    """Return a forecast from JSON: {"issued": time, "hours": [{"time", "low_cloud", …}]}; times have their offset."""
    try:
        root = json.loads(as_text(content))
    except (ValueError, RecursionError):
        raise FormatError("The forecast is not JSON.") from None
    if not isinstance(root, dict) or not isinstance(root.get("hours"), list):
        raise FormatError("The forecast needs a list “hours”.")
    issued = moment(root.get("issued"), "issued") if root.get("issued") is not None else now_utc
    return Forecast(issued, _hours(root["hours"], first_line=1))


def moment(text: Any, where: str) -> datetime:
    """Return a time with its offset as UTC. Raises FormatError."""
    try:
        found = datetime.fromisoformat(str(text).strip())
    except ValueError:
        raise FormatError(f"{where}: “{str(text)[:40]}” is not a time such as 2026-01-31T16:00+00:00.") from None
    if found.tzinfo is None:
        raise FormatError(
            f"{where}: “{str(text)[:40]}” does not say its offset from UTC; write 2026-01-31T16:00+00:00."
        )
    try:
        return found.astimezone(UTC)
    except OverflowError:
        raise FormatError(f"{where}: “{str(text)[:40]}” lies outside the years 1 to 9999.") from None


def _hours(rows: list[Any], first_line: int) -> tuple[ForecastHour, ...]:
    if not rows:
        raise FormatError("The forecast holds no hours.")
    if len(rows) > MOST_HOURS:
        raise FormatError(f"The forecast holds {len(rows)} hours; at most {MOST_HOURS} are read.")
    hours = {}
    for line, row in enumerate(rows, start=first_line):
        if not isinstance(row, Mapping):
            raise FormatError(f"Hour {line} is not an object.")
        time = moment(row.get("time"), f"Hour {line}")
        # An hour without any figures is a gap, not an error.
        if all(_blank(row.get(name)) for name in FIGURES):
            continue
        dew_point = None if _blank(row.get("dew_point_c")) else _in_range(row, "dew_point_c", line, *DEW_POINT_C)
        hours[time] = ForecastHour(time, **{name: _figure(row, name, line) for name in FIGURES}, dew_point_c=dew_point)
    if not hours:
        raise FormatError("No hour of the forecast has figures.")
    return tuple(hours[time] for time in sorted(hours))


def _figure(row: Mapping[str, Any], name: str, line: int) -> float:
    low, high, otherwise = FIGURES[name]
    if _blank(row.get(name)):
        if otherwise is None:
            raise FormatError(f"Hour {line}: {name} is missing.")
        return otherwise
    return _in_range(row, name, line, low, high)


def _in_range(row: Mapping[str, Any], name: str, line: int, low: float, high: float) -> float:
    value = number(row[name], f"number for {name} in hour {line}")
    if not low <= value <= high:
        raise FormatError(f"Hour {line}: {name} must lie from {low:g} to {high:g}, not {value:g}.")
    return value


def _blank(value: Any) -> bool:
    return value is None or str(value).strip() == ""
