"""Locations, viewpoints and elements as response bodies."""

from __future__ import annotations

from ...core.units.lengths import format_distance
from ...store.places import Element, Location, Viewpoint
from ..schemas import places as out


def present_element(row: Element) -> out.ElementOut:
    plain = {name: getattr(row, name) for name in out.ElementOut.model_fields if name != "distance_label"}
    return out.ElementOut(**plain, distance_label=format_distance(row.distance_m))


def present_viewpoint(row: Viewpoint) -> out.ViewpointOut:
    return out.ViewpointOut(id=row.id, name=row.name, notes=row.notes, elements=[present_element(item) for item in row.elements])


def present_location(row: Location) -> out.LocationOut:
    plain = {name: getattr(row, name) for name in out.LocationOut.model_fields if name != "viewpoints"}
    return out.LocationOut(**plain, viewpoints=[present_viewpoint(point) for point in row.viewpoints])
