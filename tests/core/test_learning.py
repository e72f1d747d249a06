"""Rates, costs from pairs and estimates against published figures and statsmodels."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from statsmodels.stats.proportion import proportion_confint

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.facts.calibrations import Calibrated, CalibrationKind
from lucid_ridge.core.learning.estimates import LEAST_MEASURED, estimate, worth_proposing
from lucid_ridge.core.learning.filters import cost_from_pair_stops
from lucid_ridge.core.learning.rates import prior_hit_rate, wilson_interval, with_prior
from lucid_ridge.core.learning.wording import between_words, figure_words, lesson_words


def test_eight_of_ten_as_wilson_has_it():
    # Wilson 1927 by the handbook's example: 8 of 10 at 95 %.
    low, high = wilson_interval(8, 10)
    assert low == pytest.approx(0.490, abs=0.0005)
    assert high == pytest.approx(0.943, abs=0.0005)


@given(st.integers(1, 400), st.floats(0.5, 0.995), st.data())
def test_intervals_are_those_of_statsmodels(tries, confidence, data):
    successes = data.draw(st.integers(0, tries))
    wanted = proportion_confint(successes, tries, 1 - confidence, method="wilson")
    assert wilson_interval(successes, tries, confidence) == pytest.approx(wanted, abs=1e-9)


def test_nothing_tried_tells_nothing():
    assert wilson_interval(0, 0) == (0.0, 1.0)
    for wrong in ((3, 2), (-1, 4), (1, math.inf), (math.nan, 3)):
        with pytest.raises(InputError):
            wilson_interval(*wrong)
    with pytest.raises(InputError):
        wilson_interval(1, 2, confidence=1.0)


def test_a_prior_gives_way():
    assert with_prior(0, 0, 0.7) == pytest.approx(0.7)
    assert with_prior(80, 400, 0.7) == pytest.approx(0.2, abs=0.01)
    assert with_prior(2, 4, 0.5) == 0.5
    with pytest.raises(InputError):
        with_prior(1, 4, 1.5)


def test_practice_expects_most_at_the_limit_and_few_far_over_it():
    assert prior_hit_rate(1 / 100, 1 / 100) > 0.6
    assert prior_hit_rate(1 / 400, 1 / 100) > 0.9
    assert prior_hit_rate(1 / 12.5, 1 / 100) < 0.15


def test_the_ten_stop_that_is_ten_point_three():
    # Worked by hand: 1/64 s to 16 s are 2^10; means 1 : 0.812 are 0.30 stops.
    assert cost_from_pair_stops(
        f_number_without=8,
        shutter_without_s=1 / 64,
        iso_without=100,
        mean_without=1.0,
        f_number_with=8,
        shutter_with_s=16,
        iso_with=100,
        mean_with=0.812,
    ) == pytest.approx(10.30, abs=0.005)
    # The same over aperture and ISO: f/8 to f/16 are two stops less, ISO 400 two more.
    assert cost_from_pair_stops(
        f_number_without=8,
        shutter_without_s=1 / 64,
        iso_without=100,
        mean_without=1.0,
        f_number_with=16,
        shutter_with_s=16,
        iso_with=400,
        mean_with=0.812,
    ) == pytest.approx(10.30, abs=0.005)


def test_costs_over_arrays_and_edges():
    found = cost_from_pair_stops(
        f_number_without=8,
        shutter_without_s=1,
        iso_without=100,
        mean_without=np.array([1.0, 0.5]),
        f_number_with=8,
        shutter_with_s=np.array([2.0, 2.0]),
        iso_with=100,
        mean_with=1.0,
    )
    assert found == pytest.approx([1.0, 0.0])
    for wrong in (0.0, -1.0, math.nan, math.inf):
        with pytest.raises(InputError):
            cost_from_pair_stops(
                f_number_without=8,
                shutter_without_s=wrong,
                iso_without=100,
                mean_without=1,
                f_number_with=8,
                shutter_with_s=1,
                iso_with=100,
                mean_with=1,
            )


def test_an_estimate_has_students_interval():
    # Student's sleep data, drug 1 (Student 1908; also the t test's example in R): mean 0.75, 95 % from −0.53 to 2.03.
    sleep = [0.7, -1.6, -0.2, -1.2, -0.1, 3.4, 3.7, 0.8, 0.0, 2.0]
    found = estimate(sleep)
    assert found.value == pytest.approx(0.75)
    assert (found.low, found.high) == pytest.approx((-0.5297804, 2.0297804), abs=1e-5)


def test_one_that_went_wrong_is_left_out():
    found = estimate([10.3, 10.28, 10.31, 10.33, 10.29, 4.0, math.nan])
    assert found.count == 5
    assert 5 not in found.kept
    assert found.value == pytest.approx(10.302, abs=0.001)
    assert estimate([]) is None
    assert estimate([2.0]).low == -math.inf


def test_what_is_proposed_differs_by_more_than_chance_and_more_than_a_little():
    told = 10.0
    clear = estimate([10.28, 10.33, 10.3, 10.27, 10.31, 10.32])
    assert worth_proposing(clear, told, 0.1)
    assert not worth_proposing(estimate([10.3] * (LEAST_MEASURED - 1)), told, 0.1)
    assert not worth_proposing(estimate([10.02, 10.03, 10.02, 10.03, 10.02, 10.03]), told, 0.1)
    assert not worth_proposing(estimate([10.0, 10.9, 10.1, 10.4, 10.8, 9.9]), told, 0.1)


@pytest.mark.parametrize("count", [4, 5, 6, 7, 8, 10, 15, 20, 30, 40])
def test_intervals_cover_what_they_say(count):
    # 95 % of intervals of clean normal data hold the true value (Student 1908); 2,000 seeded samples tell that to
    # half a per cent.
    samples = np.random.default_rng(count).normal(10.0, 0.1, (2000, count))
    found = [estimate(row) for row in samples]
    assert 0.93 <= np.mean([item.low <= 10.0 <= item.high for item in found]) <= 0.97


@pytest.mark.parametrize("count", [4, 6, 12])
def test_clean_seasons_are_met_with_silence(count):
    # By chance alone: in each of 600 seasons twenty things measured with two tenths of a stop of spread.
    chance = np.random.default_rng(20).normal(10.0, 0.2, (600, 20, count))
    spoken = sum(any(worth_proposing(estimate(row), 10.0, 0.1) for row in season) for season in chance)
    assert spoken / 600 < 0.01


def test_a_shared_error_widens_the_interval():
    # Welch 1947: variances add. Four measurements with s = 2 and a reference known to ±1 from many: √(1 + 1).
    plain, shared = estimate([1.0, 3.0, 5.0, 3.0]), estimate([1.0, 3.0, 5.0, 3.0], 0.5, 5)
    assert shared.value == plain.value
    assert shared.high - shared.value > 0.9 * (plain.high - plain.value)
    wide = estimate([1.0, 3.0, 5.0, 3.0], 100.0, 5)
    # The reference alone decides: t of four degrees of freedom at 95 % is 2.776.
    assert wide.high - wide.value == pytest.approx(2.776 * 100, rel=0.01)
    assert estimate([1.0, 3.0], 0.5, 1).low == -math.inf


@pytest.mark.parametrize("kind", CalibrationKind)
@pytest.mark.parametrize("value", [-2.0, 0.5, 1.6, 500.0])
def test_every_lesson_is_said_whatever_it_found(kind, value):
    said = lesson_words(Calibrated(kind, "x", 1.0, value, value - 1, value + 1, 4))
    assert said.endswith(".")
    assert "4 " in said
    assert figure_words(kind, value)
    assert between_words(kind, -math.inf, math.inf) == "not known"
