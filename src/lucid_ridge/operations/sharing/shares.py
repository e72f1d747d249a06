"""Share links: to a field card, the cards of an outing, or a location.

Anyone with the link can read it until a date, with as much of the place as the owner allows.
"""

from __future__ import annotations

import re
import secrets
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import cast

from sqlalchemy import ColumnElement, delete, select
from sqlalchemy.orm import Session

from ...core.ground.blurring import rough_position
from ...core.planning.way.plan import DRIVE
from ...store.outings import Outing
from ...store.places import Element, Location, LocationGrid, Viewpoint
from ...store.sharing import Share, ShareCard, Where
from ...store.shots import FieldCard, Shot
from ..outings.cards import cards_of_outing, make_cards_of_outing
from ..outings.outings import see_outing
from ..places.skylines import position_of
from ..platform.errors import NotFound, Refused
from ..platform.rows import owned
from ..shots.cards import get_card
from .copies import Given, copy_given, given_location, given_shots
from .shared_location import SharedLocation, shared_location

LONGEST_DAYS = 366
NO_LINK = "This link has expired, was revoked, or its content was deleted."
# Replaces a name that is not shown.
_MASK = "…"
# Free text, and names of other places, are hidden together with the names of the place.
_NAMING: dict[str, object] = {
    "outing": "",
    "location": None,
    "viewpoint": None,
    "plan_b": "",
    "bring": "",
    "intent": "",
    "cautions": [],
    "warnings": [],
}


@dataclass(frozen=True)
class Shared:
    """A shared card. position: latitude and longitude [degrees]; rough: it is the middle of a wide cell."""

    content: dict[str, object]
    position: tuple[float, float] | None
    rough: bool


@dataclass(frozen=True)
class SharedCards:
    """What a link shows: cards in order, or a location.

    outing: its name, if shown. copied: whether it may be copied.
    """

    cards: list[Shared]
    outing: str | None
    until_utc: datetime
    location: SharedLocation | None = None
    copied: bool = False


@dataclass(frozen=True)
class Copied:
    """Result of a copy: number of rows, zero if all existed, and where to find it."""

    rows: int
    shot_id: int | None
    outing_id: int | None
    location_id: int | None


@dataclass(frozen=True)
class _Told:
    """The subject of a link."""

    cards: Sequence[int] = ()
    outing_id: int | None = None
    location_id: int | None = None
    given: Given | None = None


def share_card(session: Session, owner_id: int, card_id: int, where: Where, days: int, now: datetime) -> Share:
    """Create a link to a card. Raises NotFound, Refused for an invalid period."""
    card, _ = get_card(session, owner_id, card_id)
    given = given_shots(session, [card.shot_id]) if where is Where.EXACT else None
    return _shared(session, owner_id, _Told([card.id], given=given), where, days, now)


def share_outing(session: Session, owner_id: int, outing_id: int, where: Where, days: int, now: datetime) -> Share:
    """Create a link to the cards of an outing's shots in the order of visits; missing or outdated cards are made
    first.

    Raises NotFound, Conflict if none of its shots has frames, Refused for an invalid period.
    """
    make_cards_of_outing(session, owner_id, outing_id, now)
    cards = [card for card, _ in cards_of_outing(session, see_outing(session, owner_id, outing_id, now))]
    given = given_shots(session, [card.shot_id for card in cards], outing_id) if where is Where.EXACT else None
    return _shared(
        session, owner_id, _Told([card.id for card in cards], outing_id=outing_id, given=given), where, days, now
    )


def share_location(session: Session, owner_id: int, location_id: int, where: Where, days: int, now: datetime) -> Share:
    """Create a link to a location as it is now.

    Raises NotFound, Refused if it has nothing to show, or for an invalid period.
    """
    row = owned(session, owner_id, Location, location_id)
    if where is Where.HIDDEN:
        raise Refused("where", "A shared location needs a position: choose exact or approximate.")
    return _shared(
        session, owner_id, _Told(location_id=row.id, given=given_location(session, row.id)), where, days, now
    )


def copy_shared(session: Session, owner_id: int, token: str, now: datetime) -> Copied:
    """Copy what a link shows into an owner's notebook.

    Raises Refused for an expired link, or one that hides the place.
    """
    row = _that_tells(session, token, now)
    if row is None:
        raise Refused("token", NO_LINK)
    if row.where_told is not Where.EXACT or row.given is None:
        raise Refused(
            "token", "This link does not tell the place itself, so that there is nothing to copy: only to read."
        )
    given = row.given
    found = copy_given(session, owner_id, given)

    def first(name: str) -> int | None:
        return next((found.move(name, item["id"]) for item in given.get(name, ())), None)

    return Copied(found.rows, first("shot") if row.outing_id is None else None, first("outing"), first("location"))


def _shared(session: Session, owner_id: int, told_: _Told, where: Where, days: int, now: datetime) -> Share:
    if not 1 <= days <= LONGEST_DAYS:
        raise Refused("days", f"A link holds for 1 to {LONGEST_DAYS} days.")
    made = Share(
        owner_id=owner_id,
        outing_id=told_.outing_id,
        location_id=told_.location_id,
        given=told_.given,
        token=secrets.token_urlsafe(24),
        where_told=where,
        made_at_utc=now,
        until_utc=now + timedelta(days=days),
    )
    session.add(made)
    session.flush()
    session.add_all(ShareCard(share_id=made.id, card_id=card, place=place) for place, card in enumerate(told_.cards))
    session.flush()
    return made


def shares_of_card(session: Session, owner_id: int, card_id: int, now: datetime) -> Sequence[Share]:
    """Return the valid links to a single card. Raises NotFound."""
    card, _ = get_card(session, owner_id, card_id)
    told_in = select(ShareCard.share_id).where(ShareCard.card_id == card.id)
    return _that_hold(session, owner_id, (Share.outing_id.is_(None), Share.id.in_(told_in)), now)


def shares_of_outing(session: Session, owner_id: int, outing_id: int, now: datetime) -> Sequence[Share]:
    """Return the valid links to an outing's cards. Raises NotFound."""
    return _that_hold(session, owner_id, (Share.outing_id == owned(session, owner_id, Outing, outing_id).id,), now)


def shares_of_location(session: Session, owner_id: int, location_id: int, now: datetime) -> Sequence[Share]:
    """Return the valid links to a location. Raises NotFound."""
    return _that_hold(
        session, owner_id, (Share.location_id == owned(session, owner_id, Location, location_id).id,), now
    )


def _that_hold(session: Session, owner_id: int, which: Sequence[ColumnElement[bool]], now: datetime) -> Sequence[Share]:
    session.execute(delete(Share).where(Share.owner_id == owner_id, Share.until_utc <= now))
    return session.scalars(select(Share).where(Share.owner_id == owner_id, *which).order_by(Share.id)).all()


def end_share(session: Session, owner_id: int, share_id: int) -> None:
    """Revoke a share link. Raises NotFound."""
    row = session.scalars(select(Share).where(Share.id == share_id, Share.owner_id == owner_id)).first()
    if row is None:
        raise NotFound("link")
    session.delete(row)


def read_share(session: Session, token: str, now: datetime) -> SharedCards:
    """Return the content of a link. Raises Refused for an expired link, or one whose cards are deleted."""
    row = _that_tells(session, token, now)
    if row is None:
        raise Refused("token", NO_LINK)
    copied = row.where_told is Where.EXACT and row.given is not None
    if row.location_id is not None and row.given is not None:
        exact = row.where_told is Where.EXACT
        place = shared_location(row.given, exact, session.get(LocationGrid, row.location_id) if exact else None)
        return SharedCards([], None, row.until_utc, place, copied)
    cards = session.scalars(
        select(FieldCard).join(ShareCard).where(ShareCard.share_id == row.id).order_by(ShareCard.place)
    ).all()
    if not cards:
        raise Refused("token", NO_LINK)
    outing = session.get(Outing, row.outing_id) if row.where_told is Where.EXACT and row.outing_id is not None else None
    names = _names_of_places(session, row.owner_id)
    return SharedCards(
        [_told_of(session, card, row.where_told, names) for card in cards],
        outing.name if outing else None,
        row.until_utc,
        None,
        copied,
    )


def _that_tells(session: Session, token: str, now: datetime) -> Share | None:
    return session.scalars(select(Share).where(Share.token == token, Share.until_utc > now)).first()


def _told_of(session: Session, card: FieldCard, where: Where, names: set[str]) -> Shared:
    shot = session.get_one(Shot, card.shot_id)
    position, rough = _position(shot) if where is not Where.HIDDEN else None, where is Where.ROUGH
    # The card's own name of its place, which may have changed since.
    content = told(
        card.content,
        where,
        names | {str(card.content[name]) for name in ("location", "viewpoint") if card.content.get(name)},
    )
    return Shared(content, rough_position(*position) if position and rough else position, rough)


def told(content: Mapping[str, object], where: Where, names: Collection[str]) -> dict[str, object]:
    """Return the visible part of a card's content; the time of leaving home is never shown.

    names: of the place and its elements, which also occur in sentences.
    """
    here = _without_home(content)
    if where is Where.EXACT:
        return here
    longest_first = sorted((name for name in names if name.strip()), key=len, reverse=True)
    named = re.compile("|".join(re.escape(name) for name in longest_first), re.IGNORECASE) if longest_first else None
    return {name: _masked(value, named) if named else value for name, value in here.items()} | _NAMING


def _without_home(content: Mapping[str, object]) -> dict[str, object]:
    """Return a card's content without the way, and without sentences with the time of leaving home."""
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


def _names_of_places(session: Session, owner_id: int) -> set[str]:
    """Return every current name of the owner's places and elements."""
    columns = (Location.name, Viewpoint.name, Element.name)
    query = (
        select(*columns)
        .select_from(Location)
        .outerjoin(Viewpoint)
        .outerjoin(Element)
        .where(Location.owner_id == owner_id)
    )
    return {name for row in session.execute(query) for name in row if name}


def _position(shot: Shot) -> tuple[float, float] | None:
    return position_of(shot.viewpoint) if shot.viewpoint else None
