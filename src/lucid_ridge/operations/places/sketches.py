"""A location from above, to scale: viewpoints, tracks, and contours if there is an elevation grid."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, cast

import numpy as np
from sqlalchemy.orm import Session

from ...core.ground.geodesy import east_north_m
from ...core.light.terrain import contours
from ...store.places import Location, LocationGrid
from ..platform.rows import owned
from .skylines import grid_of, position_of

_LEVELS = 10
_STEPS_M = (5, 10, 20, 25, 50, 100, 200, 500)
_LEAST_SPAN_M = 300.0
_FINEST = 220


@dataclass(frozen=True)
class Contour:
    """A contour: level [m], and its course as (east, north) [m]."""

    level_m: float
    line: tuple[tuple[float, float], ...]


@dataclass(frozen=True)
class Sketch:
    """A plan of a location, in metres east and north of its coordinates. half_m: half its width and height."""

    middle: tuple[float, float]
    half_m: float
    viewpoints: tuple[tuple[int, str, float, float], ...]
    tracks: tuple[tuple[int, str, tuple[tuple[float, float], ...]], ...]
    contours: tuple[Contour, ...]
    contour_step_m: float | None


def sketch_location(session: Session, owner_id: int, location_id: int) -> Sketch:
    """Return a location's plan from its own points and tracks."""
    row = owned(session, owner_id, Location, location_id)
    return sketch_of(row, session.get(LocationGrid, row.id))


def sketch_of(row: Location, kept: LocationGrid | None) -> Sketch:
    """Return the plan of a location with its viewpoints and tracks. kept: its elevation grid, if there is one."""
    origin = (row.latitude_deg, row.longitude_deg)
    viewpoints = tuple((point.id, point.name, *_xy(position_of(point), origin)) for point in row.viewpoints)
    tracks = tuple(
        (track.id, track.name, tuple(_xy((step[0], step[1]), origin) for step in track.points)) for track in row.tracks
    )
    everything = [
        (0.0, 0.0),
        *((east, north) for _, _, east, north in viewpoints),
        *(step for _, _, line in tracks for step in line),
    ]
    lows, highs = np.min(everything, axis=0), np.max(everything, axis=0)
    middle = ((lows[0] + highs[0]) / 2, (lows[1] + highs[1]) / 2)
    half = max(_LEAST_SPAN_M, 0.62 * float(max(highs - lows)))
    lines, step = _contours(kept, origin, middle, half) if kept else ((), None)
    return Sketch((float(middle[0]), float(middle[1])), half, viewpoints, tracks, lines, step)


def _xy(place: tuple[float, float], origin: tuple[float, float]) -> tuple[float, float]:
    east, north = east_north_m(*place, *origin)
    return float(east), float(north)


def _contours(
    kept: LocationGrid, origin: tuple[float, float], middle: tuple[float, float], half: float
) -> tuple[tuple[Contour, ...], float | None]:
    # Imported when first needed.
    from contourpy import contour_generator
    from scipy.ndimage import zoom

    grid = grid_of(kept)
    rows, columns = grid.heights_m.shape
    east, _ = east_north_m(origin[0], grid.west_deg + grid.step_lon_deg * np.arange(columns), *origin)
    _, north = east_north_m(grid.north_deg - grid.step_lat_deg * np.arange(rows), origin[1], *origin)
    inside_x = np.nonzero(np.abs(east - middle[0]) <= 2.4 * half)[0]
    inside_y = np.nonzero(np.abs(north - middle[1]) <= 2.4 * half)[0]
    if inside_x.size < 2 or inside_y.size < 2:
        return (), None
    x, y = slice(max(0, inside_x[0] - 1), inside_x[-1] + 2), slice(max(0, inside_y[0] - 1), inside_y[-1] + 2)
    thin = max(1, max(inside_x.size, inside_y.size) // _FINEST)
    heights, east, north = grid.heights_m[y, x][::thin, ::thin], east[x][::thin], north[y][::thin]
    if not np.isfinite(heights).any():
        return (), None
    if np.isfinite(heights).all() and max(heights.shape) < _FINEST:
        # A coarse grid is smoothed between its points, as a draughtsman would.
        finer = max(2, _FINEST // max(heights.shape))
        heights = zoom(heights, finer, order=3, grid_mode=False)
        east, north = (
            np.linspace(axis[0], axis[-1], size) for axis, size in zip((east, north), heights.shape[::-1], strict=True)
        )
    shown = heights[
        np.ix_(np.abs(np.asarray(north) - middle[1]) <= 1.1 * half, np.abs(np.asarray(east) - middle[0]) <= 1.1 * half)
    ]
    span = float(np.nanmax(shown) - np.nanmin(shown)) if shown.size and np.isfinite(shown).any() else 0.0
    step = next((size for size in _STEPS_M if span / size <= _LEVELS), _STEPS_M[-1])
    cut = type(grid)(heights, grid.north_deg, grid.west_deg, grid.step_lat_deg, grid.step_lon_deg)
    generator = contour_generator(east, north, np.ma.masked_invalid(heights))
    return tuple(
        Contour(
            level,
            tuple(
                (round(float(point[0]), 1), round(float(point[1]), 1)) for point in line[:: max(1, len(line) // 400)]
            ),
        )
        for level in contours(cut, step)
        for line in cast(list[Any], generator.lines(level))
        if len(line) > 2
    ), float(step)
