"""Illuminance and light on the subject."""

import math

import numpy as np
import pytest

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.light import illuminance, subject
from lucid_ridge.core.light.day import clear_sky_ev100


@pytest.mark.parametrize(
    ("altitude", "lux", "share"),
    [
        (-6, 3.4, 0.05),  # end of civil twilight: USNO Circular 171 (from memory)
        (-12, 0.008, 0.05),  # end of nautical twilight: the same
        (90, 103_000, 0.35),  # a high clear sun gives about 100 klx: any lighting handbook
    ],
)
def test_published_values(altitude, lux, share):
    assert illuminance.sun_illuminance_lux(altitude) == pytest.approx(lux, rel=share)


@pytest.mark.parametrize(("altitude", "expected"), [(-0.8333, 7.5), (-6, 0.5), (45, 14.9)])
def test_exposure_values_of_the_sky(altitude, expected):
    # Handbook exposure tables for sunset, end of civil twilight and a clear day (from memory), half a stop apart
    # at most.
    assert clear_sky_ev100(altitude) == pytest.approx(expected, abs=0.1)


def test_segments_meet_within_two_hundredths():
    # The published coefficients join with jumps of about 1 %; anything more would be a typing error.
    for seam in (-12, -5, -0.8, 5, 20):
        below, above = illuminance.sun_illuminance_lux(np.array([seam - 1e-9, seam + 1e-9]))
        assert above / below == pytest.approx(1, abs=0.02)


def test_floor_nan_and_shapes():
    values = illuminance.sun_illuminance_lux(np.array([[-18.0, -40.0], [math.nan, -90.0]]))
    assert values.shape == (2, 2)
    assert values[0, 1] == values[0, 0] == values[1, 1]
    assert math.isnan(values[1, 0])
    with pytest.raises(InputError):
        illuminance.sun_illuminance_lux(91)


def test_cloud():
    # Kasten and Czeplak 1980: overcast leaves a quarter.
    assert illuminance.cloud_factor_kasten1980(8) == pytest.approx(0.25)
    assert illuminance.cloud_factor_kasten1980(np.array([0.0, 4.0])) == pytest.approx([1, 1 - 0.75 * 0.5**3.4])
    with pytest.raises(InputError):
        illuminance.cloud_factor_kasten1980(9)


@pytest.mark.parametrize(
    ("view", "sun", "words"),
    [(0, 0, "back"), (350, 30, "back"), (90, 180, "side"), (10, 275, "side"), (0, 180, "front"), (225, 60, "front")],
)
def test_direction_of_light(view, sun, words):
    # Common practice: back light under 45°, side light to 135°, front light above.
    assert subject.light_direction(view, sun) == words
