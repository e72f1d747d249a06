"""An hourly forecast as plain figures, and reading it between the hours."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta

HOUR = timedelta(hours=1)


@dataclass(frozen=True)
class ForecastHour:
    """The weather of the hour that begins at time_utc.

    Clouds, fog as shares 0..1; wind [m/s]; rain [mm/h]; temperature, dew point [°C]; dew_point_c None: not said.
    """

    time_utc: datetime
    low_cloud: float
    middle_cloud: float
    high_cloud: float
    wind_mps: float
    gust_mps: float
    rain_mm: float
    temperature_c: float
    fog: float
    dew_point_c: float | None = None

    @property
    def cover(self) -> float:
        """The share of the sky covered, layers overlapping by chance."""
        return 1 - (1 - self.low_cloud) * (1 - self.middle_cloud) * (1 - self.high_cloud)


@dataclass(frozen=True)
class Forecast:
    """Hours in order of time; issued_utc: when it was made. simulated: to practise with, never for safety."""

    issued_utc: datetime
    hours: tuple[ForecastHour, ...]
    simulated: bool = False

    def at(self, moment: datetime) -> ForecastHour | None:
        """Return the hour that holds an instant; None where it is missing."""
        return next((hour for hour in self.hours if hour.time_utc <= moment < hour.time_utc + HOUR), None)

    def between(self, start: datetime, end: datetime) -> tuple[ForecastHour, ...]:
        """Return the hours that touch a span."""
        return tuple(hour for hour in self.hours if hour.time_utc < end and hour.time_utc + HOUR > start)


def wind_chill_c(temperature_c: float, wind_mps: float) -> float | None:
    """Return the wind chill [°C]; None where it is not defined (above 10 °C or under 4.8 km/h).

    Source: Environment Canada and US National Weather Service, 2001.
    """
    speed = wind_mps * 3.6
    if temperature_c > 10 or speed < 4.8:
        return None
    return float(13.12 + 0.6215 * temperature_c - 11.37 * speed**0.16 + 0.3965 * temperature_c * speed**0.16)
