"""Points and tracks from files into the notebook and back."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from sqlalchemy.orm import Session

from ..core.ground.walk import walk_along
from ..formats.geodata import GeoData, GeoPoint, GeoTrack, TrackPoint
from ..formats.places import read_places
from ..store.places import Location, Viewpoint, WalkTrack
from .journal import journaled
from .places import all_locations, location_scope, propose_zone
from .rows import owned
from .skylines import position_of

_KEPT_TRACK_POINTS = 1_500


@dataclass(frozen=True)
class Imported:
    """What a file brought: the location it went into, and how many viewpoints and tracks."""

    location: Location
    viewpoints: int
    tracks: int


def import_into_location(session: Session, owner_id: int, location_id: int, file_name: str, content: bytes) -> Imported:
    """Add a file's points as viewpoints and its tracks as walks. The first track says the walk where none was said.

    Raises FormatError and changes nothing for a file that cannot be taken.
    """
    location = owned(session, owner_id, Location, location_id)
    data = read_places(file_name, content)
    with journaled(session, owner_id, location_scope(location.id), f"import {file_name[:60]}"):
        _add(location, data)
    return Imported(location, len(data.points), len(data.tracks))


def import_as_location(session: Session, owner_id: int, file_name: str, content: bytes) -> Imported:
    """Make a location of a file: it stands at the first point (or track's end) and holds the rest. Raises FormatError."""
    data = read_places(file_name, content)
    place: GeoPoint | TrackPoint = data.points[0] if data.points else data.tracks[0].points[-1]
    name = file_name.replace("\\", "/").rpartition("/")[2].rpartition(".")[0].replace("_", " ").strip()[:200] or "Imported location"
    with journaled(session, owner_id, "locations", f"import {name[:60]}"):
        location = Location(
            owner_id=owner_id, name=name, latitude_deg=place.latitude_deg, longitude_deg=place.longitude_deg,
            elevation_m=place.elevation_m or 0.0, zone=propose_zone(place.latitude_deg, place.longitude_deg),
        )  # fmt: skip
        session.add(location)
        _add(location, data)
        if not data.points:
            location.viewpoints.append(Viewpoint(name="First viewpoint"))
    return Imported(location, len(data.points), len(data.tracks))


def export_locations(session: Session, owner_id: int, location_id: int | None = None) -> GeoData:
    """Return one location's viewpoints and tracks, or all of them."""
    rows: Sequence[Location] = [owned(session, owner_id, Location, location_id)] if location_id else all_locations(session, owner_id)
    points, tracks = [], []
    for location in rows:
        for point in location.viewpoints:
            latitude, longitude = position_of(point)
            height = point.elevation_m if point.elevation_m is not None else location.elevation_m
            points.append(GeoPoint(f"{location.name}: {point.name}", latitude, longitude, height, point.notes or location.notes))
        for track in location.tracks:
            tracks.append(GeoTrack(track.name, tuple(TrackPoint(step[0], step[1], step[2]) for step in track.points)))
    return GeoData(tuple(points), tuple(tracks))


def _add(location: Location, data: GeoData) -> None:
    for point in data.points:
        location.viewpoints.append(
            Viewpoint(
                name=point.name,
                notes=point.notes,
                latitude_deg=point.latitude_deg,
                longitude_deg=point.longitude_deg,
                elevation_m=point.elevation_m,
            )
        )
    for track in data.tracks:
        steps = [(step.latitude_deg, step.longitude_deg, step.elevation_m) for step in track.points]
        walk = walk_along(steps)
        location.tracks.append(
            WalkTrack(
                name=track.name,
                points=[list(step) for step in _thinned(steps)],
                length_m=walk.length_m,
                ascent_m=walk.ascent_m,
                descent_m=walk.descent_m,
                naismith_h=walk.naismith_h,
                tobler_h=walk.tobler_h,
            )
        )
        if location.walk_m is None:
            location.walk_m, location.walk_ascent_m = walk.length_m, walk.ascent_m


def _thinned(steps: list[tuple[float, float, float | None]]) -> list[tuple[float, float, float | None]]:
    every = -(-len(steps) // _KEPT_TRACK_POINTS)
    return steps if every == 1 else [*steps[:-1:every], steps[-1]]
