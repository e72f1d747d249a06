"""Checking arguments and keeping the caller's shape."""

import math

import numpy as np
import pytest

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.units import quantities as q


@pytest.mark.parametrize("value", [1.0, 1, "1", np.float64(1), [1.0, 2.0], np.ones((2, 2))])
def test_positive_takes_numbers_of_every_kind(value):
    result = q.positive("length_mm", value)
    assert result.dtype == np.float64
    assert (result > 0).all()


@pytest.mark.parametrize(
    "value", [0, 0.0, -1.0, -1, math.nan, [1, 0], [1, math.nan], "x", None, [[1], [1, 2]], math.inf]
)
def test_what_is_not_positive_is_refused_by_name(value):
    with pytest.raises(InputError) as caught:
        q.positive("length_mm", value)
    assert caught.value.field == "length_mm"
    assert "length_mm" in caught.value.message


def test_infinity_only_where_it_may_stand():
    assert q.positive("distance_mm", math.inf, allow_infinite=True) == math.inf
    assert q.positive("distance_mm", [1, math.inf], allow_infinite=True)[1] == math.inf
    with pytest.raises(InputError):
        q.positive("distance_mm", -math.inf, allow_infinite=True)


def test_not_negative_and_finite():
    assert q.not_negative("speed_mps", 0) == 0
    assert q.finite("compensation_ev", -3) == -3
    with pytest.raises(InputError):
        q.not_negative("speed_mps", -0.1)
    for bad in (math.inf, -math.inf, math.nan):
        with pytest.raises(InputError):
            q.finite("compensation_ev", bad)


def test_the_result_is_a_copy():
    mine = np.array([1.0, 2.0])
    q.positive("length_mm", mine)[0] = 9
    assert mine[0] == 1


def test_shapes_come_back():
    assert isinstance(q.in_callers_shape(np.float64(3)), float)
    assert q.in_callers_shape(np.zeros((2, 3))).shape == (2, 3)


def test_long_values_are_not_recited():
    with pytest.raises(InputError) as caught:
        q.positive("length_mm", np.zeros(1000))
    assert len(caught.value.message) < 160
