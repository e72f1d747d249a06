"""A shared location, from the rows stored when the link was made."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from ...core.ground.blurring import rough_position
from ...store.base import Base
from ...store.declared import Choice
from ...store.places import Element, Hazard, Location, LocationGrid, Opening, SeasonNote, Viewpoint, WalkTrack
from ...store.rows import Row
from ..places.sketches import Sketch, sketch_of
from ..platform.row_changes import row_from_json


@dataclass(frozen=True)
class SharedLocation:
    """A shared location.

    exact: whether names, notes, positions and a plan are shown. position: latitude and longitude [degrees]. The rows
    belong to no session.
    """

    exact: bool
    row: Location
    position: tuple[float, float]
    hazards: Sequence[Hazard]
    openings: Sequence[Opening]
    seasons: Sequence[SeasonNote]
    tracks: Sequence[WalkTrack]
    viewpoints: Sequence[tuple[Viewpoint, Sequence[Element]]]
    sketch: Sketch | None


def shared_location(given: Mapping[str, Sequence[Row]], exact: bool, grid: LocationGrid | None) -> SharedLocation:
    """Return the content of a link to a location.

    Not exact: no name, note, walk, skyline or plan, and as its position the middle of a wide cell.
    """
    (row,) = _made(given, Location)
    elements = _made(given, Element)
    viewpoints = [
        (point, [item for item in elements if item.viewpoint_id == point.id]) for point in _made(given, Viewpoint)
    ]
    hazards, openings, seasons = _made(given, Hazard), _made(given, Opening), _made(given, SeasonNote)
    position = row.latitude_deg, row.longitude_deg
    tracks, sketch = _made(given, WalkTrack), None
    if exact:
        row.viewpoints, row.tracks = [point for point, _ in viewpoints], tracks
        sketch = sketch_of(row, grid)
    if not exact:
        position = rough_position(*position)
        row = Location(
            name="",
            notes="",
            access_notes="",
            access_source="",
            plan_b="",
            zone=row.zone,
            elevation_m=row.elevation_m,
            walk_terrain=row.walk_terrain,
            walk_m=row.walk_m,
            walk_ascent_m=row.walk_ascent_m,
        )
        for note in (*hazards, *openings, *seasons):
            note.note = ""
        for at, (point, seen) in enumerate(viewpoints, 1):
            point.name, point.notes, point.latitude_deg, point.longitude_deg = f"Viewpoint {at}", "", None, None
            for item in seen:
                item.name = ""
    return SharedLocation(
        exact=exact,
        row=row,
        position=position,
        hazards=hazards,
        openings=openings,
        seasons=seasons,
        tracks=tracks if exact else (),
        viewpoints=viewpoints,
        sketch=sketch,
    )


def _made(given: Mapping[str, Sequence[Row]], kind: type[Any]) -> list[Any]:
    table = Base.metadata.tables[kind.__tablename__]
    choices = {column.name: column.type.choices for column in table.columns if isinstance(column.type, Choice)}
    made = []
    for row in given.get(table.name, ()):
        values = row_from_json(table, dict(row))
        made.append(
            kind(
                **{
                    name: choices[name](value) if name in choices and value is not None else value
                    for name, value in values.items()
                }
            )
        )
    return made
