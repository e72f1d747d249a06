"""Markings, the photographer, field cards."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import Field

from ...core.units.spelling import DayOrder, DialSteps, Hours, Lengths
from ...store.photographer import Theme
from .fields import In, LengthMm, Minutes, Out


class HealthOut(Out):
    status: str


class RevisionOut(Out):
    """revision grows with every write into the notebook; notebook is the token of this one."""

    revision: int
    notebook: str


class MarkingOut(Out):
    value: float
    label: str


class MarkingsOut(Out):
    """The trade's detents for the dials, exact values with their engraved figures."""

    shutters: list[MarkingOut]
    apertures: list[MarkingOut]
    isos: list[MarkingOut]
    focals: list[MarkingOut]


class WeightOut(Out):
    """A factor of the promise: its weight in force and the model's own."""

    name: str
    weight: float
    model_weight: float


class PhotographerOut(Out):
    id: int
    name: str
    theme: Theme
    lengths: Lengths
    hours: Hours
    day_order: DayOrder
    dial_steps: DialSteps
    set_up_min: float
    reserve_min: float
    thumb_mm: float
    arm_mm: float
    thumb_deg: float
    polariser_from_mm: float | None
    weights: list[WeightOut]


class PhotographerPatch(In):
    """set_up_min before the light; reserve_min for the drive; thumb_mm wide at arm_mm from the eye; polariser_from_mm: no polariser on
    lenses that are wider, as on 36 × 24 mm; promise_weights by factor, 0 to 100."""

    theme: Theme = Theme.GRAPHITE
    lengths: Lengths = Lengths.METRES
    hours: Hours = Hours.TWENTY_FOUR
    day_order: DayOrder = DayOrder.DAY_FIRST
    dial_steps: DialSteps = DialSteps.THIRDS
    set_up_min: Annotated[Minutes, Field(ge=0, le=600)] = 20.0
    reserve_min: Annotated[Minutes, Field(ge=0, le=600)] = 15.0
    thumb_mm: Annotated[LengthMm, Field(ge=1, le=100)] = 22.0
    arm_mm: Annotated[LengthMm, Field(ge=100, le=1200)] = 630.0
    polariser_from_mm: Annotated[LengthMm | None, Field(ge=8, le=200)] = None
    promise_weights: dict[str, float] = {}


class CardFrameOut(Out):
    """aim: bearing and pitch of a panorama's frame, empty in a shot of one aim. note: what is changed against the first frame."""

    number: int
    aim: str = ""
    focus_index: int
    focus: str
    aperture: str
    shutter: str
    shutter_s: float
    iso: str
    offset: str
    at: str
    note: str = ""


class CardLineOut(Out):
    """Frames that differ by one thing only, in one line. group: where their group stands in the list."""

    first: int
    last: int
    group: int
    aim: str
    focus: str
    shutter: str
    note: str
    at: str


class CardGroupOut(Out):
    """A group of frames. waits: it begins at a moment of its own. steps: how it is put together later."""

    name: str
    first: int
    last: int
    starts: str
    waits: bool
    steps: list[str]


class CardLegOut(Out):
    """A leg of the way to the shot and back."""

    name: str
    start: str
    end: str
    dark: bool


class CardCheckOut(Out):
    what: str
    distance: str
    when_soft: str


class CardSettingOut(Out):
    name: str
    value: str


class CardContentOut(Out):
    """picture: a small PNG in a URL. way, plan_b, bring, rig, held, stack, flash, checks, picture, settings: empty on cards that were made before they stood there. outing: for which the card was made; empty: for the shot's own time."""

    name: str
    outing: str = ""
    intent: str
    location: str | None
    viewpoint: str | None
    date: str | None
    start: str | None
    end: str | None
    light: str
    way: list[CardLegOut] = []
    plan_b: str = ""
    bring: str = ""
    light_ends: str | None
    total: str
    body: str
    lens: str
    framing: str
    filters: list[str]
    rig: list[str] = []
    held: str = ""
    stack: str = ""
    flash: str = ""
    checks: list[CardCheckOut] = []
    predicted: bool
    bracket_automatic: bool | None
    range: str
    frames: list[CardFrameOut]
    groups: list[CardGroupOut] = []
    lines: list[CardLineOut] = []
    picture: str | None = None
    settings: list[CardSettingOut] = []
    cautions: list[str]
    warnings: list[str]


class CardOut(Out):
    id: int
    shot_id: int
    made_at_utc: datetime
    version: int
    stale: bool
    content: CardContentOut


class ReadArchiveOut(Out):
    """How much of an archive is new here, how many rows were here already, and the same as a sentence."""

    rows: int
    shots: int
    known: int
    words: str
