"""Reading a frame: figures worked out by hand."""

import math

import pytest

from lucid_ridge.core.framing.projection import Camera
from lucid_ridge.core.framing.reading import GUIDES, read_frame
from lucid_ridge.core.framing.solids import Solid

CAMERA = Camera(0, 24, 36, 24, height_m=1.0)


def test_guides_are_where_the_trade_puts_them():
    assert GUIDES["thirds"] == pytest.approx((1 / 3, 2 / 3))
    # The golden section: the smaller part is 0.382 of the whole.
    assert GUIDES["golden"] == pytest.approx((0.382, 0.618), abs=0.0005)


def test_placement_against_the_guide():
    # 6 mm right of the middle on a 36 mm frame is the right third: a post 10 m ahead stands there 10 · 6/24 = 2.5 m to the right.
    bearing, distance = math.degrees(math.atan2(2.5, 10)), math.hypot(2.5, 10)
    (placement,) = read_frame([Solid("post", bearing, distance, 0.1, 1)], CAMERA, "thirds").placements
    assert placement.line == pytest.approx(2 / 3)
    assert placement.off == pytest.approx(0, abs=0.001)
    (placement,) = read_frame([Solid("post", bearing, distance, 0.1, 1)], CAMERA, "centre").placements
    assert placement.off == pytest.approx(1 / 6, abs=0.001)
    assert read_frame([Solid("post", 0, 10, 0.1, 1)], CAMERA, "none").placements == ()


def test_air_between_two_posts():
    # Two posts 0.2 m wide, 1 m apart at 10 m: their near edges are 0.8 m apart, 0.8/10 · 24/36 of the width.
    half = math.degrees(math.atan2(0.5, 10))
    posts = [Solid("post", -half % 360, 10.0125, 0.2, 1.5), Solid("post", half, 10.0125, 0.2, 1.5)]
    (pair,) = read_frame(posts, CAMERA, "thirds").pairs
    assert pair.air == pytest.approx(0.8 / 10 * 24 / 36, abs=0.001)


def test_an_overlap_names_the_move_that_opens_it():
    # A near post just left of a far one on the same line: to slide it further left one steps to the right.
    near, far = Solid("post", 359, 3, 0.15, 2.2), Solid("post", 0, 30, 1.2, 6)
    (pair,) = read_frame([near, far], CAMERA, "thirds").pairs
    assert pair.air < 0
    assert pair.move == "0.3 m to the right"
    # By hand: the near one slides by 0.3/3 · 24/36, the far one by a tenth of it.
    assert pair.opens == pytest.approx(0.3 * (1 / 3 - 1 / 30) * 24 / 36, abs=0.003)


def test_ridges_water_and_what_is_out_of_the_frame_are_no_pair():
    scene = [Solid("ridge", 0, 500, 900, 60), Solid("water", 0, 3, 20, 50), Solid("post", 0, 5, 0.2, 1), Solid("post", 180, 5, 0.2, 1)]
    reading = read_frame(scene, CAMERA, "thirds")
    assert reading.pairs == ()
    assert reading.shares[3] == 0
    assert len(reading.placements) == 2


def test_the_horizon_moves_with_the_pitch():
    # Level it lies in the middle; pitched 10° down it rises by 24 · tan 10° = 4.23 mm of 24.
    assert read_frame([Solid("post", 0, 5, 0.2, 1)], CAMERA, "none").horizon_y == pytest.approx(0.5)
    down = Camera(0, 24, 36, 24, -10, height_m=1.0)
    assert read_frame([Solid("post", 0, 5, 0.2, 1)], down, "none").horizon_y == pytest.approx(0.5 - math.tan(math.radians(10)))


def test_shares_of_the_frame():
    # A wall 15 m wide and 10 m high, seen level from half its height at 10 m: 36 x 24 mm, the whole frame.
    wall = Solid("block", 0, 10, 15, 10, -4.0)
    assert read_frame([wall], CAMERA, "none").shares == pytest.approx((1.0,), abs=1e-4)
