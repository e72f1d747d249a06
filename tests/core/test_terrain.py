"""Skylines from elevation grids, against shapes whose skyline is known."""

import math

import numpy as np
import pytest

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.ground.geodesy import curvature_drop_m
from lucid_ridge.core.light.terrain import Cancelled, ElevationGrid, contours, skyline_from_grid

EARTH_M = 6_371_000.0
LATITUDE, LONGITUDE = 54.5, -3.5


def _grid(height, half_deg=0.3, step=1 / 1200):
    """A grid of a function of metres east and north of the middle; lengths on the ellipsoid (WGS 84 at 54.5° N: 111.31
    and 64.75 km a degree).
    """
    count = round(2 * half_deg / step) + 1
    rows, columns = np.mgrid[0:count, 0:count]
    north = (half_deg - rows * step) * 111_306.0
    east = (columns * step - half_deg) * 64_752.0
    return ElevationGrid(height(east, north).astype(np.float32), LATITUDE + half_deg, LONGITUDE - half_deg, step, step)


def test_a_cone():
    # A cone of 600 m, its foot 2 km wide, 6 km to the east: its top stands at atan((600 - eye - drop) / 6000); from the
    # flat its outline falls straight to both sides, since every line from an outside point touches a cone along one of
    # its edges.
    grid = _grid(lambda east, north: np.maximum(0, 600 * (1 - np.hypot(east - 6000, north) / 2000)))
    skyline = skyline_from_grid(grid, LATITUDE, LONGITUDE, eye_height_m=2.0, reach_m=20_000)
    drop = 6000**2 * 0.87 / (2 * EARTH_M)
    assert skyline.altitude_deg(90) == pytest.approx(math.degrees(math.atan((598 - drop) / 6000)), abs=0.05)
    # Its foot ends where the bearing leaves the circle of 2 km: asin(2/6) = 19.47°.
    assert skyline.altitude_deg(90 - 18) > 0.3
    assert abs(skyline.altitude_deg(90 - 20.5)) < 0.1
    assert skyline.altitude_deg(90 - 10) == pytest.approx(skyline.altitude_deg(90 + 10), abs=0.06)
    assert abs(skyline.altitude_deg(270)) < 0.1


@pytest.mark.parametrize(("distance_m", "height_m"), [(5_000, 300), (15_000, 500), (30_000, 900)])
def test_a_ridge_at_a_known_distance_with_curvature(distance_m, height_m):
    # A wall across the north: (h - eye - d²(1 - k)/2R)/d with k = 0.13 (common practice of surveying); seen
    # slantwise it is further away.
    grid = _grid(lambda east, north: np.where(np.abs(north - distance_m) < 250, height_m, 0.0))
    skyline = skyline_from_grid(grid, LATITUDE, LONGITUDE, eye_height_m=10.0, reach_m=45_000)
    for bearing in (0.0, 20.0):
        # The near edge stands highest, and lies 250 m nearer than the middle.
        along = (distance_m - 250) / math.cos(math.radians(bearing))
        drop = along**2 * 0.87 / (2 * EARTH_M)
        expected = math.degrees(math.atan((height_m - 10 - drop) / along))
        assert skyline.altitude_deg(bearing) == pytest.approx(expected, rel=0.02)


def test_the_earth_hides_a_low_island_far_away():
    # From 2 m the sea horizon lies 5.4 km away with refraction (2.08 nautical miles times the root of the height in
    # metres, any handbook of navigation: 3.85 km · √2): a rock of 3 m at 25 km is below it.
    grid = _grid(lambda east, north: np.where(np.hypot(east, north - 25_000) < 400, 3.0, 0.0))
    skyline = skyline_from_grid(grid, LATITUDE, LONGITUDE, eye_height_m=2.0, reach_m=40_000)
    assert skyline.altitude_deg(0) == pytest.approx(skyline.altitude_deg(180), abs=0.002)
    assert skyline.altitude_deg(0) < 0


def test_drop_by_curvature():
    # Surveyors' rule: 0.0785 m times the square of the distance in kilometres, less 13 % for refraction.
    assert curvature_drop_m(np.array([0.0, 1000.0, 10_000.0])) == pytest.approx([0, 0.0683, 6.83], rel=1e-3)


def test_holes_and_the_edge_of_the_grid():
    def holed(east, north):
        heights = np.where(np.hypot(east - 3000, north) < 600, 400.0, 0.0)
        return np.where((north > 1000) & (north < 2000), np.nan, heights)

    grid = _grid(holed, half_deg=0.06)
    skyline = skyline_from_grid(grid, LATITUDE, LONGITUDE)
    assert skyline.altitude_deg(90) > 7
    assert np.isfinite(skyline.altitudes_deg).all()
    for place in ((60.0, LONGITUDE), (LATITUDE + 1500 / 111_306, LONGITUDE)):
        with pytest.raises(InputError) as caught:
            skyline_from_grid(grid, *place)
        assert caught.value.field == "grid"


def test_progress_is_told_and_can_stop_the_work():
    grid = _grid(lambda east, north: east * 0, half_deg=0.05)
    told = []
    skyline_from_grid(grid, LATITUDE, LONGITUDE, progress=lambda share: told.append(share) or True)
    assert told[-1] == 1.0
    assert told == sorted(told)
    with pytest.raises(Cancelled):
        skyline_from_grid(grid, LATITUDE, LONGITUDE, progress=lambda share: False)


def test_contour_levels():
    grid = _grid(lambda east, north: north / 10, half_deg=0.02)
    levels = contours(grid, 50)
    assert 0.0 in levels
    assert all(level % 50 == 0 for level in levels)
    assert min(levels) >= -223
