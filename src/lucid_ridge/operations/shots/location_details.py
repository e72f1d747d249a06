"""Locations with details of their use."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from sqlalchemy import select
from sqlalchemy.orm import Session

from ...core.facts.place import Approach
from ...store.photographer import Photographer
from ...store.places import Location, LocationGrid, Viewpoint
from ...store.shots import Shot
from ..kit.calibrations import switched_on
from ..places.locations import all_locations, location_scope
from ..platform.journal import UndoState, undo_state
from ..platform.usage import Use
from .facts import approach_of


@dataclass(frozen=True)
class LocationDetails:
    """A location.

    uses: shots from each of its viewpoints, by id. grid: its elevation grid, without heights. approach: as plans
    compute the way there.
    """

    row: Location
    uses: Mapping[int, Sequence[Use]]
    grid: LocationGrid | None
    approach: Approach


@dataclass(frozen=True)
class AllLocationDetails:
    locations: tuple[LocationDetails, ...]
    undo: UndoState
    # Whether simulated tides are offered.
    practises: bool = False


def location_details(session: Session, row: Location) -> LocationDetails:
    """Return a location with the shots from its viewpoints and its grid."""
    return _see(session, [row])[0]


def all_location_details(session: Session, owner_id: int) -> AllLocationDetails:
    """Return all of an owner's locations, and what undo would do."""
    rows = all_locations(session, owner_id)
    scopes = ["locations", *(location_scope(row.id) for row in rows)]
    practises = session.get_one(Photographer, owner_id).simulated_weather
    return AllLocationDetails(tuple(_see(session, rows)), undo_state(session, owner_id, scopes), practises)


def _see(session: Session, rows: Sequence[Location]) -> list[LocationDetails]:
    ids = [row.id for row in rows]
    uses: dict[int, list[Use]] = defaultdict(list)
    query = (
        select(Viewpoint.id, Shot.id, Shot.name)
        .join(Viewpoint, Viewpoint.id == Shot.viewpoint_id)
        .where(Viewpoint.location_id.in_(ids))
        .order_by(Shot.id)
    )
    for viewpoint_id, shot_id, name in session.execute(query):
        uses[viewpoint_id].append(Use(shot_id, name))
    grids = {
        grid.location_id: grid
        for grid in session.scalars(select(LocationGrid).where(LocationGrid.location_id.in_(ids)))
    }
    return [
        LocationDetails(
            row,
            uses,
            grids.get(row.id),
            approach_of(row, session.get_one(Photographer, row.owner_id), switched_on(session, row.owner_id)),
        )
        for row in rows
    ]
