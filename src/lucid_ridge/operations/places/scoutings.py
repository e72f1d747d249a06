"""Scouting visits to a viewpoint, with a photograph."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import datetime

from sqlalchemy import select
from sqlalchemy.orm import Session

from ...formats.errors import FormatError
from ...formats.measured_angles import read_angles
from ...formats.photo import read_photo
from ...store.places import Location, Scouting, ScoutingPhoto, Viewpoint
from ..platform.errors import NotFound, Refused
from ..platform.journal import delete_with_references, journaled
from ..platform.rows import LARGEST_ID, assign
from ..platform.rows import viewpoint as owned_viewpoint
from .locations import location_scope


def add_scouting(
    session: Session, owner_id: int, viewpoint_id: int, values: Mapping[str, object], angles: str
) -> Scouting:
    """Record a visit. angles: name, bearing and altitude, one per line ("cairn 212 4.5"). Raises Refused."""
    point = owned_viewpoint(session, owner_id, viewpoint_id)
    read = _read(angles)
    with journaled(session, owner_id, location_scope(point.location_id), f"scout {point.name}"):
        row = Scouting(viewpoint_id=point.id, angles=read, **values)
        session.add(row)
        session.flush()
        session.expire(point, ["scoutings"])
    return row


def edit_scouting(
    session: Session, owner_id: int, scouting_id: int, changes: Mapping[str, object], angles: str | None
) -> Scouting:
    """Edit a visit; angles None: not given. Raises Refused."""
    row, location_id = _owned(session, owner_id, scouting_id)
    more = {} if angles is None else {"angles": _read(angles)}
    with journaled(session, owner_id, location_scope(location_id), "edit the visit"):
        assign(row, {**changes, **more})
    return row


def delete_scouting(session: Session, owner_id: int, scouting_id: int) -> None:
    """Delete a visit; undo restores it without its photograph."""
    row, location_id = _owned(session, owner_id, scouting_id)
    with journaled(session, owner_id, location_scope(location_id), "delete the visit"):
        delete_with_references(session, row)


def keep_photo(
    session: Session, owner_id: int, scouting_id: int, file_name: str, content: bytes, now_utc: datetime
) -> Scouting:
    """Store a visit's photograph in place of an older one. Raises FormatError."""
    row, _ = _owned(session, owner_id, scouting_id)
    photo = read_photo(content)
    kept = session.get(ScoutingPhoto, row.id) or ScoutingPhoto(scouting_id=row.id)
    kept.name, kept.kept_at_utc, kept.content = file_name.strip()[:200] or "photograph", now_utc, photo.content
    session.add(kept)
    session.flush()
    session.expire(row, ["photo"])
    return row


def photo_of(session: Session, owner_id: int, scouting_id: int) -> ScoutingPhoto:
    """Return a visit's photograph. Raises NotFound."""
    row, _ = _owned(session, owner_id, scouting_id)
    kept = session.get(ScoutingPhoto, row.id)
    if kept is None:
        raise NotFound("photograph")
    return kept


def drop_photo(session: Session, owner_id: int, scouting_id: int) -> None:
    """Delete a visit's photograph for good."""
    session.delete(photo_of(session, owner_id, scouting_id))
    session.flush()
    session.expire_all()


def _read(angles: str) -> list[list[object]]:
    try:
        return [list(item) for item in read_angles(angles)]
    except FormatError as error:
        raise Refused("angles", error.message) from error


def _owned(session: Session, owner_id: int, scouting_id: int) -> tuple[Scouting, int]:
    query = (
        select(Scouting, Viewpoint.location_id)
        .join(Viewpoint, Viewpoint.id == Scouting.viewpoint_id)
        .join(Location, Location.id == Viewpoint.location_id)
        .where(Scouting.id == scouting_id, Location.owner_id == owner_id)
    )
    found = session.execute(query).first() if scouting_id <= LARGEST_ID else None
    if found is None:
        raise NotFound("visit")
    return found[0], found[1]
