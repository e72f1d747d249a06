"""Plan B: where to go instead, and the forecast that decides it."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

from ...facts.shot import ShotFacts
from ...weather.measures import measured
from ..reasons import Reason
from . import wording as say
from .simulated import by_forecast


@dataclass(frozen=True)
class Trigger:
    """When plan B is decided, the forecast for then (None where it does not reach), and whether it exceeds the
    limit.
    """

    moment_utc: datetime
    value: float | None
    pulled: bool


def trigger_of(facts: ShotFacts) -> Trigger | None:
    """Return the trigger of a shot's plan B; None without a rule or a date.

    It is decided at the last such clock time before the shot begins.
    """
    light = facts.light
    if (
        light.plan_b_measure is None
        or light.plan_b_over is None
        or light.plan_b_clock is None
        or light.date_local is None
    ):
        return None
    day = light.date_local if light.time_utc is None else light.time_utc.astimezone(facts.zone).date()
    moment = datetime.combine(day, light.plan_b_clock, tzinfo=facts.zone).astimezone(UTC)
    if light.time_utc is not None and moment > light.time_utc:
        moment = datetime.combine(day - timedelta(days=1), light.plan_b_clock, tzinfo=facts.zone).astimezone(UTC)
    hour = facts.forecast.at(moment) if facts.forecast else None
    value = measured(light.plan_b_measure, hour) if hour else None
    return Trigger(moment, value, value is not None and value > light.plan_b_over)


def plan_b_reasons(facts: ShotFacts) -> list[Reason]:
    """Return the reason that names plan B, with drive and walk, and whether the forecast decides for it."""
    other, light = facts.plan_b, facts.light
    if other is None:
        return []
    trigger = trigger_of(facts)
    if trigger is None or light.plan_b_measure is None or light.plan_b_over is None:
        return [
            say.plan_b_rule_missing(name=other.name, drive_min=other.drive_min, walk_min=other.walk_min).unsaid(
                "plan_b_measure"
            )
        ]
    words = say.plan_b(
        name=other.name,
        drive_min=other.drive_min,
        walk_min=other.walk_min,
        measure=light.plan_b_measure,
        limit=light.plan_b_over,
        decided_at=facts.at(trigger.moment_utc),
        forecast=trigger.value,
        go=trigger.pulled,
    )
    reason = words.caution("plan_b_measure") if trigger.pulled else words.holds("plan_b_measure")
    return [reason] if trigger.value is None else by_forecast(facts, [reason])
