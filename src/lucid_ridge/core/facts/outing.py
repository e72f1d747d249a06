"""Outings: shots, scouting and rests in order on a day or several, as the photographer says them.

The annotations are evaluated as the module is read: the store derives its checks from them.
"""

from dataclasses import dataclass
from datetime import date, time
from enum import StrEnum
from typing import Annotated

from .declaring import Fact, Kind

MOST_STOPS, MOST_OWN_ITEMS = 30, 100


class StopKind(StrEnum):
    SHOT = "shot"
    SCOUTING = "scouting"
    REST = "rest"


class StopOrder(StrEnum):
    """chosen: for the best sum of what the windows promise; pinned: as listed."""

    CHOSEN = "chosen"
    PINNED = "pinned"


class Nights(StrEnum):
    """Where the nights between the days are spent."""

    HOME = "home"
    BASE = "base"
    OUT = "out"


@dataclass(frozen=True)
class Outing:
    """leave_clock: home is left no earlier; back_clock: back by then, on the last day.

    late_min: by how much it runs late now. contact: who knows where one is.

    nights: where they are spent, night_h: how long each is at least. A base is a bed elsewhere: base_evening_min to
    drive to it from the day's last stop, base_morning_min from it to the first. Out: in a tent where one is.
    """

    name: Annotated[str, Fact(Kind.NAME, label="name")]
    date_local: Annotated[date, Fact(label="date")]
    days: Annotated[int, Fact(Kind.COUNT, 1, 5, label="days")] = 1
    leave_clock: Annotated[time | None, Fact(label="leaving no earlier than")] = None
    back_clock: Annotated[time | None, Fact(label="back by")] = None
    most_walk_m: Annotated[float | None, Fact(Kind.LENGTH_M, 100.0, 200_000.0, label="longest walk in all")] = None
    stop_order: Annotated[StopOrder, Fact(label="order of the stops")] = StopOrder.CHOSEN
    late_min: Annotated[float, Fact(Kind.MINUTES, 0.0, 1440.0, label="running late")] = 0.0
    nights: Annotated[Nights, Fact(label="nights")] = Nights.HOME
    night_h: Annotated[float, Fact(Kind.NUMBER, 0.0, 14.0, label="shortest night")] = 6.0
    base_name: Annotated[str, Fact(Kind.NOTE, label="base")] = ""
    base_evening_min: Annotated[float, Fact(Kind.MINUTES, 0.0, 1440.0, label="drive to the base")] = 20.0
    base_morning_min: Annotated[float, Fact(Kind.MINUTES, 0.0, 1440.0, label="drive from the base")] = 20.0
    contact: Annotated[str, Fact(Kind.NOTE, label="word left with")] = ""
    note: Annotated[str, Fact(Kind.NOTE, label="note")] = ""


@dataclass(frozen=True)
class OutingStop:
    """minutes: how long it takes, where the plan does not say, or another time.

    leg_min: how long the way from the stop before takes, typed where it is unknown. worth: how much its promise counts
    beside the others'. after_clock, before_clock: a rest or scouting begins no earlier and no later, on any of the
    days.
    """

    kind: Annotated[StopKind, Fact(label="kind of stop")] = StopKind.SHOT
    note: Annotated[str, Fact(Kind.NOTE, label="note")] = ""
    minutes: Annotated[float | None, Fact(Kind.MINUTES, 0.0, 1440.0, label="minutes there")] = None
    leg_min: Annotated[float | None, Fact(Kind.MINUTES, 0.0, 1440.0, label="way there")] = None
    worth: Annotated[float, Fact(Kind.NUMBER, 0.0, 10.0, label="worth")] = 1.0
    after_clock: Annotated[time | None, Fact(label="no earlier than")] = None
    before_clock: Annotated[time | None, Fact(label="no later than")] = None
    done: Annotated[bool, Fact(label="done")] = False
