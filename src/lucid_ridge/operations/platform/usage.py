"""Finds which shots use a row, to be shown before it is edited or deleted."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from sqlalchemy import and_, false, or_, select
from sqlalchemy.orm import Session

from ...store.kit import Accessory, Body, Filter, Lens, Support
from ...store.shots import Shot, ShotAccessory, ShotFilter

_COLUMNS: dict[type[Any], Any] = {Body: Shot.body_id, Lens: Shot.lens_id, Support: Shot.support_id}
_JOINED: dict[type[Any], Any] = {Filter: ShotFilter.filter_id, Accessory: ShotAccessory.accessory_id}


@dataclass(frozen=True)
class Use:
    """A shot that uses a row."""

    id: int
    name: str


def shots_at(session: Session, viewpoint_id: int) -> Sequence[Use]:
    """Return the shots from a viewpoint: all of them see its elements."""
    found = session.execute(select(Shot.id, Shot.name).where(Shot.viewpoint_id == viewpoint_id).order_by(Shot.id))
    return [Use(*row) for row in found]


def uses_of_kit(
    session: Session, owner_id: int, kind: type[Body | Lens | Filter | Support | Accessory]
) -> dict[int, list[Use]]:
    """Return the shots that use each piece of a kind of the owner's kit."""
    uses: dict[int, list[Use]] = defaultdict(list)
    if kind in _JOINED:
        named = _JOINED[kind]
        query = select(named, Shot.id, Shot.name).join(Shot, Shot.id == named.class_.shot_id)
    else:
        query = select(_COLUMNS[kind], Shot.id, Shot.name).where(_COLUMNS[kind].is_not(None))
    for piece_id, shot_id, name in session.execute(query.where(Shot.owner_id == owner_id).order_by(Shot.id)):
        uses[piece_id].append(Use(shot_id, name))
    return uses


def around(session: Session, shot: Shot) -> tuple[tuple[Use, ...], bool]:
    """Return the shots from a shot's viewpoint, and whether another shot of the owner has the same name."""
    here = Shot.viewpoint_id == shot.viewpoint_id if shot.viewpoint_id is not None else false()
    same = and_(Shot.name == shot.name, Shot.id != shot.id)
    query = select(Shot.id, Shot.name, here.label("here"), same.label("same")).where(
        Shot.owner_id == shot.owner_id, or_(here, same)
    )
    found = session.execute(query.order_by(Shot.id)).all()
    return tuple(Use(row.id, row.name) for row in found if row.here), any(row.same for row in found)
