"""Files of places, elevation grids, skylines and their jobs."""

from __future__ import annotations

import re
from typing import Any

from apiflask import APIBlueprint
from flask import Response

from ...formats.elevation import LARGEST_BYTES as LARGEST_GRID_BYTES
from ...formats.places import MEDIA_TYPES, write_places
from ...formats.text import LARGEST_BYTES
from ...operations.places import exchange as operations
from ...operations.places import skylines
from ...operations.platform import jobs, rows
from ...operations.platform.errors import NotFound
from ...operations.platform.usage import shots_at
from ...operations.shots.location_details import location_details
from ...store.jobs import Job
from ...store.places import Location
from ..platform.context import changes_nothing, context
from ..platform.files import answers_with, file_response, sent_file, takes_file
from ..platform.shared_schemas import FileQuery
from . import schemas
from .present import present_grid, present_imported, present_viewpoint

exchange = APIBlueprint("exchange", __name__, url_prefix="/api")


@exchange.post("/locations/import")
@exchange.input(FileQuery, location="query")
@exchange.output(schemas.ImportedOut, status_code=201)
@takes_file(LARGEST_BYTES)
def import_location(query_data: FileQuery) -> Any:
    """Create a location from a GPX, KML, GeoJSON or CSV file."""
    here = context()
    found = operations.import_as_location(here.session, here.owner_id, query_data.file_name, sent_file())
    return present_imported(found, location_details(here.session, found.location))


@exchange.post("/locations/<int:location_id>/import")
@exchange.input(FileQuery, location="query")
@exchange.output(schemas.ImportedOut)
@takes_file(LARGEST_BYTES)
def import_into(location_id: int, query_data: FileQuery) -> Any:
    """Add a file's points and tracks to a location."""
    here = context()
    found = operations.import_into_location(here.session, here.owner_id, location_id, query_data.file_name, sent_file())
    return present_imported(found, location_details(here.session, found.location))


@exchange.get("/export/<ending>")
@answers_with(*MEDIA_TYPES.values())
def export_all(ending: str) -> Response:
    """All locations as a file: gpx, kml, geojson or csv."""
    return _export(None, "lucid-ridge-locations", ending)


@exchange.get("/locations/<int:location_id>/export/<ending>")
@answers_with(*MEDIA_TYPES.values())
def export_one(location_id: int, ending: str) -> Response:
    """One location as a file: gpx, kml, geojson or csv."""
    here = context()
    return _export(location_id, rows.owned(here.session, here.owner_id, Location, location_id).name, ending)


def _export(location_id: int | None, name: str, ending: str) -> Response:
    if ending not in MEDIA_TYPES:
        raise NotFound("kind of file")
    here = context()
    content = write_places(ending, operations.export_locations(here.session, here.owner_id, location_id))
    plain = re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-") or "location"
    return file_response(content, MEDIA_TYPES[ending], f"{plain}.{ending}")


@exchange.post("/locations/<int:location_id>/grid")
@exchange.input(FileQuery, location="query")
@exchange.output(schemas.GridOut, status_code=201)
@takes_file(LARGEST_GRID_BYTES)
def give_grid(location_id: int, query_data: FileQuery) -> Any:
    """Store an elevation grid (.hgt, .asc, GeoTIFF) for a location, in place of an older one."""
    here = context()
    return present_grid(
        skylines.store_grid(here.session, here.owner_id, location_id, query_data.file_name, sent_file())
    )


@exchange.delete("/locations/<int:location_id>/grid")
@exchange.output({}, status_code=204)
def drop_grid(location_id: int) -> Any:
    """Delete a location's elevation grid."""
    here = context()
    skylines.drop_grid(here.session, here.owner_id, location_id)
    return ""


@exchange.put("/viewpoints/<int:viewpoint_id>/skyline")
@exchange.input(schemas.SkylineIn, location="json")
@exchange.output(schemas.ViewpointOut)
def set_skyline(viewpoint_id: int, json_data: schemas.SkylineIn) -> Any:
    """Set a viewpoint's skyline, typed, pasted or measured."""
    here = context()
    if json_data.text is not None:
        row = skylines.skyline_from_text(here.session, here.owner_id, viewpoint_id, json_data.text)
    else:
        row = skylines.set_skyline(here.session, here.owner_id, viewpoint_id, json_data.points, skylines.MEASURED)
    return present_viewpoint(row, shots_at(here.session, row.id))


@exchange.post("/viewpoints/<int:viewpoint_id>/skyline/compute")
@exchange.output(schemas.JobOut, status_code=202)
@changes_nothing
def compute_skyline(viewpoint_id: int) -> Any:
    """Start computing a viewpoint's skyline from its location's elevation grid."""
    here = context()
    return _present(skylines.compute_skyline(here.session, here.owner_id, viewpoint_id))


@exchange.get("/jobs")
@exchange.output(schemas.JobsOut)
def open_jobs() -> Any:
    """Jobs that are not done yet, from any page."""
    here = context()
    return schemas.JobsOut(jobs=[_present(job) for job in jobs.open_jobs(here.session, here.owner_id)])


@exchange.get("/jobs/<int:job_id>")
@exchange.output(schemas.JobOut)
def job(job_id: int) -> Any:
    """The progress of a job."""
    here = context()
    return _present(jobs.get_job(here.session, here.owner_id, job_id))


@exchange.delete("/jobs/<int:job_id>")
@exchange.output(schemas.JobOut)
@changes_nothing
def stop_job(job_id: int) -> Any:
    """Stop a job."""
    here = context()
    return _present(jobs.stop_job(here.session, here.owner_id, job_id))


def _present(job: Job) -> schemas.JobOut:
    return schemas.JobOut(
        id=job.id,
        label=job.label,
        viewpoint_id=job.arguments.get("viewpoint_id"),
        state=job.state,
        progress=job.progress,
        message=job.message,
    )
