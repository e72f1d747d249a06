"""What can be copied from a share link: shots, an outing or a location with everything they need, as of the link's
creation.
"""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence

from sqlalchemy import ColumnElement, RowMapping, Table, select
from sqlalchemy.orm import Session

from ...store.base import Base
from ...store.notebook import Notebook
from ...store.places import Viewpoint
from ...store.rows import Row
from ..platform.invalidation import touch_all
from ..platform.merge_rows import MergedRows, merge_rows
from ..platform.row_changes import row_from_json, row_to_json
from ..platform.write_lock import writer_of

Given = dict[str, list[Row]]
_KIT = {"body": "body_id", "lens": "lens_id", "support": "support_id"}
_OF_A_LOCATION = ("hazard", "opening", "season_note", "walk_track")
_OF_A_SHOT = ("shot_sharp_element", "shot_filter", "shot_accessory")
# Private columns: the way from home, preferences of order, contacts, packing and progress.
_OWN: Mapping[str, Mapping[str, object]] = {
    "location": {"drive_min": None},
    "shot": {"favourite": False, "archived": False},
    "outing": {"leave_clock": None, "back_clock": None, "late_min": 0.0, "contact": "", "packed": [], "own_items": []},
    "outing_stop": {"leg_min": None, "done": False},
}


def given_location(session: Session, location_id: int) -> Given:
    """Return the rows of a location with its viewpoints and elements; visits, readings and forecasts stay with their
    owner.
    """
    found: Given = {}
    viewpoints = _ids(_rows(session, found, "viewpoint", location_id={location_id}))
    _places(session, found, {location_id}, viewpoints)
    return found


def given_shots(session: Session, shot_ids: Collection[int], outing_id: int | None = None) -> Given:
    """Return the rows of shots with their places and kit. outing_id: also of the outing and all of its stops."""
    found: Given = {}
    stops = _rows(session, found, "outing_stop", outing_id={outing_id}) if outing_id is not None else []
    if outing_id is not None:
        _rows(session, found, "outing", id={outing_id})
    shots = _rows(session, found, "shot", id={*shot_ids, *(row["shot_id"] for row in stops)})
    for name in _OF_A_SHOT:
        _rows(session, found, name, shot_id=_ids(shots))
    for name, column in _KIT.items():
        _rows(session, found, name, id={row[column] for row in shots})
    grouped = {item for row in shots for group in row["frame_groups"] for item in group["filter_ids"]}
    _rows(session, found, "filter", id=grouped | {row["filter_id"] for row in found["shot_filter"]})
    _rows(session, found, "accessory", id={row["accessory_id"] for row in found["shot_accessory"]})
    # All viewpoints of a scouted place are included, and only the own one of a shot's place.
    scouted = select(Viewpoint.id).where(
        Viewpoint.location_id.in_([row["location_id"] for row in stops if row["location_id"] is not None])
    )
    viewpoints = _rows(
        session, found, "viewpoint", id={*session.scalars(scouted), *(row["viewpoint_id"] for row in shots)}
    )
    _places(session, found, {row["location_id"] for row in viewpoints}, _ids(viewpoints))
    return found


def copy_given(session: Session, owner_id: int, given: Given) -> MergedRows:
    """Add the copy of a link to an owner's notebook; rows copied before that still exist are not copied again."""
    tables = Base.metadata.tables

    def read(name: str) -> list[Row]:
        return [row_from_json(tables[name], row) for row in given.get(name, ())]

    found = merge_rows(session, owner_id, str(session.scalar(select(Notebook.token))), read)
    session.expire_all()
    touch_all(session, writer_of(session, owner_id).revision, owner_id)
    return found


def _places(session: Session, found: Given, locations: Collection[int | None], viewpoints: Collection[int]) -> None:
    _rows(session, found, "location", id=locations)
    for name in _OF_A_LOCATION:
        _rows(session, found, name, location_id=locations)
    _rows(session, found, "element", viewpoint_id=viewpoints)


def _rows(session: Session, found: Given, name: str, **wanted: Collection[int | None]) -> Sequence[RowMapping]:
    """Read the rows whose column is one of these, and add them as JSON."""
    table: Table = Base.metadata.tables[name]
    ((column, ids),) = wanted.items()
    condition: ColumnElement[bool] = table.c[column].in_([item for item in ids if item is not None])
    rows = session.execute(select(table).where(condition).order_by(*table.primary_key.columns)).mappings().all()
    found[name] = [row_to_json({**row, **_OWN.get(name, {})}) for row in rows]
    for row in found[name]:
        row.pop("owner_id", None)
    return rows


def _ids(rows: Sequence[RowMapping]) -> set[int]:
    return {row["id"] for row in rows}
