"""Points and tracks as any of the file formats carries them."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from datetime import datetime

from .errors import FormatError

MOST_POINTS, MOST_TRACK_POINTS = 2_000, 100_000
LONGEST_NAME, LONGEST_NOTE = 200, 5_000


@dataclass(frozen=True)
class GeoPoint:
    name: str
    latitude_deg: float
    longitude_deg: float
    elevation_m: float | None = None
    notes: str = ""


@dataclass(frozen=True)
class TrackPoint:
    latitude_deg: float
    longitude_deg: float
    elevation_m: float | None = None
    time_utc: datetime | None = None


@dataclass(frozen=True)
class GeoTrack:
    name: str
    points: tuple[TrackPoint, ...]


@dataclass(frozen=True)
class GeoData:
    """What a file holds; both may be empty only in what we make, never in what we read."""

    points: tuple[GeoPoint, ...]
    tracks: tuple[GeoTrack, ...] = ()


def checked(data: GeoData) -> GeoData:
    """Return what was read, names shortened and blank ones filled in. Raises FormatError for nothing, too much, or no place on Earth."""
    if not data.points and not any(track.points for track in data.tracks):
        raise FormatError("The file holds neither points nor tracks.")
    check_counts(len(data.points), sum(len(track.points) for track in data.tracks))
    for point in data.points:
        _check_place(point)
    for track in data.tracks:
        for step in track.points:
            _check_place(step)
    points = tuple(
        GeoPoint(_name(point.name, f"Point {number}"), point.latitude_deg, point.longitude_deg, point.elevation_m, _words(point.notes)[:LONGEST_NOTE])
        for number, point in enumerate(data.points, start=1)
    )  # fmt: skip
    tracks = tuple(
        GeoTrack(_name(track.name, f"Track {number}"), track.points)
        for number, track in enumerate(data.tracks, start=1)
        if len(track.points) > 1
    )
    if not points and not tracks:
        raise FormatError("The file holds tracks of a single point only: a track needs two.")
    return GeoData(points, tracks)


def check_counts(points: int, track_points: int) -> None:
    """Raise FormatError where a file holds more than is taken at once."""
    if points > MOST_POINTS:
        raise FormatError(f"The file holds {points} points; at most {MOST_POINTS} are taken at once.")
    if track_points > MOST_TRACK_POINTS:
        raise FormatError(f"The tracks hold {track_points} points; at most {MOST_TRACK_POINTS} are taken at once.")


def printable(data: GeoData) -> GeoData:
    """Return data whose names and notes hold nothing that XML and tables cannot carry."""
    points = tuple(replace(point, name=_name(point.name, "Point"), notes=_words(point.notes)) for point in data.points)
    return GeoData(points, tuple(replace(track, name=_name(track.name, "Track")) for track in data.tracks))


def number(text: object, what: str) -> float:
    """Return a finite number from a file's text. Raises FormatError naming what it should have been."""
    try:
        value = float(str(text).strip())
    except ValueError:
        raise FormatError(f"“{str(text)[:40]}” is not a {what}.") from None
    if not math.isfinite(value):
        raise FormatError(f"“{str(text)[:40]}” is not a {what}.")
    return value


def _check_place(place: GeoPoint | TrackPoint) -> None:
    if not (-90 <= place.latitude_deg <= 90 and -180 <= place.longitude_deg <= 180):
        raise FormatError(
            f"{place.latitude_deg:g}, {place.longitude_deg:g} is no place: latitude runs from -90 to 90, longitude from -180 to 180."
        )
    if place.elevation_m is not None and not -500 <= place.elevation_m <= 9000:
        raise FormatError(f"The elevation {place.elevation_m:g} m lies outside -500 to 9000 m.")


def _words(text: str | None) -> str:
    return "".join(character for character in (text or "") if character in "\n\t" or character.isprintable()).strip()


def _name(text: str | None, otherwise: str) -> str:
    return _words(text).replace("\n", " ")[:LONGEST_NAME].strip() or otherwise
