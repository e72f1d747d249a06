"""Sharing a field card by a link: who has the link reads it until a date, with as much of the place as its owner says."""

from __future__ import annotations

import re
import secrets
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import cast

from sqlalchemy import delete, select
from sqlalchemy.orm import Session

from ..core.ground.blurring import rough_position
from ..core.planning.way import DRIVE
from ..store.places import Element, Location, Viewpoint
from ..store.shares import Share, Where
from ..store.shots import FieldCard, Shot
from .cards import get_card
from .errors import NotFound, Refused
from .skylines import position_of

LONGEST_DAYS = 366
# What stands for a name that is not told.
_MASK = "…"
# Beside the names of the place all that is written freely, or names other places.
_NAMING: dict[str, object] = {"location": None, "viewpoint": None, "plan_b": "", "bring": "", "intent": "", "cautions": [], "warnings": []}


@dataclass(frozen=True)
class Shared:
    """A card as a link tells it. position: latitude and longitude [degrees]; rough: it is the middle of a wide cell."""

    content: dict[str, object]
    position: tuple[float, float] | None
    rough: bool
    until_utc: datetime


def share_card(session: Session, owner_id: int, card_id: int, where: Where, days: int, now: datetime) -> Share:
    """Make a link to a card. Raises NotFound, Refused for a time that cannot be."""
    card, _ = get_card(session, owner_id, card_id)
    if not 1 <= days <= LONGEST_DAYS:
        raise Refused("days", f"A link holds for 1 to {LONGEST_DAYS} days.")
    made = Share(
        card_id=card.id, token=secrets.token_urlsafe(24), where_told=where, made_at_utc=now, until_utc=now + timedelta(days=days)
    )  # fmt: skip
    session.add(made)
    session.flush()
    return made


def shares_of(session: Session, owner_id: int, card_id: int, now: datetime) -> Sequence[Share]:
    """Return the links to a card that still hold. Raises NotFound."""
    card, _ = get_card(session, owner_id, card_id)
    session.execute(delete(Share).where(Share.card_id == card.id, Share.until_utc <= now))
    return session.scalars(select(Share).where(Share.card_id == card.id).order_by(Share.id)).all()


def end_share(session: Session, owner_id: int, share_id: int) -> None:
    """Let a link hold no longer. Raises NotFound."""
    mine = select(Share).join(FieldCard).join(Shot).where(Share.id == share_id, Shot.owner_id == owner_id)
    row = session.scalars(mine).first()
    if row is None:
        raise NotFound("link")
    session.delete(row)


def read_share(session: Session, token: str, now: datetime) -> Shared:
    """Return what a link tells. Raises Refused for one that does not hold."""
    row = session.scalars(select(Share).where(Share.token == token, Share.until_utc > now)).first()
    if row is None:
        raise Refused("token", "This link does not hold any more: its time is over, or it was ended.")
    card = session.get_one(FieldCard, row.card_id)
    shot = session.get_one(Shot, card.shot_id)
    position = _position(shot) if row.where_told is not Where.HIDDEN else None
    rough = row.where_told is Where.ROUGH
    return Shared(
        told(card.content, row.where_told, _names(session, shot, card.content)), rough_position(*position) if position and rough else position, rough, row.until_utc
    )  # fmt: skip


def told(content: Mapping[str, object], where: Where, names: Collection[str]) -> dict[str, object]:
    """Return what of a card's content is told; when one leaves home never is. names: of the place and of what is seen there, which stand in sentences too."""
    here = _without_home(content)
    if where is Where.EXACT:
        return here
    longest_first = sorted((name for name in names if name.strip()), key=len, reverse=True)
    named = re.compile("|".join(re.escape(name) for name in longest_first), re.IGNORECASE) if longest_first else None
    return {name: _masked(value, named) if named else value for name, value in here.items()} | _NAMING


def _without_home(content: Mapping[str, object]) -> dict[str, object]:
    """Return a card's content without the way, and without a sentence in which the time of leaving home stands."""
    way = cast(Sequence[Mapping[str, object]], content.get("way") or [])
    leaves = str(way[0]["start"]) if way and way[0]["name"] == DRIVE else None
    kept = {**content, "way": []}
    for listed in ("cautions", "warnings") if leaves else ():
        kept[listed] = [text for text in cast(Sequence[str], content.get(listed) or []) if str(leaves) not in text]
    return kept


def _masked(value: object, named: re.Pattern[str]) -> object:
    if isinstance(value, str):
        # A picture is no sentence, and much longer than one.
        return value if value.startswith("data:") else named.sub(_MASK, value)
    if isinstance(value, list):
        return [_masked(item, named) for item in value]
    if isinstance(value, dict):
        return {key: _masked(item, named) for key, item in value.items()}
    return value


def _names(session: Session, shot: Shot, content: Mapping[str, object]) -> set[str]:
    """Return every name of the owner's places, as they are called now and as the card calls its own."""
    names = {str(content[name]) for name in ("location", "viewpoint") if content.get(name)}
    for column in (Location.name, Viewpoint.name, Element.name):
        query = select(column).select_from(Location).outerjoin(Viewpoint).outerjoin(Element).where(Location.owner_id == shot.owner_id)
        names |= {name for name in session.scalars(query) if name}
    return names


def _position(shot: Shot) -> tuple[float, float] | None:
    return position_of(shot.viewpoint) if shot.viewpoint else None
