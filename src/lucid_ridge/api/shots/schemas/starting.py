"""A new shot from a kind of picture."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated

from pydantic import Field

from ...platform.fields import Id, In, Instant, Name, Out, Position, QueryId

Key = Annotated[str, Field(max_length=40)]


class StartLightQuery(In):
    """When the light of a kind comes. day: "tomorrow", "sat", "next new moon", a date; without it from now on."""

    kind: Key
    viewpoint_id: QueryId | None = None
    coordinates: Position | None = None
    day: Annotated[str | None, Field(max_length=60)] = None


class StartIn(In):
    """A new shot. kind: empty for none. *_preset: keys of usual kit to add where no id is given."""

    kind: Key = ""
    name: Name | None = None
    viewpoint_id: Id | None = None
    coordinates: Position | None = None
    place_name: Name | None = None
    day: Annotated[str | None, Field(max_length=60)] = None
    start_utc: Instant | None = None
    body_id: Id | None = None
    body_preset: Key | None = None
    lens_id: Id | None = None
    lens_preset: Key | None = None
    support_preset: Key | None = None


class PictureKindOut(Out):
    """lens_id: of the bag's lens that suits it; lens_preset: of a usual one that does."""

    key: str
    label: str
    words: str
    lens_id: int | None
    lens_preset: str


class PictureKindsOut(Out):
    kinds: list[PictureKindOut]


class StartTimeOut(Out):
    """words: "Thu 3 Dec, 15:49 to 16:17, glow"."""

    start_utc: datetime
    date_local: date
    words: str


class StartLightOut(Out):
    """times: the soonest first; empty where the light does not come within 60 days, which words then says."""

    place: str
    times: list[StartTimeOut]
    words: str
