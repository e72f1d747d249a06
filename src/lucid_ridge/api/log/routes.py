"""The log: entries from ticks, files or by hand, and lessons from them."""

from __future__ import annotations

import re
from typing import Any

from apiflask import APIBlueprint
from flask import Response

from ...core.facts.calibrations import CalibrationKind
from ...formats.camera_files import LARGEST_BYTES
from ...formats.taken_sheets import MEDIA_TYPES, write_taken
from ...operations.kit.calibrations import WATER, switched_on
from ...operations.log import entries, lessons
from ...operations.log import files as log_files
from ...operations.log import judging as log_judging
from ...operations.log import matching as log_matching
from ...operations.log import pictures as log_pictures
from ...operations.log.field_events import photo_ids
from ...operations.log.figures import log_figures
from ...operations.platform.errors import NotFound, Refused
from ...store.log import LogEntry
from ..platform.context import Context, changes_nothing, context
from ..platform.files import answers_with, file_response, sent_file, takes_file
from ..platform.shared_schemas import FileQuery
from .present.log import present_calibrations, present_entry, present_figures, present_log, present_waiting
from .schemas import log as schemas

log = APIBlueprint("log", __name__, url_prefix="/api")


@log.get("/log")
@log.input(schemas.LogQueryIn, location="query")
@log.output(schemas.LogOut)
def page(query_data: schemas.LogQueryIn) -> Any:
    """The log, latest first."""
    here = context()
    said = query_data.model_dump(exclude={"offset", "limit"})
    listed = entries.list_entries(
        here.session, here.owner_id, entries.Sought(**said), query_data.offset, query_data.limit
    )
    waiting = log_files.waiting_count(here.session, here.owner_id)
    return present_log(here.session, here.owner_id, listed, entries.kinds_of(here.session, here.owner_id), waiting)


@log.post("/log")
@log.input(schemas.LogEntryIn, location="json")
@log.output(schemas.LogEntryOut, status_code=201)
def add_entry(json_data: schemas.LogEntryIn) -> Any:
    """Create an entry by hand."""
    here = context()
    return _seen(
        here,
        entries.add_entry(
            here.session,
            here.owner_id,
            json_data.model_dump(exclude={"went_wrong", "shot_id", "location_id"}),
            json_data.went_wrong,
            json_data.shot_id,
            json_data.location_id,
        ),
    )


@log.get("/log/<int:entry_id>")
@log.output(schemas.LogEntryOut)
def entry(entry_id: int) -> Any:
    """An entry with its frames and findings."""
    here = context()
    return _seen(here, entries.get_entry(here.session, here.owner_id, entry_id))


@log.patch("/log/<int:entry_id>")
@log.input(schemas.LogEntryPatch, location="json")
@log.output(schemas.LogEntryOut)
def edit_entry(entry_id: int, json_data: schemas.LogEntryPatch) -> Any:
    """Edit an entry."""
    here = context()
    return _seen(
        here,
        entries.edit_entry(
            here.session,
            here.owner_id,
            entry_id,
            json_data.model_dump(exclude_unset=True, exclude={"went_wrong"}),
            json_data.went_wrong if "went_wrong" in json_data.model_fields_set else None,
        ),
    )


@log.get("/log/<int:entry_id>/export/<ending>")
@answers_with(*MEDIA_TYPES.values())
def export_entry(entry_id: int, ending: str) -> Response:
    """An entry's files as a sheet for merging (csv, json), or as XMP sidecars (zip). Originals are not touched."""
    if ending not in MEDIA_TYPES:
        raise NotFound("kind of file")
    here = context()
    row = entries.get_entry(here.session, here.owner_id, entry_id)
    together, files = log_files.taken_sheet(row)
    plain = re.sub(r"[^a-z0-9]+", "-", row.name.lower()).strip("-") or "entry"
    return file_response(write_taken(ending, row.name, together, files), MEDIA_TYPES[ending], f"{plain}-taken.{ending}")


@log.post("/log/<int:entry_id>/best")
@log.output(schemas.LogEntryOut)
def keep_best(entry_id: int) -> Any:
    """Keep the sharpest of repeated frames, and drop the others that are not decided."""
    here = context()
    row = entries.get_entry(here.session, here.owner_id, entry_id)
    log_judging.keep_the_best(here.session, row)
    return _seen(here, row)


@log.patch("/log/frames/<int:frame_id>")
@log.input(schemas.LogFramePatch, location="json")
@log.output(schemas.LogEntryOut)
def edit_frame(frame_id: int, json_data: schemas.LogFramePatch) -> Any:
    """Rate a frame, keep or drop it, or set which planned frame it is."""
    here = context()
    changes = json_data.model_dump(exclude_unset=True)
    placing = {name: changes.pop(name) for name in ("planned_key", "entry_id") if name in changes}
    if placing:
        log_matching.place_by_hand(
            here.session, here.owner_id, frame_id, placing.get("entry_id"), placing.get("planned_key")
        )
    measured = {name: changes.pop(name) for name in ("streak_line", "seen_share") if name in changes}
    if measured:
        entries.measure_streak(
            here.session, here.owner_id, frame_id, measured.get("streak_line"), measured.get("seen_share")
        )
    row = (
        entries.edit_frame(here.session, here.owner_id, frame_id, changes)
        if changes
        else entries.frame_of(here.session, here.owner_id, frame_id)
    )
    if row.entry_id is None:
        raise Refused("entry_id", "Say to which entry the file belongs.")
    found = entries.get_entry(here.session, here.owner_id, row.entry_id)
    here.session.expire(found, ["frames"])
    return _seen(here, found)


@log.get("/log/frames/<int:frame_id>/preview")
@answers_with("image/jpeg")
def preview(frame_id: int) -> Response:
    """The small picture that is kept of a file."""
    here = context()
    row = entries.frame_of(here.session, here.owner_id, frame_id)
    if row.preview is None:
        raise NotFound("preview")
    return Response(row.preview, mimetype="image/jpeg")


@log.get("/log/<int:entry_id>/planned")
@answers_with("image/png")
def plan_picture(entry_id: int) -> Response:
    """The planned picture, in tones."""
    here = context()
    return Response(log_pictures.plan_picture(here.session, here.owner_id, entry_id), mimetype="image/png")


@log.get("/log/waiting")
@log.output(schemas.WaitingOut)
def waiting() -> Any:
    """Files that are in no entry yet, with what each waits for."""
    here = context()
    return present_waiting(here.session, here.owner_id, log_files.waiting_files(here.session, here.owner_id))


@log.patch("/log/waiting/<int:frame_id>")
@log.input(schemas.WaitingPatch, location="json")
@log.output(schemas.WaitingOut)
def edit_waiting(frame_id: int, json_data: schemas.WaitingPatch) -> Any:
    """Set the time of a waiting file, or its place in an entry."""
    here = context()
    entries.frame_of(here.session, here.owner_id, frame_id)
    if "clock" in json_data.model_fields_set:
        log_files.say_clock(here.session, here.owner_id, frame_id, json_data.clock)
    if "entry_id" in json_data.model_fields_set:
        log_matching.place_by_hand(
            here.session, here.owner_id, frame_id, json_data.entry_id, None, json_data.after_frame_id
        )
    return present_waiting(here.session, here.owner_id, log_files.waiting_files(here.session, here.owner_id))


@log.delete("/log/frames/<int:frame_id>")
@log.output({}, status_code=204)
def remove_file(frame_id: int) -> Any:
    """Remove a file that was read by mistake. It can be restored, or read again."""
    here = context()
    log_files.remove_file(here.session, here.owner_id, frame_id)
    return "", 204


@log.post("/log/<int:entry_id>/shot")
@log.input(schemas.OfShotIn, location="json")
@log.output(schemas.LogEntryOut)
def say_shot(entry_id: int, json_data: schemas.OfShotIn) -> Any:
    """Set the shot of an entry; its files are compared with that shot's plan."""
    here = context()
    return _seen(here, log_matching.say_shot(here.session, here.owner_id, entry_id, json_data.shot_id))


@log.post("/log/known")
@changes_nothing
@log.input(schemas.HashesIn, location="json")
@log.output(schemas.HashesOut)
def known(json_data: schemas.HashesIn) -> Any:
    """The files that the log has already, by the SHA-256 of their content, so that they need not be sent."""
    here = context()
    return {"known": log_files.known_hashes(here.session, here.owner_id, json_data.sha256)}


@log.post("/log/files")
@log.input(FileQuery, location="query")
@log.output(schemas.ReadInOut, status_code=201)
@takes_file(LARGEST_BYTES)
def read_file(query_data: FileQuery) -> Any:
    """Read a camera file; it then waits to be sorted."""
    # Before the write lock is taken, since a large file takes seconds.
    looked = log_files.examine(query_data.file_name, sent_file())
    here = context()
    found = log_files.read_in(here.session, here.owner_id, looked)
    return schemas.ReadInOut(frame_id=found.frame.id, known=found.known, file_name=found.frame.file_name)


@log.post("/log/sort")
@log.output(schemas.SortedOut)
def sort_files() -> Any:
    """Sort waiting files to plans, and judge them."""
    here = context()
    found = log_matching.sort_in(here.session, here.owner_id)
    words = f"{found.matched} sorted to planned frames" + (f", {found.asked} to be looked at" if found.asked else "")
    return schemas.SortedOut(
        matched=found.matched,
        asked=found.asked,
        unplanned=found.unplanned,
        words=f"{words}, {found.unplanned} of no plan." if found.unplanned else f"{words}.",
    )


@log.get("/log/figures")
@log.output(schemas.LogFiguresOut)
def figures() -> Any:
    """Figures of the log: charts, measurements, and the accuracy of predictions."""
    here = context()
    taught = switched_on(here.session, here.owner_id).get((CalibrationKind.LOOK_BAND, WATER))
    return present_figures(
        log_figures(here.session, here.owner_id),
        lessons.names_of_subjects(here.session, here.owner_id),
        taught.value if taught is not None else 0.0,
    )


@log.get("/calibrations")
@log.output(schemas.CalibrationsOut)
def calibrations() -> Any:
    """The lessons of the log, and which of them plans use."""
    here = context()
    return present_calibrations(here.session, here.owner_id, lessons.calibrations(here.session, here.owner_id))


@log.post("/calibrations")
@log.output(schemas.CalibrationsOut)
def learn() -> Any:
    """Search the log for lessons. None is used before it is switched on."""
    here = context()
    found = lessons.learn(here.session, here.owner_id)
    return present_calibrations(here.session, here.owner_id, found.calibrations, found.behind)


@log.patch("/calibrations/<int:calibration_id>")
@log.input(schemas.CalibrationPatch, location="json")
@log.output(schemas.CalibrationsOut)
def switch(calibration_id: int, json_data: schemas.CalibrationPatch) -> Any:
    """Switch a calibration on or off, or refuse it."""
    here = context()
    lessons.switch(here.session, here.owner_id, calibration_id, json_data.state)
    return present_calibrations(here.session, here.owner_id, lessons.calibrations(here.session, here.owner_id))


def _seen(here: Context, row: LogEntry) -> schemas.LogEntryOut:
    photos = photo_ids(here.session, here.owner_id, row.run_id) if row.run_id else []
    return present_entry(here.session, here.owner_id, row, log_judging.entry_findings(here.session, row), photos)
