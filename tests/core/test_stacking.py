"""Focus stacks and circles of confusion."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.optics import circle_of_confusion as coc
from lucid_ridge.core.optics import stacking
from lucid_ridge.core.optics.depth import blur_diameter_mm, far_limit_mm, near_limit_mm


def test_close_a_third_in_and_far():
    # Common practice: 24 mm, f/16, 0.30 m to infinity takes three frames: close, about a third in, far.
    stack = stacking.plan_ring_stack(24, 16, 0.030, 300, math.inf)
    assert stack.count == 3
    first, second, third = stack.object_distances_mm
    assert 300 < first < 400 < second < 700 < third < 2500


def test_slices_meet_and_hold_both_ends():
    stack = stacking.plan_ring_stack(24, 16, 0.030, 300, math.inf)
    assert stack.near_limits_mm[0] <= 300
    assert stack.far_limits_mm[-1] == math.inf
    assert (stack.far_limits_mm[:-1] >= stack.near_limits_mm[1:]).all()
    # The limits are those of the depth-of-field formulas for each position.
    assert stack.near_limits_mm == pytest.approx(near_limit_mm(24, 16, 0.030, stack.object_distances_mm), rel=1e-9)
    assert stack.far_limits_mm[:-1] == pytest.approx(
        far_limit_mm(24, 16, 0.030, stack.object_distances_mm[:-1]), rel=1e-9
    )


@given(st.floats(14, 200), st.floats(2.8, 22), st.floats(1.3, 60), st.floats(1.0, 1e4), st.floats(0, 0.6))
def test_no_point_of_the_range_is_softer_than_asked(focal, f_number, near_ratio, reach, overlap):
    near = focal * near_ratio * 1.5
    far = near * reach
    stack = stacking.plan_ring_stack(focal, f_number, 0.03, near, far, overlap)
    scene = 1 / np.linspace(1 / far, 1 / near, 400)
    blur = blur_diameter_mm(focal, f_number, stack.object_distances_mm[:, None], scene[None, :]).min(axis=0)
    assert blur.max() <= 0.03 * (1 + 1e-6)
    assert blur.max() <= stack.worst_blur_mm * (1 + 1e-6) + 1e-9


def test_positions_form_a_geometric_series_in_image_space():
    # Thin-lens geometry: the ratio is constant, (A - c')/(A + c') at the blur where the slices meet.
    stack = stacking.plan_ring_stack(35, 8, 0.02, 500, 20000)
    images = 35 * stack.object_distances_mm / (stack.object_distances_mm - 35)
    ratios = images[1:] / images[:-1]
    pupil = 35 / 8
    expected = (pupil - stack.worst_blur_mm) / (pupil + stack.worst_blur_mm)
    assert ratios == pytest.approx(np.full(stack.count - 1, expected), rel=1e-9)


def test_one_frame_suffices_where_the_range_is_one_slice():
    near, far = near_limit_mm(50, 8, 0.030, 3000), far_limit_mm(50, 8, 0.030, 3000)
    stack = stacking.plan_ring_stack(50, 8, 0.030, near, far)
    assert stack.count == 1
    assert stack.object_distances_mm[0] == pytest.approx(3000, rel=1e-6)
    assert stacking.plan_ring_stack(50, 8, 0.030, near * 0.99, far).count == 2


def test_a_single_distance_is_one_frame_on_it():
    stack = stacking.plan_ring_stack(100, 4, 0.02, 1500, 1500)
    assert stack.count == 1
    assert stack.object_distances_mm[0] == pytest.approx(1500)
    assert stack.worst_blur_mm == 0


def test_overlap_takes_more_frames():
    # 1 + (span/slice - 1)/(1 - o) frames: a half overlap doubles what follows the first.
    plain = stacking.plan_ring_stack(35, 5.6, 0.02, 400, math.inf).count
    assert stacking.plan_ring_stack(35, 5.6, 0.02, 400, math.inf, 0.5).count in (2 * plain - 2, 2 * plain - 1)


@pytest.mark.parametrize(
    ("arguments", "field"),
    [
        ((24, 16, 0.03, 1000, 900), "far_mm"),
        ((24, 16, 0.03, 20, 900), "near_mm"),
        ((24, 16, 0.03, 300, 900, 0.95), "overlap"),
        ((24, -1, 0.03, 300, 900), "f_number"),
        ((24, 16, math.nan, 300, 900), "coc_mm"),
        ((400, 1.4, 0.0005, 1000, math.inf), "coc_mm"),
    ],
)
def test_impossible_stacks_are_refused_at_their_field(arguments, field):
    with pytest.raises(InputError) as caught:
        stacking.plan_ring_stack(*arguments)
    assert caught.value.field == field


def test_slice_up_close():
    # Any close-up handbook: 2 N c (1 + m) / m^2, 1.92 mm at 1:1, f/16, c = 0.030 mm.
    assert stacking.slice_depth_mm(1, 16, 0.030) == pytest.approx(1.92)
    # Common practice: about 3 mm is all that 1:1 gives fully stopped down.
    assert 2.5 < stacking.slice_depth_mm(1, 25, 0.030) < 3.5


def test_slice_up_close_agrees_with_the_exact_limits():
    # A second formula: the exact thin-lens limits around 1:1 (u = 2f) differ only in the second order of c/A.
    exact = far_limit_mm(100, 16, 0.030, 200) - near_limit_mm(100, 16, 0.030, 200)
    assert stacking.slice_depth_mm(1, 16, 0.030) == pytest.approx(exact, rel=1e-3)


def test_rail_frames_are_moves_plus_one():
    stack = stacking.plan_rail_stack(1.5, 5.6, 0.015, 4.0, overlap=0.25)
    assert stack.step_mm == pytest.approx(0.75 * stack.slice_mm)
    assert stack.travel_mm >= 4.0
    assert stack.travel_mm - stack.step_mm < 4.0


def test_microscopists_depth():
    # Inoué and Spring 1997 (from memory): λ/NA² + e/(M NA). At 5:1, f/2.8: NA = 5/(2·2.8·6) = 0.1488.
    aperture = 5 / (2 * 2.8 * 6)
    assert stacking.slice_depth_inoue1997_mm(5, 2.8, 0.01) == pytest.approx(
        0.00055 / aperture**2 + 0.01 / (5 * aperture)
    )


def test_hand_held_rocking_speed():
    # Common practice: steps of 0.3 mm at 10 frames a second are 3 mm/s.
    assert pytest.approx(3) == 0.3 * 10
    assert stacking.plan_rail_stack(1, 2.5, 0.030, 3.0).step_mm == pytest.approx(0.3, rel=0.01)


def test_circles_of_confusion():
    # Handbook: 0.030 mm for 36 x 24 mm and in proportion to the diagonal.
    assert coc.coc_handbook_mm(36, 24) == pytest.approx(0.030)
    assert coc.coc_handbook_mm(17.3, 13) == pytest.approx(0.0150, abs=0.0001)
    # One arc minute at 25 cm is 0.073 mm; the old 0.2 mm at 25 cm is 2.75 arc minutes. Any text on the eye.
    assert coc.coc_print_mm(36, 36, 250) == pytest.approx(0.0727, abs=0.0001)
    assert coc.coc_print_mm(36, 240, 250, 2.75) == pytest.approx(0.030, rel=0.01)
    assert coc.coc_pixels_mm(36, 8256) == pytest.approx(0.00872, abs=0.00001)
    with pytest.raises(InputError):
        coc.coc_pixels_mm(36, 0)
