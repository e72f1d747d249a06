"""Health, markings, the photographer, undo and redo."""

from __future__ import annotations

import io
import tempfile
from datetime import UTC, datetime
from typing import Any

from apiflask import APIBlueprint
from flask import Response, g, send_file
from sqlalchemy import select

from ...core.framing.measuring import thumb_angle_deg
from ...core.planning.plan.dials import FOCAL_MARKINGS_MM
from ...core.units.markings import APERTURE_MARKINGS, ISO_MARKINGS, SHUTTER_MARKINGS, Marking
from ...core.weather.promise import DEFAULT_WEIGHTS
from ...formats.archive import LARGEST_BYTES
from ...operations.accounts import preferences
from ...operations.accounts.promise_weights import weights_of
from ...operations.notebook.archive import Taken, read_archive, write_archive
from ...operations.notebook.find import find_anything
from ...operations.platform import journal
from ...store.photographer import Photographer
from ..platform.context import Context, context
from ..platform.fact_fields import said
from ..platform.files import answers_with, sent_file, takes_file
from ..platform.request_session import request_session
from ..platform.shared_schemas import FileQuery, MarkingOut
from ..platform.undo import ScopesIn, UndoneOut, present_undo
from ..platform.visitors import open_to_all
from .schemas import (
    FindOut,
    FindQuery,
    FoundOut,
    HealthOut,
    MarkingsOut,
    PhotographerOut,
    PhotographerPatch,
    ReadArchiveOut,
    RevisionOut,
    WeightOut,
)

general = APIBlueprint("general", __name__, url_prefix="/api")


@general.get("/health")
@general.output(HealthOut)
@open_to_all
def health() -> Any:
    """Whether the application and its database work; 503 says what does not."""
    request_session().execute(select(1))
    return HealthOut(status="ok")


@general.get("/revision")
@general.output(RevisionOut)
def revision() -> Any:
    """The notebook's revision, so that a page can tell whether it is up to date."""
    context()
    return RevisionOut(revision=g.revision, notebook=g.notebook)


@general.get("/find")
@general.input(FindQuery, location="query")
@general.output(FindOut)
def find(query_data: FindQuery) -> Any:
    """Shots, places, kit, outings and log entries by words; shots by settings too."""
    here = context()
    found = find_anything(here.session, here.owner_id, query_data.words)
    return FindOut(found=[FoundOut.model_validate(item) for item in found])


@general.get("/archive")
@answers_with("application/zip")
def archive() -> Response:
    """The whole notebook as one file: rows as JSON, with photographs and previews."""
    here, now = context(), datetime.now(UTC)
    target = tempfile.TemporaryFile()  # noqa: SIM115, closed with the answer
    write_archive(here.session, here.owner_id, target, now)
    target.seek(0)
    return send_file(
        target, mimetype="application/zip", as_attachment=True, download_name=f"lucid-ridge-{now:%Y-%m-%d}.zip"
    )


@general.post("/archive")
@general.input(FileQuery, location="query")
@general.output(ReadArchiveOut, status_code=201)
@takes_file(LARGEST_BYTES)
def take_archive(query_data: FileQuery) -> Any:
    """Read a whole notebook into this one, all of it or nothing; existing rows are kept."""
    here = context()
    found = read_archive(here.session, here.owner_id, io.BytesIO(sent_file()))
    return ReadArchiveOut(rows=found.rows, shots=found.shots, known=found.known, words=_read_words(found))


def _read_words(found: Taken) -> str:
    shots = f"{found.shots} {'shot' if found.shots == 1 else 'shots'} and all that belongs to them are read in."
    if not found.known:
        return shots
    if not found.rows:
        return "All that it holds is here already, and stays as it is here."
    return f"{shots} What was here already stays as it is here."


@general.get("/markings")
@general.output(MarkingsOut)
@open_to_all
def markings() -> Any:
    """The detents of the dials."""

    def listed(series: tuple[Marking, ...]) -> list[MarkingOut]:
        return [MarkingOut(value=mark.value, label=mark.label) for mark in series]

    return MarkingsOut(
        shutters=listed(SHUTTER_MARKINGS), apertures=listed(APERTURE_MARKINGS), isos=listed(ISO_MARKINGS),
        focals=[MarkingOut(value=focal, label=f"{focal}") for focal in FOCAL_MARKINGS_MM],
    )  # fmt: skip


@general.get("/photographer")
@general.output(PhotographerOut)
def photographer() -> Any:
    """The photographer: theme, spelling, preparation times and weights of the promise."""
    here = context()
    return _present_photographer(here.session.get_one(Photographer, here.owner_id))


@general.patch("/photographer")
@general.input(PhotographerPatch, location="json")
@general.output(PhotographerOut)
def edit_photographer(json_data: PhotographerPatch) -> Any:
    """Edit theme, spelling, preparation times and weights."""
    here = context()
    return _present_photographer(
        preferences.edit_photographer(
            here.session, here.owner_id, said(json_data, but=["promise_weights"]), json_data.promise_weights
        )
    )


def _present_photographer(row: Photographer) -> PhotographerOut:
    weights = [
        WeightOut(name=name, weight=weight, model_weight=DEFAULT_WEIGHTS[name])
        for name, weight in weights_of(row).items()
    ]
    return PhotographerOut(
        id=row.id,
        name=row.name,
        theme=row.theme,
        lengths=row.lengths,
        hours=row.hours,
        day_order=row.day_order,
        dial_steps=row.dial_steps,
        set_up_min=row.set_up_min,
        reserve_min=row.reserve_min,
        thumb_mm=row.thumb_mm,
        arm_mm=row.arm_mm,
        polariser_from_mm=row.polariser_from_mm,
        simulated_weather=row.simulated_weather,
        thumb_deg=thumb_angle_deg(row.thumb_mm, row.arm_mm),
        weights=weights,
    )


@general.post("/undo")
@general.input(ScopesIn, location="json")
@general.output(UndoneOut)
def undo(json_data: ScopesIn) -> Any:
    """Undo the latest edit of the scopes."""
    here = context()
    found = journal.undo(here.session, here.owner_id, json_data.scopes, json_data.entry_id)
    return _present_turned(here, found, json_data.scopes)


@general.post("/redo")
@general.input(ScopesIn, location="json")
@general.output(UndoneOut)
def redo(json_data: ScopesIn) -> Any:
    """Redo the edit undone last in the scopes."""
    here = context()
    found = journal.redo(here.session, here.owner_id, json_data.scopes, json_data.entry_id)
    return _present_turned(here, found, json_data.scopes)


def _present_turned(here: Context, found: journal.Turned, scopes: list[str]) -> UndoneOut:
    undo = present_undo(here.session, here.owner_id, scopes)
    return UndoneOut(label=found.label, done=found.done, words=found.words, undo=undo)
