"""Reading a frame: figures worked out by hand."""

import math

import pytest

from lucid_ridge.core.framing.composition import GUIDES, read_frame
from lucid_ridge.core.framing.footing import Ground
from lucid_ridge.core.framing.outlines import outline
from lucid_ridge.core.framing.projection import Camera
from lucid_ridge.core.framing.solids import Solid

CAMERA = Camera(0, 24, 36, 24, height_m=1.0)


def read(solids, camera, guide, **more):
    return read_frame(solids, camera, guide, **more)


def test_guides_are_where_the_trade_puts_them():
    assert GUIDES["thirds"] == pytest.approx((1 / 3, 2 / 3))
    # The golden section: the smaller part is 0.382 of the whole.
    assert GUIDES["golden"] == pytest.approx((0.382, 0.618), abs=0.0005)


def test_placement_against_the_guide():
    # 6 mm right of the middle on a 36 mm frame is the right third: a post 10 m ahead stands there 10 · 6/24 = 2.5
    # m to the right.
    bearing, distance = math.degrees(math.atan2(2.5, 10)), math.hypot(2.5, 10)
    (placement,) = read([Solid("post", bearing, distance, 0.1, 1)], CAMERA, "thirds").placements
    assert placement.line == pytest.approx(2 / 3)
    assert placement.off == pytest.approx(0, abs=0.001)
    (placement,) = read([Solid("post", bearing, distance, 0.1, 1)], CAMERA, "centre").placements
    assert placement.off == pytest.approx(1 / 6, abs=0.001)
    assert read([Solid("post", 0, 10, 0.1, 1)], CAMERA, "none").placements == ()


def test_air_between_two_posts():
    # Two posts 0.2 m wide, 1 m apart at 10 m: their near edges are 0.8 m apart, 0.8/10 · 24/36 of the width.
    half = math.degrees(math.atan2(0.5, 10))
    posts = [Solid("post", -half % 360, 10.0125, 0.2, 1.5), Solid("post", half, 10.0125, 0.2, 1.5)]
    (pair,) = read(posts, CAMERA, "thirds").pairs
    assert pair.clearance == pytest.approx(0.8 / 10 * 24 / 36, abs=0.001)


def test_an_overlap_names_the_move_that_opens_it():
    # A near post just left of a far one on the same line: to slide it further left one steps to the right.
    near, far = Solid("post", 359, 3, 0.15, 2.2), Solid("post", 0, 30, 1.2, 6)
    (pair,) = read([near, far], CAMERA, "thirds").pairs
    assert pair.clearance < 0
    assert pair.move == "30 cm to the right"
    # By hand: the near one slides by 0.3/3 · 24/36, the far one by a tenth of it.
    assert pair.opens == pytest.approx(0.3 * (1 / 3 - 1 / 30) * 24 / 36, abs=0.003)


def test_ridges_water_and_what_is_out_of_the_frame_are_no_pair():
    scene = [
        Solid("ridge", 0, 500, 900, 60),
        Solid("water", 0, 3, 20, 50),
        Solid("post", 0, 5, 0.2, 1),
        Solid("post", 180, 5, 0.2, 1),
    ]
    reading = read(scene, CAMERA, "thirds")
    assert reading.pairs == ()
    assert reading.coverage.shares[3] == 0
    assert len(reading.placements) == 2


def test_the_horizon_moves_with_the_pitch():
    # Level it lies in the middle; pitched 10° down it rises by 24 · tan 10° = 4.23 mm of 24.
    assert read([Solid("post", 0, 5, 0.2, 1)], CAMERA, "none").horizon_y == pytest.approx(0.5)
    down = Camera(0, 24, 36, 24, -10, height_m=1.0)
    assert read([Solid("post", 0, 5, 0.2, 1)], down, "none").horizon_y == pytest.approx(
        0.5 - math.tan(math.radians(10))
    )


def test_shares_of_the_frame():
    # A wall 15 m wide and 10 m high, seen level from half its height at 10 m: 36 x 24 mm, the whole frame.
    wall = Solid("block", 0, 10, 15, 10, -4.0)
    assert read([wall], CAMERA, "none").coverage.shares == (1.0,)
    # Half as wide and high it takes a quarter; what is bare lies around it.
    half = read([Solid("block", 0, 10, 7.5, 5, -1.5)], CAMERA, "none").coverage
    assert half.shares[0] == pytest.approx(0.25, abs=0.02)
    assert half.bare == pytest.approx(0.75, abs=0.02)


def test_what_is_near_hides_what_is_far_and_bare_room_has_a_side():
    near, far = Solid("block", 0, 10, 7.5, 10, -4.0), Solid("block", 0, 20, 15, 20, -9.0)
    # Both fill the middle half of the frame: the near one hides the far one.
    hidden = read([far, near], CAMERA, "none").coverage
    assert hidden.shares == pytest.approx((0.0, 0.5), abs=0.02)
    # A wall over the left half leaves the right side bare.
    left = read([Solid("block", -20.556, 10.68, 7.5, 10, -4.0)], CAMERA, "none").coverage
    assert left.emptiest.endswith("right")


def test_what_lies_flat_hides_nothing_that_stands_on_it():
    # A sheet of water from 3 m on fills the lower half from there to the horizon; a boulder at 10 m stands in it whole.
    water, boulder = Solid("water", 0, 3, 60, 200), Solid("boulder", 0, 10, 2, 1.2)
    alone = read([boulder], CAMERA, "none").coverage.shares[0]
    assert read([water, boulder], CAMERA, "none").coverage.shares[1] == pytest.approx(alone)


def test_a_row_of_posts_lets_one_see_through():
    # Six posts over 4 m at 10 m stand 0.76 m apart, each 0.2 m wide: a far thin mast in the middle of a gap has
    # air on both sides.
    row, mast = Solid("posts", 0, 10, 4, 2), Solid("post", 0, 200, 0.4, 30)
    (pair,) = read([row, mast], CAMERA, "none").pairs
    gap, thick, mast_wide = 0.76 / 10, 0.2 / 10, 0.4 / 200
    assert pair.clearance == pytest.approx((gap - thick - mast_wide) / 2 * 24 / 36, abs=0.002)
    # Turned onto a post they run into each other.
    (behind,) = read([row, Solid("post", math.degrees(math.atan2(0.38, 10)), 200, 0.4, 30)], CAMERA, "none").pairs
    assert behind.clearance < 0


def test_outlines_are_held_apart_along_the_slant():
    # Two squares corner to corner along a diagonal: boxes that overlap neither way, 3 m apart both ways at 30 m.
    low, high = Solid("block", 0, 30, 2, 2, 0.0), Solid("block", math.degrees(math.atan2(5, 30)), 30.41, 2, 2, 5.0)
    (pair,) = read([low, high], CAMERA, "none").pairs
    assert pair.clearance == pytest.approx(math.hypot(3, 3) / 30 * 24 / 36, rel=0.05)


def test_touching_an_edge_is_said():
    # The frame's left edge lies at 18/24 of the distance: 7.5 m left at 10 m. A post 0.2 m wide whose left side
    # stands 1 cm inside.
    left = -7.39
    bearing, distance = math.degrees(math.atan2(left, 10)), math.hypot(left, 10)
    (edge,) = read([Solid("post", bearing, distance, 0.2, 1)], CAMERA, "none").edges
    assert edge.edge == "left"
    assert abs(edge.margin) < 0.006
    assert read([Solid("post", 0, 10, 0.2, 1)], CAMERA, "none").edges == ()


def test_the_diagonals():
    # The middle of the frame lies on both diagonals; a point halfway down the left edge is 18 mm · sin(33.7°) =
    # 9.98 mm of 36 off.
    (placed,) = read([Solid("block", 0, 10, 0.2, 2.0)], CAMERA, "diagonals").placements
    assert placed.off == pytest.approx(0, abs=0.005)
    bearing, distance = math.degrees(math.atan2(-7.3, 10)), math.hypot(7.3, 10)
    (aside,) = read([Solid("block", bearing, distance, 0.1, 2.0)], CAMERA, "diagonals").placements
    assert aside.off == pytest.approx(0.5 * math.sin(math.atan(24 / 36)), abs=0.02)


def test_a_path_leads_in_at_an_edge_and_to_what_it_points_at():
    # Straight ahead from under the camera to a post on the same line: in at the bottom, in the middle, pointing at it.
    path, post = Solid("path", 0, 0.5, 0.5, 0.1, course=((0, 20),)), Solid("post", 0, 25, 0.4, 1.2)
    (lead,) = read([path, post], CAMERA, "none").leads
    assert lead.line.edge == "bottom"
    assert lead.line.enters == pytest.approx((0.5, 1.0), abs=1e-6)
    assert lead.target == 1
    assert lead.off < 0.03
    # A post well to the side is passed by about its place in the frame: 5 m at 25 m is 4.8 mm of 36.
    (aside,) = read([path, Solid("post", math.degrees(math.atan2(5, 25)), 25.5, 0.4, 1.2)], CAMERA, "none").leads
    assert aside.off == pytest.approx(4.8 / 36, abs=0.02)
    assert read([Solid("path", 180, 3, 1, 5)], CAMERA, "none").leads == ()


def test_a_crop_is_read_as_the_frame():
    # The middle third of the frame: what stood a sixth right of the middle now stands on the right edge of a
    # frame of its own.
    post = Solid("post", math.degrees(math.atan2(1.25, 10)), 10.078, 0.05, 1)
    (whole,) = read([post], CAMERA, "centre").placements
    (crop,) = read([post], CAMERA, "centre", window=(0.25, 0.25, 0.5, 0.5)).placements
    assert whole.off == pytest.approx(1 / 12, abs=0.001)
    assert crop.off == pytest.approx(2 * whole.off, abs=1e-6)


def test_sloping_ground_lifts_what_stands_uphill():
    # 10° down towards the south: at 10 m to the north the ground is 10 · tan 10° = 1.763 m higher, and the camera
    # on the mark is not.
    ground = Ground(10, 180, 50)
    post = Solid("post", 0, 10, 0.2, 1)
    level, uphill = (outline(CAMERA, post, slope) for slope in (Ground(), ground))
    assert level.bottom - uphill.bottom == pytest.approx(1.763 / 10 * 24 / 24, abs=0.002)
    # Both readings, of one camera and of many, put it at the same place.
    seen = read_frame([post], CAMERA, "none", ground)
    assert seen.horizon_y == pytest.approx(0.5)


def test_melted_things_have_no_outline_to_collide_with():
    near, far = Solid("post", 0, 3, 0.15, 2.2), Solid("post", 0, 30, 1.2, 6)
    assert len(read([near, far], CAMERA, "thirds").pairs) == 1
    assert read([near, far], CAMERA, "thirds", melted=frozenset({1})).pairs == ()


def test_lean_and_falling_uprights():
    leaning = Camera(0, 24, 36, 24, -15, height_m=1.0, roll_deg=2.0)
    reading = read([Solid("post", 0, 10, 0.2, 1)], leaning, "none")
    assert reading.leans_deg == 2.0
    # Pitched by p a vertical plane at the side of the frame, 18 mm out, leans by atan(18 · tan p / 24).
    assert reading.verticals_lean_deg == pytest.approx(
        math.degrees(math.atan(18 * math.tan(math.radians(15)) / 24)), abs=0.01
    )
