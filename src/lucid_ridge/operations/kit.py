"""Bodies, lenses, filters and supports."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import TypeVar

from sqlalchemy import select
from sqlalchemy.orm import Session

from ..core.units.lengths import format_distance
from ..store.kit import Body, Filter, Lens, Support
from .errors import Refused
from .journal import delete_with_references, journaled
from .rows import assign, owned

KIT_SCOPE = "kit"
Piece = TypeVar("Piece", bound=Body | Lens | Filter | Support)


def all_of(session: Session, owner_id: int, kind: type[Piece]) -> Sequence[Piece]:
    """Return the owner's bodies, lenses, filters or supports by id."""
    return session.scalars(select(kind).where(kind.owner_id == owner_id).order_by(kind.id)).all()


def add(session: Session, owner_id: int, kind: type[Piece], values: Mapping[str, object]) -> Piece:
    """Add a piece of kit."""
    with journaled(session, owner_id, KIT_SCOPE, f"add {values['name']}"):
        row = kind(owner_id=owner_id, **values)
        _check(row)
        session.add(row)
    return row


def edit(session: Session, owner_id: int, kind: type[Piece], piece_id: int, changes: Mapping[str, object]) -> Piece:
    """Change a piece of kit."""
    row = owned(session, owner_id, kind, piece_id)
    with journaled(session, owner_id, KIT_SCOPE, f"edit {row.name}"):
        assign(row, changes)
        _check(row)
    return row


def delete(session: Session, owner_id: int, kind: type[Piece], piece_id: int) -> None:
    """Delete a piece of kit; shots that used it do without."""
    row = owned(session, owner_id, kind, piece_id)
    with journaled(session, owner_id, KIT_SCOPE, f"delete {row.name}"):
        delete_with_references(session, row)


def _check(row: Body | Lens | Filter | Support) -> None:
    """Hold the rules between two fields of one piece; each alone is checked by its schema."""
    if isinstance(row, Lens):
        if row.focal_max_mm is None:
            row.focal_max_mm = row.focal_min_mm
        if row.focal_max_mm < row.focal_min_mm:
            raise Refused("focal_max_mm", f"The longest focal length must be at least the shortest, {row.focal_min_mm:g} mm.")
        if row.f_number_max < row.f_number_min:
            raise Refused("f_number_max", f"The smallest aperture must be at least f/{row.f_number_min:g}.")
        if row.f_number_min_long is not None and row.f_number_max < row.f_number_min_long:
            raise Refused("f_number_max", f"The smallest aperture must be at least f/{row.f_number_min_long:g}.")
        if not row.f_number_min * 0.995 <= row.sharpest_f_number <= row.f_number_max * 1.005:
            raise Refused("sharpest_f_number", f"The sharpest aperture must lie from f/{row.f_number_min:g} to f/{row.f_number_max:g}.")
        nearest = 4 * row.focal_min_mm
        if not row.max_magnification and row.closest_focus_mm < nearest:
            raise Refused("closest_focus_mm", f"A lens of {row.focal_min_mm:g} mm cannot focus closer than {format_distance(nearest / 1000)} from the sensor without a magnification of its own: give its largest magnification.")  # fmt: skip
    if isinstance(row, Support):
        if row.height_max_m < row.height_min_m:
            raise Refused("height_max_m", f"The highest place must be at least the lowest, {format_distance(row.height_min_m)}.")
        if row.inverted_min_m is not None and row.inverted_min_m > row.height_min_m:
            raise Refused(
                "inverted_min_m",
                f"With its column inverted the camera comes lower than {format_distance(row.height_min_m)}, or leave it empty.",
            )
    if isinstance(row, Body):
        if row.max_iso < row.base_iso:
            raise Refused("max_iso", f"The highest ISO must be at least the base ISO, {row.base_iso:g}.")
        if row.slowest_shutter_s < row.fastest_shutter_s:
            raise Refused("slowest_shutter_s", "The slowest shutter time must not be shorter than the fastest.")
