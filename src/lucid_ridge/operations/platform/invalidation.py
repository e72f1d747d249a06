"""Marks the shots that an edit affects, so that their summaries are computed again."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping

from sqlalchemy import ColumnElement, literal, or_, select, text, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from ...store.places import Viewpoint
from ...store.shots import Shot, ShotAccessory, ShotFilter
from ...store.summaries import ShotSummary

# For each table, what its rows belong to, and the column with its id.
BELONGS = {
    "shot": ("shot", "id"),
    "shot_sharp_element": ("shot", "shot_id"),
    "shot_filter": ("shot", "shot_id"),
    "shot_accessory": ("shot", "shot_id"),
    "field_card": ("shot", "shot_id"),
    "viewpoint": ("viewpoint", "id"),
    "element": ("viewpoint", "viewpoint_id"),
    "location": ("location", "id"),
    "hazard": ("location", "location_id"),
    "opening": ("location", "location_id"),
    "scouting": ("viewpoint", "viewpoint_id"),
    "season_note": ("location", "location_id"),
    "meter_reading": ("location", "location_id"),
    "body": ("body", "id"),
    "lens": ("lens", "id"),
    "support": ("support", "id"),
    "filter": ("filter", "id"),
    "accessory": ("accessory", "id"),
    "calibration": ("owner", "owner_id"),
}


def touch(session: Session, revision: int, rows: Iterable[tuple[str, Mapping[str, object]]]) -> None:
    """Mark the shots that depend on these rows (table, columns) as changed at a revision of the notebook."""
    ids: dict[str, set[int]] = defaultdict(set)
    for table, row in rows:
        kind, column = BELONGS.get(table, ("", ""))
        if kind and isinstance(found := row.get(column), int):
            ids[kind].add(found)
    if ids.keys() == {"shot"}:
        # Most edits are of one shot's own choices.
        session.execute(_OF_SHOTS, {"shots": sorted(ids["shot"]), "revision": revision})
        return
    conditions = [_depends(kind, found) for kind, found in ids.items()]
    if conditions:
        _note(session, revision, or_(*conditions))


def touch_all(session: Session, revision: int, owner_id: int) -> None:
    """Mark all of an owner's shots as changed."""
    _note(session, revision, Shot.owner_id == owner_id)


def stale_at(session: Session, location_id: int) -> None:
    """Mark a location's shots as outdated, for a change outside the journal: its forecast."""
    shots = select(Shot.id).where(_depends("location", {location_id}))
    session.execute(update(ShotSummary).where(ShotSummary.shot_id.in_(shots)).values(made_revision=-1))


def _depends(kind: str, ids: set[int]) -> ColumnElement[bool]:
    if kind == "location":
        return Shot.viewpoint_id.in_(select(Viewpoint.id).where(Viewpoint.location_id.in_(ids)))
    if kind == "filter":
        return Shot.id.in_(select(ShotFilter.shot_id).where(ShotFilter.filter_id.in_(ids)))
    if kind == "accessory":
        return Shot.id.in_(select(ShotAccessory.shot_id).where(ShotAccessory.accessory_id.in_(ids)))
    columns = {
        "owner": Shot.owner_id,
        "shot": Shot.id,
        "viewpoint": Shot.viewpoint_id,
        "body": Shot.body_id,
        "lens": Shot.lens_id,
        "support": Shot.support_id,
    }
    return columns[kind].in_(ids)


def _note(session: Session, revision: int, condition: ColumnElement[bool]) -> None:
    shots = select(Shot.id, literal(revision)).where(condition).order_by(Shot.id)
    statement = insert(ShotSummary).from_select(["shot_id", "touched_revision"], shots)
    newest = statement.on_conflict_do_update(
        index_elements=["shot_id"], set_={"touched_revision": statement.excluded.touched_revision}
    )
    session.execute(newest)


# The same for shots by id, built once.
_OF_SHOTS = text(
    "INSERT INTO shot_summary (shot_id, touched_revision) SELECT id, :revision FROM shot WHERE id = "
    "ANY(:shots) ORDER BY id"
    " ON CONFLICT (shot_id) DO UPDATE SET touched_revision = excluded.touched_revision"
)
