"""Motion in the image. The trade's times are common practice."""

import itertools
import math

import pytest

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.exposure import motion

DRAIN = (24.0, 4000.0, 1.0)
SURF = (70.0, 100_000.0, 1.5)


def test_streak_by_hand():
    # 1 m/s across at 1 m with m = 50/(1000 - 50): 1000 · 0.05263 · 0.01 s = 0.526 mm.
    assert motion.streak_mm(50, 1000, 1.0, 0.01) == pytest.approx(0.5263, abs=0.0001)
    assert motion.streak_mm(50, math.inf, 1.0, 1.0) == 0


def _times(name, focal_mm, distance_mm, speed_mps):
    """The times of a look on 36 × 24 mm with 0.030 mm."""
    return motion.times_of_look_s(name, motion.streak_mm(focal_mm, distance_mm, speed_mps, 1.0), 24.0, 0.030)


def test_a_band_begins_where_its_streak_is_drawn():
    # Textured from 5 % of the short side to 40 %: 1.2 mm and 9.6 mm of 24.
    assert [motion.streak_mm(*DRAIN, time) for time in _times("textured", *DRAIN)] == pytest.approx([1.2, 9.6])


@pytest.mark.parametrize(("scene", "low", "high"), [(DRAIN, 0.25, 2.0), (SURF, 5.0, 7.0)])
def test_the_trades_times_fall_into_the_textured_band(scene, low, high):
    # Common practice: a drain over rocks 1/4 to 2 s; surf from a cliff 5 to 7 s.
    shortest, longest = _times("textured", *scene)
    assert shortest <= low
    assert high <= longest * 1.35


def test_frozen_by_the_trade():
    # Common practice: 1/1000 s or faster freezes a wave coming past at some metres.
    assert _times("frozen", 70, 8000, 3.0)[1] == pytest.approx(1 / 1000, rel=0.3)


def test_looks_in_order_of_their_streaks():
    assert [motion.look_of_streak(mm, 24, 0.03) for mm in (0.01, 0.1, 5, 20, 100, 1000, 1e5)] == [
        "frozen", "slightly blurred", "textured", "silky", "veiled", "flattened", "flattened",
    ]  # fmt: skip


def test_bands_follow_on_each_other():
    times = [_times(look.name, *DRAIN) for look in motion.LOOKS]
    assert all(earlier[1] == pytest.approx(later[0]) for earlier, later in itertools.pairwise(times))


def test_aim_is_the_middle_of_a_band():
    assert motion.middle_time_s((0.5, 8.0)) == 2.0
    assert motion.middle_time_s((0.0, 0.01)) == 0.01


def test_unknown_looks_and_still_water_are_refused():
    with pytest.raises(InputError):
        _times("dreamy", *DRAIN)
    with pytest.raises(InputError):
        _times("textured", 24, 4000, 0.0)
    with pytest.raises(InputError):
        _times("textured", 24, math.inf, 1.0)
