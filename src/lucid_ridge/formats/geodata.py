"""Points and tracks, independent of the file format."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime
from typing import TypeVar

from .errors import FormatError
from .json_values import JsonObject

MOST_POINTS, MOST_TRACK_POINTS = 2_000, 100_000
LONGEST_NAME, LONGEST_NOTE = 200, 5_000


@dataclass(frozen=True)
class GeoPoint:
    """A point. group: its location, if the file names one."""

    name: str
    latitude_deg: float
    longitude_deg: float
    elevation_m: float | None = None
    notes: str = ""
    group: str = ""


@dataclass(frozen=True)
class TrackPoint:
    """A track point. begins: a new segment begins here; the gap before it was not walked."""

    latitude_deg: float
    longitude_deg: float
    elevation_m: float | None = None
    time_utc: datetime | None = None
    begins: bool = False


@dataclass(frozen=True)
class GeoTrack:
    name: str
    points: tuple[TrackPoint, ...]
    group: str = ""


@dataclass(frozen=True)
class GeoData:
    """The content of a file.

    whole: complete locations, which our GeoJSON holds beside the points and lines that other programs read. drawn:
    elements of the viewpoints, only for other programs.
    """

    points: tuple[GeoPoint, ...]
    tracks: tuple[GeoTrack, ...] = ()
    whole: tuple[JsonObject, ...] = ()
    drawn: tuple[GeoPoint | GeoTrack, ...] = ()


def checked(data: GeoData) -> GeoData:
    """Return the data read, with names shortened and blank ones filled in.

    Raises FormatError if it is empty, too large, or not on Earth.
    """
    if data.whole:
        return data
    if not data.points and not any(track.points for track in data.tracks):
        raise FormatError("The file holds neither points nor tracks.")
    check_counts(len(data.points), sum(len(track.points) for track in data.tracks))
    data = GeoData(
        tuple(_within_180(point) for point in data.points),
        tuple(replace(track, points=tuple(_within_180(step) for step in track.points)) for track in data.tracks),
    )
    for point in data.points:
        _check_place(point)
    for track in data.tracks:
        for step in track.points:
            _check_place(step)
    points = tuple(
        replace(
            point,
            name=_name(point.name, f"Point {number}"),
            notes=_words(point.notes)[:LONGEST_NOTE],
            group=_name(point.group, ""),
        )
        for number, point in enumerate(data.points, start=1)
    )
    tracks = tuple(
        GeoTrack(_name(track.name, f"Track {number}"), track.points, _name(track.group, ""))
        for number, track in enumerate(data.tracks, start=1)
        if len(track.points) > 1
    )
    if not points and not tracks:
        raise FormatError("The file holds tracks of a single point only: a track needs two.")
    return GeoData(points, tracks)


def check_counts(points: int, track_points: int) -> None:
    """Raise FormatError if a file holds too much."""
    if points > MOST_POINTS:
        raise FormatError(f"The file holds {points} points; at most {MOST_POINTS} are taken at once.")
    if track_points > MOST_TRACK_POINTS:
        raise FormatError(f"The tracks hold {track_points} points; at most {MOST_TRACK_POINTS} are taken at once.")


def printable(data: GeoData) -> GeoData:
    """Return data without characters that XML and tables cannot hold."""
    points = tuple(
        replace(point, name=_name(point.name, "Point"), notes=_words(point.notes), group=_name(point.group, ""))
        for point in data.points
    )
    tracks = tuple(
        replace(track, name=_name(track.name, "Track"), group=_name(track.group, "")) for track in data.tracks
    )
    return GeoData(points, tracks, data.whole, data.drawn)


def number(text: object, what: str) -> float:
    """Return a finite number from a text. Raises FormatError naming what was expected."""
    try:
        value = float(str(text).strip())
    except ValueError:
        raise FormatError(f"“{str(text)[:40]}” is not a {what}.") from None
    if not math.isfinite(value):
        raise FormatError(f"“{str(text)[:40]}” is not a {what}.")
    return value


Place = TypeVar("Place", GeoPoint, TrackPoint)


def _within_180(place: Place) -> Place:
    """Return a place with its longitude in -180..180; some files count east from 0 to 360."""
    return replace(place, longitude_deg=place.longitude_deg - 360) if 180 < place.longitude_deg <= 360 else place


def in_one_dimension(steps: Sequence[TrackPoint]) -> Sequence[TrackPoint]:
    """Return a line's points with heights if all have one, else without: other programs refuse mixed lines."""
    if all(step.elevation_m is not None for step in steps):
        return steps
    return [replace(step, elevation_m=None) for step in steps]


def _check_place(place: GeoPoint | TrackPoint) -> None:
    if not (-90 <= place.latitude_deg <= 90 and -180 <= place.longitude_deg <= 180):
        raise FormatError(
            f"{place.latitude_deg:g}, {place.longitude_deg:g} is no place: latitude runs from -90 to 90, "
            "longitude from -180 to 180."
        )
    if place.elevation_m is not None and not -500 <= place.elevation_m <= 9000:
        raise FormatError(f"The elevation {place.elevation_m:g} m lies outside -500 to 9000 m.")


def _words(text: str | None) -> str:
    return "".join(character for character in (text or "") if character in "\n\t" or character.isprintable()).strip()


def _name(text: str | None, otherwise: str) -> str:
    return _words(text).replace("\n", " ")[:LONGEST_NAME].strip() or otherwise
