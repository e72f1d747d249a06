"""Locations with their rows, viewpoints and elements."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Any

from apiflask import APIBlueprint
from flask import Response

from ...formats.coordinates import parse_coordinates
from ...formats.photo import LARGEST_BYTES as LARGEST_PHOTO_BYTES
from ...operations.light.days import MeterSaid
from ...operations.light.days import add_reading as keep_reading
from ...operations.places import belongings, edits, scoutings, sketches, tides, viewpoints
from ...operations.places import locations as operations
from ...operations.platform import rows
from ...operations.platform.errors import Refused
from ...operations.platform.usage import shots_at
from ...operations.shots.location_details import all_location_details, location_details
from ...store.places import Hazard, Location, MeterReading, Opening, SeasonNote, WalkTrack
from ..platform.context import context
from ..platform.fact_fields import said
from ..platform.files import answers_with, sent_file, takes_file
from ..platform.shared_schemas import FileQuery
from . import schemas
from .present import (
    present_element,
    present_hazard,
    present_location,
    present_locations,
    present_opening,
    present_reading,
    present_scouting,
    present_season_note,
    present_sketch,
    present_track,
    present_viewpoint,
)

places = APIBlueprint("places", __name__, url_prefix="/api")


def with_position(values: dict[str, Any]) -> dict[str, Any]:
    """Return a body's values with coordinates, one text in the request, as latitude and longitude."""
    if "coordinates" not in values:
        return values
    position = values.pop("coordinates")
    if position is None and "latitude_deg" in values:
        return values
    values["latitude_deg"], values["longitude_deg"] = position or (None, None)
    return values


def _viewpoint_edit(body: schemas.ViewpointIn | schemas.ViewpointPatch) -> edits.ViewpointEdit:
    beside = ("from_viewpoint_id", "from_bearing_deg", "from_distance_m", "standing")
    origin = edits.FromViewpoint(body.from_viewpoint_id, body.from_bearing_deg, body.from_distance_m)
    standing = getattr(body, "standing", None)
    return edits.ViewpointEdit(
        with_position(said(body, but=beside)),
        None if origin == edits.FromViewpoint(None, None, None) else origin,
        edits.Corners(standing.corners, standing.drops) if standing else None,
        "standing" in body.model_fields_set,
    )


def _element_edit(body: schemas.ElementIn | schemas.ElementPatch) -> edits.ElementEdit:
    # A new element is given whole; of an existing one only what changes.
    new = isinstance(body, schemas.ElementIn)
    columns = (
        {name: value for name, value in dict(body).items() if name != "course"} if new else said(body, but=["course"])
    )
    course = body.course if body.course is not None else [] if "course" in body.model_fields_set else None
    return edits.ElementEdit(columns, course)


@places.get("/coordinates")
@places.input(schemas.CoordinatesQuery, location="query")
@places.output(schemas.CoordinatesOut)
def coordinates(query_data: schemas.CoordinatesQuery) -> Any:
    """The position of a text: decimal degrees, degrees-minutes-seconds, UTM or MGRS."""
    return schemas.CoordinatesOut.model_validate(parse_coordinates(query_data.text))


@places.get("/zone")
@places.input(schemas.ZoneQuery, location="query")
@places.output(schemas.ZoneOut)
def zone(query_data: schemas.ZoneQuery) -> Any:
    """The IANA zone proposed for coordinates."""
    return schemas.ZoneOut(zone=operations.propose_zone(query_data.latitude_deg, query_data.longitude_deg))


@places.get("/locations")
@places.output(schemas.LocationsOut)
def locations() -> Any:
    """All locations with viewpoints and elements."""
    here = context()
    return present_locations(all_location_details(here.session, here.owner_id))


@places.post("/locations")
@places.input(schemas.LocationIn, location="json")
@places.output(schemas.LocationOut, status_code=201)
def add_location(json_data: schemas.LocationIn) -> Any:
    """Add a location; it gets a first viewpoint."""
    here = context()
    latitude, longitude = json_data.coordinates or (json_data.latitude_deg, json_data.longitude_deg)
    if latitude is None or longitude is None:
        raise Refused("coordinates", "A location needs its coordinates.")
    new = edits.NewLocation(latitude, longitude, json_data.name, json_data.elevation_m, json_data.zone, json_data.notes)
    return present_location(location_details(here.session, operations.add_location(here.session, here.owner_id, new)))


@places.get("/locations/<int:location_id>")
@places.output(schemas.LocationOut)
def location(location_id: int) -> Any:
    """One location."""
    here = context()
    return present_location(
        location_details(here.session, rows.owned(here.session, here.owner_id, Location, location_id))
    )


@places.patch("/locations/<int:location_id>")
@places.input(schemas.LocationPatch, location="json")
@places.output(schemas.LocationOut)
def edit_location(location_id: int, json_data: schemas.LocationPatch) -> Any:
    """Edit a location."""
    here = context()
    columns = with_position(said(json_data))
    zone = columns.pop("zone", None)
    edit = edits.LocationEdit(columns, str(zone) if zone is not None else None)
    return present_location(
        location_details(here.session, operations.edit_location(here.session, here.owner_id, location_id, edit))
    )


@places.delete("/locations/<int:location_id>")
@places.output({}, status_code=204)
def delete_location(location_id: int) -> Any:
    """Delete a location with its viewpoints and elements; undo restores it."""
    here = context()
    operations.delete_location(here.session, here.owner_id, location_id)
    return ""


@places.post("/locations/<int:location_id>/viewpoints")
@places.input(schemas.ViewpointIn, location="json")
@places.output(schemas.ViewpointOut, status_code=201)
def add_viewpoint(location_id: int, json_data: schemas.ViewpointIn) -> Any:
    """Add a viewpoint."""
    here = context()
    return present_viewpoint(
        viewpoints.add_viewpoint(here.session, here.owner_id, location_id, _viewpoint_edit(json_data)), ()
    )


@places.patch("/viewpoints/<int:viewpoint_id>")
@places.input(schemas.ViewpointPatch, location="json")
@places.output(schemas.ViewpointOut)
def edit_viewpoint(viewpoint_id: int, json_data: schemas.ViewpointPatch) -> Any:
    """Edit a viewpoint."""
    here = context()
    row = viewpoints.edit_viewpoint(here.session, here.owner_id, viewpoint_id, _viewpoint_edit(json_data))
    return present_viewpoint(row, shots_at(here.session, row.id))


@places.delete("/viewpoints/<int:viewpoint_id>")
@places.output({}, status_code=204)
def delete_viewpoint(viewpoint_id: int) -> Any:
    """Delete a viewpoint with its elements; undo restores it."""
    here = context()
    viewpoints.delete_viewpoint(here.session, here.owner_id, viewpoint_id)
    return ""


@places.post("/viewpoints/<int:viewpoint_id>/elements")
@places.input(schemas.ElementIn, location="json")
@places.output(schemas.ElementOut, status_code=201)
def add_element(viewpoint_id: int, json_data: schemas.ElementIn) -> Any:
    """Add an element to a viewpoint."""
    here = context()
    return present_element(viewpoints.add_element(here.session, here.owner_id, viewpoint_id, _element_edit(json_data)))


@places.patch("/elements/<int:element_id>")
@places.input(schemas.ElementPatch, location="json")
@places.output(schemas.ElementOut)
def edit_element(element_id: int, json_data: schemas.ElementPatch) -> Any:
    """Edit an element."""
    here = context()
    return present_element(viewpoints.edit_element(here.session, here.owner_id, element_id, _element_edit(json_data)))


@places.delete("/elements/<int:element_id>")
@places.output({}, status_code=204)
def delete_element(element_id: int) -> Any:
    """Delete an element; undo restores it."""
    here = context()
    viewpoints.delete_element(here.session, here.owner_id, element_id)
    return ""


@places.get("/locations/<int:location_id>/sketch")
@places.output(schemas.SketchOut)
def sketch(location_id: int) -> Any:
    """A location from above, to scale."""
    here = context()
    return present_sketch(sketches.sketch_location(here.session, here.owner_id, location_id))


@places.post("/locations/<int:location_id>/hazards")
@places.input(schemas.HazardIn, location="json")
@places.output(schemas.HazardOut, status_code=201)
def add_hazard(location_id: int, json_data: schemas.HazardIn) -> Any:
    """Record a hazard."""
    here = context()
    return present_hazard(
        belongings.add_belonging(here.session, here.owner_id, location_id, Hazard, json_data.model_dump())
    )


@places.patch("/hazards/<int:hazard_id>")
@places.input(schemas.HazardPatch, location="json")
@places.output(schemas.HazardOut)
def edit_hazard(hazard_id: int, json_data: schemas.HazardPatch) -> Any:
    """Edit a hazard."""
    here = context()
    changes = json_data.model_dump(exclude_unset=True)
    return present_hazard(belongings.edit_belonging(here.session, here.owner_id, Hazard, hazard_id, changes))


@places.delete("/hazards/<int:hazard_id>")
@places.output({}, status_code=204)
def delete_hazard(hazard_id: int) -> Any:
    """Delete a hazard; undo restores it."""
    here = context()
    belongings.delete_belonging(here.session, here.owner_id, Hazard, hazard_id)
    return ""


@places.post("/locations/<int:location_id>/openings")
@places.input(schemas.OpeningIn, location="json")
@places.output(schemas.OpeningOut, status_code=201)
def add_opening(location_id: int, json_data: schemas.OpeningIn) -> Any:
    """Record opening hours, a closure or a permit."""
    here = context()
    return present_opening(
        belongings.add_belonging(here.session, here.owner_id, location_id, Opening, json_data.model_dump())
    )


@places.patch("/openings/<int:opening_id>")
@places.input(schemas.OpeningPatch, location="json")
@places.output(schemas.OpeningOut)
def edit_opening(opening_id: int, json_data: schemas.OpeningPatch) -> Any:
    """Edit opening hours, a closure or a permit."""
    here = context()
    changes = json_data.model_dump(exclude_unset=True)
    return present_opening(belongings.edit_belonging(here.session, here.owner_id, Opening, opening_id, changes))


@places.delete("/openings/<int:opening_id>")
@places.output({}, status_code=204)
def delete_opening(opening_id: int) -> Any:
    """Delete opening hours, a closure or a permit; undo restores it."""
    here = context()
    belongings.delete_belonging(here.session, here.owner_id, Opening, opening_id)
    return ""


@places.post("/viewpoints/<int:viewpoint_id>/scoutings")
@places.input(schemas.ScoutingIn, location="json")
@places.output(schemas.ScoutingOut, status_code=201)
def add_scouting(viewpoint_id: int, json_data: schemas.ScoutingIn) -> Any:
    """Record a visit to a viewpoint by day."""
    here = context()
    values = json_data.model_dump(exclude={"angles"})
    return present_scouting(scoutings.add_scouting(here.session, here.owner_id, viewpoint_id, values, json_data.angles))


@places.patch("/scoutings/<int:scouting_id>")
@places.input(schemas.ScoutingPatch, location="json")
@places.output(schemas.ScoutingOut)
def edit_scouting(scouting_id: int, json_data: schemas.ScoutingPatch) -> Any:
    """Edit a visit."""
    here = context()
    changes = json_data.model_dump(exclude_unset=True, exclude={"angles"})
    return present_scouting(
        scoutings.edit_scouting(here.session, here.owner_id, scouting_id, changes, json_data.angles)
    )


@places.delete("/scoutings/<int:scouting_id>")
@places.output({}, status_code=204)
def delete_scouting(scouting_id: int) -> Any:
    """Delete a visit; undo restores it without its photograph."""
    here = context()
    scoutings.delete_scouting(here.session, here.owner_id, scouting_id)
    return ""


@places.post("/scoutings/<int:scouting_id>/photo")
@places.input(FileQuery, location="query")
@places.output(schemas.ScoutingOut, status_code=201)
@takes_file(LARGEST_PHOTO_BYTES)
def keep_scouting_photo(scouting_id: int, query_data: FileQuery) -> Any:
    """Store a visit's photograph, in place of an older one."""
    here = context()
    now = datetime.now(UTC)
    return present_scouting(
        scoutings.keep_photo(here.session, here.owner_id, scouting_id, query_data.file_name, sent_file(), now)
    )


@places.get("/scoutings/<int:scouting_id>/photo")
@places.input(schemas.PhotoQuery, location="query")
@answers_with("image/jpeg")
def scouting_photo(scouting_id: int, query_data: schemas.PhotoQuery) -> Response:
    """A visit's photograph."""
    here = context()
    return Response(scoutings.photo_of(here.session, here.owner_id, scouting_id).content, mimetype="image/jpeg")


@places.delete("/scoutings/<int:scouting_id>/photo")
@places.output({}, status_code=204)
def drop_scouting_photo(scouting_id: int) -> Any:
    """Delete a visit's photograph for good."""
    here = context()
    scoutings.drop_photo(here.session, here.owner_id, scouting_id)
    return ""


@places.put("/locations/<int:location_id>/tide")
@places.input(schemas.OwnTideIn, location="json")
@places.output(schemas.LocationOut)
def set_own_tide(location_id: int, json_data: schemas.OwnTideIn) -> Any:
    """Set a location's own tide: a table of high and low waters, or harmonic constants."""
    here = context()
    row = tides.set_own_tide(here.session, here.owner_id, location_id, **json_data.model_dump())
    return present_location(location_details(here.session, row))


@places.delete("/locations/<int:location_id>/tide")
@places.output(schemas.LocationOut)
def drop_own_tide(location_id: int) -> Any:
    """Remove a location's own tide; undo restores it."""
    here = context()
    return present_location(
        location_details(here.session, tides.drop_own_tide(here.session, here.owner_id, location_id))
    )


@places.post("/locations/<int:location_id>/seasons")
@places.input(schemas.SeasonNoteIn, location="json")
@places.output(schemas.SeasonNoteOut, status_code=201)
def add_season_note(location_id: int, json_data: schemas.SeasonNoteIn) -> Any:
    """Add a season note."""
    here = context()
    return present_season_note(
        belongings.add_belonging(here.session, here.owner_id, location_id, SeasonNote, json_data.model_dump())
    )


@places.delete("/seasons/<int:note_id>")
@places.output({}, status_code=204)
def delete_season_note(note_id: int) -> Any:
    """Delete a season note; undo restores it."""
    here = context()
    belongings.delete_belonging(here.session, here.owner_id, SeasonNote, note_id)
    return ""


@places.patch("/tracks/<int:track_id>")
@places.input(schemas.TrackPatch, location="json")
@places.output(schemas.TrackOut)
def edit_track(track_id: int, json_data: schemas.TrackPatch) -> Any:
    """Rename a track."""
    here = context()
    return present_track(
        belongings.edit_belonging(here.session, here.owner_id, WalkTrack, track_id, json_data.model_dump())
    )


@places.delete("/tracks/<int:track_id>")
@places.output({}, status_code=204)
def delete_track(track_id: int) -> Any:
    """Delete a track; undo restores it."""
    here = context()
    belongings.delete_belonging(here.session, here.owner_id, WalkTrack, track_id)
    return ""


@places.post("/locations/<int:location_id>/readings")
@places.input(schemas.ReadingIn, location="json")
@places.output(schemas.ReadingOut, status_code=201)
def add_reading(location_id: int, json_data: schemas.ReadingIn) -> Any:
    """Store a meter reading; it shifts the day's curve."""
    here = context()
    meter = MeterSaid(json_data.ev100, json_data.f_number, json_data.shutter_s, json_data.iso, json_data.note)
    row = keep_reading(here.session, here.owner_id, location_id, json_data.date_local, json_data.clock_local, meter)
    return present_reading(row, rows.owned(here.session, here.owner_id, Location, location_id).zone)


@places.delete("/readings/<int:reading_id>")
@places.output({}, status_code=204)
def delete_reading(reading_id: int) -> Any:
    """Delete a meter reading; undo restores it."""
    here = context()
    belongings.delete_belonging(here.session, here.owner_id, MeterReading, reading_id)
    return ""
