"""Outings: several shots and other stops on a day or several."""

from __future__ import annotations

import re
from datetime import UTC, datetime
from typing import Any

from apiflask import APIBlueprint
from flask import Response

from ...formats.outings import MEDIA_TYPES
from ...operations.outings import outings as operations
from ...operations.outings.files import outing_file
from ...operations.platform.errors import NotFound
from ..platform.context import Context, context
from ..platform.files import answers_with, file_response
from . import schemas
from .present import present_outing, present_outings

outings = APIBlueprint("outings", __name__, url_prefix="/api")


@outings.get("/outings")
@outings.output(schemas.OutingsOut)
def all_outings() -> Any:
    """All outings, latest first."""
    here = context()
    return present_outings(here.session, here.owner_id, operations.all_outings(here.session, here.owner_id))


@outings.post("/outings")
@outings.input(schemas.OutingIn, location="json")
@outings.output(schemas.OutingOut, status_code=201)
def add_outing(json_data: schemas.OutingIn) -> Any:
    """Create an outing."""
    here = context()
    row = operations.add_outing(here.session, here.owner_id, json_data.model_dump())
    return _seen(here, row.id)


@outings.get("/outings/<int:outing_id>")
@outings.output(schemas.OutingOut)
def outing(outing_id: int) -> Any:
    """An outing with its day clock."""
    return _seen(context(), outing_id)


@outings.patch("/outings/<int:outing_id>")
@outings.input(schemas.OutingPatch, location="json")
@outings.output(schemas.OutingOut)
def edit_outing(outing_id: int, json_data: schemas.OutingPatch) -> Any:
    """Edit an outing; running late plans the rest again."""
    here = context()
    operations.edit_outing(here.session, here.owner_id, outing_id, json_data.model_dump(exclude_unset=True))
    return _seen(here, outing_id)


@outings.delete("/outings/<int:outing_id>")
@outings.output({}, status_code=204)
def delete_outing(outing_id: int) -> Any:
    """Delete an outing; undo restores it."""
    here = context()
    operations.delete_outing(here.session, here.owner_id, outing_id)
    return ""


@outings.post("/outings/<int:outing_id>/stops")
@outings.input(schemas.StopIn, location="json")
@outings.output(schemas.OutingOut, status_code=201)
def add_stop(outing_id: int, json_data: schemas.StopIn) -> Any:
    """Add a stop at the end of the list."""
    here = context()
    operations.add_stop(here.session, here.owner_id, outing_id, json_data.model_dump())
    return _seen(here, outing_id)


@outings.patch("/stops/<int:stop_id>")
@outings.input(schemas.StopPatch, location="json")
@outings.output(schemas.OutingOut)
def edit_stop(stop_id: int, json_data: schemas.StopPatch) -> Any:
    """Edit a stop, or move it in the list."""
    here = context()
    changes = json_data.model_dump(exclude_unset=True)
    move = changes.pop("move", 0)
    return _seen(here, operations.edit_stop(here.session, here.owner_id, stop_id, changes, move).id)


@outings.delete("/stops/<int:stop_id>")
@outings.output(schemas.OutingOut)
def delete_stop(stop_id: int) -> Any:
    """Remove a stop; undo restores it."""
    here = context()
    return _seen(here, operations.delete_stop(here.session, here.owner_id, stop_id).id)


@outings.get("/outings/<int:outing_id>/export/<ending>")
@answers_with(*MEDIA_TYPES.values())
def outing_export(outing_id: int, ending: str) -> Response:
    """An outing as a file: ics, gpx or json."""
    if ending not in MEDIA_TYPES:
        raise NotFound("kind of file")
    here, now = context(), datetime.now(UTC)
    seen = operations.see_outing(here.session, here.owner_id, outing_id, now)
    plain = re.sub(r"[^a-z0-9]+", "-", seen.row.name.lower()).strip("-") or "outing"
    return file_response(outing_file(ending, seen, now), MEDIA_TYPES[ending], f"{plain}.{ending}")


def _seen(here: Context, outing_id: int) -> schemas.OutingOut:
    return present_outing(
        here.session, here.owner_id, operations.see_outing(here.session, here.owner_id, outing_id, datetime.now(UTC))
    )
