"""Rows of a location: hazards, opening hours, season notes, tracks, meter readings."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TypeVar

from sqlalchemy import select
from sqlalchemy.orm import Session

from ...store.places import Hazard, Location, MeterReading, Opening, SeasonNote, WalkTrack
from ..platform.errors import NotFound
from ..platform.journal import delete_with_references, journaled
from ..platform.rows import LARGEST_ID, assign, owned
from .locations import location_scope

Belonging = TypeVar("Belonging", Hazard, Opening, SeasonNote, WalkTrack, MeterReading)
_WORDS: dict[type, str] = {
    Hazard: "hazard",
    Opening: "opening hours",
    SeasonNote: "season note",
    WalkTrack: "track",
    MeterReading: "meter reading",
}
_COLLECTIONS: dict[type, str] = {
    Hazard: "hazards",
    Opening: "openings",
    SeasonNote: "season_notes",
    WalkTrack: "tracks",
    MeterReading: "readings",
}


def add_belonging(
    session: Session, owner_id: int, location_id: int, kind: type[Belonging], values: Mapping[str, object]
) -> Belonging:
    """Add a hazard, a season note or a meter reading to a location."""
    location = owned(session, owner_id, Location, location_id)
    with journaled(session, owner_id, location_scope(location.id), f"add {_WORDS[kind]}"):
        row = kind(location_id=location.id, **values)
        session.add(row)
        session.flush()
        session.expire(location, [_COLLECTIONS[kind]])
    return row


def edit_belonging(
    session: Session, owner_id: int, kind: type[Belonging], row_id: int, changes: Mapping[str, object]
) -> Belonging:
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
    """Return a row of one of the owner's locations. Raises NotFound."""
    query = (
        select(kind)
        .join(Location, Location.id == kind.location_id)
        .where(kind.id == row_id, Location.owner_id == owner_id)
    )
    row = session.scalars(query).first() if row_id <= LARGEST_ID else None
    if row is None:
        raise NotFound(_WORDS[kind])
    return row
