"""GPX: waypoints, routes and tracks."""

from __future__ import annotations

from typing import Any
from xml.etree.ElementTree import tostring

import gpxpy
import gpxpy.gpx

from .errors import FormatError
from .geodata import GeoData, GeoPoint, GeoTrack, TrackPoint, check_counts, checked
from .xml import count_tags, local_name, parse_xml


def read_gpx(content: bytes) -> GeoData:
    """Return the waypoints, tracks and routes of a GPX file. Raises FormatError."""
    check_counts(count_tags(content, "wpt"), count_tags(content, "trkpt", "rtept"))
    root = parse_xml(content, "gpx")
    # gpxpy parses what the safe parser has checked. It knows elements by their local names.
    for element in root.iter():
        element.tag = local_name(element)
    try:
        parsed = gpxpy.parse(tostring(root, encoding="unicode"))
    except (gpxpy.gpx.GPXException, ValueError, TypeError) as error:
        raise FormatError(f"The GPX file cannot be read: {str(error)[:120]}.") from None
    points = tuple(
        GeoPoint(
            point.name or "",
            point.latitude,
            point.longitude,
            point.elevation,
            point.description or point.comment or "",
            point.source or "",
        )
        for point in parsed.waypoints
    )
    lines: list[tuple[str, str, list[Any]]] = [
        (
            track.name or "",
            track.source or "",
            [(point, index == 0) for segment in track.segments for index, point in enumerate(segment.points)],
        )
        for track in parsed.tracks
    ]
    lines += [
        (route.name or "", route.source or "", [(point, False) for point in route.points]) for route in parsed.routes
    ]
    tracks = tuple(
        GeoTrack(
            name,
            tuple(
                TrackPoint(point.latitude, point.longitude, point.elevation, point.time, begins)
                for point, begins in line
            ),
            group,
        )
        for name, group, line in lines
    )
    return checked(GeoData(points, tracks))


def write_gpx(data: GeoData) -> bytes:
    """Return a GPX 1.1 file."""
    made = gpxpy.gpx.GPX()
    made.creator = "Lucid Ridge"
    for point in data.points:
        waypoint = gpxpy.gpx.GPXWaypoint(
            point.latitude_deg,
            point.longitude_deg,
            elevation=point.elevation_m,
            name=point.name,
            description=point.notes or None,
        )
        waypoint.source = point.group or None
        made.waypoints.append(waypoint)
    for track in data.tracks:
        line = gpxpy.gpx.GPXTrackSegment(
            [
                gpxpy.gpx.GPXTrackPoint(
                    step.latitude_deg, step.longitude_deg, elevation=step.elevation_m, time=step.time_utc
                )
                for step in track.points
            ]
        )
        whole = gpxpy.gpx.GPXTrack(name=track.name)
        whole.source = track.group or None
        whole.segments.append(line)
        made.tracks.append(whole)
    return str(made.to_xml(version="1.1")).encode()
