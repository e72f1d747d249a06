"""The notebook, shots and field cards."""

from __future__ import annotations

from typing import Any

from apiflask import APIBlueprint

from ...operations.notebook.pages import Listing, page_of_notebook
from ...operations.shots import cards, own_copies
from ...operations.shots import shots as operations
from ...operations.shots.view import view_shot
from ...store.shots import FieldCard
from ..platform.context import context
from ..platform.undo import present_undo
from .parse import edit_from_new, edit_from_patch
from .present.miniatures import draw_miniature
from .present.shots import present_entry, present_shot
from .schemas import shots as schemas
from .schemas.cards import CardContentOut, CardOut

shots = APIBlueprint("shots", __name__, url_prefix="/api")


@shots.get("/notebook")
@shots.input(schemas.NotebookQuery, location="query")
@shots.output(schemas.NotebookOut)
def notebook(query_data: schemas.NotebookQuery) -> Any:
    """A page of the shots, each with its marks."""
    here = context()
    listing = Listing(query_data.words, query_data.by, query_data.archived, query_data.favourites)
    found = page_of_notebook(here.session, here.owner_id, draw_miniature, listing, query_data.offset, query_data.limit)
    return schemas.NotebookOut(
        shots=[present_entry(entry) for entry in found.entries],
        total=found.total,
        pending=found.pending,
        undo=present_undo(here.session, here.owner_id, [operations.LIST_SCOPE]),
    )


@shots.post("/shots")
@shots.input(schemas.ShotIn, location="json")
@shots.output(schemas.ShotOut, status_code=201)
def add_shot(json_data: schemas.ShotIn) -> Any:
    """Create a shot."""
    here = context()
    row = operations.add_shot(here.session, here.owner_id, edit_from_new(json_data))
    return present_shot(view_shot(here.session, here.owner_id, row))


@shots.post("/shots/<int:shot_id>/copy")
@shots.output(schemas.ShotOut, status_code=201)
def copy_shot(shot_id: int) -> Any:
    """Create a copy of this shot."""
    here = context()
    return present_shot(
        view_shot(here.session, here.owner_id, operations.copy_shot(here.session, here.owner_id, shot_id))
    )


@shots.get("/shots/<int:shot_id>")
@shots.output(schemas.ShotOut)
def shot(shot_id: int) -> Any:
    """A shot with its plan."""
    here = context()
    return present_shot(
        view_shot(here.session, here.owner_id, operations.get_shot(here.session, here.owner_id, shot_id))
    )


@shots.patch("/shots/<int:shot_id>")
@shots.input(schemas.ShotPatch, location="json")
@shots.output(schemas.ShotOut)
def edit_shot(shot_id: int, json_data: schemas.ShotPatch) -> Any:
    """Edit a shot and return its plan."""
    edit = edit_from_patch(json_data)
    here = context(edit.keeps_context)
    row = operations.edit_shot(here.session, here.owner_id, shot_id, edit)
    return present_shot(view_shot(here.session, here.owner_id, row))


@shots.post("/shots/<int:shot_id>/own")
@shots.input(schemas.OwnIn, location="json")
@shots.output(schemas.ShotOut)
def give_own(shot_id: int, json_data: schemas.OwnIn) -> Any:
    """Give the shot its own copy of something that others use too; undo reverses it."""
    here = context()
    return present_shot(
        view_shot(
            here.session, here.owner_id, own_copies.give_own(here.session, here.owner_id, shot_id, json_data.what)
        )
    )


@shots.delete("/shots/<int:shot_id>")
@shots.output({}, status_code=204)
def delete_shot(shot_id: int) -> Any:
    """Delete a shot; undo restores it."""
    here = context()
    operations.delete_shot(here.session, here.owner_id, shot_id)
    return ""


@shots.post("/shots/<int:shot_id>/cards")
@shots.output(CardOut, status_code=201)
def make_card(shot_id: int) -> Any:
    """Make a field card of the plan."""
    here = context()
    return _present_card(cards.make_card(here.session, here.owner_id, shot_id), stale=False)


@shots.get("/cards/<int:card_id>")
@shots.output(CardOut)
def card(card_id: int) -> Any:
    """A field card, and whether the plan has changed since."""
    here = context()
    found, stale = cards.get_card(here.session, here.owner_id, card_id)
    return _present_card(found, stale)


def _present_card(card: FieldCard, stale: bool) -> CardOut:
    return CardOut(
        id=card.id, shot_id=card.shot_id, made_at_utc=card.made_at_utc, version=card.version, stale=stale,
        content=CardContentOut.model_validate(card.content),
    )  # fmt: skip
