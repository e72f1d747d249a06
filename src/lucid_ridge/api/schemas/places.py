"""Locations, viewpoints and elements."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import AfterValidator, Field

from .fields import Bearing, Distance, In, Name, Note, Out, bounded, wrap_bearing

Shape = Literal["block", "boulder", "post", "posts", "tree", "ridge", "water", "flower"]
Size = Annotated[Distance, Field(ge=0.0001)]
WrappedBearing = Annotated[Bearing, AfterValidator(wrap_bearing)]


class LocationIn(In):
    name: Name
    latitude_deg: bounded(-90, 90)  # type: ignore[valid-type]
    longitude_deg: bounded(-180, 180)  # type: ignore[valid-type]
    elevation_m: bounded(-500, 9000) = 0.0  # type: ignore[valid-type]
    zone: Name | None = None
    notes: Note = ""


class LocationPatch(In):
    name: Name = ""
    latitude_deg: bounded(-90, 90) = 0.0  # type: ignore[valid-type]
    longitude_deg: bounded(-180, 180) = 0.0  # type: ignore[valid-type]
    elevation_m: bounded(-500, 9000) = 0.0  # type: ignore[valid-type]
    zone: Name = ""
    notes: Note = ""


class ViewpointIn(In):
    name: Name
    notes: Note = ""


class ViewpointPatch(In):
    name: Name = ""
    notes: Note = ""


class ElementIn(In):
    name: Name
    shape: Shape = "block"
    bearing_deg: WrappedBearing
    distance_m: Annotated[Distance, Field(ge=0.01, le=500_000)]
    width_m: Size
    height_m: Annotated[Size, Field(le=9000)]
    base_m: bounded(-5000, 9000) = 0.0  # type: ignore[valid-type]
    speed_mps: bounded(0, 400, above=True) | None = None  # type: ignore[valid-type]


class ElementPatch(In):
    name: Name = ""
    shape: Shape = "block"
    bearing_deg: WrappedBearing = 0.0
    distance_m: Annotated[Distance, Field(ge=0.01, le=500_000)] = 1.0
    width_m: Size = 1.0
    height_m: Annotated[Size, Field(le=9000)] = 1.0
    base_m: bounded(-5000, 9000) = 0.0  # type: ignore[valid-type]
    speed_mps: bounded(0, 400, above=True) | None = None  # type: ignore[valid-type]


class ElementOut(Out):
    id: int
    name: str
    shape: Shape
    bearing_deg: float
    distance_m: float
    distance_label: str
    width_m: float
    height_m: float
    base_m: float
    speed_mps: float | None


class ViewpointOut(Out):
    id: int
    name: str
    notes: str
    elements: list[ElementOut]


class LocationOut(Out):
    id: int
    name: str
    latitude_deg: float
    longitude_deg: float
    elevation_m: float
    zone: str
    notes: str
    viewpoints: list[ViewpointOut]


class LocationsOut(Out):
    locations: list[LocationOut]


class ZoneQuery(In):
    latitude_deg: bounded(-90, 90)  # type: ignore[valid-type]
    longitude_deg: bounded(-180, 180)  # type: ignore[valid-type]


class ZoneOut(Out):
    zone: str
