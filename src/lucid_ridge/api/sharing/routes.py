"""Share links for field cards, outings and locations; reading and copying what is shared."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import UTC, datetime
from typing import Any

from apiflask import APIBlueprint

from ...core.ground.blurring import CELL_REACH_KM
from ...core.units.spelling import format_day
from ...operations.sharing import shares as operations
from ...store.sharing import Share, Where
from ..platform.context import context
from ..platform.request_session import request_session
from ..platform.visitors import open_to_all
from ..shots.schemas.cards import CardContentOut
from . import schemas
from .present import present_shared_location, rough_words

shares = APIBlueprint("shares", __name__, url_prefix="/api")

_WAYS = {
    Where.HIDDEN: (
        "nothing",
        "No name and no position of any of your places, and no note of yours, stands in what is shared.",
    ),
    Where.ROUGH: (
        "roughly where",
        f"The middle of a cell within {CELL_REACH_KM} km of it, and no name: for rare plants, nests, and "
        "places that are loved too much.",
    ),
    Where.EXACT: (
        "the place itself",
        "Names and position as they stand in your notebook; anyone who has a notebook here may copy it. When you "
        "leave home is never told.",
    ),
}
_WAYS_OF_A_PLACE = {
    Where.ROUGH: (
        "roughly where",
        f"The middle of a cell within {CELL_REACH_KM} km of it, without a name, a note, a walk or a skyline; "
        "what is seen there by kind alone.",
    ),
    Where.EXACT: (
        "the place itself",
        "Position, viewpoints with what is seen from them, access, walks, dangers, hours, seasons and your "
        "notes on them; anyone who has a notebook here may copy it."
        " Your visits, readings and the way from home are never told.",
    ),
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
    """The valid links to an outing's cards."""
    here = context()
    return _listed(operations.shares_of_outing(here.session, here.owner_id, outing_id, datetime.now(UTC)))


@shares.post("/cards/<int:card_id>/shares")
@shares.input(schemas.ShareIn, location="json")
@shares.output(schemas.ShareOut, status_code=201)
def share_card(card_id: int, json_data: schemas.ShareIn) -> Any:
    """Create a link to a card, with as much of the place as chosen."""
    here = context()
    return _present(
        operations.share_card(here.session, here.owner_id, card_id, json_data.where, json_data.days, datetime.now(UTC))
    )


@shares.post("/outings/<int:outing_id>/shares")
@shares.input(schemas.ShareIn, location="json")
@shares.output(schemas.ShareOut, status_code=201)
def share_outing(outing_id: int, json_data: schemas.ShareIn) -> Any:
    """Create a link to the cards of an outing's shots; missing or outdated cards are made first."""
    here = context()
    return _present(
        operations.share_outing(
            here.session, here.owner_id, outing_id, json_data.where, json_data.days, datetime.now(UTC)
        )
    )


@shares.get("/locations/<int:location_id>/shares")
@shares.output(schemas.SharesOut)
def shares_of_location(location_id: int) -> Any:
    """The links to a location that still hold."""
    here = context()
    return _listed(
        operations.shares_of_location(here.session, here.owner_id, location_id, datetime.now(UTC)), _WAYS_OF_A_PLACE
    )


@shares.post("/locations/<int:location_id>/shares")
@shares.input(schemas.ShareIn, location="json")
@shares.output(schemas.ShareOut, status_code=201)
def share_location(location_id: int, json_data: schemas.ShareIn) -> Any:
    """Create a link to a location as it is now, with as much of the place as chosen."""
    here = context()
    return _present(
        operations.share_location(
            here.session, here.owner_id, location_id, json_data.where, json_data.days, datetime.now(UTC)
        )
    )


@shares.post("/shared/copy")
@shares.input(schemas.SharedIn, location="json")
@shares.output(schemas.CopiedOut, status_code=201)
def copy_shared(json_data: schemas.SharedIn) -> Any:
    """Copy what a link shows into one's own notebook; earlier copies are not repeated."""
    here = context()
    found = operations.copy_shared(here.session, here.owner_id, json_data.token, datetime.now(UTC))
    if found.outing_id is not None:
        path = f"/outings/{found.outing_id}"
    else:
        path = f"/shots/{found.shot_id}/place" if found.shot_id is not None else f"/locations/{found.location_id}"
    return schemas.CopiedOut(
        path=path, words="It is in your notebook." if found.rows else "It was in your notebook already."
    )


@shares.delete("/shares/<int:share_id>")
@shares.output({}, status_code=204)
def end_share(share_id: int) -> Any:
    """Revoke a share link."""
    here = context()
    operations.end_share(here.session, here.owner_id, share_id)
    return ""


@shares.post("/shared")
@shares.input(schemas.SharedIn, location="json")
@shares.output(schemas.SharedOut)
@open_to_all
def shared(json_data: schemas.SharedIn) -> Any:
    """What a link shows; anyone with the link may ask."""
    found = operations.read_share(request_session(), json_data.token, datetime.now(UTC))
    cards = [
        schemas.SharedCardOut(
            number=number,
            content=CardContentOut.model_validate(card.content),
            position_words=rough_words(card.position, card.rough) if card.position else "",
        )
        for number, card in enumerate(found.cards, 1)
    ]
    return schemas.SharedOut(
        title=_title(found),
        cards=cards,
        location=present_shared_location(found.location) if found.location else None,
        copied=found.copied,
        until_words=format_day(found.until_utc.date()),
    )


def _title(found: operations.SharedCards) -> str:
    if found.location is not None:
        return found.location.row.name or "A place"
    return found.outing or (
        str(found.cards[0].content["name"]) if len(found.cards) == 1 else f"An outing of {len(found.cards)} shots"
    )


def _listed(found: Sequence[Share], told: Mapping[Where, tuple[str, str]] | None = None) -> schemas.SharesOut:
    ways = [
        schemas.ShareWayOut(where=where, label=label, tells=tells) for where, (label, tells) in (told or _WAYS).items()
    ]
    return schemas.SharesOut(shares=[_present(row) for row in found], ways=ways, longest_days=operations.LONGEST_DAYS)


def _present(row: Share) -> schemas.ShareOut:
    return schemas.ShareOut(
        id=row.id, path=f"/shared#{row.token}", where=row.where_told, until_words=format_day(row.until_utc.date())
    )
