"""The ranking of places on given days."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated

from pydantic import Field

from ....core.planning.verdicts import Mark
from ...platform.fields import Day, In, Out
from .light import CautionOut, PromiseOut


class OutlookQuery(In):
    """A number of local days from a date."""

    from_date: Day
    days: Annotated[int, Field(ge=1, le=7)] = 1


class LaneLegOut(Out):
    """A leg of the way in hours after the first local midnight; name as in a shot's way, or "light"."""

    name: str
    from_h: float
    to_h: float
    words: str
    dark: bool


class ProspectOut(Out):
    """A shot, or a location without shots (shot_id null), with its best window: from the first start to the end of the
    last frames.

    mark: holds, or unsaid if the tide is not known. sought_words: the light looked for, and why. travel: the group by
    the drive from home.
    """

    shot_id: int | None
    location_id: int
    name: str
    place: str
    kind: str
    mark: Mark
    wanted: bool
    sought_words: str
    travel: str
    drive_known: bool
    date_local: date
    date_words: str
    start_utc: datetime
    end_utc: datetime
    span_words: str
    leave_words: str
    way_words: str
    drive_words: str
    lane: list[LaneLegOut]
    promise: PromiseOut | None
    cautions: list[CautionOut]
    notes: list[str]
    access_checked: bool


class FallenOut(Out):
    shot_id: int | None
    location_id: int
    name: str
    place: str
    reason: str


class BareOut(Out):
    """A location with something missing for these days: forecast or drive."""

    location_id: int
    name: str


class TidelessOut(BareOut):
    """A location whose tide is known for only some of these days, or none."""

    known_words: str


class OutlookJobOut(Out):
    """The job that computes the answer. progress: 0 to 1."""

    job_id: int
    progress: float


class OutlookOut(Out):
    """The ranking.

    pending: a job recomputes it, and this is the last answer for these dates, or nothing. best first. words: what was
    ranked. days: the dates of the lanes.
    """

    best: list[ProspectOut]
    fallen: list[FallenOut]
    words: str
    without_forecast: list[BareOut]
    without_drive: list[BareOut]
    without_tide: list[TidelessOut]
    days: list[str]
    pending: OutlookJobOut | None
