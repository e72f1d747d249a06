"""Locations, viewpoints, elements, and the light of a day there."""

from __future__ import annotations

from typing import Any

from apiflask import APIBlueprint

from ..operations import places as operations
from ..operations import rows
from ..operations.facts import core_location
from ..store.places import Location
from .context import context
from .present.light import present_light_day
from .present.places import present_element, present_location, present_viewpoint
from .schemas import light as light_schemas
from .schemas import places as schemas

places = APIBlueprint("places", __name__, url_prefix="/api")


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
    return schemas.LocationsOut(locations=[present_location(row) for row in operations.all_locations(here.session, here.owner_id)])


@places.post("/locations")
@places.input(schemas.LocationIn, location="json")
@places.output(schemas.LocationOut, status_code=201)
def add_location(json_data: schemas.LocationIn) -> Any:
    """Add a location; it gets a first viewpoint."""
    here = context()
    return present_location(operations.add_location(here.session, here.owner_id, json_data.model_dump()))


@places.get("/locations/<int:location_id>")
@places.output(schemas.LocationOut)
def location(location_id: int) -> Any:
    """One location."""
    here = context()
    return present_location(rows.owned(here.session, here.owner_id, Location, location_id))


@places.patch("/locations/<int:location_id>")
@places.input(schemas.LocationPatch, location="json")
@places.output(schemas.LocationOut)
def edit_location(location_id: int, json_data: schemas.LocationPatch) -> Any:
    """Change a location."""
    here = context()
    changes = json_data.model_dump(exclude_unset=True)
    return present_location(operations.edit_location(here.session, here.owner_id, location_id, changes))


@places.delete("/locations/<int:location_id>")
@places.output({}, status_code=204)
def delete_location(location_id: int) -> Any:
    """Delete a location with its viewpoints and elements; undo brings it back."""
    here = context()
    operations.delete_location(here.session, here.owner_id, location_id)
    return ""


@places.get("/locations/<int:location_id>/light")
@places.input(light_schemas.LightQuery, location="query")
@places.output(light_schemas.LightDayOut)
def light(location_id: int, query_data: light_schemas.LightQuery) -> Any:
    """A local day's events, bands and fall of light."""
    here = context()
    row = rows.owned(here.session, here.owner_id, Location, location_id)
    return present_light_day(core_location(row), query_data.date_local)


@places.post("/locations/<int:location_id>/viewpoints")
@places.input(schemas.ViewpointIn, location="json")
@places.output(schemas.ViewpointOut, status_code=201)
def add_viewpoint(location_id: int, json_data: schemas.ViewpointIn) -> Any:
    """Add a viewpoint."""
    here = context()
    return present_viewpoint(operations.add_viewpoint(here.session, here.owner_id, location_id, json_data.model_dump()))


@places.patch("/viewpoints/<int:viewpoint_id>")
@places.input(schemas.ViewpointPatch, location="json")
@places.output(schemas.ViewpointOut)
def edit_viewpoint(viewpoint_id: int, json_data: schemas.ViewpointPatch) -> Any:
    """Change a viewpoint."""
    here = context()
    changes = json_data.model_dump(exclude_unset=True)
    return present_viewpoint(operations.edit_viewpoint(here.session, here.owner_id, viewpoint_id, changes))


@places.delete("/viewpoints/<int:viewpoint_id>")
@places.output({}, status_code=204)
def delete_viewpoint(viewpoint_id: int) -> Any:
    """Delete a viewpoint with its elements; undo brings it back."""
    here = context()
    operations.delete_viewpoint(here.session, here.owner_id, viewpoint_id)
    return ""


@places.post("/viewpoints/<int:viewpoint_id>/elements")
@places.input(schemas.ElementIn, location="json")
@places.output(schemas.ElementOut, status_code=201)
def add_element(viewpoint_id: int, json_data: schemas.ElementIn) -> Any:
    """Add an element to a viewpoint."""
    here = context()
    return present_element(operations.add_element(here.session, here.owner_id, viewpoint_id, json_data.model_dump()))


@places.patch("/elements/<int:element_id>")
@places.input(schemas.ElementPatch, location="json")
@places.output(schemas.ElementOut)
def edit_element(element_id: int, json_data: schemas.ElementPatch) -> Any:
    """Change an element."""
    here = context()
    changes = json_data.model_dump(exclude_unset=True)
    return present_element(operations.edit_element(here.session, here.owner_id, element_id, changes))


@places.delete("/elements/<int:element_id>")
@places.output({}, status_code=204)
def delete_element(element_id: int) -> Any:
    """Delete an element; undo brings it back."""
    here = context()
    operations.delete_element(here.session, here.owner_id, element_id)
    return ""
