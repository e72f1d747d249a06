"""Projection, fields of view and outlines."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.spatial.transform import Rotation

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.framing.outlines import outline
from lucid_ridge.core.framing.projection import Camera, corner_points, field_of_view_deg, project, view_matrix
from lucid_ridge.core.framing.solids import Shape, Solid, course_points, meshes_of
from lucid_ridge.core.ground.geodesy import curvature_drop_m
from lucid_ridge.core.light.skyline import skyline_of


def _by_rotation(camera, points):
    """The same by scipy's rotations: turn the world so that the view runs along +y, then divide."""
    relative = np.asarray(points) - [camera.east_m, camera.north_m, camera.height_m]
    turned = Rotation.from_euler("z", camera.bearing_deg, degrees=True).apply(relative)
    right, forward, up = Rotation.from_euler("x", -camera.pitch_deg, degrees=True).apply(turned).T
    width, height = camera.frame_mm
    return 0.5 + camera.focal_mm * right / forward / width, 0.5 - camera.focal_mm * up / forward / height, forward > 0


@given(
    st.floats(-720, 720),
    st.floats(-89.9, 89.9),
    st.sampled_from(["landscape", "portrait"]),
    st.floats(10, 400),
    st.integers(0, 10_000),
)
def test_projection_agrees_with_scipys_rotations(bearing, pitch, orientation, focal, seed):
    camera = Camera(
        bearing_deg=bearing,
        focal_mm=focal,
        sensor_width_mm=36,
        sensor_height_mm=24,
        pitch_deg=pitch,
        orientation=orientation,
        east_m=3.0,
        north_m=-7.0,
        height_m=1.6,
    )
    points = np.random.default_rng(seed).normal(0, 100, (20, 3))
    ours = project(camera, points)
    x, y, in_front = _by_rotation(camera, points)
    assert (ours.in_front == in_front).all()
    near_plane = in_front & (np.abs(x) < 1e3) & (np.abs(y) < 1e3)
    assert ours.x[near_plane] == pytest.approx(x[near_plane], abs=1e-6)
    assert ours.y[near_plane] == pytest.approx(y[near_plane], abs=1e-6)
    assert np.isnan(ours.x[~ours.in_front]).all()


def test_straight_ahead_is_the_middle():
    for bearing, point in (
        (0, (0, 10, 0)),
        (90, (10, 0, 0)),
        (180, (0, -10, 0)),
        (270, (-10, 0, 0)),
        (450, (10, 0, 0)),
    ):
        seen = project(Camera(bearing, 24, 36, 24), point)
        assert (seen.x, seen.y) == (pytest.approx(0.5), pytest.approx(0.5))


def test_straight_up_and_down():
    seen = project(Camera(0, 24, 36, 24, pitch_deg=90), [(0, 0, 5), (0, 0, -5)])
    assert seen.in_front.tolist() == [True, False]
    assert seen.x[0] == pytest.approx(0.5)


def test_by_hand():
    # 24 mm on 36 mm: a point 7.5 m right of one 10 m ahead lies at 24 · 0.75 = 18 mm, the frame's edge.
    seen = project(Camera(0, 24, 36, 24), (7.5, 10, 0))
    assert seen.x == pytest.approx(1.0)
    # Upright the frame is 24 mm wide: 5 m right is its edge, and 18 mm up its top.
    upright = project(Camera(0, 24, 36, 24, orientation="portrait"), (5.0, 10, 7.5))
    assert (upright.x, upright.y) == (pytest.approx(1.0), pytest.approx(0.0))


@pytest.mark.parametrize(
    ("focal", "across"),
    [(14, 104.3), (20, 84.0), (24, 73.7), (35, 54.4), (50, 39.6), (85, 23.9), (135, 15.2), (200, 10.3)],
)
def test_fields_of_view_of_36_by_24(focal, across):
    # Handbook tables of horizontal angles of view for 36 x 24 mm.
    assert field_of_view_deg(36, focal) == pytest.approx(across, abs=0.06)


def test_close_up_narrows_the_field():
    # At 1:1 the lens stands two focal lengths from the sensor: half the tangent.
    assert math.tan(math.radians(field_of_view_deg(36, 50, 1.0) / 2)) == pytest.approx(18 / 100)
    assert field_of_view_deg(np.array([36.0, 24.0]), 24).shape == (2,)


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({"pitch_deg": 91}, "pitch_deg"),
        ({"focal_mm": 0}, "focal_mm"),
        ({"orientation": "tilted"}, "orientation"),
        ({"bearing_deg": math.nan}, "bearing_deg"),
    ],
)
def test_impossible_cameras_are_refused(changes, field):
    with pytest.raises(InputError) as caught:
        Camera(**{"bearing_deg": 0, "focal_mm": 24, "sensor_width_mm": 36, "sensor_height_mm": 24} | changes)
    assert caught.value.field == field


def test_points_need_three_coordinates():
    with pytest.raises(InputError):
        project(Camera(0, 24, 36, 24), (1, 2))


def test_curvature():
    # Any surveying text: 0.0673 m per km² with k = 0.13, so 6.7 m at 10 km.
    assert curvature_drop_m(10_000) == pytest.approx(6.8, abs=0.1)
    assert curvature_drop_m(0) == 0


UPRIGHT_SHAPES = [shape for shape in Shape if shape not in ("water", "shoreline", "path", "stream")]


@pytest.mark.parametrize("shape", UPRIGHT_SHAPES)
def test_outlines_have_the_size_of_their_solid(shape):
    camera = Camera(0, 50, 36, 24, height_m=1.0)
    seen = outline(camera, Solid(shape, 0, 1000, 10, 4))
    assert seen.in_view
    # 10 m wide at 1000 m through 50 mm: 0.5 mm of 36; a body's depth of some metres is a hundredth of the distance.
    assert seen.right - seen.left == pytest.approx(0.5 / 36, rel=0.01)
    assert seen.bottom - seen.top == pytest.approx(4 * 0.05 / 24, rel=0.02)


def test_a_solid_stands_with_its_near_side_or_its_axis_at_its_distance():
    # A block begins at its distance: 2 m wide at 10 m, 24/10 · 2 = 4.8 mm. A post stands around it.
    camera = Camera(0, 24, 36, 24, height_m=0.5)
    block = outline(camera, Solid("block", 0, 10, 2, 1))
    assert block.right - block.left == pytest.approx(4.8 / 36)
    nearest = min(point[1] for mesh in meshes_of(Solid("post", 0, 10, 2, 1)) for point in mesh.points)
    assert nearest == pytest.approx(9, abs=0.15)


def test_a_path_runs_its_course_on_the_ground():
    # From 2 m ahead to 10 m ahead and 10 m to the right: seen from 1.5 m, 24 mm, level.
    path = Solid("path", 0, 2, 1, 0.1, course=((45, 14.142),))
    seen = outline(Camera(0, 24, 36, 24, height_m=1.5), path)
    # Its near end lies 24 · 1.5/2 = 18 mm under the middle, its far end 3.6 mm.
    assert seen.bottom == pytest.approx(0.5 + 18 / 24, abs=0.2)
    assert seen.top == pytest.approx(0.5 + 3.6 / 24, abs=0.02)
    ends = course_points(path)
    assert ends[0] == pytest.approx([0, 2, 0], abs=1e-6)
    assert ends[-1] == pytest.approx([10, 10, 0], abs=1e-3)


def test_what_runs_past_the_camera_is_cut_off_and_still_drawn():
    # A path from 3 m behind to 5 m ahead under the camera's feet.
    seen = outline(Camera(0, 24, 36, 24, -20, height_m=1.5), Solid("path", 180, 3, 0.6, 0.1, course=((0, 5),)))
    assert seen.in_view
    assert all(np.isfinite(polygon).all() for polygon in seen.polygons)


def test_land_from_the_skyline_stands_as_high_as_the_skyline():
    skyline = skyline_of([(0, 2.0), (90, 6.0), (180, 2.0), (270, 2.0)])
    solid = Solid("skyline", 90, 3000, 600, 100, profile=skyline)
    # 6° over the horizon: 50 · tan 6° = 5.255 mm of 24 above the middle, from the height the skyline was taken at.
    seen = outline(Camera(90, 50, 36, 24, height_m=1.6), solid)
    assert seen.top == pytest.approx(0.5 - 50 * math.tan(math.radians(6)) / 24, abs=0.002)


@given(st.floats(0, 360), st.floats(-80, 80), st.floats(-45, 45), st.integers(0, 1000))
def test_a_leaning_camera_agrees_with_scipys_rotations(bearing, pitch, roll, seed):
    camera = Camera(
        bearing_deg=bearing,
        focal_mm=35,
        sensor_width_mm=36,
        sensor_height_mm=24,
        pitch_deg=pitch,
        orientation="landscape",
        east_m=1.0,
        north_m=2.0,
        height_m=1.5,
        roll_deg=roll,
    )
    points = np.random.default_rng(seed).normal(0, 50, (20, 3))
    relative = points - [1.0, 2.0, 1.5]
    turned = Rotation.from_euler("z", bearing, degrees=True).apply(relative)
    level = Rotation.from_euler("x", -pitch, degrees=True).apply(turned)
    # Clockwise seen from behind is a turn about the view; the world then turns the other way.
    right, forward, up = Rotation.from_euler("y", -roll, degrees=True).apply(level).T
    ours = project(camera, points)
    keep = (forward > 0.5) & (np.abs(right / forward) < 50)
    assert ours.x[keep] == pytest.approx(0.5 + 35 * (right / forward / 36)[keep], abs=1e-6)
    assert ours.y[keep] == pytest.approx(0.5 - 35 * (up / forward / 24)[keep], abs=1e-6)


@given(
    st.floats(0, 360),
    st.floats(-90, 90),
    st.floats(-45, 45),
    st.sampled_from(["landscape", "portrait"]),
    st.integers(0, 1000),
)
def test_the_view_matrix_says_what_projection_says(bearing, pitch, roll, orientation, seed):
    camera = Camera(
        bearing_deg=bearing,
        focal_mm=50,
        sensor_width_mm=36,
        sensor_height_mm=24,
        pitch_deg=pitch,
        orientation=orientation,
        east_m=-4.0,
        north_m=9.0,
        height_m=2.0,
        roll_deg=roll,
    )
    points = np.random.default_rng(seed).normal(0, 100, (20, 3))
    placed = np.column_stack((points, np.ones(20))) @ view_matrix(camera).T
    ours = project(camera, points)
    assert ((placed[:, 2] > 1e-9) == ours.in_front).all()
    front = ours.in_front & (placed[:, 2] > 0.1)
    assert placed[front, 0] / placed[front, 2] == pytest.approx(ours.x[front], abs=1e-6)
    assert placed[front, 1] / placed[front, 2] == pytest.approx(ours.y[front], abs=1e-6)


def test_corners_of_the_frame_are_its_corners():
    camera = Camera(
        bearing_deg=123,
        focal_mm=28,
        sensor_width_mm=36,
        sensor_height_mm=24,
        pitch_deg=-12,
        orientation="portrait",
        east_m=1.0,
        north_m=2.0,
        height_m=1.5,
        roll_deg=7,
    )
    seen = project(camera, corner_points(camera))
    assert seen.x == pytest.approx([0, 1, 1, 0], abs=1e-9)
    assert seen.y == pytest.approx([0, 0, 1, 1], abs=1e-9)


def test_water_lies_flat_and_runs_away():
    camera = Camera(0, 24, 36, 24, height_m=1.5)
    seen = outline(camera, Solid("water", 0, 4, 6, 50))
    assert seen.bottom == pytest.approx(0.5 + 24 * 1.5 / 4 / 24)
    assert seen.top == pytest.approx(0.5 + 24 * 1.5 / 54 / 24, rel=0.001)


def test_out_of_the_frame_and_behind():
    camera = Camera(0, 24, 36, 24, height_m=1.0)
    assert outline(camera, Solid("post", 60, 10, 0.2, 1)).share == 0
    behind = outline(camera, Solid("post", 180, 10, 0.2, 1))
    assert behind.polygons == ()
    assert not behind.in_view
    half = outline(camera, Solid("block", math.degrees(math.atan(0.75)), 12.5, 2, 1))
    assert 0.3 < half.share < 0.7


def test_lowering_the_camera_raises_the_near_against_the_far():
    # Perspective: the top of a near boulder climbs in the frame as the camera sinks; the far ridge stays.
    tops = []
    for height in (1.5, 0.5):
        camera = Camera(0, 24, 36, 24, height_m=height)
        tops.append(
            (
                outline(camera, Solid("boulder", 0, 2, 1, 0.6)).top,
                outline(camera, Solid("ridge", 0, 5000, 3000, 400)).top,
            )
        )
    assert tops[1][0] < tops[0][0] - 0.2
    assert tops[1][1] == pytest.approx(tops[0][1], abs=0.002)
