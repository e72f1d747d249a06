"""Whether a close-up stack can succeed: wind in its hour, still hours of that day, the cost of a bump.

Source: [1] World Meteorological Organization, Beaufort scale: leaves rustle from force 2 (1.6 m/s), leaves and twigs
are in constant motion from force 3 (3.4 m/s). That insects sit still in cool mornings is common practice.
"""

from __future__ import annotations

from ...facts.place import Element
from ...facts.shot import ShotFacts
from ...framing.solids import Shape
from ...spans.instants import local_day
from ...units.spelling import LocalTime
from ...weather.forecast import HOUR, ForecastHour
from ...weather.promise import LEAVES_MOVE_MPS, RIPPLES_MPS
from ..reasons import Reason
from ..weather.simulated import by_forecast
from . import wording as say
from .plan import DepthStep

_COOL_C = 10.0
_ROCK = (Shape.BLOCK, Shape.BOULDER, Shape.WALL, Shape.TOWER)


def stack_health(facts: ShotFacts, depth: DepthStep, total_s: float) -> list[Reason]:
    """Return the reasons about a close-up stack at its hour; empty for one frame or for a shot that is no close-up."""
    if not facts.close_up or len(depth.positions) < 2:
        return []
    found = [say.bump(total_s=total_s).holds("settle_s")]
    subject = facts.subject
    if facts.depth.subject_moves or (subject is not None and subject.shape in _ROCK):
        return found
    hour = facts.hour
    if hour is None:
        return found
    return [*found, *by_forecast(facts, _by_the_hour(facts, subject, hour))]


def _by_the_hour(facts: ShotFacts, subject: Element | None, hour: ForecastHour) -> list[Reason]:
    """Return the reasons about wind, and about insects that its temperature wakes."""
    found, still = [], _still_hours(facts)
    if hour.wind_mps >= LEAVES_MOVE_MPS:
        found.append(say.wind(wind_mps=hour.wind_mps, still=still).tight("time_utc"))
    elif hour.wind_mps >= RIPPLES_MPS:
        found.append(say.light_wind(wind_mps=hour.wind_mps, still=still).caution("time_utc"))
    else:
        found.append(say.still_air(wind_mps=hour.wind_mps).holds("time_utc"))
    if subject is not None and subject.shape == Shape.INSECT and hour.temperature_c >= _COOL_C:
        found.append(say.insects_awake(temperature_c=hour.temperature_c).caution("time_utc"))
    return found


def _still_hours(facts: ShotFacts) -> tuple[LocalTime, LocalTime, float, float] | None:
    """Return the longest span of that day with still air, with its lowest and highest temperature [°C]; None if there
    is none.
    """
    spans: list[list[ForecastHour]] = []
    for hour in _hours_of_the_day(facts):
        if hour.wind_mps >= RIPPLES_MPS:
            continue
        if spans and spans[-1][-1].time_utc + HOUR == hour.time_utc:
            spans[-1].append(hour)
        else:
            spans.append([hour])
    if not spans:
        return None
    longest = max(spans, key=len)
    cold, warm = (pick(hour.temperature_c for hour in longest) for pick in (min, max))
    return facts.at(longest[0].time_utc), facts.at(longest[-1].time_utc + HOUR), cold, warm


def _hours_of_the_day(facts: ShotFacts) -> tuple[ForecastHour, ...]:
    day = facts.light.date_local
    if facts.forecast is None or day is None:
        return ()
    return facts.forecast.between(*local_day(day, str(facts.zone)))
