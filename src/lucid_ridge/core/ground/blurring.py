"""Approximate positions: the middle of a wide cell, so that a rare plant or a nest cannot be found by them."""

from __future__ import annotations

import math

from ..units.quantities import in_range
from .geodesy import EARTH_RADIUS_M

# The cell's sides: 11 km from south to north, and as much from west to east at the equator.
CELL_DEG = 0.1
# No place of a cell is farther from its middle: half a diagonal at the equator, rounded up.
CELL_REACH_KM = math.ceil(math.hypot(1, 1) * math.radians(CELL_DEG / 2) * EARTH_RADIUS_M / 1000)


def rough_position(latitude_deg: float, longitude_deg: float) -> tuple[float, float]:
    """Return the middle of the cell that contains a position [degrees]. All positions of a cell give the same result.

    latitude_deg from -90 to 90, longitude_deg from -180 to 180. Raises InputError beyond.
    """
    return (
        _middle(in_range("latitude_deg", latitude_deg, -90.0, 90.0), 90.0),
        _middle(in_range("longitude_deg", longitude_deg, -180.0, 180.0), 180.0),
    )


def _middle(value_deg: float, most_deg: float) -> float:
    last = round(2 * most_deg / CELL_DEG) - 1
    cell = min(int((value_deg + most_deg) // CELL_DEG), last)
    return round((cell + 0.5) * CELL_DEG - most_deg, 6)
