"""Outings: their facts, stops and plan."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from ...core.facts.outing import MOST_OWN_ITEMS, Outing, OutingStop
from ...core.planning.verdicts import Mark, Severity
from ..platform.fact_fields import changes, gives, takes, unsaid
from ..platform.fields import Id, In, Name, Out
from ..platform.undo import UndoOut

_Key = Annotated[str, Field(min_length=1, max_length=200)]


@takes(Outing)
class OutingIn(In):
    pass


@changes(Outing)
class OutingPatch(In):
    """packed: keys ticked on the packing list. own_items: items added to it."""

    packed: Annotated[list[_Key], Field(max_length=500)] = unsaid()
    own_items: Annotated[list[Name], Field(max_length=MOST_OWN_ITEMS)] = unsaid()


@takes(OutingStop)
class StopIn(In):
    """shot_id: of a shot; location_id: of a place to scout; a rest has neither."""

    shot_id: Id | None = None
    location_id: Id | None = None


@changes(OutingStop, but=["kind"])
class StopPatch(In):
    """move: by a number of positions; the list is then kept in order."""

    move: Annotated[int, Field(ge=-30, le=30)] = 0


@gives(Outing)
class OutingFactsOut(Out):
    pass


@gives(OutingStop)
class StopOut(Out):
    """A stop.

    mark: of its light, water and way at its visit; null if it is left out. taken: its position in the order of visits,
    from 1; null if it is left out. Times are local, with the day where it is another.
    """

    id: int
    shot_id: int | None
    location_id: int | None
    name: str
    place: str
    latitude_deg: float | None
    longitude_deg: float | None
    taken: int | None
    mark: Mark | None
    after_clock_label: str | None
    before_clock_label: str | None
    arrive_clock: str | None
    begin_clock: str | None
    leave_clock: str | None
    window: str
    window_clock: str
    lasts_label: str
    promise: float | None


class PartOut(Out):
    """A part of the day clock, in hours after local midnight of the first day.

    label: time and words. stop: its index; null on the way home.
    """

    kind: str
    from_h: float
    to_h: float
    clock: str
    words: str
    label: str
    stop: int | None
    estimated: bool
    dark: bool


class StopWindowOut(Out):
    """When a stop may begin, in hours after local midnight of the first day.

    value: its promise, 0 to 1, times the stop's priority.
    """

    stop: int
    from_h: float
    to_h: float
    value: float
    name: str
    mark: Mark


class SkyBandOut(Out):
    kind: str
    from_h: float
    to_h: float


class WaterPointOut(Out):
    at_h: float
    height_m: float


class WaterOut(Out):
    """The tide over the day clock."""

    name: str
    points: list[WaterPointOut]


class OutingHourOut(Out):
    """An hour of the forecast at the first place: cloud and rain as drawn, and as text."""

    from_h: float
    cover: float
    rain_mm: float
    temperature_c: float
    gust_mps: float


class StopSpotOut(Out):
    """A stop from above [m east and north of the middle]. stop: its index."""

    stop: int
    name: str
    east_m: float
    north_m: float


class OutingReasonOut(Out):
    code: str
    severity: Severity
    text: str
    dial: str | None


class ItemOut(Out):
    key: str
    group: str
    name: str
    why: str
    packed: bool


class PlanBOut(Out):
    """Plan B of a stop.

    text: its rule. decided_h: after local midnight of the first day. times: from the decision on, as on the day clock;
    minded: stops that are left out, late or tight because of it. parts: of the day clock then; both empty if not
    known.
    """

    stop: int
    name: str
    text: str
    mark: Mark
    decided_h: float | None
    times: list[str]
    minded: list[OutingReasonOut]
    parts: list[PartOut]


class OutingOut(Out):
    """An outing.

    mark, verdict: of the whole. order: indices of the stops in order of visits. from_h, to_h: span of the day clock.
    """

    id: int
    facts: OutingFactsOut
    labels: dict[str, str]
    stops: list[StopOut]
    parts: list[PartOut]
    windows: list[StopWindowOut]
    order: list[int]
    mark: Mark
    verdict: str
    because: list[OutingReasonOut]
    leave_clock: str | None
    back_clock: str | None
    walk_label: str
    from_h: float
    to_h: float
    bands: list[SkyBandOut]
    tide: WaterOut | None
    weather: list[OutingHourOut]
    spots: list[StopSpotOut]
    packing: list[ItemOut]
    own_items: list[str]
    plans_b: list[PlanBOut]
    cautions: list[str]
    undo: UndoOut


class OutingLineOut(Out):
    id: int
    name: str
    date_local: str
    days: int
    stops: list[str]


class OutingsOut(Out):
    outings: list[OutingLineOut]
    undo: UndoOut
