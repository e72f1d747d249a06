"""Finds an owner's rows, and no others."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cache
from typing import Any, TypeVar

from sqlalchemy import Select, bindparam, select
from sqlalchemy.orm import Session
from sqlalchemy.orm.interfaces import ORMOption

from ...store.base import Base
from ...store.kit import Accessory, Body, Filter, Lens, Support
from ...store.log import Calibration, LogEntry
from ...store.outings import Outing
from ...store.places import Element, Location, Viewpoint
from ...store.shots import Shot
from .errors import NotFound

Owned = TypeVar(
    "Owned", bound=Location | Shot | Body | Lens | Filter | Support | Accessory | Outing | LogEntry | Calibration
)
LARGEST_ID = 2**31 - 1


def owned(session: Session, owner_id: int, kind: type[Owned], row_id: int, *options: ORMOption) -> Owned:
    """Return the owner's row of a kind by id. options: how related rows are loaded. Raises NotFound."""
    wanted: Any = kind
    row: Owned | None = (
        session.scalars(_owned(wanted, *options), {"row": row_id, "owner": owner_id}).first()
        if row_id <= LARGEST_ID
        else None
    )
    if row is None:
        raise NotFound(kind.__name__.lower())
    return row


# Built once per kind: nearly every request begins with one of them.
@cache
def _owned(kind: Any, *options: Any) -> Select[Any]:
    return select(kind).where(kind.id == bindparam("row"), kind.owner_id == bindparam("owner")).options(*options)


def viewpoint(session: Session, owner_id: int, viewpoint_id: int) -> Viewpoint:
    """Return a viewpoint on one of the owner's locations. Raises NotFound."""
    query = select(Viewpoint).join(Location).where(Viewpoint.id == viewpoint_id, Location.owner_id == owner_id)
    row = session.scalars(query).first() if viewpoint_id <= LARGEST_ID else None
    if row is None:
        raise NotFound("viewpoint")
    return row


def element(session: Session, owner_id: int, element_id: int) -> Element:
    """Return an element of one of the owner's viewpoints. Raises NotFound."""
    query = (
        select(Element).join(Viewpoint).join(Location).where(Element.id == element_id, Location.owner_id == owner_id)
    )
    row = session.scalars(query).first() if element_id <= LARGEST_ID else None
    if row is None:
        raise NotFound("element")
    return row


def assign(row: Base, changes: Mapping[str, object]) -> None:
    """Set the columns named in changes. Raises TypeError for an unknown column."""
    columns = type(row).__table__.columns
    unknown = [name for name in changes if name not in columns]
    if unknown:
        raise TypeError(f"{type(row).__name__} has no column {', '.join(unknown)}.")
    for name, value in changes.items():
        setattr(row, name, value)
