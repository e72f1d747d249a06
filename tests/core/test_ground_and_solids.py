"""Ground, standing areas, solids, shading, mirrors, filter vignetting, measuring."""

import math

import numpy as np
import pytest
from scipy.spatial import ConvexHull

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.framing.footing import Ground, standing_area
from lucid_ridge.core.framing.measuring import angle_in_frame_deg, distance_m, size_m, thumb_angle_deg
from lucid_ridge.core.framing.meshes import hull_2d
from lucid_ridge.core.framing.outlines import outline
from lucid_ridge.core.framing.projection import Camera
from lucid_ridge.core.framing.shading import mirror_matrix, shadow_of, tones_of
from lucid_ridge.core.framing.solids import Shape, Solid, meshes_of
from lucid_ridge.core.framing.vignetting import Ring, deepest_pupil_mm, rings_of, vignetting
from lucid_ridge.core.light.direction import direction

L_SHAPE = [(0, 0), (4, 0), (4, 1), (1, 1), (1, 3), (0, 3)]


def test_ground_falls_and_levels_out():
    ground = Ground(10, 90, 20)
    # tan 10° = 0.1763: 1.763 m down 10 m to the east, as much up to the west, none to the north.
    assert ground.height_m(10, 0) == pytest.approx(-1.763, abs=0.001)
    assert ground.height_m(-10, 5) == pytest.approx(1.763, abs=0.001)
    assert ground.height_m(0, 100) == pytest.approx(0, abs=1e-9)
    assert ground.height_m(500, 0) == ground.height_m(20, 0)
    assert ground.height_m(np.zeros((2, 3)), 0).shape == (2, 3)
    for slope in (-1, 46, math.nan):
        with pytest.raises(InputError):
            Ground(slope)


def test_inside_outside_and_the_edge():
    area = standing_area(L_SHAPE, [3])
    inside = area.outside_m([0.5, 3.5, 0.5], [0.5, 0.5, 2.5])
    assert inside.tolist() == [0, 0, 0]
    # In the notch of the L: 1 m right of its upright, 1 m above its foot.
    assert area.outside_m(2, 2) == pytest.approx(1.0)
    assert area.outside_m(-3, -4) == pytest.approx(5.0)
    # The drop is the side from (1, 1) to (1, 3).
    assert area.to_drop_m(0.4, 2) == pytest.approx(0.6)
    assert standing_area(L_SHAPE).to_drop_m(0, 0) is None


@pytest.mark.parametrize(
    ("corners", "drops"),
    [
        ([(0, 0), (1, 0)], []),
        ([(0, 0), (2, 2), (2, 0), (0, 2)], []),
        ([(0, 0), (1, 0), (math.nan, 1)], []),
        ([(0, 0), (1, 0), (0, 1)], [3]),
        ([(0, 0), (5000, 0), (0, 1)], []),
        ([(index, index % 2) for index in range(30)], []),
    ],
)
def test_areas_that_are_none_are_refused(corners, drops):
    with pytest.raises(InputError):
        standing_area(corners, drops)


@pytest.mark.parametrize("shape", [shape for shape in Shape if shape not in ("ridge", "skyline")])
def test_closed_bodies_are_convex_and_face_outwards(shape):
    for mesh in meshes_of(Solid(shape, 30, 20, 3, 2)):
        if not mesh.closed:
            continue
        middle = mesh.points.mean(axis=0)
        for face, normal in zip(mesh.faces, mesh.normals, strict=True):
            corner = mesh.points[list(face)].mean(axis=0)
            assert float(normal @ (corner - middle)) > 0
            # No corner of the body lies outside the plane of a face: it is convex (a bent quad by a hair).
            assert float(((mesh.points - corner) @ normal).max()) < 0.05


def test_a_wall_bends_with_its_course():
    wall = meshes_of(Solid("wall", 0, 5, 0.6, 1.2, course=((45, 8), (90, 9))))
    assert len(wall) == 2
    assert max(point[2] for mesh in wall for point in mesh.points) == pytest.approx(1.2, abs=1e-3)


@pytest.mark.parametrize("seed", range(5))
def test_hulls_against_scipy(seed):
    points = np.random.default_rng(seed).normal(size=(60, 2))
    ours = hull_2d(points)
    theirs = points[ConvexHull(points).vertices]
    assert set(map(tuple, ours.tolist())) == set(map(tuple, theirs.tolist()))
    assert len(hull_2d(np.array([[0.0, 0.0], [0.0, 0.0]]))) == 1


def test_the_lit_side_is_the_side_of_the_sun():
    # A block seen from the south with the sun low in the east: its east face is brighter than its west face.
    (block,) = meshes_of(Solid("block", 0, 10, 2, 2))
    tones = tones_of(block, direction(15, 90))
    normals = block.normals
    east, west = (int(np.argmax(sign * normals[:, 0])) for sign in (1, -1))
    assert tones[east] > tones[west]
    # Under an overcast sky the top is the brightest.
    cloudy = tones_of(block, None)
    assert cloudy[int(np.argmax(normals[:, 2]))] == max(cloudy) > min(cloudy)


def test_shadows_are_as_long_as_the_sun_says():
    # A post 2 m high with the sun 30° up: 2/tan 30° = 3.464 m long, away from the sun.
    post = meshes_of(Solid("post", 0, 10, 0.1, 2))
    ring = shadow_of(post, direction(30, 270), 0.0)
    assert ring[:, 0].max() == pytest.approx(2 / math.tan(math.radians(30)), abs=0.06)
    assert (ring[:, 2] == 0).all()
    assert shadow_of(post, direction(0, 270), 0.0) is None


def test_still_water_mirrors():
    # The law of reflection: the mirror image of a post stands as far under the water as it stands above it. Seen from
    # 1.5 m over water at -0.5 m, a top 2 m above the mark at 10 m is mirrored at -3 m: 24 · 4.5/10 = 10.8 mm under the
    # middle.
    mirrored = mirror_matrix(-0.5) @ np.array([0, 10, 2, 1])
    assert mirrored.tolist() == [0, 10, -3, 1]
    foot = outline(Camera(0, 24, 36, 24, height_m=1.5), Solid("post", 0, 10, 0.001, 5, -3))
    assert foot.bottom == pytest.approx(0.5 + 10.8 / 24, abs=0.001)


def test_a_ring_before_the_lens_by_hand():
    # 24 mm, f/16: a pupil of 0.75 mm radius, 30 mm behind the rim; a ring 20 mm ahead, 80 mm wide: light begins to be
    # lost where 50 · tan θ = 40 - 0.75, at 24 · 39.25/50 = 18.84 mm, and all of it at 24 · 40.75/50 = 19.56 mm; the
    # corner lies at 21.63 mm.
    found = vignetting([Ring("hood", 20, 80)], 30, 24, 16, 21.63)
    assert (found.darkens_from_mm, found.dark_from_mm) == (pytest.approx(18.84), pytest.approx(19.56))
    assert not found.clear
    # At 35 mm it clears, and nothing stands in the way of nothing.
    assert vignetting([Ring("hood", 20, 80)], 30, 35, 16, 21.63).clear
    assert vignetting([], 30, 24, 16, 21.63) is None


def test_rings_stack_and_a_holder_takes_the_hoods_place():
    rings = rings_of(77, [("polariser", 6.0), ("grey", 4.0)], 2, 30, 100)
    assert [ring.ahead_mm for ring in rings] == [6, 10, 10 + 9 + 2 * 4.5]
    assert [ring.clear_mm for ring in rings] == [74, 74, 96]
    assert [ring.name for ring in rings_of(77, [], 0, 30, 100)] == ["The hood"]
    assert rings_of(77, [], 0, None, None) == ()
    # So deep that the bare rim half lights the widest corner: 38.5 mm at the slope 21.63/24.
    assert deepest_pupil_mm(77, 24, 21.63) == pytest.approx(42.7, abs=0.05)


def test_a_thumb_and_a_test_frame():
    # Common practice: a thumb at arm's length is about two degrees wide.
    assert thumb_angle_deg(22, 630) == pytest.approx(2.0, abs=0.01)
    # 2° at 100 m: 3.49 m; and back.
    assert size_m(2, 100) == pytest.approx(3.491, abs=0.001)
    assert distance_m(2, 3.491) == pytest.approx(100, abs=0.01)
    # Pixels: 8256 over 36 mm through 50 mm is the whole field, 39.6° (handbook tables).
    assert angle_in_frame_deg(8256, 36 / 8256, 50) == pytest.approx(39.6, abs=0.05)
    for wrong in (0, 180, -3):
        with pytest.raises(InputError):
            size_m(wrong, 10)
    with pytest.raises(InputError):
        thumb_angle_deg(0, 600)
