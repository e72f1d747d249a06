"""Skylines computed from an elevation grid, with the Earth's curvature and refraction.

Rays go out from the eye in every direction; at each step the land's height is read between the grid's points and turned
into an altitude. Refraction of light along the ground bends it down to follow k = 0.13 of the curvature (common
practice of surveying).
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import map_coordinates

from ..errors import InputError
from ..ground.geodesy import EARTH_RADIUS_M, curvature_drop_m
from .skyline import HIGHEST_DEG, LOWEST_DEG, Skyline

REACH_M = 60_000.0
BEARING_STEP_DEG = 0.25
# WGS 84.
_MAJOR_M, _ECCENTRICITY2 = 6_378_137.0, 6.69437999014e-3


class Cancelled(Exception):
    """The caller stopped the computation."""


@dataclass(frozen=True)
class ElevationGrid:
    """Heights [m, shape (rows, columns), NaN where unknown] at grid points; row 0 is the northernmost.

    north_deg, west_deg: the first point; step_lat_deg, step_lon_deg: between neighbours, both positive.
    """

    heights_m: NDArray[np.float32]
    north_deg: float
    west_deg: float
    step_lat_deg: float
    step_lon_deg: float

    @property
    def south_deg(self) -> float:
        return float(self.north_deg - self.step_lat_deg * (self.heights_m.shape[0] - 1))

    @property
    def east_deg(self) -> float:
        return float(self.west_deg + self.step_lon_deg * (self.heights_m.shape[1] - 1))

    @property
    def spacing_m(self) -> float:
        """The finer of the two spacings on the ground."""
        return min(
            self.step_lat_deg * 111_132.0, self.step_lon_deg * 111_320.0 * float(np.cos(np.radians(self.north_deg)))
        )

    def height_m(
        self, latitude_deg: NDArray[np.float64] | float, longitude_deg: NDArray[np.float64] | float
    ) -> NDArray[np.float64]:
        """Return the land's height [m] between the grid's points; NaN outside the grid and beside unknown points."""
        rows = (self.north_deg - np.asarray(latitude_deg, dtype=np.float64)) / self.step_lat_deg
        columns = (np.asarray(longitude_deg, dtype=np.float64) - self.west_deg) / self.step_lon_deg
        shape = np.shape(rows)
        # A place on the very edge must not fall off it by a rounding.
        rows, columns = (_onto(value, size) for value, size in zip((rows, columns), self.heights_m.shape, strict=True))
        found = map_coordinates(
            self.heights_m,
            np.stack((np.ravel(rows), np.ravel(columns))),
            order=1,
            mode="constant",
            cval=np.nan,
            output=np.float64,
        )
        return np.asarray(found).reshape(shape)


def skyline_from_grid(
    grid: ElevationGrid,
    latitude_deg: float,
    longitude_deg: float,
    eye_height_m: float = 1.6,
    reach_m: float = REACH_M,
    bearing_step_deg: float = BEARING_STEP_DEG,
    progress: Callable[[float], bool] | None = None,
) -> Skyline:
    """Return the skyline seen from eye_height_m above the land at a place inside the grid.

    progress is called with the share done (0..1) and stops the work by returning False (raises Cancelled). Land beyond
    the grid is not seen. Raises InputError where the place lies outside the grid or its height there is unknown.
    """
    ground = float(grid.height_m(latitude_deg, longitude_deg))
    if not np.isfinite(ground):
        raise InputError(
            "grid",
            f"The place {latitude_deg:.4f}, {longitude_deg:.4f} lies outside the grid or where it has no "
            "heights; the grid covers "
            f"{grid.south_deg:.3f} to {grid.north_deg:.3f} N, {grid.west_deg:.3f} to {grid.east_deg:.3f} E.",
        )
    eye = ground + eye_height_m
    bearings = np.arange(0.0, 360.0, bearing_step_deg)
    distances = _distances(grid.spacing_m, reach_m)
    drops = curvature_drop_m(distances)
    latitude_m, longitude_m = _metres_per_degree(latitude_deg)
    altitudes = np.zeros_like(bearings)
    portion = max(1, int(4_000_000 / distances.size))
    for first in range(0, bearings.size, portion):
        part = np.radians(bearings[first : first + portion])[:, None]
        north, east = distances * np.cos(part), distances * np.sin(part)
        # Meridians draw together: the second order keeps the path straight to a few metres over the reach.
        latitudes = (
            latitude_deg
            + north / latitude_m
            - east * east * np.tan(np.radians(latitude_deg)) / (2 * EARTH_RADIUS_M) / latitude_m
        )
        longitudes = longitude_deg + east / longitude_m * (
            1 + north * np.tan(np.radians(latitude_deg)) / EARTH_RADIUS_M
        )
        heights = grid.height_m(latitudes, longitudes)
        slopes = (heights - drops - eye) / distances
        # A ray with no land at all in the grid sees a level horizon.
        seen = np.where(np.isfinite(slopes), slopes, -np.inf).max(axis=1)
        altitudes[first : first + portion] = np.where(np.isfinite(seen), np.degrees(np.arctan(seen)), 0.0)
        if progress is not None and not progress(min(1.0, (first + portion) / bearings.size)):
            raise Cancelled
    clipped = np.clip(altitudes, LOWEST_DEG, HIGHEST_DEG)
    return Skyline(tuple(bearings.tolist()), tuple(np.round(clipped, 3).tolist()))


def _onto(index: NDArray[np.float64], size: int) -> NDArray[np.float64]:
    inside = np.clip(index, 0, size - 1)
    return np.where(np.abs(index - inside) < 1e-6, inside, index)


def contours(grid: ElevationGrid, step_m: float) -> list[float]:
    """Return the levels [m] of contour lines that a grid holds, step_m apart."""
    low, high = float(np.nanmin(grid.heights_m)), float(np.nanmax(grid.heights_m))
    return [float(level) for level in np.arange(np.ceil(low / step_m) * step_m, high, step_m)]


def _distances(spacing_m: float, reach_m: float) -> NDArray[np.float64]:
    """Return steps along a ray: half the grid's spacing close by, no finer than the rays part further out."""
    step = max(1.0, spacing_m / 2)
    near = np.arange(step, min(reach_m, 4000.0), step)
    out = [near]
    while out[-1].size and out[-1][-1] < reach_m:
        start = out[-1][-1]
        coarse = max(step, min(spacing_m, start * np.radians(BEARING_STEP_DEG)))
        out.append(np.arange(start + coarse, min(reach_m, start * 2) + coarse, coarse))
    return np.concatenate(out)


def _metres_per_degree(latitude_deg: float) -> tuple[float, float]:
    """Return metres a degree of latitude and of longitude on the ellipsoid. Source: WGS 84."""
    sine = np.sin(np.radians(latitude_deg))
    bend = 1 - _ECCENTRICITY2 * sine * sine
    meridian, prime = _MAJOR_M * (1 - _ECCENTRICITY2) / bend**1.5, _MAJOR_M / np.sqrt(bend)
    return float(np.radians(meridian)), float(np.radians(prime) * np.cos(np.radians(latitude_deg)))
