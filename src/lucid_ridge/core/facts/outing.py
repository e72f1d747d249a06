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


@dataclass(frozen=True)
class Outing:
    """leave_clock: home is left no earlier; back_clock: back by then, on the last day. late_min: by how much it runs late now. contact: with whom one leaves word."""

    name: Annotated[str, Fact(Kind.NAME, label="name")]
    date_local: Annotated[date, Fact(label="date")]
    days: Annotated[int, Fact(Kind.COUNT, 1, 5, label="days")] = 1
    leave_clock: Annotated[time | None, Fact(label="leaving no earlier than")] = None
    back_clock: Annotated[time | None, Fact(label="back by")] = None
    most_walk_m: Annotated[float | None, Fact(Kind.LENGTH_M, 100.0, 200_000.0, label="longest walk in all")] = None
    stop_order: Annotated[StopOrder, Fact(label="order of the stops")] = StopOrder.CHOSEN
    late_min: Annotated[float, Fact(Kind.MINUTES, 0.0, 1440.0, label="running late")] = 0.0
    contact: Annotated[str, Fact(Kind.NOTE, label="word left with")] = ""
    note: Annotated[str, Fact(Kind.NOTE, label="note")] = ""


@dataclass(frozen=True)
class OutingStop:
    """minutes: how long it takes, where the plan does not say, or another time. leg_min: how long the way from the stop before takes, typed where it is unknown. worth: how much its
    promise counts beside the others'. after_clock: a rest or scouting begins no earlier.
    """

    kind: Annotated[StopKind, Fact(label="kind of stop")] = StopKind.SHOT
    note: Annotated[str, Fact(Kind.NOTE, label="note")] = ""
    minutes: Annotated[float | None, Fact(Kind.MINUTES, 0.0, 1440.0, label="minutes there")] = None
    leg_min: Annotated[float | None, Fact(Kind.MINUTES, 0.0, 1440.0, label="way there")] = None
    worth: Annotated[float, Fact(Kind.NUMBER, 0.0, 10.0, label="worth")] = 1.0
    after_clock: Annotated[time | None, Fact(label="no earlier than")] = None
    done: Annotated[bool, Fact(label="done")] = False
