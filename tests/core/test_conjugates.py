"""Thin-lens conjugates. Source of the relations: Gauss's lens equation, any optics text."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.optics import conjugates as c
from lucid_ridge.core.optics.working_lens import WorkingLens


@given(st.floats(8, 800), st.floats(1.01, 1e5))
def test_distances_obey_the_lens_equation(focal, ratio):
    distance = focal * ratio
    image = c.image_distance_mm(focal, distance)
    assert 1 / distance + 1 / image == pytest.approx(1 / focal, rel=1e-9)
    assert c.magnification(focal, distance) == pytest.approx(image / distance, rel=1e-6)


@given(st.floats(8, 800), st.floats(2.0, 1e5))
def test_focus_distance_and_object_distance_are_inverse_up_to_life_size(focal, ratio):
    focus = c.focus_distance_mm(focal, focal * ratio)
    assert focus >= 4 * focal * (1 - 1e-12)
    # Near 1:1 the two roots meet and rounding of D is magnified.
    assert c.object_distance_mm(focal, max(focus, 4 * focal)) == pytest.approx(focal * ratio, rel=1e-5)


def test_life_size_stands_at_four_focal_lengths():
    # m = 1 at u = v = 2f, D = 4f: any optics text.
    assert c.object_distance_mm(50, 200) == pytest.approx(100)
    assert c.magnification(50, 100) == pytest.approx(1)


def test_closer_than_four_focal_lengths_is_refused():
    with pytest.raises(InputError) as caught:
        c.object_distance_mm(50, 199)
    assert caught.value.field == "focus_distance_mm"


def test_infinity():
    assert c.image_distance_mm(50, math.inf) == 50
    assert c.magnification(50, math.inf) == 0
    assert c.object_distance_mm(50, math.inf) == math.inf
    assert c.focus_distance_mm(50, math.inf) == math.inf


def test_arrays_keep_their_shape_and_arguments_are_not_written_to():
    distances = np.array([[100.0, 1000.0], [math.inf, 75.0]])
    before = distances.copy()
    result = c.image_distance_mm(50, distances)
    assert result.shape == (2, 2)
    assert (distances == before).all()
    assert isinstance(c.image_distance_mm(50, 1000), float)


@pytest.mark.parametrize("bad", [math.nan, -1, 0, "wide"])
def test_values_that_are_no_lens_are_refused(bad):
    with pytest.raises(InputError):
        c.image_distance_mm(bad, 1000)
    with pytest.raises(InputError):
        c.magnification(50, bad)


def test_within_the_focal_length_there_is_no_image():
    with pytest.raises(InputError):
        c.image_distance_mm(50, 50)


def test_bellows_factor_of_a_view_camera():
    # Common practice: a 150 mm lens at 300 mm extension needs factor 4, 2 stops; so do f/16 to f/32 read as lengths.
    scale = 300 / 150 - 1
    assert WorkingLens(50, 1.0).at_magnification(scale).cost_stops == pytest.approx(2)
    assert c.effective_f_number(16, scale) == pytest.approx(32)
    # From a target of known size: factor (1 + m)^2. Any large-format handbook.
    assert 2 ** WorkingLens(50, 1.0).at_magnification(scale).cost_stops == pytest.approx((1 + scale) ** 2)


def test_pupil_ratio_changes_the_extension():
    # N (1 + m/p): any optics text on thick lenses.
    assert c.effective_f_number(8, 1, 0.5) == pytest.approx(24)
    assert c.effective_f_number(8, 1, 2) == pytest.approx(12)


def test_a_shortening_lens():
    # Common practice: a "100 mm" that reaches 1:1 at 300 mm works at 75 mm there.
    assert c.close_focal_length_mm(300, 1.0) == pytest.approx(75)


def test_magnification_from_a_ruler():
    # Common practice: 17.3 mm of sensor over 21 mm of ruler is 0.82:1, over 11 mm 1.57:1.
    for field, expected in ((21, 0.82), (11, 1.57)):
        distance = c.object_distance_for_magnification_mm(60, 17.3 / field)
        assert c.magnification(60, distance) == pytest.approx(expected, abs=0.005)
