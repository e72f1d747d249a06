"""Skylines of viewpoints: typed, measured, or computed from the elevation grid of the location."""

from __future__ import annotations

import zlib
from collections.abc import Callable, Mapping, Sequence

import numpy as np
from sqlalchemy.orm import Session, sessionmaker

from ...core.ground.geodesy import offset
from ...core.light.skyline import Skyline, parse_skyline, skyline_of
from ...core.light.terrain import ElevationGrid, skyline_from_grid
from ...formats.elevation import read_elevation
from ...store.jobs import Job
from ...store.places import Location, LocationGrid, Viewpoint
from ..platform.errors import NotFound, Refused
from ..platform.jobs import ask_for
from ..platform.journal import journaled
from ..platform.rows import owned, viewpoint
from .locations import location_scope

# The kind of job.
SKYLINE = "skyline"
TYPED, MEASURED, COMPUTED = "typed", "measured with a clinometer", "computed from"
# An element nearer than this shares the viewpoint's skyline.
_OWN_SKYLINE_FROM_M = 150.0


def set_skyline(
    session: Session, owner_id: int, viewpoint_id: int, points: Sequence[Sequence[float]] | None, source: str
) -> Viewpoint:
    """Set a viewpoint's skyline to (bearing, altitude) pairs [degrees]; None removes it. Raises InputError."""
    row = viewpoint(session, owner_id, viewpoint_id)
    with journaled(session, owner_id, location_scope(row.location_id), f"skyline of {row.name}"):
        row.skyline = _stored(skyline_of(points)) if points is not None else None
        row.skyline_source = source if points is not None else ""
        for element in row.elements:
            element.skyline = None
    return row


def skyline_from_text(session: Session, owner_id: int, viewpoint_id: int, text: str) -> Viewpoint:
    """Set a viewpoint's skyline from text. Raises InputError naming the line."""
    found = parse_skyline(text)
    return set_skyline(
        session, owner_id, viewpoint_id, list(zip(found.bearings_deg, found.altitudes_deg, strict=True)), TYPED
    )


def store_grid(session: Session, owner_id: int, location_id: int, file_name: str, content: bytes) -> LocationGrid:
    """Store a file's elevation grid for a location, in place of an older one.

    Raises FormatError and changes nothing.
    """
    location = owned(session, owner_id, Location, location_id)
    return keep_grid(
        session, location, file_name.replace("\\", "/").rpartition("/")[2][:200], read_elevation(file_name, content)
    )


def keep_grid(session: Session, location: Location, name: str, grid: ElevationGrid) -> LocationGrid:
    """Store a grid for a location. Flushes."""
    row = session.get(LocationGrid, location.id) or LocationGrid(location_id=location.id)
    row.name = name
    row.north_deg, row.west_deg, row.step_lat_deg, row.step_lon_deg = (
        grid.north_deg,
        grid.west_deg,
        grid.step_lat_deg,
        grid.step_lon_deg,
    )
    row.rows, row.columns = grid.heights_m.shape
    whole = bool(np.isfinite(grid.heights_m).all()) and bool((grid.heights_m == np.round(grid.heights_m)).all())
    row.number_kind = "<i2" if whole else "<f4"
    row.heights = zlib.compress(grid.heights_m.astype(row.number_kind).tobytes(), 1)
    session.add(row)
    session.flush()
    return row


def drop_grid(session: Session, owner_id: int, location_id: int) -> None:
    """Delete a location's elevation grid; skylines computed from it stay."""
    location = owned(session, owner_id, Location, location_id)
    row = session.get(LocationGrid, location.id)
    if row is not None:
        session.delete(row)
        session.flush()


def grid_of(row: LocationGrid) -> ElevationGrid:
    """Return a stored grid as the core's."""
    numbers = np.frombuffer(zlib.decompress(row.heights), dtype=row.number_kind)
    return ElevationGrid(
        numbers.reshape(row.rows, row.columns).astype(np.float32),
        row.north_deg,
        row.west_deg,
        row.step_lat_deg,
        row.step_lon_deg,
    )


def position_of(row: Viewpoint) -> tuple[float, float]:
    """Return a viewpoint's own position [degrees], else its location's."""
    if row.latitude_deg is None or row.longitude_deg is None:
        return row.location.latitude_deg, row.location.longitude_deg
    return row.latitude_deg, row.longitude_deg


def compute_skyline(session: Session, owner_id: int, viewpoint_id: int) -> Job:
    """Start a job for a viewpoint's skyline, and those of its far elements, from the location's grid.

    Raises Refused without one.
    """
    row = viewpoint(session, owner_id, viewpoint_id)
    if session.get(LocationGrid, row.location_id) is None:
        raise Refused("grid", "This location has no elevation grid yet: give it one first (.hgt, .asc or GeoTIFF).")
    return ask_for(
        session, owner_id, SKYLINE, f"Skyline of {row.name}", f"skyline {viewpoint_id}", viewpoint_id=viewpoint_id
    )


def carry_out_skyline(
    sessions: sessionmaker[Session], owner_id: int, arguments: Mapping[str, int], tell: Callable[[float], bool]
) -> str:
    """Compute the requested skyline. Raises what skyline_by_grid raises."""
    with sessions() as session, session.begin():
        return skyline_by_grid(session, owner_id, arguments["viewpoint_id"], tell)


def skyline_by_grid(
    session: Session, owner_id: int, viewpoint_id: int, tell: Callable[[float], bool] | None = None
) -> str:
    """Compute a viewpoint's skyline and its far elements' from the location's grid, and store them. Returns a summary.

    Raises InputError if the place lies outside the grid, Cancelled when tell returns False.
    """
    row = viewpoint(session, owner_id, viewpoint_id)
    kept = session.get(LocationGrid, row.location_id)
    if kept is None:
        raise NotFound("grid")
    grid = grid_of(kept)
    latitude, longitude = position_of(row)
    far = [
        element for element in row.elements if element.distance_m >= _OWN_SKYLINE_FROM_M and element.shape != "water"
    ]
    parts = 1 + len(far)

    def share(part: int) -> Callable[[float], bool] | None:
        return None if tell is None else lambda done: tell((part + done) / parts)

    mine = skyline_from_grid(grid, latitude, longitude, progress=share(0))
    theirs = []
    for part, element in enumerate(far, start=1):
        place = offset(latitude, longitude, element.bearing_deg, element.distance_m)
        inside = np.isfinite(grid.height_m(*place))
        # The upper part of an element is lit first.
        theirs.append(
            skyline_from_grid(
                grid, *place, eye_height_m=max(1.6, element.height_m / 2), bearing_step_deg=1.0, progress=share(part)
            )
            if inside
            else None
        )
    with journaled(session, owner_id, location_scope(row.location_id), f"skyline of {row.name}"):
        row.skyline, row.skyline_source = _stored(_thinned(mine)), f"{COMPUTED} {kept.name}"
        for element, found in zip(far, theirs, strict=True):
            element.skyline = _stored(_thinned(found)) if found else None
    highest = max(mine.altitudes_deg)
    at = mine.bearings_deg[mine.altitudes_deg.index(highest)]
    return f"The skyline stands up to {highest:.1f}° high, at {at:.0f}°."


def _thinned(skyline: Skyline, tolerance_deg: float = 0.04) -> Skyline:
    """Return a skyline without points within the tolerance of a straight line between their neighbours."""
    bearings, altitudes = list(skyline.bearings_deg), list(skyline.altitudes_deg)
    keep = [0]
    for index in range(1, len(bearings) - 1):
        first = keep[-1]
        slope = (altitudes[index + 1] - altitudes[first]) / (bearings[index + 1] - bearings[first])
        inner = range(first + 1, index + 1)
        if any(
            abs(altitudes[first] + slope * (bearings[step] - bearings[first]) - altitudes[step]) > tolerance_deg
            for step in inner
        ):
            keep.append(index)
    keep.append(len(bearings) - 1)
    return Skyline(tuple(bearings[index] for index in keep), tuple(altitudes[index] for index in keep))


def _stored(skyline: Skyline) -> list[list[float]]:
    return [
        [round(bearing, 3), round(altitude, 3)]
        for bearing, altitude in zip(skyline.bearings_deg, skyline.altitudes_deg, strict=True)
    ]
