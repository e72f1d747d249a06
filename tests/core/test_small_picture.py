"""The small picture that the counts are made from: no holes, the nearer before the farther, as large as the projection
says.
"""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy import ndimage

from lucid_ridge.core.framing.fine_mesh import fewer_triangles, sheet, step_for, thinned
from lucid_ridge.core.framing.fine_meshes import fine_meshes_of
from lucid_ridge.core.framing.footing import LEVEL_GROUND, Ground
from lucid_ridge.core.framing.projection import Camera
from lucid_ridge.core.framing.solids import Shape, Solid
from lucid_ridge.core.planning.tones.scene_layers import _ground_mesh, _place_of, ground_seen
from lucid_ridge.core.tones.picture import SKY, Layer, enough_triangles, rays, seen_of
from lucid_ridge.core.tones.quantiles import quantiles

# 36 mm on a sensor of 36 × 24: one metre of a wall one metre away is the frame's width.
CAMERA = Camera(0.0, 36.0, 36.0, 24.0)
WIDE, HIGH = 96, 64


def _set_into(camera, layers):
    """An empty picture with layers set into it, the first farthest."""
    seen, top = seen_of(camera, layers, WIDE, HIGH), np.full(HIGH * WIDE, SKY)
    for at in range(len(layers)):
        seen.lay(top, at)
    picture, marks, here = np.zeros((HIGH * WIDE, 1)), np.full(HIGH * WIDE, SKY), np.flatnonzero(top >= 0)
    picture[here] = seen.shown(top[here], np.concatenate([layer.values for layer in layers]))
    marks[here] = np.array([layer.mark for layer in layers])[seen.layer_of(top[here])]
    return picture.reshape(HIGH, WIDE, 1), marks.reshape(HIGH, WIDE)


def _wall(squares: int, size_m: float, away_m: float, tone: float = 1.0) -> Layer:
    across, up = np.meshgrid(
        np.linspace(-size_m / 2, size_m / 2, squares + 1), np.linspace(-size_m / 2, size_m / 2, squares + 1)
    )
    mesh = sheet(np.stack((across, np.full_like(across, away_m), up), axis=-1))
    return Layer(mesh.points, mesh.triangles, np.full((len(mesh.points), 1), tone), 0)


def _set(*layers: Layer) -> tuple[np.ndarray, np.ndarray]:
    return _set_into(CAMERA, layers)


@given(st.integers(1, 60), st.floats(0.05, 500.0), st.floats(0.1, 1000.0))
def test_a_wall_that_fills_the_frame_has_no_holes(squares, times, away):
    # However large its triangles are in the picture: from a dot to far beyond the frame.
    pictures, marks = _set(_wall(squares, max(1.05, times) * away, away, 3.0))
    assert (marks == 0).all()
    assert np.allclose(pictures, 3.0)


@settings(max_examples=80)
@given(st.floats(1.0, 40.0), st.floats(1.0, 40.0), st.floats(0.0, 90.0), st.floats(0.0, 1.0))
def test_through_oblong_triangles_turned_any_way_the_back_of_a_thing_is_not_seen(broad, tall, turned, off):
    """A wall of oblong faces, so many points of the picture broad and tall, larger than the frame, and another behind
    it.
    """
    columns, rows = 2 + int(130 / broad), 2 + int(130 / tall)
    across, up = np.meshgrid(
        (np.arange(columns + 1) - columns / 2 + off) * broad, (np.arange(rows + 1) - rows / 2 + off) * tall
    )
    angle = np.radians(turned)
    x, z = across * np.cos(angle) - up * np.sin(angle), across * np.sin(angle) + up * np.cos(angle)
    mesh = sheet(np.stack((x / WIDE, np.full_like(x, 1.0), z / WIDE), axis=-1))
    count = len(mesh.points)
    both = Layer(
        np.concatenate((mesh.points, mesh.points * np.array([1.83, 1.5, 1.71]))),
        np.concatenate((mesh.triangles, mesh.triangles + count)).astype(np.int32),
        np.repeat([[5.0], [1.0]], count, axis=0),
        0,
    )
    picture, _ = _set(both)
    # So far as it surely reaches, whichever way it is turned.
    middle_x, middle_z = rays(CAMERA, WIDE, HIGH)[..., 0], rays(CAMERA, WIDE, HIGH)[..., 2]
    inside = np.hypot(middle_x, middle_z) / rays(CAMERA, WIDE, HIGH)[..., 1] * WIDE < 60 - max(broad, tall)
    # Between two skew lattices a point may be left, but not one in five hundred.
    assert (np.abs(picture[inside] - 5.0) > 1e-6).mean() < 0.002


@pytest.mark.parametrize(("squares", "share"), [(1, 0.5), (4, 0.5), (40, 0.5), (1, 0.25), (24, 0.1)])
def test_a_wall_is_as_large_as_the_projection_says(squares, share):
    _, marks = _set(_wall(squares, share, 1.0))
    # A square of share × the frame's width: 96 points wide, 64 high over two thirds of it.
    assert (marks == 0).sum() == pytest.approx((share * WIDE) ** 2, rel=0.12)


@given(st.floats(1, 60), st.floats(1, 60), st.floats(0, 360), st.floats(0.02, 1.0))
def test_slim_triangles_leave_no_holes(long, rows, turned, slim):
    """A sheet of triangles many times as long as broad, turned any way, covers what it covers (by its area, within its
    rim).
    """
    across, up = np.meshgrid(np.linspace(-0.5, 0.5, 2 + int(rows)), np.linspace(-0.5, 0.5, 3))
    angle = np.radians(turned)
    x, z = across * long / WIDE, up * long * slim / WIDE
    mesh = sheet(
        np.stack(
            (x * np.cos(angle) - z * np.sin(angle), np.full_like(x, 1.0), x * np.sin(angle) + z * np.cos(angle)),
            axis=-1,
        )
    )
    _, marks = _set(Layer(mesh.points, mesh.triangles, np.ones((len(mesh.points), 1)), 0))
    place_x, place_z = rays(CAMERA, WIDE, HIGH)[..., 0], rays(CAMERA, WIDE, HIGH)[..., 2]
    along = np.abs(place_x * np.cos(angle) + place_z * np.sin(angle)) / rays(CAMERA, WIDE, HIGH)[..., 1] * WIDE
    beside = np.abs(-place_x * np.sin(angle) + place_z * np.cos(angle)) / rays(CAMERA, WIDE, HIGH)[..., 1] * WIDE
    # Well inside everything is covered, and a point and a half outside nothing.
    assert (marks[(along < long / 2 - 1) & (beside < long * slim / 2 - 1)] == 0).all()
    assert (marks[(along > long / 2 + 1.5) | (beside > long * slim / 2 + 1.5)] == SKY).all()


@given(st.integers(8, 60), st.integers(8, 60), st.booleans(), st.integers(1, 9), st.integers(1, 9))
def test_fewer_triangles_reach_as_far_as_all(rows, columns, around, down, over):
    every, few = fewer_triangles((rows, columns, around), 1, 1), fewer_triangles((rows, columns, around), down, over)
    assert len(few) <= len(every) == 2 * (rows - 1) * (columns - (0 if around else 1))
    corners = [0, rows * columns - 1] if around else [0, columns - 1, (rows - 1) * columns, rows * columns - 1]
    assert set(corners[:1] if around else corners) <= set(few.ravel().tolist()) <= set(range(rows * columns))


@given(st.floats(0.05, 2.0))
def test_a_mesh_finer_than_the_picture_shows_the_same_with_fewer_triangles(size):
    wall = _wall(70, size, 1.0)
    few = enough_triangles(CAMERA, wall.points, wall.triangles, (71, 71, False), WIDE, HIGH)
    # 70 squares over size × 96 points: some are left out where they are less than half a point wide.
    assert (len(few) < len(wall.triangles)) == (size * WIDE / 70 <= 0.5)
    _, all_marks = _set(wall)
    _, few_marks = _set(Layer(wall.points, few, wall.values, wall.mark))
    rim = 2 * (2 * (size * WIDE + 2))
    assert (all_marks != few_marks).sum() <= rim
    assert enough_triangles(CAMERA, wall.points, wall.triangles, None, WIDE, HIGH) is wall.triangles


@given(st.lists(st.floats(-1e3, 1e3), min_size=1, max_size=60), st.lists(st.floats(0, 1), min_size=1, max_size=4))
def test_quantiles_are_numpys(values, shares):
    assert quantiles(np.array(values), tuple(shares)) == pytest.approx(np.quantile(values, shares), rel=1e-9, abs=1e-9)


def test_the_nearer_stands_before_the_farther_and_what_lies_between_corners_lies_between_tones():
    near, far = _wall(3, 0.3, 1.0, 5.0), _wall(3, 4.0, 2.0, 1.0)
    pictures, _ = _set(far, near)
    assert pictures[32, 48, 0] == pytest.approx(5.0)
    assert pictures[5, 5, 0] == pytest.approx(1.0)
    slope = _wall(1, 1.1, 1.0)
    slope = Layer(slope.points, slope.triangles, slope.points[:, :1] * 10, 0)
    made = _set(slope)[0][32, :, 0]
    # Ten times the metres to the right of the middle.
    assert np.allclose(made, 10 * ((np.arange(WIDE) + 0.5) / WIDE - 0.5), atol=0.12)


@settings(max_examples=60)
@given(
    st.sampled_from([Shape.BLOCK, Shape.BOULDER, Shape.POST, Shape.TOWER, Shape.WALL, Shape.MUSHROOM, Shape.INSECT]),
    st.floats(0.0, 359.0), st.floats(2.0, 30.0), st.floats(-30.0, 10.0), st.booleans(),
)  # fmt: skip
def test_a_closed_thing_is_as_it_was_without_its_far_side(shape, bearing, away, pitch, in_water):
    """Only the side that faces the eye is set into the picture: what one sees is the same as if all of it were."""
    camera = Camera(bearing, 36.0, 36.0, 24.0, height_m=1.5, pitch_deg=pitch)
    for mesh in (item for item in fine_meshes_of(Solid(shape, bearing, away, 1.6, 1.2)) if item.closed):
        depths = np.linalg.norm(mesh.points - np.array([0.0, 0.0, 1.5]), axis=1)[:, None]
        mirrored, triangles = (
            0.0 if in_water else None,
            enough_triangles(camera, mesh.points, mesh.triangles, mesh.grid, WIDE, HIGH),
        )
        (front, marks), (all_of_it, all_marks) = (
            _set_into(camera, [Layer(mesh.points, triangles, depths, 0, mirrored, closed)]) for closed in (True, False)
        )
        if in_water:
            # Where the thing stands one sees itself, and no water.
            _, upright = _set_into(camera, [Layer(mesh.points, triangles, depths, 0, None, False)])
            marks, all_marks = (np.where(upright == 0, SKY, item) for item in (marks, all_marks))
        # At its rim points come and go; where it is whole hardly one is missing or lies farther away than before.
        few, around = 0.02 * (all_marks == 0).sum() + 4, np.ones((3, 3))
        assert ((marks != 0) & ndimage.binary_erosion(all_marks == 0, around)).sum() <= few
        assert ((marks == 0) & ~ndimage.binary_dilation(all_marks == 0, around)).sum() <= few
        inner = ndimage.binary_erosion(marks == 0, around)
        assert in_water or (front[inner] > all_of_it[inner] + 0.25).sum() <= few


@pytest.mark.parametrize("mirrored", [None, 0.0])
def test_what_hangs_over_the_eye_or_the_water_shows_its_inner_side(mirrored):
    # Things have no floor: from below one looks into them.
    camera = Camera(0.0, 36.0, 36.0, 24.0, height_m=0.5, pitch_deg=20.0 if mirrored is None else -20.0)
    for mesh in fine_meshes_of(Solid(Shape.BLOCK, 0.0, 3.0, 1.6, 1.2, base_m=1.5)):
        shown, marks = _set_into(
            camera, [Layer(mesh.points, mesh.triangles, np.ones((len(mesh.points), 1)), 0, mirrored, True)]
        )
        _, all_marks = _set_into(
            camera, [Layer(mesh.points, mesh.triangles, np.ones((len(mesh.points), 1)), 0, mirrored, False)]
        )
        assert (marks == all_marks).all()
        assert (marks == 0).sum() > 100
        assert shown.max() == pytest.approx(1.0)


def test_a_wall_that_one_stands_in_is_seen_from_within():
    camera = Camera(0.0, 36.0, 36.0, 24.0, height_m=0.5)
    for mesh in fine_meshes_of(Solid(Shape.BLOCK, 0.0, -1.0, 4.0, 3.0)):
        assert mesh.closed
        _, marks = _set_into(
            camera, [Layer(mesh.points, mesh.triangles, np.ones((len(mesh.points), 1)), 0, None, mesh.closed)]
        )
        # It has no floor.
        assert (marks[: HIGH // 2] == 0).all()


def test_what_lies_behind_the_camera_is_not_in_the_picture():
    _, marks = _set(_wall(4, 1.0, -1.0))
    assert (marks == SKY).all()


@pytest.mark.parametrize(
    "shape", [Shape.BOULDER, Shape.TREE, Shape.POST, Shape.FLOWER, Shape.RIDGE, Shape.MUSHROOM, Shape.INSECT]
)
def test_few_rows_reach_as_far_as_all(shape):
    solid = Solid(shape, 0, 5, 2, 1.5)
    every = np.concatenate([mesh.points for mesh in fine_meshes_of(solid)])
    for step in (2, 3, 4):
        meshes = fine_meshes_of(solid, step=step)
        few = np.concatenate([mesh.points for mesh in meshes])
        assert len(few) < len(every) / (1.2 * step)
        assert np.abs(few.min(axis=0) - every.min(axis=0)).max() < 1e-6
        assert np.abs(few.max(axis=0) - every.max(axis=0)).max() < 1e-6
        for mesh in meshes:
            assert (
                mesh.triangles.max() < len(mesh.points) == len(mesh.normals) == len(mesh.albedo) == len(mesh.open_sky)
            )
            assert np.allclose(np.linalg.norm(mesh.normals, axis=1), 1, atol=1e-6)


def test_what_is_large_in_the_frame_is_drawn_finely():
    assert [step_for(share) for share in (2.0, 0.5, 0.3, 0.1, 0.01, 0.0)] == [1, 1, 2, 3, 4, 4]
    plain = sheet(np.zeros((7, 5, 3)))
    assert thinned(plain, 1) is plain
    # Rows 0, 3, 6 and columns 0, 3, 4: the outermost are kept.
    assert thinned(plain, 3).grid == (3, 3, False)


def test_another_light_falls_on_the_same_form_and_another_camera_sees_it_elsewhere():
    wall = _wall(4, 0.3, 1.0, 2.0)
    first, marks = _set(wall)
    second, again = _set(Layer(wall.points, wall.triangles, wall.values + 3, wall.mark))
    assert (marks == again).all()
    assert np.allclose(second[marks == 0], first[marks == 0] + 3)
    turned = Camera(10.0, 36.0, 36.0, 24.0)
    _, other = _set_into(turned, [wall])
    # Turned to the right by 10°, the wall moves to the left by about tan 10° × 36 mm of 36 mm.
    middle = np.nonzero(marks == 0)[1].mean() - np.nonzero(other == 0)[1].mean()
    assert middle == pytest.approx(np.tan(np.radians(10)) * WIDE, rel=0.06)


def test_water_shows_what_stands_over_it_as_far_below_it():
    across, up = np.meshgrid(np.linspace(-0.1, 0.1, 3), np.linspace(0.1, 0.2, 3))
    mesh = sheet(np.stack((across, np.full_like(across, 1.0), up), axis=-1))
    values = np.ones((len(mesh.points), 1))
    _, upright = _set(Layer(mesh.points, mesh.triangles, values, 0))
    _, mirrored = _set(Layer(mesh.points, mesh.triangles, values, 0, mirrored_at_m=0.0))
    assert np.array_equal(upright[::-1], mirrored)


@pytest.mark.parametrize("focal_mm", [12.0, 24.0, 85.0, 400.0])
@pytest.mark.parametrize("roll_deg", [0.0, 7.0])
def test_however_far_one_turns_the_sheets_around_the_eye_reach_beyond_the_frame(focal_mm, roll_deg):
    for bearing_deg in np.linspace(0.0, 359.9, 211):
        camera = Camera(bearing_deg, focal_mm, 36.0, 24.0, height_m=1.4, pitch_deg=-4.0, roll_deg=roll_deg)
        *_, middle_deg, around_deg, seen_deg = _place_of(camera, LEVEL_GROUND)
        towards = rays(camera, 24, 16)
        turned = (np.degrees(np.arctan2(towards[..., 0], towards[..., 1])) - middle_deg + 180) % 360 - 180
        assert np.abs(turned).max() <= min(seen_deg, around_deg) + 1e-9
        # A point below the horizon shows the ground, wherever the sheet's own middle lies.
        assert (ground_seen(camera, LEVEL_GROUND, 24, 16).here == (towards[..., 2] < -1e-5)).all()


def test_a_small_turn_leaves_the_sheets_as_they_are():
    places = {
        _place_of(Camera(bearing, 24.0, 36.0, 24.0, height_m=1.4), LEVEL_GROUND)[3]
        for bearing in np.arange(100.0, 110.0, 0.1)
    }
    assert 1 < len(places) <= 4


@pytest.mark.parametrize("ground", [LEVEL_GROUND, Ground(12.0, 70.0)])
def test_a_small_step_leaves_the_sheets_as_they_are(ground):
    def at(east_m: float, north_m: float, height_m: float) -> tuple[float, ...]:
        return _place_of(
            Camera(
                bearing_deg=100.0,
                focal_mm=24.0,
                sensor_width_mm=36.0,
                sensor_height_mm=24.0,
                pitch_deg=-8.0,
                orientation="landscape",
                east_m=east_m,
                north_m=north_m,
                height_m=float(ground.height_m(east_m, north_m)) + height_m,
            ),
            ground,
        )

    # An eye 1.4 m over the ground walks 30 cm: a sixteenth of its height is 9 cm.
    places = {at(east, 0.0, 1.4) for east in np.arange(0.0, 0.3, 0.01)}
    assert 3 <= len(places) <= 5
    for east, north, height in ((0.31, -2.2, 1.4), (5.0, 5.0, 0.03), (-40.0, 12.0, 9.0)):
        found = at(east, north, height)
        over = found[2] - float(ground.height_m(*found[:2]))
        # Within half a step: 2^(1/16) of the height, a thirty-second of it to either side.
        assert abs(np.log2(over / height)) <= 1 / 16 + 1e-9
        assert np.abs(np.subtract(found[:2], (east, north))).max() <= over / 32 + 1e-9


def test_the_ground_is_met_where_the_ray_comes_down_however_the_sheet_lies():
    camera = Camera(
        bearing_deg=100.0,
        focal_mm=24.0,
        sensor_width_mm=36.0,
        sensor_height_mm=24.0,
        pitch_deg=-20.0,
        orientation="landscape",
        east_m=0.037,
        north_m=-0.021,
        height_m=1.37,
    )
    seen = ground_seen(camera, LEVEL_GROUND, 24, 16)
    mesh = _ground_mesh(LEVEL_GROUND, _place_of(camera, LEVEL_GROUND))
    towards = rays(camera, 24, 16)[seen.here]
    run = 1.37 / -towards[:, 2]
    near = run < 15
    shown = np.einsum("nc,nck->nk", seen.shares, mesh.points[seen.corners])[near, :2]
    wanted = (np.array([0.037, -0.021]) + run[:, None] * towards[:, :2])[near]
    # Rows lie within 12 % of each other's distance, columns within a few degrees: chords are a little shorter
    # than arcs.
    assert np.linalg.norm(shown - wanted, axis=1) == pytest.approx(0.0, abs=0.12)
