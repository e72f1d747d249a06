"""The log: entries, their frames, what it comes to and what it teaches."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import Field, NaiveDatetime

from ....core.facts.calibrations import CalibrationKind, CalibrationState
from ....core.facts.log import LogWords, Outcome, WentWrong
from ....core.planning.verdicts import Severity
from ...platform.fact_fields import changes, gives, takes, unsaid
from ...platform.fields import Id, In, Out, QueryId
from ...platform.undo import UndoOut

_Wrongs = Annotated[list[WentWrong], Field(max_length=len(WentWrong))]
_OfSide = Annotated[float, Field(ge=0, le=1)]
_Hash = Annotated[str, Field(pattern="^[0-9a-f]{64}$")]
_Key = Annotated[str, Field(min_length=1, max_length=40)]


class LogQueryIn(In):
    """What entries are sought by; empty: anything."""

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
    """shot_id: of which shot; its plan is kept beside. location_id: where no shot was planned."""

    shot_id: Id | None = None
    location_id: Id | None = None
    went_wrong: _Wrongs = []


@changes(LogWords)
class LogEntryPatch(In):
    went_wrong: _Wrongs = unsaid()


class LogFramePatch(In):
    """stars: of this frame's look, null takes them back.

    planned_key: which planned frame it is, null for none of them; entry_id: of another entry. streak_line: along a
    streak of moving water on the picture, from x and y to x and y as shares of width and height; or seen_share: its
    length as a share of the short side. null takes it back.

    """

    seen_share: Annotated[float, Field(gt=0, le=100)] | None = unsaid()
    streak_line: Annotated[list[_OfSide], Field(min_length=4, max_length=4)] | None = unsaid()
    stars: Annotated[int, Field(ge=1, le=5)] | None = unsaid()
    curation: Outcome = unsaid()
    planned_key: _Key | None = unsaid()
    entry_id: Id = unsaid()


class WaitingPatch(In):
    """clock: by the camera's time at the place, of a file that does not say.

    entry_id: to which entry it belongs; after_frame_id: the frame of that entry after which it was taken.

    """

    clock: NaiveDatetime = unsaid()
    entry_id: Id = unsaid()
    after_frame_id: Id | None = unsaid()


class OfShotIn(In):
    shot_id: Id


class WaitingFileOut(Out):
    """A file that waits to be sorted.

    clock: as its camera's clock stood, null where the file does not say; why: what it waits for.

    """

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
    """matched: for sure; asked: to be looked at; unplanned: of no plan. words: all that in a sentence."""

    matched: int
    asked: int
    unplanned: int
    words: str


class FindingOut(Out):
    severity: Severity
    text: str


class LogLineOut(Out):
    """An entry as it is listed.

    best_frame_id: of the frame that stands for it, stars: of that frame; plan_picture: whether there is one; told:
    what its files say against it, null where nothing does.

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
    """A page of the log. kinds: what entries can be found by; waiting: files that are read in and not sorted yet."""

    entries: list[LogLineOut]
    total: int
    kinds: LogKindsOut
    waiting: int
    went_wrong: list[WentWrong]
    undo: UndoOut


class LogFrameOut(Out):
    """A frame.

    planned: the words of the planned frame it is; labels as the trade writes them; planned_settings: of the planned
    frame, differs: where those taken are others; preview: whether there is a small picture; measurable: whether a
    streak can be measured on it.

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
    """Something that lasted on the strip.

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
    """A session on one clock: what was planned, empty where that was another day, and what was taken."""

    ticks: list[ClockTickOut]
    planned: list[SpellOut]
    taken: list[SpellOut]


@gives(LogWords)
class LogEntryOut(Out):
    """An entry with its frames.

    planned: frames of its plan; findings: what its files say. photos: events of the field that hold a photograph of
    the scene.

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
    reckoned: float


class ErrorPointOut(Out):
    frame_id: int
    number: int
    at_utc: datetime
    error_ev: float
    predicted: bool
    middle: float


class MeasuredOut(Out):
    """Something measured from the log, proposed or not. low, high: at 95 %, null where they are not known."""

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
    """low, high: of the share, at 95 %."""

    kept: int
    said: int
    low: float
    high: float


class LogFiguresOut(Out):
    """promising, doubtful: of light that was promised so, how often it had four stars and more.

    middle_ev: median absolute error of the newest predictions; window: how many these are. sharp_*: of frames that
    stood, how many were sharp of those judged. behind: entries that are not worked out yet: asked again, more are.

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
    """words: what it says and on what it rests, as a sentence."""

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
    """behind: entries that are not worked out yet; learning again goes on with them."""

    behind: int = 0
    calibrations: list[CalibrationOut]
    undo: UndoOut


class CalibrationPatch(In):
    state: CalibrationState
