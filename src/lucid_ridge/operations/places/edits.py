"""What is said of a place, its viewpoints and what is seen from them: typed commands.

Plain columns travel by their names.

"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field


@dataclass(frozen=True)
class NewLocation:
    """Without a name it is called by its coordinates; without a zone the one at the coordinates is taken."""

    latitude_deg: float
    longitude_deg: float
    name: str | None = None
    elevation_m: float = 0.0
    zone: str | None = None
    notes: str = ""


@dataclass(frozen=True)
class LocationEdit:
    """columns: other columns of a location. zone None: not said."""

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
    """Where one can stand: corners (east, north) [m] from the mark, and the sides with a fall beyond, by their first
    corner.

    """

    corners: Sequence[Sequence[float]]
    drops: Sequence[int] = ()


@dataclass(frozen=True)
class ViewpointEdit:
    """columns: other columns of a viewpoint, its own position among them.

    standing: where sets_standing, None takes it away.

    """

    columns: Mapping[str, object] = field(default_factory=dict)
    origin: FromViewpoint | None = None
    standing: Corners | None = None
    sets_standing: bool = False


@dataclass(frozen=True)
class ElementEdit:
    """columns: other columns of an element. course: further (bearing, distance) points of a line; None: not said."""

    columns: Mapping[str, object] = field(default_factory=dict)
    course: Sequence[tuple[float, float]] | None = None
