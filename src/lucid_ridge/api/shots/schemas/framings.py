"""Stored framings, and the photograph behind the finder."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import Field

from ....core.facts.choices import FRAMED, FrameChoices, ShotHead
from ....core.facts.declaring import facts_of
from ...platform.fact_fields import changes
from ...platform.fields import Angle, Bearing, In, LengthMm, Name, Out, Share
from .plan import VerdictOut


class MiniatureOut(Out):
    """A miniature finder, one wide and one high: paths, the ground first, then the things on it, farthest first.

    picture: the scene in tones as a data URL, if its light is known.
    """

    aspect: float
    shapes: list[MiniatureShapeOut]
    ground: str
    picture: str | None = None


class MiniatureShapeOut(Out):
    shape: str
    distance_m: float
    outline: str


class FramingIn(In):
    name: Name


@changes(ShotHead, but=[name for name in facts_of(ShotHead) if name not in FRAMED])
@changes(FrameChoices, but=[name for name in facts_of(FrameChoices) if name not in FRAMED])
class FramingChoices(In):
    """The choices of an earlier framing; null clears a value."""


class FramingOut(Out):
    """A framing with the shot's other current facts. id null: an earlier framing. now: the current one."""

    id: int | None
    label: str
    made_at_utc: datetime
    clock: str
    words: str
    verdict: VerdictOut
    collisions: int
    miniature: MiniatureOut | None
    choices: FramingChoices
    now: bool


class FramingsOut(Out):
    kept: list[FramingOut]
    walk: list[FramingOut]


class BackdropPatch(In):
    focal_mm: Annotated[LengthMm, Field(ge=1, le=3000)] = 24.0
    sensor_width_mm: Annotated[LengthMm, Field(ge=1, le=400)] = 36.0
    sensor_height_mm: Annotated[LengthMm, Field(ge=1, le=400)] = 24.0
    bearing_deg: Bearing = 0.0
    pitch_deg: Annotated[Angle, Field(ge=-90, le=90)] = 0.0
    opacity: Annotated[Share, Field(ge=0.05, le=1)] = 0.6


class BackdropOut(Out):
    """A backdrop.

    corners: directions from the camera, as distant points [m; east, north, up], of the picture's top left, top right,
    bottom right, bottom left.
    """

    name: str
    url: str
    pixels_wide: int
    pixels_high: int
    focal_mm: float
    focal_source: str
    sensor_width_mm: float
    sensor_height_mm: float
    bearing_deg: float
    pitch_deg: float
    opacity: float
    corners: list[list[float]]
