"""Locations, viewpoints and elements."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from functools import cache
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session, selectinload
from timezonefinder import TimezoneFinder

from ..core.errors import InputError
from ..core.light.ephemeris import check_place
from ..core.light.instants import zone_info
from ..store.places import Element, Location, Viewpoint
from .errors import Refused
from .journal import delete_with_references, journaled
from .rows import assign, element, owned, viewpoint


@cache
def _finder() -> TimezoneFinder:
    return TimezoneFinder()


def propose_zone(latitude_deg: float, longitude_deg: float) -> str:
    """Return the IANA zone at a position; at sea the nautical Etc/GMT zone."""
    check_place(latitude_deg, longitude_deg, 0.0)
    return _finder().timezone_at(lat=latitude_deg, lng=longitude_deg) or "UTC"


def all_locations(session: Session, owner_id: int) -> Sequence[Location]:
    """Return the owner's locations by name, with viewpoints and elements."""
    query = select(Location).where(Location.owner_id == owner_id).order_by(Location.name, Location.id)
    return session.scalars(query.options(selectinload(Location.viewpoints).selectinload(Viewpoint.elements))).all()


def location_scope(location_id: int) -> str:
    return f"location:{location_id}"


def add_location(session: Session, owner_id: int, values: Mapping[str, Any]) -> Location:
    """Add a location with its first viewpoint; without a zone the one at the coordinates is taken."""
    values = dict(values)
    if not values.get("zone"):
        values["zone"] = propose_zone(values["latitude_deg"], values["longitude_deg"])
    _check_zone(values["zone"])
    with journaled(session, owner_id, "locations", f"add {values['name']}"):
        row = Location(owner_id=owner_id, **values)
        row.viewpoints.append(Viewpoint(name="First viewpoint"))
        session.add(row)
    return row


def edit_location(session: Session, owner_id: int, location_id: int, changes: Mapping[str, Any]) -> Location:
    """Change a location's own facts."""
    row = owned(session, owner_id, Location, location_id)
    if "zone" in changes:
        _check_zone(changes["zone"])
    with journaled(session, owner_id, location_scope(row.id), f"edit {row.name}"):
        assign(row, changes)
    return row


def delete_location(session: Session, owner_id: int, location_id: int) -> None:
    """Delete a location with its viewpoints and elements; shots from there lose their viewpoint."""
    row = owned(session, owner_id, Location, location_id)
    with journaled(session, owner_id, "locations", f"delete {row.name}"):
        delete_with_references(session, row)


def add_viewpoint(session: Session, owner_id: int, location_id: int, values: Mapping[str, Any]) -> Viewpoint:
    """Add a viewpoint to a location."""
    location = owned(session, owner_id, Location, location_id)
    with journaled(session, owner_id, location_scope(location.id), f"add {values['name']}"):
        row = Viewpoint(**values)
        location.viewpoints.append(row)
    return row


def edit_viewpoint(session: Session, owner_id: int, viewpoint_id: int, changes: Mapping[str, Any]) -> Viewpoint:
    """Change a viewpoint."""
    row = viewpoint(session, owner_id, viewpoint_id)
    with journaled(session, owner_id, location_scope(row.location_id), f"edit {row.name}"):
        assign(row, changes)
    return row


def delete_viewpoint(session: Session, owner_id: int, viewpoint_id: int) -> None:
    """Delete a viewpoint with its elements; shots from there lose it."""
    row = viewpoint(session, owner_id, viewpoint_id)
    with journaled(session, owner_id, location_scope(row.location_id), f"delete {row.name}"):
        delete_with_references(session, row)


def add_element(session: Session, owner_id: int, viewpoint_id: int, values: Mapping[str, Any]) -> Element:
    """Add an element to a viewpoint."""
    point = viewpoint(session, owner_id, viewpoint_id)
    with journaled(session, owner_id, location_scope(point.location_id), f"add {values['name']}"):
        row = Element(**values)
        point.elements.append(row)
    return row


def edit_element(session: Session, owner_id: int, element_id: int, changes: Mapping[str, Any]) -> Element:
    """Change an element."""
    row = element(session, owner_id, element_id)
    with journaled(session, owner_id, location_scope(row.viewpoint.location_id), f"edit {row.name}"):
        assign(row, changes)
    return row


def delete_element(session: Session, owner_id: int, element_id: int) -> None:
    """Delete an element; shots that wanted it sharp no longer do."""
    row = element(session, owner_id, element_id)
    with journaled(session, owner_id, location_scope(row.viewpoint.location_id), f"delete {row.name}"):
        delete_with_references(session, row)


def _check_zone(zone: str) -> None:
    try:
        zone_info(zone)
    except InputError as error:
        raise Refused("zone", error.message) from error
