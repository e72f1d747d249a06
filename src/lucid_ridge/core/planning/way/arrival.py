"""When to leave home so that everything stands before the light comes."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta

from ...facts.calibrations import times_as_long
from ...facts.place import Approach
from ...ground.walk import TERRAIN_FACTORS, naismith_h


@dataclass(frozen=True)
class Arrival:
    """Latest times, in UTC. walk_min is by Naismith's rule on this terrain; None where the walk is not known."""

    leave_home_utc: datetime | None
    leave_car_utc: datetime
    set_up_utc: datetime
    walk_min: float | None


def plan_arrival(approach: Approach, light_utc: datetime) -> Arrival:
    """Return the latest times for light that begins at light_utc: set-up, walk, drive and reserve before it."""
    walk = walk_minutes(approach)
    set_up = light_utc - timedelta(minutes=approach.setting_up_min)
    car = set_up - timedelta(minutes=walk or 0.0)
    home = None if approach.drive_min is None else car - timedelta(minutes=approach.drive_min + approach.reserve_min)
    return Arrival(home, car, set_up, walk)


def walk_minutes(approach: Approach) -> float | None:
    """Return the walk's time [min], by the rule and as the log corrects it; None where its length is not known."""
    if approach.walk_m is None:
        return None
    by_rule = float(naismith_h(approach.walk_m, approach.ascent_m or 0.0)) * 60 * TERRAIN_FACTORS[approach.terrain]
    return by_rule * times_as_long(approach.taught_walk)
