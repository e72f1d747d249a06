"""Imports points and tracks from files, and exports them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from sqlalchemy.orm import Session

from ...core.facts.declaring import facts_of
from ...core.facts.place import PlaceSaid
from ...core.ground.walk import Walk, walk_along
from ...formats.geodata import GeoData, GeoPoint, GeoTrack, TrackPoint
from ...formats.places import read_places
from ...store.places import Location, Viewpoint, WalkTrack
from ..platform.journal import journaled
from ..platform.rows import owned
from .locations import all_locations, location_scope, propose_zone
from .skylines import position_of
from .whole_locations import location_from, seen_elements, whole_location

_KEPT_TRACK_POINTS = 1_500
_BELONGING = ("viewpoints", "hazards", "openings", "season_notes", "tracks", "readings")


@dataclass(frozen=True)
class Imported:
    """Result of an import: the location (the first of several), and the number of locations, viewpoints and tracks."""

    location: Location
    viewpoints: int
    tracks: int
    locations: int = 1


def import_into_location(session: Session, owner_id: int, location_id: int, file_name: str, content: bytes) -> Imported:
    """Import a file's points as viewpoints and its tracks as walks. The first track becomes the location's walk if it
    has none.

    If the file holds a whole location, its rows are added and the location itself is kept. Raises FormatError and
    changes nothing.
    """
    location = owned(session, owner_id, Location, location_id)
    data = read_places(file_name, content)
    whole = [location_from(owner_id, item) for item in data.whole]
    points = len(data.points) + sum(len(other.viewpoints) for other in whole)
    tracks = len(data.tracks) + sum(len(other.tracks) for other in whole)
    with journaled(session, owner_id, location_scope(location.id), f"import {file_name[:60]}"):
        _add(location, data)
        for other in whole:
            for name in _BELONGING:
                rows = list(getattr(other, name))
                getattr(other, name).clear()
                getattr(location, name).extend(rows)
    return Imported(location, points, tracks)


def import_as_location(session: Session, owner_id: int, file_name: str, content: bytes) -> Imported:
    """Create a location from a file, or several if it names them. It lies at the first point (or track end) and holds
    the rest.

    Raises FormatError.
    """
    data = read_places(file_name, content)
    own = (
        file_name.replace("\\", "/").rpartition("/")[2].rpartition(".")[0].replace("_", " ").strip()[:200]
        or "Imported location"
    )
    with journaled(session, owner_id, "locations", f"import {own[:60]}"):
        made = [location_from(owner_id, item) for item in data.whole] + [
            _location(owner_id, name or own, part) for name, part in _by_group(data).items()
        ]
        session.add_all(made)
        for location in made:
            if not location.viewpoints:
                location.viewpoints.append(Viewpoint(name="First viewpoint"))
        session.flush()
    return Imported(
        made[0], sum(len(item.viewpoints) for item in made), sum(len(item.tracks) for item in made), len(made)
    )


def export_locations(session: Session, owner_id: int, location_id: int | None = None) -> GeoData:
    """Return viewpoints, elements and tracks of one location or of all, and the whole locations."""
    rows: Sequence[Location] = (
        [owned(session, owner_id, Location, location_id)] if location_id else all_locations(session, owner_id)
    )
    points, tracks = [], []
    for location in rows:
        for point in location.viewpoints:
            latitude, longitude = position_of(point)
            height = point.elevation_m if point.elevation_m is not None else location.elevation_m
            points.append(
                GeoPoint(point.name, latitude, longitude, height, point.notes or location.notes, location.name)
            )
        for track in location.tracks:
            tracks.append(
                GeoTrack(
                    track.name, tuple(TrackPoint(step[0], step[1], step[2]) for step in track.points), location.name
                )
            )
    drawn = tuple(place for location in rows for point in location.viewpoints for place in seen_elements(point))
    return GeoData(tuple(points), tuple(tracks), tuple(whole_location(row) for row in rows), drawn)


def _by_group(data: GeoData) -> dict[str, GeoData]:
    groups: dict[str, GeoData] = {}
    names = dict.fromkeys([*(point.group for point in data.points), *(track.group for track in data.tracks)])
    for name in names:
        points = tuple(point for point in data.points if point.group == name)
        groups[name] = GeoData(points, tuple(track for track in data.tracks if track.group == name))
    return groups


def _location(owner_id: int, name: str, data: GeoData) -> Location:
    place: GeoPoint | TrackPoint = data.points[0] if data.points else data.tracks[0].points[-1]
    location = Location(
        owner_id=owner_id, name=name, latitude_deg=place.latitude_deg, longitude_deg=place.longitude_deg,
        elevation_m=place.elevation_m or 0.0, zone=propose_zone(place.latitude_deg, place.longitude_deg),
    )  # fmt: skip
    _add(location, data)
    return location


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
        walk = walk_along(steps, [index for index, step in enumerate(track.points) if step.begins])
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
        if location.walk_m is None and _can_be_walked(walk):
            location.walk_m, location.walk_ascent_m = walk.length_m, walk.ascent_m


def _can_be_walked(walk: Walk) -> bool:
    """Return whether a track can be a location's walk; a longer one is stored as a track only."""
    said = facts_of(PlaceSaid)
    return all(
        value <= (said[name].fact.high or 0.0)
        for name, value in (("walk_m", walk.length_m), ("walk_ascent_m", walk.ascent_m))
    )


def _thinned(steps: list[tuple[float, float, float | None]]) -> list[tuple[float, float, float | None]]:
    every = -(-len(steps) // _KEPT_TRACK_POINTS)
    return steps if every == 1 else [*steps[:-1:every], steps[-1]]
