"""The ground a picture is taken on: a slope around the viewpoint's mark, and the area where one can stand.

East, north and up are metres from the viewpoint's mark, whose ground is at height 0.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..errors import InputError
from ..units.quantities import finite

Floats = NDArray[np.float64]
STEEPEST_DEG = 45.0
MOST_CORNERS = 24


@dataclass(frozen=True)
class Ground:
    """Ground that falls by slope_deg towards down_bearing_deg within reach_m of the mark and is level beyond."""

    slope_deg: float = 0.0
    down_bearing_deg: float = 0.0
    reach_m: float = 30.0

    def __post_init__(self) -> None:
        if not 0 <= float(finite("slope_deg", self.slope_deg)) <= STEEPEST_DEG:
            raise InputError(
                "slope_deg", f"The ground slopes by 0 to {STEEPEST_DEG:g} degrees, not {self.slope_deg:g}."
            )

    def height_m(self, east_m: Any, north_m: Any) -> Any:
        """Return the height of the ground [m] at places. Broadcasts; zero everywhere on level ground."""
        bearing = math.radians(self.down_bearing_deg)
        along = np.asarray(east_m, dtype=np.float64) * math.sin(bearing) + np.asarray(
            north_m, dtype=np.float64
        ) * math.cos(bearing)
        height = -math.tan(math.radians(self.slope_deg)) * np.clip(along, -self.reach_m, self.reach_m)
        return float(height) if np.ndim(height) == 0 else height


LEVEL_GROUND = Ground()


@dataclass(frozen=True)
class StandingArea:
    """Where one can stand: corners (east, north) [m] of a simple polygon.

    drops: sides (by their first corner) that are an edge with a fall.
    """

    corners: tuple[tuple[float, float], ...]
    drops: frozenset[int] = frozenset()

    @cached_property
    def _sides(self) -> tuple[Floats, Floats]:
        starts = np.array(self.corners, dtype=np.float64)
        return starts, np.roll(starts, -1, axis=0) - starts

    def outside_m(self, east_m: Any, north_m: Any) -> Floats:
        """Return how far places lie outside the area [m], 0 inside; shape of the broadcast arguments."""
        distance, inside = self._to_sides(east_m, north_m)
        return np.asarray(np.where(inside, 0.0, distance.min(axis=-1)))

    def to_drop_m(self, east_m: float, north_m: float) -> float | None:
        """Return the distance to the nearest side with a fall [m]; None where there is none."""
        if not self.drops:
            return None
        distance, _ = self._to_sides(east_m, north_m)
        return float(distance[..., sorted(self.drops)].min())

    def _to_sides(self, east_m: Any, north_m: Any) -> tuple[Floats, NDArray[np.bool_]]:
        starts, runs = self._sides
        here = np.stack(
            np.broadcast_arrays(np.asarray(east_m, dtype=np.float64), np.asarray(north_m, dtype=np.float64)), axis=-1
        )
        relative = here[..., None, :] - starts
        length = np.maximum(np.sum(runs * runs, axis=1), 1e-18)
        along = np.clip(np.sum(relative * runs, axis=-1) / length, 0.0, 1.0)
        distance = np.linalg.norm(relative - along[..., None] * runs, axis=-1)
        # Crossings of a ray to the east: an odd number is inside.
        above = relative[..., 1] >= 0
        above_next = (relative - runs)[..., 1] >= 0
        with np.errstate(divide="ignore", invalid="ignore"):
            crossing = starts[:, 0] + runs[:, 0] * relative[..., 1] / runs[:, 1]
        hits = (above != above_next) & (here[..., None, 0] < crossing)
        return distance, np.sum(hits, axis=-1) % 2 == 1


def standing_area(corners: Sequence[Sequence[float]], drops: Sequence[int] = ()) -> StandingArea:
    """Return a standing area.

    Raises InputError for fewer than three corners, too many, sides that cross, or a side that is not there.
    """
    if not 3 <= len(corners) <= MOST_CORNERS:
        raise InputError("standing", f"A standing area has 3 to {MOST_CORNERS} corners, not {len(corners)}.")
    clean = []
    for corner in corners:
        if len(corner) != 2 or not all(math.isfinite(value) and abs(value) <= 1000 for value in corner):
            raise InputError(
                "standing", "Each corner is an east and a north in metres from the mark, at most 1000 m away."
            )
        clean.append((float(corner[0]), float(corner[1])))
    count = len(clean)
    if any(not 0 <= side < count for side in drops):
        raise InputError("standing", f"The sides of this area are numbered 0 to {count - 1}.")
    for one in range(count):
        for other in range(one + 2, count):
            if (one, other) != (0, count - 1) and _cross(
                clean[one], clean[(one + 1) % count], clean[other], clean[(other + 1) % count]
            ):
                raise InputError("standing", "The sides of the standing area cross each other: move a corner.")
    return StandingArea(tuple(clean), frozenset(drops))


def _cross(a: tuple[float, float], b: tuple[float, float], c: tuple[float, float], d: tuple[float, float]) -> bool:
    def side(p: tuple[float, float], q: tuple[float, float], r: tuple[float, float]) -> float:
        return (q[0] - p[0]) * (r[1] - p[1]) - (q[1] - p[1]) * (r[0] - p[0])

    return side(a, b, c) * side(a, b, d) < 0 and side(c, d, a) * side(c, d, b) < 0
