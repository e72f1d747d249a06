"""Weather measures that a decision may depend on, and their spelling."""

from __future__ import annotations

from ..labels import NamedEnum
from ..units.spelling import percent
from .forecast import ForecastHour


class Measure(NamedEnum):
    LOW_CLOUD = "low_cloud"
    CLOUD = "cloud"
    WIND = "wind"
    GUSTS = "gusts"
    RAIN = "rain"
    FOG = "fog"


UNITS: dict[Measure, str] = {
    Measure.LOW_CLOUD: "%",
    Measure.CLOUD: "%",
    Measure.WIND: "m/s",
    Measure.GUSTS: "m/s",
    Measure.RAIN: "mm/h",
    Measure.FOG: "%",
}


def measured(measure: Measure, hour: ForecastHour) -> float:
    """Return a measure of an hour, in its unit."""
    values = {
        Measure.LOW_CLOUD: 100 * hour.low_cloud,
        Measure.CLOUD: 100 * hour.cover,
        Measure.WIND: hour.wind_mps,
        Measure.GUSTS: hour.gust_mps,
        Measure.RAIN: hour.rain_mm,
        Measure.FOG: 100 * hour.fog,
    }
    return values[measure]


def format_measure(measure: Measure, value: float) -> str:
    """Return a value of a measure with its unit: "60\u202f%", "0.5 mm/h"."""
    if UNITS[measure] == "%":
        return percent(value / 100)
    return f"{value:.1f} {UNITS[measure]}" if measure is Measure.RAIN else f"{value:.0f} {UNITS[measure]}"
