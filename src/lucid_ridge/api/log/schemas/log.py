"""The log: entries, frames, figures and lessons."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import BeforeValidator, Field, JsonValue, NaiveDatetime

from ....core.facts.calibrations import CalibrationKind, CalibrationState
from ....core.facts.log import LogWords, Outcome, WentWrong
from ....core.planning.reasons import plain_figures
from ....core.planning.verdicts import Severity
from ...platform.fact_fields import changes, gives, takes, unsaid
from ...platform.fields import Id, In, Out, QueryId
from ...platform.undo import UndoOut

_Wrongs = Annotated[list[WentWrong], Field(max_length=len(WentWrong))]
_OfSide = Annotated[float, Field(ge=0, le=1)]
_Hash = Annotated[str, Field(pattern="^[0-9a-f]{64}$")]
_Key = Annotated[str, Field(min_length=1, max_length=40)]


class LogQueryIn(In):
    """A search for entries; empty fields match everything."""

    words: Annotated[str, Field(max_length=200)] = ""
    location_id: QueryId | None = None
    subject: Annotated[str, Field(max_length=200)] = ""
    light: Annotated[str, Field(max_length=200)] = ""
    look: Annotated[str, Field(max_length=200)] = ""
    lens: Annotated[str, Field(max_length=200)] = ""
    outcome: Outcome | None = None
    archived: bool = False
    offset: Annotated[int, Field(ge=0, le=1_000_000)] = 0
    limit: Annotated[int, Field(ge=1, le=200)] = 60


@takes(LogWords)
class LogEntryIn(In):
    """shot_id: the shot, whose plan is stored. location_id: the place if no shot was planned."""

    shot_id: Id | None = None
    location_id: Id | None = None
    went_wrong: _Wrongs = []


@changes(LogWords)
class LogEntryPatch(In):
    went_wrong: _Wrongs = unsaid()


class LogFramePatch(In):
    """An edit of a frame. stars: of its look, null removes them.

    planned_key: its planned frame, null for none; entry_id: another entry. streak_line: along a streak of moving
    water, from x and y to x and y as shares of width and height; or seen_share: its length as a share of the short
    side; null removes it.
    """

    seen_share: Annotated[float, Field(gt=0, le=100)] | None = unsaid()
    streak_line: Annotated[list[_OfSide], Field(min_length=4, max_length=4)] | None = unsaid()
    stars: Annotated[int, Field(ge=1, le=5)] | None = unsaid()
    curation: Outcome = unsaid()
    planned_key: _Key | None = unsaid()
    entry_id: Id = unsaid()


class WaitingPatch(In):
    """An edit of a waiting file.

    clock: camera time at the place, for a file without one. entry_id: its entry; after_frame_id: the frame of that
    entry after which it was taken.
    """

    clock: NaiveDatetime = unsaid()
    entry_id: Id = unsaid()
    after_frame_id: Id | None = unsaid()


class OfShotIn(In):
    shot_id: Id


class WaitingFileOut(Out):
    """A file waiting to be sorted. clock: its camera time, null if the file has none; why: what it waits for."""

    id: int
    file_name: str
    clock: str | None
    camera: str
    settings: str
    why: str


class WaitingOut(Out):
    files: list[WaitingFileOut]
    undo: UndoOut


class HashesIn(In):
    sha256: Annotated[list[_Hash], Field(max_length=2000)]


class HashesOut(Out):
    """known: files that the log has already."""

    known: list[str]


class ReadInOut(Out):
    frame_id: int
    known: bool
    file_name: str


class SortedOut(Out):
    """Result of sorting.

    matched: with certainty; asked: to be confirmed; unplanned: without a plan. words: a summary.
    """

    matched: int
    asked: int
    unplanned: int
    words: str


class FindingOut(Out):
    """What the files say beside the plan. code: stable name of the finding; figures: what its sentence is made from."""

    code: str
    severity: Severity
    text: str
    figures: Annotated[dict[str, JsonValue], BeforeValidator(plain_figures)]


class LogLineOut(Out):
    """An entry in the list.

    best_frame_id: its representative frame, stars: of that frame; plan_picture: whether there is one; told: the most
    important finding, null if there is none.
    """

    id: int
    name: str
    place: str
    taken_words: str
    subject: str
    look: str
    light_kind: str
    outcome: Outcome
    joy_stars: int | None
    frames: int
    files: int
    best_frame_id: int | None
    stars: int | None
    plan_picture: bool
    told: FindingOut | None


class LogKindsOut(Out):
    subject: list[str]
    light: list[str]
    look: list[str]
    lens: list[str]


class LogOut(Out):
    """A page of the log. kinds: values that entries can be filtered by; waiting: number of files not sorted yet."""

    entries: list[LogLineOut]
    total: int
    kinds: LogKindsOut
    waiting: int
    went_wrong: list[WentWrong]
    undo: UndoOut


class LogFrameOut(Out):
    """A frame.

    planned: its planned frame in words; labels as engraved; planned_settings: of the planned frame, differs: those
    that were taken otherwise; preview: whether there is a small picture; measurable: whether a streak can be measured
    on it.
    """

    id: int
    planned_key: str | None
    planned: str
    matched: str
    taken_clock: str
    aperture: str
    shutter: str
    iso: str
    planned_settings: str
    differs: str
    camera: str
    filters: list[str]
    look: str
    streak_share: float | None
    file_name: str
    error_words: str
    clipped_words: str
    blur_words: str
    group_kind: str
    group_number: int
    stars: int | None
    curation: Outcome
    preview: bool
    measurable: bool
    streak_line: list[float] | None
    seen_share: float | None
    streak_words: str


class PlannedFrameOut(Out):
    key: str
    words: str


class SpellOut(Out):
    """A span on the strip.

    from_share, to_share: of its length; number: of a planned frame, 0 otherwise; words: with its time.
    """

    kind: Literal["way", "set up", "frame"]
    from_share: float
    to_share: float
    number: int
    words: str


class ClockTickOut(Out):
    share: float
    clock: str


class SessionStripOut(Out):
    """A session on one clock: what was planned, empty if on another day, and what was taken."""

    ticks: list[ClockTickOut]
    planned: list[SpellOut]
    taken: list[SpellOut]


@gives(LogWords)
class LogEntryOut(Out):
    """An entry with its frames.

    planned: frames of its plan; findings: of its files. photos: events with a photograph of the scene.
    """

    id: int
    shot_id: int | None
    location_id: int | None
    place: str
    subject: str
    lens: str
    light_kind: str
    look: str
    taken_words: str
    went_wrong: list[WentWrong]
    frames: list[LogFrameOut]
    planned: list[PlannedFrameOut]
    findings: list[FindingOut]
    plan_picture: bool
    strip: SessionStripOut | None
    photos: list[str]
    undo: UndoOut


class TakenPointOut(Out):
    entry_id: int
    day: int
    hour: float
    outcome: Outcome
    name: str


class LogLookOut(Out):
    frame_id: int
    streak_share: float
    stars: int
    wanted_look: str


class LogBandOut(Out):
    name: str
    low_share: float
    high_share: float
    own_low_share: float
    own_high_share: float


class HeldClassOut(Out):
    over_stops: float
    label: str
    sharp: int
    tries: int
    low: float
    high: float
    expected: float
    corrected: float


class ErrorPointOut(Out):
    frame_id: int
    number: int
    at_utc: datetime
    error_ev: float
    predicted: bool
    middle: float


class MeasuredOut(Out):
    """A measurement from the log, proposed or not. low, high: its 95 % interval, null if not known."""

    kind: CalibrationKind
    name: str
    told: float
    value: float
    low: float | None
    high: float | None
    frames: int
    worth: bool
    figure: str
    told_figure: str
    between: str


class LightPointOut(Out):
    """promise: of the forecast, 0 to 100."""

    entry_id: int
    promise: float
    stars: int
    name: str


class LastedPointOut(Out):
    entry_id: int
    what: CalibrationKind
    planned_min: float
    took_min: float
    name: str


class CountedOut(Out):
    """low, high: 95 % interval of the share."""

    kept: int
    said: int
    low: float
    high: float


class LogFiguresOut(Out):
    """Figures of the log. promising, doubtful: how often light with such a promise got four stars or more.

    middle_ev: median absolute error of the newest predictions; window: their number. sharp_*: of judged frames taken
    from a support, how many were sharp. behind: entries not counted yet; ask again.
    """

    taken: list[TakenPointOut]
    looks: list[LogLookOut]
    bands: list[LogBandOut]
    held: list[HeldClassOut]
    errors: list[ErrorPointOut]
    measured: list[MeasuredOut]
    middle_ev: float | None
    window: int
    sharp: int
    sharp_of: int
    sharp_low: float
    sharp_high: float
    outcomes: dict[str, int]
    light: list[LightPointOut]
    promising: CountedOut
    doubtful: CountedOut
    lasted: list[LastedPointOut]
    behind: int


class CalibrationOut(Out):
    """A calibration. words: its content and evidence, as a sentence."""

    id: int
    kind: CalibrationKind
    name: str
    told: float
    value: float
    low: float | None
    high: float | None
    frames: int
    state: CalibrationState
    figure: str
    words: str
    evidence: list[int]


class CalibrationsOut(Out):
    """behind: entries not counted yet; learning again continues with them."""

    behind: int = 0
    calibrations: list[CalibrationOut]
    undo: UndoOut


class CalibrationPatch(In):
    state: CalibrationState
