"""Where to go when the light does not come, and what that hangs on."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

from ...facts.shot import ShotFacts
from ...units.lengths import format_duration
from ...weather.measures import format_measure, measured
from ..verdicts import CAUTION, HOLDS, UNSAID, Reason


@dataclass(frozen=True)
class Trigger:
    """When it is decided, what the forecast says for then (None where it does not reach), and whether that sends one to plan B."""

    moment_utc: datetime
    value: float | None
    pulled: bool


def trigger_of(facts: ShotFacts) -> Trigger | None:
    """Return how a shot's plan B stands; None while no trigger or no date is said. It is decided at the last such clock time before the shot begins."""
    light = facts.light
    if light.plan_b_measure is None or light.plan_b_over is None or light.plan_b_clock is None or light.date_local is None:
        return None
    day = light.date_local if light.time_utc is None else light.time_utc.astimezone(facts.zone).date()
    moment = datetime.combine(day, light.plan_b_clock, tzinfo=facts.zone).astimezone(UTC)
    if light.time_utc is not None and moment > light.time_utc:
        moment = datetime.combine(day - timedelta(days=1), light.plan_b_clock, tzinfo=facts.zone).astimezone(UTC)
    hour = facts.forecast.at(moment) if facts.forecast else None
    value = measured(light.plan_b_measure, hour) if hour else None
    return Trigger(moment, value, value is not None and value > light.plan_b_over)


def plan_b_reasons(facts: ShotFacts) -> list[Reason]:
    """Return where else to go, with its drive and walk, and whether the forecast would send one there."""
    other, light = facts.plan_b, facts.light
    if other is None:
        return []
    legs = [
        f"{format_duration(60 * round(minutes))} {word}"
        for minutes, word in ((other.drive_min, "drive"), (other.walk_min, "on foot"))
        if minutes
    ]
    text = f"Plan B is {other.name}{', ' + ' and '.join(legs) if legs else ''}"
    trigger = trigger_of(facts)
    if trigger is None or light.plan_b_measure is None or light.plan_b_over is None:
        return [Reason("light", UNSAID, f"{text}: say what it hangs on, and when that is decided.", "plan_b_measure")]
    limit = format_measure(light.plan_b_measure, light.plan_b_over)
    text += f", if {light.plan_b_measure} stands over {limit} at {facts.clock(trigger.moment_utc)}"
    if trigger.value is None:
        return [Reason("light", HOLDS, f"{text}; no forecast reaches that hour yet.", "plan_b_measure")]
    said = f"{text}; forecast is {format_measure(light.plan_b_measure, trigger.value)}"
    if not trigger.pulled:
        return [Reason("light", HOLDS, f"{said}.", "plan_b_measure")]
    return [Reason("light", CAUTION, f"{said}: as it looks now, go there.", "plan_b_measure")]
