"""Distances along the optical axis: of points, of what shows of a solid, of the ground at the frame's edge."""

import math

import numpy as np
import pytest

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.framing.along_axis import axial_span, ground_at_the_edge_m, nearest_along_axis_m
from lucid_ridge.core.framing.footing import Ground
from lucid_ridge.core.framing.projection import Camera, axial_depth_m
from lucid_ridge.core.framing.solids import Solid, meshes_of


def _camera(height_m, pitch_deg, focal_mm=24.0, bearing_deg=0.0, orientation="landscape", **more):
    return Camera(bearing_deg, focal_mm, 36, 24, pitch_deg, orientation, height_m=height_m, **more)


def test_depth_of_a_point_by_hand():
    # Horizontal distance · cos(turn) · cos(pitch) + height difference · sin(pitch): flower top 8 cm high at 0.2 m under
    # 1.5 m and 75° down, slab 10 cm high at 0.7 m and 20° down (hand-worked).
    assert axial_depth_m(_camera(1.5, -75), [0, 0.2, 0.08]) == pytest.approx(1.423, abs=5e-4)
    assert axial_depth_m(_camera(1.5, -20), [0, 0.7, 0.10]) == pytest.approx(1.137, abs=5e-4)
    assert axial_depth_m(_camera(1.5, -20), [0, 0.7, 0.0]) == pytest.approx(1.171, abs=5e-4)
    assert axial_depth_m(_camera(1.5, 0), [0, -2, 1.5]) == -2
    with pytest.raises(InputError):
        axial_depth_m(_camera(1.5, 0), [0.0, 1.0])


POSES = [
    (0, 0, 0, 0, 0, 1.5),
    (30, -20, 0, 0.4, -0.2, 1.5),
    (210, -75, 0, 0, 0, 0.4),
    (359, 12, 5, -3, 2, 1.2),
    (90, -90, 0, 0, 0, 1.0),
    (123, -45, -30, 1, 1, 0.2),
    (270, 45, 0, 0, 5, 2.0),
    (181, -3, 1, 0, 0, 12),
    (15, -60, 45, -0.1, 0.05, 0.3),
    (300, 60, 0, 2, 2, 1.6),
]


@pytest.mark.parametrize("pose", POSES)
def test_depth_by_turning_the_world_step_by_step(pose):
    # A second way: turn the points about the vertical and then about the level axis, one rotation matrix each
    # (any mechanics text).
    bearing, pitch, roll, east, north, height = pose
    camera = Camera(
        bearing_deg=bearing,
        focal_mm=35,
        sensor_width_mm=36,
        sensor_height_mm=24,
        pitch_deg=pitch,
        orientation="landscape",
        east_m=east,
        north_m=north,
        height_m=height,
        roll_deg=roll,
    )
    points = np.array([[3.0, 4.0, 0.5], [-2.0, 0.1, 2.0], [0.0, 12.0, -1.0]])
    about_up = math.radians(bearing)
    level = np.array(
        [[math.cos(about_up), -math.sin(about_up), 0], [math.sin(about_up), math.cos(about_up), 0], [0, 0, 1]]
    )
    tilt = math.radians(-pitch)
    tipped = np.array([[1, 0, 0], [0, math.cos(tilt), -math.sin(tilt)], [0, math.sin(tilt), math.cos(tilt)]])
    turned = (points - [east, north, height]) @ level.T @ tipped.T
    assert axial_depth_m(camera, points) == pytest.approx(turned[:, 1], abs=1e-12)


@pytest.mark.parametrize("pose", POSES)
def test_a_solid_lies_where_rays_through_the_frame_meet_it(pose):
    # Ray-traced: a block's nearest and farthest visible depth by rays through a grid of points of the frame (slab
    # method, any graphics text).
    bearing, pitch, roll, east, north, height = pose
    camera = Camera(
        bearing_deg=bearing,
        focal_mm=18,
        sensor_width_mm=36,
        sensor_height_mm=24,
        pitch_deg=pitch,
        orientation="landscape",
        east_m=east,
        north_m=north,
        height_m=height,
        roll_deg=roll,
    )
    ahead = np.radians(bearing)
    foot = np.array([east, north]) + 3.0 * np.array([np.sin(ahead), np.cos(ahead)]) * max(
        0.15, math.cos(math.radians(pitch))
    )
    solid = Solid(
        "block",
        math.degrees(math.atan2(*foot)) % 360,
        float(np.hypot(*foot)),
        1.4,
        0.8,
        height - 0.95 + 2.4 * math.sin(math.radians(pitch)),
    )
    (mesh,) = meshes_of(solid)
    depths = _ray_traced(camera, mesh)
    span = axial_span(camera, solid)
    if not depths.size:
        assert span is None or not span.in_frame
        return
    # Every corner of the block is a corner of its box in its own axes; the grid is fine to a hundredth of the frame.
    assert span.in_frame
    assert span.near_m == pytest.approx(depths.min(), rel=0.02)
    assert span.far_m == pytest.approx(depths.max(), rel=0.03)
    assert span.near_m <= depths.min() + 1e-9 and span.far_m >= depths.max() - 1e-9


def _ray_traced(camera, mesh):
    """Return the depth where each ray of a grid first meets a face: plane by plane, inside tested by the signs of the
    edges.
    """
    from lucid_ridge.core.framing.projection import camera_axes

    right, up, forward = camera_axes(camera.bearing_deg, camera.pitch_deg, camera.roll_deg)
    xs, ys = np.meshgrid(np.linspace(0.001, 0.999, 101), np.linspace(0.001, 0.999, 901))
    width, height = camera.frame_mm
    rays = (
        forward
        + ((xs.ravel() - 0.5) * width / camera.focal_mm)[:, None] * right
        - ((ys.ravel() - 0.5) * height / camera.focal_mm)[:, None] * up
    )
    eye = np.array([camera.east_m, camera.north_m, camera.height_m])
    nearest = np.full(len(rays), np.inf)
    for face in mesh.faces:
        corners = mesh.points[list(face)]
        normal = np.cross(corners[1] - corners[0], corners[2] - corners[0])
        facing = np.where(rays @ normal < 0, rays @ normal, -1.0)
        along = ((corners[0] - eye) @ normal) / facing
        hit = eye + along[:, None] * rays
        # A body stands on the ground and has no face below; what it shows is turned to the eye.
        inside = rays @ normal < 0
        for one, other in zip(corners, np.roll(corners, -1, axis=0), strict=True):
            inside &= np.cross(other - one, hit - one) @ normal >= 0
        nearest = np.where(inside & (along > 0), np.minimum(nearest, along), nearest)
    return nearest[np.isfinite(nearest)]


def test_ground_at_the_lower_edge_by_hand():
    # h / tan(-pitch + field / 2), then along the axis (hand-worked): 0.34 m high, 14° down, 24 mm upright 0.351
    # m; 0.5 m, 20° down, lengthwise 0.616 m.
    assert ground_at_the_edge_m(_camera(0.34, -14, orientation="portrait")) == pytest.approx(0.351, abs=5e-4)
    assert ground_at_the_edge_m(_camera(0.5, -20)) == pytest.approx(0.616, abs=5e-4)
    # Straight down all ground lies as far as the camera is high; looking up there is none.
    assert ground_at_the_edge_m(_camera(1.2, -90)) == pytest.approx(1.2)
    assert ground_at_the_edge_m(_camera(1.2, 60)) is None
    # Leaning, the lower corner sees the nearest ground.
    assert ground_at_the_edge_m(_camera(0.5, -20, roll_deg=10)) < 0.616


def test_ground_that_rises_ahead_is_nearer():
    uphill = Ground(20, 180)
    # Along the middle: 0.5 m over ground that rises by 20° before a level camera: the lower edge looks 26.57° down.
    down = math.tan(math.radians(26.565))
    away = 0.5 / (down + math.tan(math.radians(20)))
    assert ground_at_the_edge_m(_camera(0.5, 0), uphill) == pytest.approx(away, rel=1e-3)
    # Beyond the reach of a slope that falls away faster than one looks, the ground is level again.
    assert ground_at_the_edge_m(_camera(0.5, 0), Ground(40, 0, 5)) == pytest.approx(
        (0.5 + 5 * math.tan(math.radians(40))) / down, rel=1e-3
    )


def test_what_shows_of_a_boulder_ends_at_its_outline():
    boulder = Solid("boulder", 0, 2.0, 1.0, 0.6)
    span = axial_span(_camera(0.3, 0), boulder)
    assert span.near_m == pytest.approx(2.0, abs=0.02)
    # Its far side, at 2.8 m, is hidden by itself; its widest part stands at 2.4 m.
    assert 2.3 < span.far_m < 2.62


def test_out_of_the_frame_and_behind():
    post = Solid("post", 90, 5.0, 0.1, 2.0)
    aside = axial_span(_camera(1.5, 0, bearing_deg=10), post)
    assert not aside.in_frame and aside.near_m == pytest.approx(5 * math.cos(math.radians(80)), abs=0.06)
    assert axial_span(_camera(1.5, 0, bearing_deg=270), post) is None
    assert nearest_along_axis_m(_camera(1.5, 0, bearing_deg=270), post) == pytest.approx(-5, abs=0.06)


def test_water_counts_from_the_frame_s_edge():
    pool = Solid("water", 0, 0.1, 30.0, 40.0)
    span = axial_span(_camera(0.5, -20), pool)
    assert span.near_m == pytest.approx(0.616, abs=5e-3)
    assert span.far_m == pytest.approx(40.1 * math.cos(math.radians(20)) + 0.5 * math.sin(math.radians(20)), rel=0.01)


def test_level_ground_begins_where_the_lower_edge_meets_it():
    # By hand: 1 m over level ground, 24 mm on 36 × 24 mm, level: the edge looks down by 12/24, so 2 m away along the axis.
    assert ground_at_the_edge_m(Camera(0, 24, 36, 24, height_m=1.0)) == pytest.approx(2.0)
    # Rolled by 90° the long side stands upright: 18/24 down, 1.333 m.
    assert ground_at_the_edge_m(Camera(0, 24, 36, 24, height_m=1.0, roll_deg=90)) == pytest.approx(4 / 3)
