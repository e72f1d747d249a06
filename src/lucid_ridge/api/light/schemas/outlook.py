"""Which place on a day."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated

from pydantic import Field

from ....core.planning.verdicts import Mark
from ...platform.fields import Day, In, Out
from .light import CautionOut, PromiseOut


class OutlookQuery(In):
    """So many local days from a date on."""

    from_date: Day
    days: Annotated[int, Field(ge=1, le=7)] = 1


class LaneLegOut(Out):
    """A leg of the way in hours after the first midnight of the place; name as in the way of a shot, or "light"."""

    name: str
    from_h: float
    to_h: float
    words: str
    dark: bool


class ProspectOut(Out):
    """A shot, or a location without shots (shot_id null), with its best window in these days: from the first start to
    the end of the last frames.

    mark: holds, or unsaid where the tide then is not known. sought_words: which light is looked for, and why. travel:
    the group by the drive from home.
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
    """A location of which something is not known for these days: forecast or drive."""

    location_id: int
    name: str


class TidelessOut(BareOut):
    """A location whose tide is known for some of these days only, or for none."""

    known_words: str


class OutlookJobOut(Out):
    """The job that works the answer out. progress: 0 to 1."""

    job_id: int
    progress: float


class OutlookOut(Out):
    """pending: a job works it out anew; what is here meanwhile is the last answer for these dates, or nothing.

    best first. words: what was looked at. days: the dates as the lanes show them.

    """

    best: list[ProspectOut]
    fallen: list[FallenOut]
    words: str
    without_forecast: list[BareOut]
    without_drive: list[BareOut]
    without_tide: list[TidelessOut]
    days: list[str]
    pending: OutlookJobOut | None
