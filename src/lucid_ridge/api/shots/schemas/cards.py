"""Field cards."""

from __future__ import annotations

from datetime import datetime

from ...platform.fields import Out


class CardFrameOut(Out):
    """A frame. aim: bearing and pitch in a panorama, else empty. note: what changes from the first frame."""

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
    """Frames that differ in one thing only, in one line. group: the index of their group."""

    first: int
    last: int
    group: int
    aim: str
    focus: str
    shutter: str
    note: str
    at: str


class CardGroupOut(Out):
    """A group of frames. waits: it begins at a moment of its own. steps: how it is put together."""

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
    """The content of a card.

    picture: a small PNG as a data URL. way, plan_b, bring, rig, held, stack, flash, checks, picture, settings: empty
    on cards of earlier versions. outing: that the card was made for; empty for the shot's own time.
    """

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
