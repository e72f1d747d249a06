"""Exercises: the same question from the same seed, right answers marked right, and what cannot be read refused."""

import itertools
import math
import re

import pytest

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.learning.practice import ABOUT, Exercise, beat_of_leaning_per_min, ladder_s, mark, question


@pytest.mark.parametrize("exercise", Exercise)
def test_a_seed_stands_for_one_question(exercise):
    assert question(exercise, 5) == question(exercise, 5)
    assert ABOUT[exercise].aim
    assert ABOUT[exercise].progress


@pytest.mark.parametrize("exercise", [Exercise.STOPS, Exercise.FILTERS, Exercise.HYPERFOCAL, Exercise.HISTOGRAM])
def test_the_answer_that_is_told_is_marked_right(exercise):
    for seed in range(40):
        right = mark(exercise, seed, "1").right
        told = right.removesuffix(".").removesuffix(" stops").replace("−", "-")
        thirds = {"⅓": " 1/3", "⅔": " 2/3"}
        for sign, text in thirds.items():
            if sign in told:
                whole, _, _ = told.partition(sign)
                negative = whole.strip().startswith("-")
                digits = whole.strip().lstrip("-")
                value = (float(digits) if digits else 0.0) + eval(text.strip())
                told = f"{-value if negative else value:.3f}"
        assert mark(exercise, seed, told).score == 100.0, (question(exercise, seed).text, right, told)


def test_stops_between_apertures_by_hand():
    # Any question of the kind: f-numbers are stops by 2 log2 of their ratio.
    for seed in range(30):
        text = question(Exercise.STOPS, seed).text
        found = re.findall(r"f/([\d.]+)", text)
        if len(found) == 2:
            stops = 2 * math.log2(float(found[1]) / float(found[0]))
            assert mark(Exercise.STOPS, seed, f"{stops:.2f}").score == 100.0
            assert mark(Exercise.STOPS, seed, f"{stops + 3:.2f}").score == 0.0


def test_a_histogram_is_whole():
    bars = question(Exercise.HISTOGRAM, 3).bars
    assert len(bars) == 40
    assert max(bars) == 1.0
    assert min(bars) >= 0.0


@pytest.mark.parametrize(
    ("exercise", "answer"),
    [(Exercise.STOPS, "many"), (Exercise.FILTERS, "long"), (Exercise.HYPERFOCAL, "-2 m"), (Exercise.LADDER, "9"), (Exercise.LEANING, "x")],
)
def test_what_cannot_be_read_is_refused(exercise, answer):
    with pytest.raises(InputError):
        mark(exercise, 1, answer)


def test_ladder_and_beat():
    times = ladder_s()
    assert len(times) == 7
    assert [round(math.log2(b / a)) for a, b in itertools.pairwise(times)] == [1] * 6
    # 0.15 mm at 8 frames a second are 1.2 mm a second: two millimetres in 1.67 s, 36 beats a minute.
    assert beat_of_leaning_per_min(0.15, 8.0) == pytest.approx(36.0)
