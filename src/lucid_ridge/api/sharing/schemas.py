"""Share links to field cards or a location, and copies from them."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from ...operations.sharing.shares import LONGEST_DAYS
from ...store.sharing import Where
from ..accounts.schemas import Secret
from ..places.schemas import SketchOut
from ..platform.fields import In, Out
from ..shots.schemas.cards import CardContentOut


class ShareIn(In):
    """days: how long the link is valid."""

    where: Where = Where.HIDDEN
    days: Annotated[int, Field(ge=1, le=LONGEST_DAYS)] = 14


class ShareOut(Out):
    """path: of the shared page, with its token."""

    id: int
    path: str
    where: Where
    until_words: str


class ShareWayOut(Out):
    """A way to show the place, with a sentence on what it reveals."""

    where: Where
    label: str
    tells: str


class SharesOut(Out):
    """The valid links; what a link may show of the place, and for how many days it may be valid."""

    shares: list[ShareOut]
    ways: list[ShareWayOut]
    longest_days: int


class SharedIn(In):
    token: Secret


class SharedCardOut(Out):
    """A shared card. number: its position, from 1. position_words: where, if shown."""

    number: int
    content: CardContentOut
    position_words: str


class SharedPartOut(Out):
    """A part of a place's description, with its lines."""

    title: str
    lines: list[str]


class SharedSeenOut(Out):
    """An element of a viewpoint. told: its kind, and its bearing and distance if shown."""

    name: str
    told: str


class SharedViewpointOut(Out):
    name: str
    position_words: str
    notes: str
    seen: list[SharedSeenOut]


class SharedLocationOut(Out):
    """A shared location. sketch: from above, if the place itself is shown."""

    position_words: str
    sketch: SketchOut | None
    notes: str
    parts: list[SharedPartOut]
    viewpoints: list[SharedViewpointOut]


class SharedOut(Out):
    """What a link shows: cards in order, or a location.

    title: of the outing, the card or the place. copied: whether it may be copied.
    """

    title: str
    cards: list[SharedCardOut]
    location: SharedLocationOut | None
    copied: bool
    until_words: str


class CopiedOut(Out):
    """path: of the copy; words: the result."""

    path: str
    words: str
