"""The field: run sheets, events, and what was found."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any

from pydantic import Base64Bytes, BeforeValidator, Field

from ....core.facts.log import Rated
from ....core.field.events import EventKind
from ....core.field.run_sheet import PhaseKind
from ....core.planning.verdicts import Severity
from ...outings.schemas import ItemOut
from ...platform.fields import Aperture, Distance, Id, In, Instant, Iso, Minutes, Out, Shutter, Speed

_Uuid = Annotated[str, Field(pattern="^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$")]
_Text = Annotated[str, Field(max_length=5000)]


def _bare(value: Any) -> Any:
    """Return the part of a data URL after its head."""
    return value.partition(",")[2] if isinstance(value, str) and value.startswith("data:image/jpeg;base64,") else value


class FieldEventIn(In):
    """One event, with the id made by the device. image: a JPEG of the scene, in base64 or as a data URL."""

    id: _Uuid
    run_id: _Uuid
    device: Annotated[str, Field(min_length=1, max_length=100)]
    at_utc: Instant
    kind: EventKind
    frame: Annotated[str, Field(max_length=40)] | None = None
    count: Annotated[int, Field(ge=1, le=10_000)] = 1
    value: Annotated[float, Field(ge=-1e6, le=1e6)] | None = None
    text: _Text = ""
    refers: _Uuid | None = None
    f_number: Annotated[Aperture, Field(ge=0.5, le=128)] | None = None
    shutter_s: Annotated[Shutter, Field(gt=0, le=86_400)] | None = None
    iso: Annotated[Iso, Field(ge=1, le=1e7)] | None = None
    card_id: Id | None = None
    image: Annotated[Base64Bytes, BeforeValidator(_bare), Field(max_length=600_000)] | None = None


class FieldEventsIn(In):
    events: Annotated[list[FieldEventIn], Field(max_length=500)]


class KeptEventsOut(Out):
    """kept: ids that the server has stored; sending them again has no effect."""

    kept: list[str]


class FieldEventOut(Out):
    id: str
    run_id: str
    device: str
    at_utc: datetime
    kind: EventKind
    frame: str | None
    count: int
    value: float | None
    text: str
    refers: str | None
    f_number: float | None
    shutter_s: float | None
    iso: float | None


class FieldEventsOut(Out):
    events: list[FieldEventOut]


class DifferenceIn(In):
    """What was found.

    f_number, shutter_s, iso: a reading of the light without filters; all three or none. events: events of the field
    whose differences count instead. card_id: the card in use, whose time counts.
    """

    card_id: Id | None = None
    later_min: Annotated[Minutes, Field(ge=-1440, le=1440)] = 0.0
    f_number: Annotated[Aperture, Field(ge=0.5, le=128)] | None = None
    shutter_s: Annotated[Shutter, Field(gt=0, le=86_400)] | None = None
    iso: Annotated[Iso, Field(ge=1, le=1e7)] | None = None
    missing_filter_ids: Annotated[list[Id], Field(max_length=50)] = []
    wind_mps: Annotated[Speed, Field(ge=0, le=90)] | None = None
    element_id: Id | None = None
    distance_m: Annotated[Distance, Field(gt=0, le=1e6)] | None = None
    events: Annotated[list[FieldEventIn], Field(max_length=2000)] = []


class PhaseOut(Out):
    kind: PhaseKind
    words: str
    seconds: float
    at_s: float | None


class RunFrameOut(Out):
    """A frame of the run sheet: actions before it, figures that change, and phases to wait for.

    focus_at: what the focus figure refers to.
    """

    key: str
    number: int
    group: int
    aim: str
    focus_at: str
    focus: str
    aperture: str
    shutter: str
    shutter_s: float
    iso: str
    on_lens: list[str]
    actions: list[str]
    settings: list[str]
    phases: list[PhaseOut]
    start_s: float
    bulb: bool


class RunGroupOut(Out):
    at: int
    name: str


class TideTurnOut(Out):
    kind: str
    at_utc: str
    clock: str
    height: str


class TidePointOut(Out):
    at_utc: str
    height_m: float


class RunTideOut(Out):
    name: str
    points: list[TidePointOut]
    turns: list[TideTurnOut]


class RunCheckOut(Out):
    key: str
    words: str


class RunFocusCheckOut(Out):
    what: str
    distance: str
    when_soft: str


class RunFilterOut(Out):
    id: int
    name: str
    cost: str


class RunElementOut(Out):
    id: int
    name: str
    distance: str


class MeterMarkOut(Out):
    """A setting of a meter, and its contribution to the EV at ISO 100."""

    label: str
    ev: float


class RunMeterOut(Out):
    apertures: list[MeterMarkOut]
    shutters: list[MeterMarkOut]
    isos: list[MeterMarkOut]


class RunSetOut(Out):
    shutter: str
    shutter_s: float
    iso: str
    dark_s: float


class RunChangeOut(Out):
    """A plan of the tables: frames by key, each with the number of its settings.

    more: frames that the current plan does not have.
    """

    sets: list[RunSetOut]
    frames: dict[str, int]
    more: int
    mark: Severity
    words: str


class RunReadingOut(RunChangeOut):
    ev100: float


class RunReadingsOut(Out):
    """missing: ids of filters that are missing."""

    missing: list[int]
    rows: list[RunReadingOut]


class RunDelayOut(RunChangeOut):
    """A row of the table of delays.

    apart_stops: change of shutter times from the row before; null where not known, as in cards of earlier versions.
    """

    minutes: float
    ends: str
    apart_stops: float | None = None


class RunTablesOut(Out):
    planned_ev100: float | None
    readings: list[RunReadingsOut]
    delays: list[RunDelayOut]
    ends: str


class RunSheetOut(Out):
    """Everything needed to work through a plan offline.

    outing: that the card was made for; empty for the shot's own time.
    """

    version: int
    shot_id: int
    name: str
    outing: str = ""
    place: str
    date: str | None
    start_utc: str | None
    start_clock: str | None
    light_ends_utc: str | None
    light_ends_clock: str | None
    light_name: str
    lasts_s: float | None
    aim: str
    predicted: bool
    frames: list[RunFrameOut]
    last_actions: list[str]
    groups: list[RunGroupOut]
    tide: RunTideOut | None
    before: list[RunCheckOut]
    checks: list[RunFocusCheckOut]
    cautions: list[str]
    warnings: list[str]
    filters: list[RunFilterOut]
    elements: list[RunElementOut]
    meter: RunMeterOut
    tables: RunTablesOut


class CardRunOut(Out):
    """A card's run sheet. run_ids: field sessions with this card, latest first. aspects: what can be rated."""

    card_id: int
    shot_id: int
    stale: bool
    sheet: RunSheetOut
    run_ids: list[str]
    aspects: list[Rated]


class TakenAlongOut(Out):
    """The content of one offline file: its name, the times of the day, the packing list, and the cards in order."""

    name: str
    times: list[str]
    packing: list[ItemOut]
    cards: list[CardRunOut]


class OutingCardsOut(Out):
    """made: number of cards that an outing's shots have."""

    made: int
