"""Bodies, lenses, filters, supports and accessories."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import TypeVar

from sqlalchemy import select
from sqlalchemy.orm import Session

from ...core.facts import accessory as core
from ...core.facts.accessory import FIGURES, AccessoryKind
from ...core.facts.declaring import facts_of
from ...core.facts.filters import FilterKind
from ...core.labels import label_of
from ...core.units.lengths import format_distance
from ...store.kit import Accessory, Body, Filter, Lens, Support
from ..platform.errors import Refused
from ..platform.journal import delete_with_references, journaled
from ..platform.rows import assign, owned

KIT_SCOPE = "kit"
Piece = TypeVar("Piece", bound=Body | Lens | Filter | Support | Accessory)


def all_of(session: Session, owner_id: int, kind: type[Piece]) -> Sequence[Piece]:
    """Return the owner's bodies, lenses, filters, supports or accessories by id."""
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
    """Delete a piece of kit; shots that used it lose it."""
    row = owned(session, owner_id, kind, piece_id)
    with journaled(session, owner_id, KIT_SCOPE, f"delete {row.name}"):
        delete_with_references(session, row)


def _check(row: Body | Lens | Filter | Support | Accessory) -> None:
    """Check rules between fields of one piece; single fields are checked by their schema."""
    match row:
        case Lens():
            _check_lens(row)
        case Accessory():
            _check_accessory(row)
        case Filter():
            _check_filter(row)
        case Support():
            _check_support(row)
        case Body():
            _check_body(row)


def _check_lens(row: Lens) -> None:
    if row.focal_max_mm is None:
        row.focal_max_mm = row.focal_min_mm
    if row.focal_max_mm < row.focal_min_mm:
        raise Refused(
            "focal_max_mm", f"The longest focal length must be at least the shortest, {row.focal_min_mm:g} mm."
        )
    if row.f_number_max < row.f_number_min:
        raise Refused("f_number_max", f"The smallest aperture must be at least f/{row.f_number_min:g}.")
    if row.f_number_min_long is not None and row.f_number_max < row.f_number_min_long:
        raise Refused("f_number_max", f"The smallest aperture must be at least f/{row.f_number_min_long:g}.")
    if not row.f_number_min * 0.995 <= row.sharpest_f_number <= row.f_number_max * 1.005:
        raise Refused(
            "sharpest_f_number",
            f"The sharpest aperture must lie from f/{row.f_number_min:g} to f/{row.f_number_max:g}.",
        )
    nearest = 4 * row.focal_min_mm
    if not row.max_magnification and row.closest_focus_mm < nearest:
        raise Refused(
            "closest_focus_mm",
            f"A lens of {row.focal_min_mm:g} mm cannot focus closer than "
            f"{format_distance(nearest / 1000)} from the sensor without a magnification of its own: give "
            "its largest magnification.",
        )


def _check_filter(row: Filter) -> None:
    if row.stops_max is None:
        return
    if not FilterKind(row.kind).lengthens_exposure:
        raise Refused("stops_max", "Only neutral density can be turned from weak to strong: leave it empty.")
    if row.stops_max <= row.stops:
        raise Refused("stops_max", f"The strongest setting must take more than the weakest, {row.stops:g} stops.")


def _check_support(row: Support) -> None:
    if row.height_max_m < row.height_min_m:
        raise Refused(
            "height_max_m", f"The highest place must be at least the lowest, {format_distance(row.height_min_m)}."
        )
    if row.inverted_min_m is not None and row.inverted_min_m > row.height_min_m:
        raise Refused(
            "inverted_min_m",
            f"With its column inverted the camera comes lower than {format_distance(row.height_min_m)}, "
            "or leave it empty.",
        )


def _check_body(row: Body) -> None:
    if row.max_iso < row.base_iso:
        raise Refused("max_iso", f"The highest ISO must be at least the base ISO, {row.base_iso:g}.")
    if row.extended_iso_min is not None and row.extended_iso_min >= row.base_iso:
        raise Refused("extended_iso_min", f"The extended range begins under the base ISO, {row.base_iso:g}.")
    if row.extended_iso_max is not None and row.extended_iso_max <= row.max_iso:
        raise Refused("extended_iso_max", f"The extended range ends over the highest ISO, {row.max_iso:g}.")
    if row.slowest_shutter_s < row.fastest_shutter_s:
        raise Refused("slowest_shutter_s", "The slowest shutter time must not be shorter than the fastest.")


def _check_accessory(row: Accessory) -> None:
    """Check that an accessory has exactly the figures of its kind."""
    wanted = FIGURES[AccessoryKind(row.kind)]
    every = {name for names in FIGURES.values() for name in names}
    for name in wanted:
        if getattr(row, name) is None:
            raise Refused(
                name,
                f"Of {_with_article(label_of(core.AccessoryKind(row.kind)))} the "
                f"{facts_of(core.Accessory)[name].label} must be known.",
            )
    for name in sorted(every - set(wanted)):
        if getattr(row, name) is not None:
            setattr(row, name, None)
    if row.shortest_mm is not None and row.longest_mm is not None and row.longest_mm < row.shortest_mm:
        raise Refused("longest_mm", f"The longest draw must be at least the shortest, {row.shortest_mm:g} mm.")


def _with_article(kind: str) -> str:
    if kind.endswith("bellows"):
        return kind
    return f"{'an' if kind[0] in 'aeioL' else 'a'} {kind}"
