"""Locations and their time zones."""

from __future__ import annotations

from collections.abc import Sequence
from functools import cache
from threading import Lock

from sqlalchemy import select
from sqlalchemy.orm import Session, selectinload
from timezonefinder import TimezoneFinder

from ...core.errors import InputError
from ...core.light.ephemeris import check_place
from ...core.spans.instants import zone_info
from ...core.units.lengths import format_distance
from ...standins.tide import REACH_M, distance_to_place_m, tide_places
from ...store.places import Location, Viewpoint
from ..platform.errors import Refused
from ..platform.journal import delete_with_references, journaled
from ..platform.rows import assign, owned
from .edits import LocationEdit, NewLocation

# The time zone finder reads its files lazily and is not thread-safe.
_one_at_a_time = Lock()


@cache
def _finder() -> TimezoneFinder:
    return TimezoneFinder()


def propose_zone(latitude_deg: float, longitude_deg: float) -> str:
    """Return the IANA zone at a position; at sea the nautical Etc/GMT zone."""
    check_place(latitude_deg, longitude_deg, 0.0)
    with _one_at_a_time:
        return _finder().timezone_at(lat=latitude_deg, lng=longitude_deg) or "UTC"


def all_locations(session: Session, owner_id: int) -> Sequence[Location]:
    """Return the owner's locations by name, with viewpoints and elements."""
    query = select(Location).where(Location.owner_id == owner_id).order_by(Location.name, Location.id)
    return session.scalars(query.options(selectinload(Location.viewpoints).selectinload(Viewpoint.elements))).all()


def location_scope(location_id: int) -> str:
    return f"location:{location_id}"


def add_location(session: Session, owner_id: int, said: NewLocation) -> Location:
    """Add a location with its first viewpoint. Raises Refused for an unknown zone."""
    name = said.name or _name_of(said.latitude_deg, said.longitude_deg)
    zone = said.zone or propose_zone(said.latitude_deg, said.longitude_deg)
    _check_zone(zone)
    with journaled(session, owner_id, "locations", f"add {name}"):
        row = Location(
            owner_id=owner_id,
            name=name,
            latitude_deg=said.latitude_deg,
            longitude_deg=said.longitude_deg,
            elevation_m=said.elevation_m,
            zone=zone,
            notes=said.notes,
        )
        row.viewpoints.append(Viewpoint(name="First viewpoint"))
        session.add(row)
    return row


def _name_of(latitude: float, longitude: float) -> str:
    """Return a default name: the coordinates to about ten metres."""
    return f"{abs(latitude):.4f}° {'S' if latitude < 0 else 'N'}, {abs(longitude):.4f}° {'W' if longitude < 0 else 'E'}"


def edit_location(session: Session, owner_id: int, location_id: int, edit: LocationEdit) -> Location:
    """Edit a location. Raises Refused for an unknown zone, or a reference place whose tide is not known."""
    row = owned(session, owner_id, Location, location_id)
    if edit.zone is not None:
        _check_zone(edit.zone)
    tide_place = edit.columns.get("tide_place")
    if tide_place is not None and tide_place not in tide_places():
        raise Refused("tide_place", f"The tide is known for {' and '.join(tide_places())}, not for “{tide_place}”.")
    if (
        isinstance(tide_place, str)
        and (away_m := distance_to_place_m(tide_place, row.latitude_deg, row.longitude_deg)) > REACH_M
    ):
        raise Refused(
            "tide_place",
            f"{tide_place} lies {format_distance(away_m)} away: its tide is not this place's. Take a tide table "
            "of your own.",
        )
    with journaled(session, owner_id, location_scope(row.id), f"edit {row.name}"):
        assign(row, edit.columns if edit.zone is None else {**edit.columns, "zone": edit.zone})
    return row


def delete_location(session: Session, owner_id: int, location_id: int) -> None:
    """Delete a location with its viewpoints and elements; shots from there lose their viewpoint."""
    row = owned(session, owner_id, Location, location_id)
    with journaled(session, owner_id, "locations", f"delete {row.name}"):
        delete_with_references(session, row)


def _check_zone(zone: str) -> None:
    try:
        zone_info(zone)
    except InputError as error:
        raise Refused("zone", error.message) from error
