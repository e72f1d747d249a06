"""GeoJSON (RFC 7946): points and lines."""

from __future__ import annotations

import json
from typing import Any

from .errors import FormatError
from .geodata import GeoData, GeoPoint, GeoTrack, TrackPoint, checked, in_one_dimension, number
from .text import as_text

_DEEPEST = 6
# The property that holds a whole location.
WHOLE = "lucid_ridge_location"


def read_geojson(content: bytes) -> GeoData:
    """Return the points and lines of a GeoJSON file, or its whole locations.

    Raises FormatError. Polygons are skipped.
    """
    try:
        root = json.loads(as_text(content), parse_constant=_no_constant)
    except json.JSONDecodeError as error:
        raise FormatError(f"The file is not JSON: {error.msg} in line {error.lineno}.") from None
    except FormatError:
        raise
    except ValueError:
        raise FormatError("The file holds a number that is too long to be read.") from None
    except RecursionError:
        raise FormatError("The file is nested too deeply.") from None
    if not isinstance(root, dict) or root.get("type") not in (
        "FeatureCollection",
        "Feature",
        "Point",
        "LineString",
        "MultiLineString",
        "MultiPoint",
        "GeometryCollection",
    ):
        raise FormatError("This is not a GeoJSON file: it needs a “type” such as FeatureCollection.")
    points: list[GeoPoint] = []
    tracks: list[GeoTrack] = []
    features = _list(root.get("features")) if root["type"] == "FeatureCollection" else [root]
    whole = tuple(_whole(feature) for feature in features if isinstance(feature, dict) and _whole(feature))
    if whole:
        return GeoData((), (), whole)
    for feature in features:
        if not isinstance(feature, dict):
            raise FormatError("A feature of the file is not an object.")
        properties = feature.get("properties")
        properties = properties if isinstance(properties, dict) else {}
        geometry = feature.get("geometry") if feature.get("type") == "Feature" else feature
        if isinstance(geometry, dict):
            _add(
                geometry,
                str(properties.get("name") or ""),
                str(properties.get("notes") or properties.get("description") or ""),
                points,
                tracks,
                0,
            )
    return checked(GeoData(tuple(points), tuple(tracks)))


def write_geojson(data: GeoData) -> bytes:
    """Return a GeoJSON FeatureCollection: whole locations, and their points and lines for other programs."""
    features: list[dict[str, Any]] = [
        {
            "type": "Feature",
            "properties": {"name": item["name"], WHOLE: item},
            "geometry": {"type": "Point", "coordinates": [item["longitude_deg"], item["latitude_deg"]]},
        }
        for item in data.whole
    ]
    features += [
        {
            "type": "Feature",
            "properties": {"name": point.name, "notes": point.notes, **_group(point)},
            "geometry": {"type": "Point", "coordinates": _position(point)},
        }
        for point in (*data.points, *(item for item in data.drawn if isinstance(item, GeoPoint)))
    ]
    features += [
        {
            "type": "Feature",
            "properties": {"name": track.name, **_group(track)},
            "geometry": {
                "type": "LineString",
                "coordinates": [_position(step) for step in in_one_dimension(track.points)],
            },
        }
        for track in (*data.tracks, *(item for item in data.drawn if isinstance(item, GeoTrack)))
    ]
    return json.dumps({"type": "FeatureCollection", "features": features}, ensure_ascii=False, indent=1).encode()


def _group(item: GeoPoint | GeoTrack) -> dict[str, str]:
    return {"location": item.group} if item.group else {}


def _whole(feature: dict[str, Any]) -> dict[str, Any]:
    """Return the whole location of a feature; empty if it has none."""
    properties = feature.get("properties")
    found = properties.get(WHOLE) if isinstance(properties, dict) else None
    return found if isinstance(found, dict) else {}


def _add(
    geometry: dict[str, Any], name: str, notes: str, points: list[GeoPoint], tracks: list[GeoTrack], depth: int
) -> None:
    kind, places = geometry.get("type"), geometry.get("coordinates")
    if kind == "Point":
        place = _place(places)
        points.append(GeoPoint(name, place.latitude_deg, place.longitude_deg, place.elevation_m, notes))
    elif kind == "MultiPoint":
        points += [
            GeoPoint(name, item.latitude_deg, item.longitude_deg, item.elevation_m, notes)
            for item in map(_place, _list(places))
        ]
    elif kind == "LineString":
        tracks.append(GeoTrack(name, tuple(map(_place, _list(places)))))
    elif kind == "MultiLineString":
        tracks += [GeoTrack(name, tuple(map(_place, _list(line)))) for line in _list(places)]
    elif kind == "GeometryCollection" and depth < _DEEPEST:
        for item in _list(geometry.get("geometries")):
            if isinstance(item, dict):
                _add(item, name, notes, points, tracks, depth + 1)


def _list(value: Any) -> list[Any]:
    if not isinstance(value, list):
        raise FormatError("The file lacks a list where its positions should be.")
    return value


def _place(value: Any) -> TrackPoint:
    parts = _list(value)
    if len(parts) < 2 or any(isinstance(part, (bool, dict, list)) for part in parts):
        raise FormatError(f"“{str(value)[:40]}” is not a position [longitude, latitude].")
    return TrackPoint(
        number(parts[1], "latitude"),
        number(parts[0], "longitude"),
        number(parts[2], "number of metres") if len(parts) > 2 else None,
    )


def _position(place: GeoPoint | TrackPoint) -> list[float]:
    position = [round(place.longitude_deg, 7), round(place.latitude_deg, 7)]
    return position if place.elevation_m is None else [*position, round(place.elevation_m, 2)]


def _no_constant(text: str) -> Any:
    raise FormatError(f"The file holds {text}, which is no number.")
