"""Locations, viewpoints and elements."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from functools import cache
from threading import Lock
from typing import Any, TypeVar

from sqlalchemy import select
from sqlalchemy.orm import Session, selectinload
from timezonefinder import TimezoneFinder

from ..core.errors import InputError
from ..core.framing.ground import standing_area
from ..core.ground.geodesy import offset
from ..core.light.ephemeris import check_place
from ..core.light.instants import zone_info
from ..standins.tide import tide_places
from ..store.places import Element, Hazard, Location, MeterReading, SeasonNote, Viewpoint, WalkTrack
from .errors import NotFound, Refused
from .journal import delete_with_references, journaled
from .rows import LARGEST_ID, assign, element, owned, viewpoint

Belonging = TypeVar("Belonging", Hazard, SeasonNote, WalkTrack, MeterReading)


# The finder reads its files as it goes and is not made for several threads at once.
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


def add_location(session: Session, owner_id: int, values: Mapping[str, Any]) -> Location:
    """Add a location with its first viewpoint; without a zone the one at the coordinates is taken."""
    values = dict(values)
    if not values.get("name"):
        values["name"] = _name_of(values["latitude_deg"], values["longitude_deg"])
    if not values.get("zone"):
        values["zone"] = propose_zone(values["latitude_deg"], values["longitude_deg"])
    _check_zone(values["zone"])
    with journaled(session, owner_id, "locations", f"add {values['name']}"):
        row = Location(owner_id=owner_id, **values)
        row.viewpoints.append(Viewpoint(name="First viewpoint"))
        session.add(row)
    return row


def _name_of(latitude: float, longitude: float) -> str:
    """Return a name to begin with: the coordinates to about ten metres."""
    return f"{abs(latitude):.4f}° {'S' if latitude < 0 else 'N'}, {abs(longitude):.4f}° {'W' if longitude < 0 else 'E'}"


def edit_location(session: Session, owner_id: int, location_id: int, changes: Mapping[str, Any]) -> Location:
    """Change a location's own facts."""
    row = owned(session, owner_id, Location, location_id)
    if "zone" in changes:
        _check_zone(changes["zone"])
    if changes.get("tide_place") is not None and changes["tide_place"] not in tide_places():
        raise Refused("tide_place", f"The tide is known for {' and '.join(tide_places())}, not for “{changes['tide_place']}”.")
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
    values = _checked_standing(_placed(session, owner_id, values))
    with journaled(session, owner_id, location_scope(location.id), f"add {values['name']}"):
        row = Viewpoint(**values)
        location.viewpoints.append(row)
    return row


def edit_viewpoint(session: Session, owner_id: int, viewpoint_id: int, changes: Mapping[str, Any]) -> Viewpoint:
    """Change a viewpoint."""
    row = viewpoint(session, owner_id, viewpoint_id)
    changes = _checked_standing(_placed(session, owner_id, changes))
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
        row = Element(**_with_course(values))
        point.elements.append(row)
    return row


def edit_element(session: Session, owner_id: int, element_id: int, changes: Mapping[str, Any]) -> Element:
    """Change an element."""
    row = element(session, owner_id, element_id)
    with journaled(session, owner_id, location_scope(row.viewpoint.location_id), f"edit {row.name}"):
        assign(row, _with_course(changes))
    return row


def _with_course(values: Mapping[str, Any]) -> dict[str, Any]:
    """Return values with a line's further points as they are kept: [[bearing, distance], …]."""
    values = dict(values)
    if values.get("course") is not None:
        values["course"] = [[bearing % 360, distance] for bearing, distance in values["course"]]
    elif "course" in values:
        values["course"] = []
    return values


def _checked_standing(values: Mapping[str, Any]) -> dict[str, Any]:
    """Return a viewpoint's values with its standing area checked."""
    values = dict(values)
    if values.get("standing") is not None:
        kept = values["standing"]
        area = standing_area(kept["corners"], kept.get("drops", []))
        values["standing"] = {"corners": [list(corner) for corner in area.corners], "drops": sorted(area.drops)}
    return values


def delete_element(session: Session, owner_id: int, element_id: int) -> None:
    """Delete an element; shots that wanted it sharp no longer do."""
    row = element(session, owner_id, element_id)
    with journaled(session, owner_id, location_scope(row.viewpoint.location_id), f"delete {row.name}"):
        delete_with_references(session, row)


def add_belonging(session: Session, owner_id: int, location_id: int, kind: type[Belonging], values: Mapping[str, Any]) -> Belonging:
    """Add a hazard, a season note or a meter reading to a location."""
    location = owned(session, owner_id, Location, location_id)
    with journaled(session, owner_id, location_scope(location.id), f"add {_WORDS[kind]}"):
        row = kind(location_id=location.id, **values)
        session.add(row)
        session.flush()
        session.expire(location, [_COLLECTIONS[kind]])
    return row


def edit_belonging(session: Session, owner_id: int, kind: type[Belonging], row_id: int, changes: Mapping[str, Any]) -> Belonging:
    """Change one of a location's hazards, season notes, tracks or readings."""
    row = belonging(session, owner_id, kind, row_id)
    with journaled(session, owner_id, location_scope(row.location_id), f"edit {_WORDS[kind]}"):
        assign(row, changes)
    return row


def delete_belonging(session: Session, owner_id: int, kind: type[Belonging], row_id: int) -> None:
    """Delete one of a location's hazards, season notes, tracks or readings."""
    row = belonging(session, owner_id, kind, row_id)
    with journaled(session, owner_id, location_scope(row.location_id), f"delete {_WORDS[kind]}"):
        delete_with_references(session, row)


def belonging(session: Session, owner_id: int, kind: type[Belonging], row_id: int) -> Belonging:
    """Return a row that belongs to one of the owner's locations. Raises NotFound."""
    query = select(kind).join(Location, Location.id == kind.location_id).where(kind.id == row_id, Location.owner_id == owner_id)
    row = session.scalars(query).first() if row_id <= LARGEST_ID else None
    if row is None:
        raise NotFound(_WORDS[kind])
    return row


_WORDS: dict[type[Any], str] = {Hazard: "hazard", SeasonNote: "season note", WalkTrack: "track", MeterReading: "meter reading"}
_COLLECTIONS: dict[type[Any], str] = {Hazard: "hazards", SeasonNote: "season_notes", WalkTrack: "tracks", MeterReading: "readings"}


def _placed(session: Session, owner_id: int, values: Mapping[str, Any]) -> dict[str, Any]:
    """Return a viewpoint's values with its position worked out from distance and bearing from another, where it is given so."""
    values = dict(values)
    origin_id, bearing, along = (values.pop(name, None) for name in ("from_viewpoint_id", "from_bearing_deg", "from_distance_m"))
    if origin_id is None and bearing is None and along is None:
        if ("latitude_deg" in values) != ("longitude_deg" in values) or (values.get("latitude_deg") is None) != (
            values.get("longitude_deg") is None
        ):
            raise Refused("latitude_deg", "A position needs latitude and longitude.")
        return values
    for name, value in (("from_viewpoint_id", origin_id), ("from_bearing_deg", bearing), ("from_distance_m", along)):
        if value is None:
            raise Refused(name, "A position from another viewpoint needs the viewpoint, the bearing and the distance.")
    try:
        origin = viewpoint(session, owner_id, int(origin_id or 0))
    except NotFound as error:
        raise Refused("from_viewpoint_id", error.message) from error
    latitude = origin.location.latitude_deg if origin.latitude_deg is None else origin.latitude_deg
    longitude = origin.location.longitude_deg if origin.longitude_deg is None else origin.longitude_deg
    values["latitude_deg"], values["longitude_deg"] = offset(latitude, longitude, float(bearing or 0.0), float(along or 0.0))
    return values


def _check_zone(zone: str) -> None:
    try:
        zone_info(zone)
    except InputError as error:
        raise Refused("zone", error.message) from error
