"""KML: placemarks with points and lines."""

from __future__ import annotations

import re
from xml.etree.ElementTree import Element, SubElement, tostring

from .errors import FormatError
from .geodata import GeoData, GeoPoint, GeoTrack, TrackPoint, check_counts, checked, in_one_dimension, number
from .xml import child_text, children, count_tags, parse_xml

# Coordinates are separated by white space; some programs also write it around commas.
_SPACED_COMMA = re.compile(r"\s*,\s*")
_NAMESPACE = "http://www.opengis.net/kml/2.2"


def read_kml(content: bytes) -> GeoData:
    """Return the placemarks of a KML file: points, and lines as tracks. Raises FormatError."""
    check_counts(count_tags(content, "Placemark"), count_tags(content, "coord"))
    root = parse_xml(content, "kml")
    points: list[GeoPoint] = []
    tracks: list[GeoTrack] = []
    groups = {
        item: child_text(folder, "name")
        for folder in children(root, "Folder")
        for item in children(folder, "Placemark")
    }
    for placemark in children(root, "Placemark"):
        group = groups.get(placemark, "")
        name, notes = child_text(placemark, "name"), child_text(placemark, "description")
        for point in children(placemark, "Point"):
            for place in _tuples(child_text(point, "coordinates")):
                points.append(GeoPoint(name, place.latitude_deg, place.longitude_deg, place.elevation_m, notes, group))
        for line in children(placemark, "LineString"):
            tracks.append(GeoTrack(name, tuple(_tuples(child_text(line, "coordinates"))), group))
        for line in children(placemark, "Track"):
            steps = [
                _place((item.text or "").split())
                for item in line
                if str(item.tag).endswith("}coord") or item.tag == "coord"
            ]
            tracks.append(GeoTrack(name, tuple(steps), group))
    return checked(GeoData(tuple(points), tuple(tracks)))


def write_kml(data: GeoData) -> bytes:
    """Return a KML 2.2 file."""
    root = Element("kml", xmlns=_NAMESPACE)
    document = SubElement(root, "Document")
    SubElement(document, "name").text = "Lucid Ridge"
    folders: dict[str, Element] = {"": document}

    def folder(group: str) -> Element:
        if group not in folders:
            folders[group] = SubElement(document, "Folder")
            SubElement(folders[group], "name").text = group
        return folders[group]

    for point in data.points:
        placemark = _placemark(folder(point.group), point.name, point.notes)
        SubElement(SubElement(placemark, "Point"), "coordinates").text = _written(point)
    for track in data.tracks:
        line = SubElement(_placemark(folder(track.group), track.name, ""), "LineString")
        SubElement(line, "coordinates").text = " ".join(_written(step) for step in in_one_dimension(track.points))
    return bytes(tostring(root, encoding="utf-8", xml_declaration=True))


def _placemark(document: Element, name: str, notes: str) -> Element:
    placemark = SubElement(document, "Placemark")
    SubElement(placemark, "name").text = name
    if notes:
        SubElement(placemark, "description").text = notes
    return placemark


def _written(place: GeoPoint | TrackPoint) -> str:
    height = "" if place.elevation_m is None else f",{place.elevation_m:.2f}"
    return f"{place.longitude_deg:.7f},{place.latitude_deg:.7f}{height}"


def _tuples(text: str) -> list[TrackPoint]:
    return [_place(item.split(",")) for item in _SPACED_COMMA.sub(",", text).split()]


def _place(parts: list[str]) -> TrackPoint:
    if len(parts) not in (2, 3):
        raise FormatError(f"“{','.join(parts)[:40]}” is not longitude,latitude,elevation.")
    height = number(parts[2], "number of metres") if len(parts) == 3 and parts[2].strip() else None
    return TrackPoint(number(parts[1], "latitude"), number(parts[0], "longitude"), height)
