"""Projection, fields of view and outlines."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.spatial.transform import Rotation

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.framing.outlines import outline
from lucid_ridge.core.framing.projection import Camera, field_of_view_deg, project
from lucid_ridge.core.framing.solids import SHAPES, Solid, curvature_drop_m


def _by_rotation(camera, points):
    """The same by scipy's rotations: turn the world so that the view runs along +y, then divide."""
    relative = np.asarray(points) - [camera.east_m, camera.north_m, camera.height_m]
    turned = Rotation.from_euler("z", camera.bearing_deg, degrees=True).apply(relative)
    right, forward, up = Rotation.from_euler("x", -camera.pitch_deg, degrees=True).apply(turned).T
    width, height = camera.frame_mm
    return 0.5 + camera.focal_mm * right / forward / width, 0.5 - camera.focal_mm * up / forward / height, forward > 0


@given(st.floats(-720, 720), st.floats(-89.9, 89.9), st.sampled_from(["lengthwise", "upright"]), st.floats(10, 400), st.integers(0, 10_000))
def test_projection_agrees_with_scipys_rotations(bearing, pitch, orientation, focal, seed):
    camera = Camera(bearing, focal, 36, 24, pitch, orientation, 3.0, -7.0, 1.6)
    points = np.random.default_rng(seed).normal(0, 100, (20, 3))
    ours = project(camera, points)
    x, y, in_front = _by_rotation(camera, points)
    assert (ours.in_front == in_front).all()
    near_plane = in_front & (np.abs(x) < 1e3) & (np.abs(y) < 1e3)
    assert ours.x[near_plane] == pytest.approx(x[near_plane], abs=1e-6)
    assert ours.y[near_plane] == pytest.approx(y[near_plane], abs=1e-6)
    assert np.isnan(ours.x[~ours.in_front]).all()


def test_straight_ahead_is_the_middle():
    for bearing, point in ((0, (0, 10, 0)), (90, (10, 0, 0)), (180, (0, -10, 0)), (270, (-10, 0, 0)), (450, (10, 0, 0))):
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
    upright = project(Camera(0, 24, 36, 24, orientation="upright"), (5.0, 10, 7.5))
    assert (upright.x, upright.y) == (pytest.approx(1.0), pytest.approx(0.0))


@pytest.mark.parametrize(
    ("focal", "across"), [(14, 104.3), (20, 84.0), (24, 73.7), (35, 54.4), (50, 39.6), (85, 23.9), (135, 15.2), (200, 10.3)]
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


@pytest.mark.parametrize("shape", SHAPES)
def test_outlines_have_the_size_of_their_solid(shape):
    camera = Camera(0, 50, 36, 24, height_m=1.0)
    seen = outline(camera, Solid(shape, 0, 100, 10, 4))
    assert seen.in_view
    # 10 m wide at 100 m through 50 mm: 5 mm of 36.
    assert seen.right - seen.left == pytest.approx(5 / 36, rel=0.01)
    if shape != "water":
        assert seen.bottom - seen.top == pytest.approx(4 * 0.5 / 24, rel=0.02)


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
        tops.append((outline(camera, Solid("boulder", 0, 2, 1, 0.6)).top, outline(camera, Solid("ridge", 0, 5000, 3000, 400)).top))
    assert tops[1][0] < tops[0][0] - 0.2
    assert tops[1][1] == pytest.approx(tops[0][1], abs=0.002)
