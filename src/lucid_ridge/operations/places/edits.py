"""Edits of a location, its viewpoints and elements, as typed commands. Plain columns are passed by name."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field


@dataclass(frozen=True)
class NewLocation:
    """A new location. Without a name it gets its coordinates; without a zone, the zone at its coordinates."""

    latitude_deg: float
    longitude_deg: float
    name: str | None = None
    elevation_m: float = 0.0
    zone: str | None = None
    notes: str = ""


@dataclass(frozen=True)
class LocationEdit:
    """An edit of a location. columns: by name. zone None: not given."""

    columns: Mapping[str, object] = field(default_factory=dict)
    zone: str | None = None


@dataclass(frozen=True)
class FromViewpoint:
    """A position by bearing and distance from another viewpoint; all three belong together."""

    viewpoint_id: int | None
    bearing_deg: float | None
    distance_m: float | None


@dataclass(frozen=True)
class Corners:
    """A standing area: corners (east, north) [m] from the tripod mark, and the sides with a drop, by their first
    corner.
    """

    corners: Sequence[Sequence[float]]
    drops: Sequence[int] = ()


@dataclass(frozen=True)
class ViewpointEdit:
    """An edit of a viewpoint.

    columns: by name, its own position included. standing: if sets_standing, None removes it.
    """

    columns: Mapping[str, object] = field(default_factory=dict)
    origin: FromViewpoint | None = None
    standing: Corners | None = None
    sets_standing: bool = False


@dataclass(frozen=True)
class ElementEdit:
    """An edit of an element.

    columns: by name. course: further (bearing, distance) points of a line; None: not given.
    """

    columns: Mapping[str, object] = field(default_factory=dict)
    course: Sequence[tuple[float, float]] | None = None
