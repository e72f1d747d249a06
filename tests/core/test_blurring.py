"""Telling roughly where something is. By hand: a degree of latitude is 111.2 km (common practice)."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.ground.blurring import CELL_DEG, CELL_REACH_KM, rough_position
from lucid_ridge.core.ground.geodesy import distance_m


@given(st.floats(-90, 90), st.floats(-180, 180))
def test_a_cell_is_the_same_for_all_within_it(latitude, longitude):
    middle = rough_position(latitude, longitude)
    assert abs(middle[0] - latitude) <= CELL_DEG / 2 + 1e-6
    assert abs(middle[1] - longitude) <= CELL_DEG / 2 + 1e-6
    assert rough_position(*middle) == middle
    assert -90 < middle[0] < 90 and -180 < middle[1] < 180
    assert distance_m(*middle, latitude, longitude) <= CELL_REACH_KM * 1000


def test_cells_by_hand():
    assert rough_position(54.531, -3.214) == (54.55, -3.25)
    assert rough_position(-33.86, 151.21) == (-33.85, 151.25)
    assert rough_position(90, 180) == (89.95, 179.95)
    assert rough_position(-90, -180) == (-89.95, -179.95)
    # Half a diagonal of 0.1 degrees by 0.1 at the equator: 7.86 km.
    assert CELL_REACH_KM == math.ceil(0.05 * math.sqrt(2) * 111.2) == 8
    for nowhere in ((91, 0), (0, -181), (float("nan"), 0), (math.inf, 0)):
        with pytest.raises(InputError):
            rough_position(*nowhere)
