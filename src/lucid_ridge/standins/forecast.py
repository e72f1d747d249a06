"""Simulated weather: always the same for the same place and hour."""

from __future__ import annotations

import hashlib
import math
from datetime import UTC, datetime, timedelta
from functools import lru_cache
from typing import Any
from zoneinfo import ZoneInfo

import numpy as np

HORIZON_H = 24 * 16
# Weather changes over some days; a model run is issued every six hours.
_PATTERN_H, _ISSUE_H = 30.0, 6


def simulated_forecast(
    latitude_deg: float, longitude_deg: float, zone: str, now_utc: datetime, hours: int = HORIZON_H
) -> dict[str, Any]:
    """Return a forecast as a service sends it: issued at the last full six hours, hourly from there, in local time
    with offset.
    """
    issued = now_utc.astimezone(UTC).replace(minute=0, second=0, microsecond=0)
    issued -= timedelta(hours=issued.hour % _ISSUE_H)
    info = ZoneInfo(zone)
    return {
        "simulated": True,
        "issued": issued.isoformat(),
        "zone": zone,
        "latitude_deg": latitude_deg,
        "longitude_deg": longitude_deg,
        "hours": [
            _hour(latitude_deg, longitude_deg, issued + timedelta(hours=number), info) for number in range(hours)
        ],
    }


def _hour(latitude: float, longitude: float, moment: datetime, info: ZoneInfo) -> dict[str, Any]:
    local = moment.astimezone(info)
    wet = _wave(latitude, longitude, moment, "wet")
    low = _share(1.1 * wet + 0.5 * _wave(latitude, longitude, moment, "low") - 0.45)
    middle = _share(0.7 * wet + 0.5 * _wave(latitude, longitude, moment, "middle") - 0.2)
    high = _share(0.2 * wet + 0.95 * _wave(latitude, longitude, moment, "high") - 0.1)
    wind = max(0.3, 0.6 + 10 * (0.55 * wet + 0.45 * _wave(latitude, longitude, moment, "wind")) ** 2)
    rain = max(0.0, 4.5 * (wet - 0.68)) if low > 0.6 else 0.0
    season = math.cos(2 * math.pi * (local.timetuple().tm_yday - (200 if latitude >= 0 else 17)) / 365.25)
    hour_of_day = math.cos(2 * math.pi * (local.hour - 15) / 24)
    warmth = 26 - 0.42 * abs(latitude) + 0.14 * abs(latitude) * season + 3.0 * hour_of_day * (1 - 0.6 * low)
    calm_dawn = 1.0 if 4 <= local.hour <= 9 else 0.25
    fog = (
        _share(1.6 * calm_dawn * (_wave(latitude, longitude, moment, "fog") - 0.45) * (1 - wind / 6))
        if wind < 6
        else 0.0
    )
    return {
        "time": local.isoformat(),
        "low_cloud": round(low, 2),
        "middle_cloud": round(middle, 2),
        "high_cloud": round(high, 2),
        "wind_mps": round(wind, 1),
        "gust_mps": round(wind * (1.35 + 0.3 * wet), 1),
        "rain_mm": round(rain, 1),
        "temperature_c": round(warmth - 4 * wet, 1),
        "fog": round(fog, 2),
        "dew_point_c": round(warmth - 4 * wet - max(0.2, 7 * (1 - fog) * (1 - 0.7 * wet)), 1),
    }


def _wave(latitude: float, longitude: float, moment: datetime, what: str) -> float:
    """Return a smooth number 0..1 through random knots, seeded by place and time."""
    at = moment.timestamp() / 3600 / _PATTERN_H
    first = math.floor(at)
    # Places within a few kilometres share their weather.
    knots = [_knot(f"{latitude:.1f}:{longitude:.1f}", first + shift, what) for shift in (0, 1)]
    part = at - first
    blend = part * part * (3 - 2 * part)
    return knots[0] * (1 - blend) + knots[1] * blend


@lru_cache(maxsize=4096)
def _knot(place: str, number: int, what: str) -> float:
    seed = hashlib.sha256(f"{place}:{number}:{what}".encode()).digest()
    return float(np.random.default_rng(int.from_bytes(seed[:8])).random())


def _share(value: float) -> float:
    return min(1.0, max(0.0, value))
