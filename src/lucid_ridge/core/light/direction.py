"""Directions in the sky as vectors."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
from numpy.typing import NDArray


def direction(altitude_deg: float, azimuth_deg: float) -> NDArray[np.float64]:
    """Return the unit vector (east, north, up) towards an altitude and an azimuth [degrees from north, clockwise]."""
    altitude, azimuth = math.radians(altitude_deg), math.radians(azimuth_deg)
    return np.array(
        [math.cos(altitude) * math.sin(azimuth), math.cos(altitude) * math.cos(azimuth), math.sin(altitude)]
    )


def lengths(vectors: Any) -> NDArray[np.float64]:
    """Return the lengths of vectors (…, 3), a third of what numpy's `norm` takes along so short an axis."""
    return np.asarray(np.sqrt(np.einsum("...i,...i", vectors, vectors)))
