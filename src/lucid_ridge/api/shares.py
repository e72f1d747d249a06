"""Sharing field cards by link, and reading what is shared."""

from __future__ import annotations

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
def shares_of(card_id: int) -> Any:
    """The links to a card that still hold."""
    here = context()
    found = operations.shares_of(here.session, here.owner_id, card_id, datetime.now(UTC))
    ways = [schemas.ShareWayOut(where=where, label=label, tells=tells) for where, (label, tells) in _WAYS.items()]
    return schemas.SharesOut(shares=[_present(row) for row in found], ways=ways, longest_days=operations.LONGEST_DAYS)


@shares.post("/cards/<int:card_id>/shares")
@shares.input(schemas.ShareIn, location="json")
@shares.output(schemas.ShareOut, status_code=201)
def share_card(card_id: int, json_data: schemas.ShareIn) -> Any:
    """Make a link by which others read a card, with as much of the place as is said."""
    here = context()
    return _present(operations.share_card(here.session, here.owner_id, card_id, json_data.where, json_data.days, datetime.now(UTC)))


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
    words = position_words(*found.position, 2 if found.rough else 4) if found.position else ""
    if found.rough and words:
        words = f"Within {CELL_REACH_KM} km of {words}"
    return schemas.SharedOut(
        content=CardContentOut.model_validate(found.content), position_words=words, until_words=format_day(found.until_utc.date())
    )


def _present(row: Share) -> schemas.ShareOut:
    return schemas.ShareOut(id=row.id, path=f"/shared#{row.token}", where=row.where_told, until_words=format_day(row.until_utc.date()))
