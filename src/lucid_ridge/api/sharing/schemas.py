"""Links by which field cards or a location are read by others, and copied."""

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
    """days: how long the link holds."""

    where: Where = Where.HIDDEN
    days: Annotated[int, Field(ge=1, le=LONGEST_DAYS)] = 14


class ShareOut(Out):
    """path: of the page that shows it, with what opens it."""

    id: int
    path: str
    where: Where
    until_words: str


class ShareWayOut(Out):
    """One way to say where: what it tells, as a sentence."""

    where: Where
    label: str
    tells: str


class SharesOut(Out):
    """The links that hold; what a link may tell of the place, and how many days it may hold."""

    shares: list[ShareOut]
    ways: list[ShareWayOut]
    longest_days: int


class SharedIn(In):
    token: Secret


class SharedCardOut(Out):
    """A card as a link tells it. number: which of them it is, from 1. position_words: where, if it is told."""

    number: int
    content: CardContentOut
    position_words: str


class SharedPartOut(Out):
    """Something that is told of a place, with its lines."""

    title: str
    lines: list[str]


class SharedSeenOut(Out):
    """What is seen from a viewpoint. told: its kind, and where the link tells it its bearing and distance."""

    name: str
    told: str


class SharedViewpointOut(Out):
    name: str
    position_words: str
    notes: str
    seen: list[SharedSeenOut]


class SharedLocationOut(Out):
    """A location as a link tells it. sketch: from above, where the place itself is told."""

    position_words: str
    sketch: SketchOut | None
    notes: str
    parts: list[SharedPartOut]
    viewpoints: list[SharedViewpointOut]


class SharedOut(Out):
    """What a link tells: cards in their order, or a location.

    title: of the outing, the one card or the place. copied: whether it may be copied too.

    """

    title: str
    cards: list[SharedCardOut]
    location: SharedLocationOut | None
    copied: bool
    until_words: str


class CopiedOut(Out):
    """path: where what was copied stands now; words: what came of it."""

    path: str
    words: str
