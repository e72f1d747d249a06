"""Step 6, whether a stack close up holds together: the wind in the hour, still hours of that day, what a bump costs.

Source: [1] World Meteorological Organization, Beaufort scale: leaves rustle from force 2 (1.6 m/s), leaves and twigs are in constant motion
from force 3 (3.4 m/s). That insects sit still in cool mornings is common practice.
"""

from __future__ import annotations

from ...facts.shot import ShotFacts
from ...framing.solids import Shape
from ...spans.instants import local_day
from ...units.lengths import format_duration
from ...weather.forecast import HOUR, ForecastHour
from ...weather.promise import LEAVES_MOVE_MPS, RIPPLES_MPS
from ..verdicts import CAUTION, HOLDS, TIGHT, Reason
from .plan import DepthStep

_COOL_C = 10.0
_ROCK = (Shape.BLOCK, Shape.BOULDER, Shape.WALL, Shape.TOWER)


def stack_health(facts: ShotFacts, depth: DepthStep, total_s: float) -> list[Reason]:
    """Return what speaks for and against a close-up stack at its hour; nothing for one frame or for what is not close."""
    if not facts.close_up or len(depth.positions) < 2:
        return []
    found = [Reason("sequence", HOLDS, f"A bump between two frames costs the whole series: {format_duration(total_s)} anew.", "settle_s")]
    subject = facts.subject
    if facts.depth.subject_moves or (subject is not None and subject.shape in _ROCK):
        return found
    hour = facts.hour
    if hour is None:
        return found
    still = _still_hours(facts)
    if hour.wind_mps >= LEAVES_MOVE_MPS:
        text = f"Wind of {hour.wind_mps:.0f} m/s keeps leaves and stems in constant motion: the frames will not fit each other. {still}"
        found.append(Reason("sequence", TIGHT, text.strip(), "time_utc"))
    elif hour.wind_mps >= RIPPLES_MPS:
        found.append(
            Reason(
                "sequence",
                CAUTION,
                f"Wind of {hour.wind_mps:.0f} m/s stirs leaves: frame by frame, in the lulls. {still}".strip(),
                "time_utc",
            )
        )
    else:
        found.append(Reason("sequence", HOLDS, f"The air is forecast still, {hour.wind_mps:.1f} m/s: what grows stands still.", "time_utc"))
    if subject is not None and subject.shape == Shape.INSECT and hour.temperature_c >= _COOL_C:
        found.append(
            Reason("sequence", CAUTION, f"At {hour.temperature_c:.0f} °C insects are awake: come in the cool of the morning.", "time_utc")
        )
    return found


def _still_hours(facts: ShotFacts) -> str:
    """Return when the air of that day is forecast still, in words; nothing where it never is."""
    spans: list[list[ForecastHour]] = []
    for hour in _hours_of_the_day(facts):
        if hour.wind_mps >= RIPPLES_MPS:
            continue
        if spans and spans[-1][-1].time_utc + HOUR == hour.time_utc:
            spans[-1].append(hour)
        else:
            spans.append([hour])
    if not spans:
        return "No hour of that day is forecast still."
    longest = max(spans, key=len)
    cold, warm = (round(pick(hour.temperature_c for hour in longest)) for pick in (min, max))
    degrees = f"{cold} °C" if cold == warm else f"{cold} to {warm} °C"
    return f"Still air is forecast from {facts.clock(longest[0].time_utc)} to {facts.clock(longest[-1].time_utc + HOUR)}, {degrees.replace('-', '−')}."


def _hours_of_the_day(facts: ShotFacts) -> tuple[ForecastHour, ...]:
    day = facts.light.date_local
    if facts.forecast is None or day is None:
        return ()
    return facts.forecast.between(*local_day(day, str(facts.zone)))
