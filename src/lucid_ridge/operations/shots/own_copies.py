"""Copies a shared row for one shot only."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from sqlalchemy import inspect
from sqlalchemy.orm import Session

from ...core.facts.choices import GROUPS
from ...core.facts.declaring import facts_of
from ...store.kit import Body, Lens, Support
from ...store.places import Element, Hazard, Location, Opening, SeasonNote, Viewpoint, WalkTrack
from ...store.references import followed
from ...store.shots import Shot, ShotSharpElement
from ..platform.errors import Refused
from ..platform.journal import journaled
from ..platform.rows import owned
from .facts import groups_of, spots_of, wishes_of
from .shots import shot_scope

SHARED = ("viewpoint", "location", "body", "lens", "support")
_LONGEST_NAME = 200


def give_own(session: Session, owner_id: int, shot_id: int, what: str) -> Shot:
    """Give a shot its own copy of its viewpoint (with elements), location, body, lens or support; other shots keep
    theirs.

    One edit for undo. Raises Refused if the shot has none.
    """
    shot = owned(session, owner_id, Shot, shot_id)
    if what == "location":
        point = shot.viewpoint
        if point is None:
            raise Refused("what", "The shot has no place yet.")
        with journaled(session, owner_id, shot_scope(shot.id), f"{point.location.name} for this shot only"):
            place = _copy(point.location, shot.name)
            for kind, name in (
                (Hazard, "hazards"),
                (Opening, "openings"),
                (SeasonNote, "season_notes"),
                (WalkTrack, "tracks"),
            ):
                getattr(place, name).extend(
                    _copy(row) for row in getattr(point.location, name) if isinstance(row, kind)
                )
            session.add(place)
            _move(session, shot, point, place)
        return shot
    row: Any = getattr(shot, what)
    if row is None:
        raise Refused("what", f"The shot has no {what} yet.")
    with journaled(session, owner_id, shot_scope(shot.id), f"{row.name} for this shot only"):
        if what == "viewpoint":
            _move(session, shot, row, row.location)
        else:
            copied: Body | Lens | Support = _copy(row, shot.name)
            session.add(copied)
            setattr(shot, what, copied)
    return shot


def _move(session: Session, shot: Shot, point: Viewpoint, place: Location) -> None:
    """Move a shot to a copy of its viewpoint, with all references to its elements."""
    copied = _copy(point, shot.name if place is point.location else None)
    pairs = [(old.id, _copy(old)) for old in point.elements]
    copied.elements.extend(new for _, new in pairs)
    place.viewpoints.append(copied)
    session.flush()
    ids = {old: new.id for old, new in pairs}
    sharp = [ids[item.element_id] for item in shot.sharp if item.element_id in ids]
    for item in list(shot.sharp):
        shot.sharp.remove(item)
        session.delete(item)
    session.flush()
    shot.sharp.extend(ShotSharpElement(element_id=element_id) for element_id in sharp)
    for group, kind in GROUPS.items():
        choices = getattr(shot, group)
        named = [name for name, item in facts_of(kind).items() if item.fact.refers == "element"]
        setattr(shot, group, replace(choices, **{name: ids.get(getattr(choices, name)) for name in named}))
    said = {
        "spots": spots_of(shot, ids),
        "motion_wishes": wishes_of(shot, ids),
        "frame_groups": groups_of(shot, ids),
        "muted_readings": shot.frame.muted_readings,
    }
    # Only elements get other ids: an id of something else, a filter say, is kept.
    moved = followed("shot", said, lambda table, number: ids.get(number) if table == "element" else number)
    shot.spots, shot.motion_wishes, shot.frame_groups = moved["spots"], moved["motion_wishes"], moved["frame_groups"]
    shot.frame = replace(shot.frame, muted_readings=frozenset(moved["muted_readings"]))
    shot.viewpoint = copied


def _copy(row: Any, shot_name: str | None = None) -> Any:
    """Return a new row with the same values; with the shot's name added if given."""
    mapper = inspect(type(row))
    keys = {column.name for column in mapper.local_table.primary_key}
    parents = (
        {"location_id", "viewpoint_id"}
        if isinstance(row, (Viewpoint, Element, Hazard, Opening, SeasonNote, WalkTrack))
        else set()
    )
    values = {
        column.name: getattr(row, column.name)
        for column in mapper.local_table.columns
        if column.name not in keys | parents
    }
    if shot_name is not None:
        values["name"] = f"{row.name} ({shot_name})"[:_LONGEST_NAME]
    return type(row)(**values)
