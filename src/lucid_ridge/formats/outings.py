"""An outing as a GPX route and as JSON.

Source: [1] GPX 1.1 schema: a route is an ordered list of points that lead to a destination.
"""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

import gpxpy.gpx

MEDIA_TYPES = {"gpx": "application/gpx+xml", "ics": "text/calendar", "json": "application/json"}
OUTING_VERSION = 1


@dataclass(frozen=True)
class RoutePoint:
    """A stop of the route. begin_utc: when it begins."""

    name: str
    latitude_deg: float
    longitude_deg: float
    elevation_m: float
    begin_utc: datetime
    notes: str


def write_route(name: str, points: Sequence[RoutePoint]) -> bytes:
    """Return a GPX file with the stops as a route, in order. Source: [1]."""
    made = gpxpy.gpx.GPX()
    made.creator = "Lucid Ridge"
    route = gpxpy.gpx.GPXRoute(name=name)
    for point in points:
        route.points.append(
            gpxpy.gpx.GPXRoutePoint(
                point.latitude_deg,
                point.longitude_deg,
                elevation=point.elevation_m,
                time=point.begin_utc,
                name=point.name,
                description=point.notes or None,
            )
        )
    made.routes.append(route)
    return str(made.to_xml(version="1.1")).encode()


def write_outing_json(content: Mapping[str, Any]) -> bytes:
    """Return an outing's plan as JSON with its format version."""
    return json.dumps({"version": OUTING_VERSION, **content}, ensure_ascii=False, indent=1).encode()
