"""The relief of the Corran country: an invented elevation grid, the same for the same seed."""

from __future__ import annotations

import numpy as np
from scipy.interpolate import RBFInterpolator
from scipy.ndimage import gaussian_filter

from ..core.ground.geodesy import east_north_m, offset
from ..core.light.terrain import ElevationGrid

NAME = "corran-country.asc"
SEED = 1887
NORTH_DEG, SOUTH_DEG, WEST_DEG, EAST_DEG = 54.66, 54.46, -3.36, -2.90
STEP_DEG = 1 / 1200
_ORIGIN = (54.55, -3.10)
# Heights [m] at places of the demo, so that viewpoints stand on the land.
_KNOWN = (
    (54.531, -3.214, 4.0),
    (54.548, -3.118, 92.0),
    (54.562, -3.072, 338.0),
    (54.541, -3.141, 205.0),
    (54.556, -3.098, 297.0),
    (54.571, -3.052, 512.0),
    (54.52, -3.33, 0.0),
    (54.49, -3.27, 0.0),
    (54.56, -3.30, 30.0),
    (54.60, -3.25, 160.0),
    (54.64, -3.10, 240.0),
    (54.47, -3.10, 130.0),
    (54.48, -2.93, 260.0),
    (54.63, -2.93, 330.0),
    (54.5185, -3.236, 0.0),
)


def corran_grid() -> ElevationGrid:
    """Return the grid: known heights joined smoothly, with ridges, Corran Fell, and roughness that grows with
    height.
    """
    rows = round((NORTH_DEG - SOUTH_DEG) / STEP_DEG) + 1
    columns = round((EAST_DEG - WEST_DEG) / STEP_DEG) + 1
    latitudes, longitudes = NORTH_DEG - STEP_DEG * np.arange(rows), WEST_DEG + STEP_DEG * np.arange(columns)
    east, _ = east_north_m(_ORIGIN[0], longitudes, *_ORIGIN)
    _, north = east_north_m(latitudes, _ORIGIN[1], *_ORIGIN)
    x, y = np.meshgrid(np.asarray(east), np.asarray(north))
    heights = _base(x, y) + _fells(x, y)
    rough = np.random.default_rng(SEED).normal(size=heights.shape)
    rough = sum(weight * gaussian_filter(rough, size) * size for size, weight in ((9, 9.0), (4, 4.0), (1.5, 1.6)))
    heights = heights + rough * np.clip(heights / 400, 0, 1)
    return ElevationGrid(np.round(np.maximum(heights, 0.0)).astype(np.float32), NORTH_DEG, WEST_DEG, STEP_DEG, STEP_DEG)


def _base(x: np.ndarray, y: np.ndarray) -> np.ndarray:
    places = np.array([east_north_m(latitude, longitude, *_ORIGIN) for latitude, longitude, _ in _KNOWN])
    smooth = RBFInterpolator(
        places / 1000, [height for _, _, height in _KNOWN], kernel="thin_plate_spline", smoothing=0.0
    )
    coarse = smooth(np.column_stack((x.ravel(), y.ravel())) / 1000).reshape(x.shape)
    return np.asarray(coarse)


def _fells(x: np.ndarray, y: np.ndarray) -> np.ndarray:
    # Corran Fell is across the tarn, its outliers as the elements in the notebook name them: bearing, distance,
    # height, half widths.
    tarn, edge = (54.562, -3.072), (54.571, -3.052)
    result = np.zeros_like(x)
    for origin, bearing, distance, height, along, across in (
        (tarn, 134, 2600, 400, 1300, 520),
        (tarn, 160, 2100, 150, 500, 400),
        (tarn, 105, 3300, 260, 800, 600),
        (tarn, 190, 1700, 90, 500, 450),
        (edge, 284, 1400, 70, 260, 420),
        (edge, 290, 3800, 210, 700, 500),
        (edge, 281, 7600, 380, 1500, 700),
        (edge, 262, 5200, 120, 900, 600),
    ):
        place = east_north_m(*offset(*origin, bearing, distance), *_ORIGIN)
        # Ridges run across the line of sight.
        turn = np.radians(bearing)
        away = (x - place[0]) * np.sin(turn) + (y - place[1]) * np.cos(turn)
        side = (x - place[0]) * np.cos(turn) - (y - place[1]) * np.sin(turn)
        result += height * np.exp(-0.5 * ((away / across) ** 2 + (side / along) ** 2))
    return result
