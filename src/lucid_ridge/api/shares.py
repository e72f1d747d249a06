"""Sharing field cards and outings by link, and reading what is shared."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import UTC, datetime
from typing import Any

from apiflask import APIBlueprint

from ..core.ground.blurring import CELL_REACH_KM
from ..core.units.spelling import format_day
from ..operations import shares as operations
from ..store.shares import Share, Where
from .context import context
from .present.places import position_words
from .request_session import request_session
from .schemas import shares as schemas
from .schemas.general import CardContentOut
from .visitors import open_to_all

shares = APIBlueprint("shares", __name__, url_prefix="/api")

_WAYS = {
    Where.HIDDEN: ("nothing", "No name and no position of any of your places, and no note of yours, stands in what is shared."),
    Where.ROUGH: (
        "roughly where",
        f"The middle of a cell within {CELL_REACH_KM} km of it, and no name: for rare plants, nests, and places that are loved too much.",
    ),
    Where.EXACT: ("the place itself", "Names and position as they stand in your notebook. When you leave home is never told."),
}


@shares.get("/cards/<int:card_id>/shares")
@shares.output(schemas.SharesOut)
def shares_of_card(card_id: int) -> Any:
    """The links to a card that still hold."""
    here = context()
    return _listed(operations.shares_of_card(here.session, here.owner_id, card_id, datetime.now(UTC)))


@shares.get("/outings/<int:outing_id>/shares")
@shares.output(schemas.SharesOut)
def shares_of_outing(outing_id: int) -> Any:
    """The links to an outing's cards that still hold."""
    here = context()
    return _listed(operations.shares_of_outing(here.session, here.owner_id, outing_id, datetime.now(UTC)))


@shares.post("/cards/<int:card_id>/shares")
@shares.input(schemas.ShareIn, location="json")
@shares.output(schemas.ShareOut, status_code=201)
def share_card(card_id: int, json_data: schemas.ShareIn) -> Any:
    """Make a link by which others read a card, with as much of the place as is said."""
    here = context()
    return _present(operations.share_card(here.session, here.owner_id, card_id, json_data.where, json_data.days, datetime.now(UTC)))


@shares.post("/outings/<int:outing_id>/shares")
@shares.input(schemas.ShareIn, location="json")
@shares.output(schemas.ShareOut, status_code=201)
def share_outing(outing_id: int, json_data: schemas.ShareIn) -> Any:
    """Make a link by which others read the cards of an outing's shots; those that are missing or old are made first."""
    here = context()
    return _present(operations.share_outing(here.session, here.owner_id, outing_id, json_data.where, json_data.days, datetime.now(UTC)))


@shares.delete("/shares/<int:share_id>")
@shares.output({}, status_code=204)
def end_share(share_id: int) -> Any:
    """Let a link hold no longer."""
    here = context()
    operations.end_share(here.session, here.owner_id, share_id)
    return ""


@shares.post("/shared")
@shares.input(schemas.SharedIn, location="json")
@shares.output(schemas.SharedOut)
@open_to_all
def shared(json_data: schemas.SharedIn) -> Any:
    """What a link tells; whoever has it may ask."""
    found = operations.read_share(request_session(), json_data.token, datetime.now(UTC))
    cards = [
        schemas.SharedCardOut(number=number, content=CardContentOut.model_validate(card.content), position_words=_position_words(card))
        for number, card in enumerate(found.cards, 1)
    ]
    title = found.outing or (cards[0].content.name if len(cards) == 1 else f"An outing of {len(cards)} shots")
    return schemas.SharedOut(title=title, cards=cards, until_words=format_day(found.until_utc.date()))


def _position_words(card: operations.Shared) -> str:
    if card.position is None:
        return ""
    words = position_words(*card.position, 2 if card.rough else 4)
    return f"Within {CELL_REACH_KM} km of {words}" if card.rough else words


def _listed(found: Sequence[Share]) -> schemas.SharesOut:
    ways = [schemas.ShareWayOut(where=where, label=label, tells=tells) for where, (label, tells) in _WAYS.items()]
    return schemas.SharesOut(shares=[_present(row) for row in found], ways=ways, longest_days=operations.LONGEST_DAYS)


def _present(row: Share) -> schemas.ShareOut:
    return schemas.ShareOut(id=row.id, path=f"/shared#{row.token}", where=row.where_told, until_words=format_day(row.until_utc.date()))
