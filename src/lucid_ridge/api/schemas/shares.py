"""Links by which field cards are read by others."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from ...operations.shares import LONGEST_DAYS
from ...store.shares import Where
from .accounts import Secret
from .fields import In, Out
from .general import CardContentOut


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


class SharedOut(Out):
    """The cards that a link tells, in their order. title: of the outing, or of the one card."""

    title: str
    cards: list[SharedCardOut]
    until_words: str
