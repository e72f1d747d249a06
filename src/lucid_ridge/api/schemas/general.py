"""Markings, the photographer, field cards."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from .fields import In, Out

Theme = Literal["graphite", "paper", "ember"]


class HealthOut(Out):
    status: str


class MarkingOut(Out):
    value: float
    label: str


class MarkingsOut(Out):
    """The trade's detents for the dials, exact values with their engraved figures."""

    shutters: list[MarkingOut]
    apertures: list[MarkingOut]
    isos: list[MarkingOut]
    focals: list[MarkingOut]


class PhotographerOut(Out):
    id: int
    name: str
    theme: Theme


class PhotographerPatch(In):
    theme: Theme


class CardFrameOut(Out):
    number: int
    focus_index: int
    focus: str
    aperture: str
    shutter: str
    shutter_s: float
    iso: str
    offset: str
    at: str


class CardContentOut(Out):
    name: str
    intent: str
    location: str | None
    viewpoint: str | None
    date: str | None
    start: str | None
    end: str | None
    light: str
    light_ends: str | None
    total: str
    body: str
    lens: str
    framing: str
    filters: list[str]
    predicted: bool
    bracket_automatic: bool | None
    range: str
    frames: list[CardFrameOut]
    cautions: list[str]
    warnings: list[str]


class CardOut(Out):
    id: int
    shot_id: int
    made_at_utc: datetime
    version: int
    stale: bool
    content: CardContentOut
