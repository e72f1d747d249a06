"""Viewpoints of a location, and the elements seen from them."""

from __future__ import annotations

from sqlalchemy.orm import Session

from ...core.framing.footing import standing_area
from ...core.ground.geodesy import offset
from ...store.places import Element, Location, Viewpoint
from ..platform.errors import NotFound, Refused
from ..platform.journal import delete_with_references, journaled
from ..platform.rows import assign, element, owned, viewpoint
from .edits import ElementEdit, FromViewpoint, ViewpointEdit
from .locations import location_scope


def add_viewpoint(session: Session, owner_id: int, location_id: int, edit: ViewpointEdit) -> Viewpoint:
    """Add a viewpoint to a location."""
    location = owned(session, owner_id, Location, location_id)
    columns = _columns(session, owner_id, edit)
    with journaled(session, owner_id, location_scope(location.id), f"add {columns['name']}"):
        row = Viewpoint()
        assign(row, columns)
        location.viewpoints.append(row)
    return row


def edit_viewpoint(session: Session, owner_id: int, viewpoint_id: int, edit: ViewpointEdit) -> Viewpoint:
    """Change a viewpoint."""
    row = viewpoint(session, owner_id, viewpoint_id)
    columns = _columns(session, owner_id, edit)
    with journaled(session, owner_id, location_scope(row.location_id), f"edit {row.name}"):
        assign(row, columns)
    return row


def delete_viewpoint(session: Session, owner_id: int, viewpoint_id: int) -> None:
    """Delete a viewpoint with its elements; shots from there lose it."""
    row = viewpoint(session, owner_id, viewpoint_id)
    with journaled(session, owner_id, location_scope(row.location_id), f"delete {row.name}"):
        delete_with_references(session, row)


def add_element(session: Session, owner_id: int, viewpoint_id: int, edit: ElementEdit) -> Element:
    """Add an element to a viewpoint."""
    point = viewpoint(session, owner_id, viewpoint_id)
    with journaled(session, owner_id, location_scope(point.location_id), f"add {edit.columns['name']}"):
        row = Element()
        assign(row, _element_columns(edit))
        point.elements.append(row)
    return row


def edit_element(session: Session, owner_id: int, element_id: int, edit: ElementEdit) -> Element:
    """Change an element."""
    row = element(session, owner_id, element_id)
    with journaled(session, owner_id, location_scope(row.viewpoint.location_id), f"edit {row.name}"):
        assign(row, _element_columns(edit))
    return row


def delete_element(session: Session, owner_id: int, element_id: int) -> None:
    """Delete an element; shots that wanted it sharp no longer do."""
    row = element(session, owner_id, element_id)
    with journaled(session, owner_id, location_scope(row.viewpoint.location_id), f"delete {row.name}"):
        delete_with_references(session, row)


def _element_columns(edit: ElementEdit) -> dict[str, object]:
    """Return an element's columns; further points of a line as stored: [[bearing, distance], …]."""
    course = {} if edit.course is None else {"course": [[bearing % 360, distance] for bearing, distance in edit.course]}
    return {**edit.columns, **course}


def _columns(session: Session, owner_id: int, edit: ViewpointEdit) -> dict[str, object]:
    """Return a viewpoint's columns, with its position computed if given from another viewpoint, and its standing area
    checked.
    """
    columns = dict(edit.columns)
    if edit.origin is not None:
        columns["latitude_deg"], columns["longitude_deg"] = _from_another(session, owner_id, edit.origin)
    elif ("latitude_deg" in columns) != ("longitude_deg" in columns) or (columns.get("latitude_deg") is None) != (
        columns.get("longitude_deg") is None
    ):
        raise Refused("latitude_deg", "A position needs latitude and longitude.")
    if edit.standing is not None:
        area = standing_area(edit.standing.corners, edit.standing.drops)
        columns["standing"] = {"corners": [list(corner) for corner in area.corners], "drops": sorted(area.drops)}
    elif edit.sets_standing:
        columns["standing"] = None
    return columns


def _from_another(session: Session, owner_id: int, said: FromViewpoint) -> tuple[float, float]:
    bearing, distance = said.bearing_deg, said.distance_m
    for name, value in (
        ("from_viewpoint_id", said.viewpoint_id),
        ("from_bearing_deg", bearing),
        ("from_distance_m", distance),
    ):
        if value is None:
            raise Refused(name, "A position from another viewpoint needs the viewpoint, the bearing and the distance.")
    assert said.viewpoint_id is not None and bearing is not None and distance is not None
    try:
        origin = viewpoint(session, owner_id, said.viewpoint_id)
    except NotFound as error:
        raise Refused("from_viewpoint_id", error.message) from error
    latitude = origin.location.latitude_deg if origin.latitude_deg is None else origin.latitude_deg
    longitude = origin.location.longitude_deg if origin.longitude_deg is None else origin.longitude_deg
    return offset(latitude, longitude, bearing, distance)
