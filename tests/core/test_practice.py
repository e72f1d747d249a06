"""Exercises: the same question from the same seed, right answers marked right, and what cannot be read refused."""

import itertools
import math
import re
from datetime import UTC, datetime, timedelta

import pytest

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.learning.practice import (
    ABOUT,
    Exercise,
    PracticeKit,
    Water,
    beat_of_leaning_per_min,
    depth_of_field_mm,
    ladder_s,
    mark,
    question,
)
from lucid_ridge.core.learning.spacing import Answered, next_question

OWN = PracticeKit(
    (("Big stopper", 10.3),),
    (("24-70 mm zoom", 70.0, 2.8),),
    (Water("Beck at Stone Ford", 1.3, 3.0),),
    "the Half-frame body",
    23.5,
    15.6,
)
NOW = datetime(2026, 5, 1, 9, tzinfo=UTC)


@pytest.mark.parametrize("exercise", Exercise)
def test_a_seed_stands_for_one_question(exercise):
    assert question(exercise, 5) == question(exercise, 5)
    assert ABOUT[exercise].aim
    assert ABOUT[exercise].goal


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
    [
        (Exercise.STOPS, "many"),
        (Exercise.FILTERS, "long"),
        (Exercise.HYPERFOCAL, "-2 m"),
        (Exercise.LADDER, "9"),
        (Exercise.LEANING, "x"),
    ],
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


def test_questions_are_of_ones_own_kit():
    assert "Big stopper (10.3 stops)" in question(Exercise.FILTERS, 1, OWN).text
    assert (
        "Beck at Stone Ford at 1.3 m/s, 3.00 m away, 70 mm on the Half-frame body"
        in question(Exercise.LOOK, 1, OWN).text
    )
    asked = question(Exercise.HYPERFOCAL, 2, OWN).text
    assert "70 mm (24-70 mm zoom)" in asked
    # H = f²/(N c) + f with c a fifteen-hundredth of the diagonal of 23.5 × 15.6 mm: 18.8 µm; at f/8 it is 32.6 m.
    f_number = float(re.search(r"f/(\d+)", asked)[1])
    by_hand = (70**2 / (f_number * math.hypot(23.5, 15.6) / 1500) + 70) / 1000
    assert mark(Exercise.HYPERFOCAL, 2, f"{by_hand:.2f} m", OWN).score == 100.0


@pytest.mark.parametrize("exercise", [item for item in Exercise if item != Exercise.LADDER])
def test_answers_show_their_working(exercise):
    answer = "3" if exercise == Exercise.LEANING else "1"
    working = mark(exercise, 4, answer).working
    assert working
    assert all(line.endswith(".") for line in working)


def test_working_of_a_filter_by_hand():
    # Ten and three tenths stops are 2^10.3 = 1,261 times.
    working = mark(Exercise.FILTERS, 1, "1", OWN).working
    assert "= 1,261 times" in working[0]


def test_leaning_takes_no_impossible_answer():
    # 2 N c (1 + m)/m² at 1:1, f/8 and 28.8 µm: 0.92 mm, six steps of 0.15 mm and the frame they begin with.
    assert depth_of_field_mm(1.0, 8.0, 0.0288) == pytest.approx(0.9216)
    assert mark(Exercise.LEANING, 1, "7").score == 100.0
    assert mark(Exercise.LEANING, 1, "2").score < 100.0
    for impossible in ("8", "10", "-1", "3.5"):
        with pytest.raises(InputError, match="At most 7 of ten"):
            mark(Exercise.LEANING, 1, impossible)


def answered(*items):
    """Return answers: seed, score, and minutes before now."""
    return [Answered(seed, score, NOW - timedelta(minutes=minutes)) for seed, score, minutes in items]


def test_what_was_wrong_comes_back_later_each_time():
    assert next_question([], NOW, 99).seed == 99
    # Wrong five minutes ago: not at once, but after three others, or ten minutes.
    assert next_question(answered((1, 0, 5)), NOW, 99).seed == 99
    assert next_question(answered((1, 0, 11)), NOW, 99).seed == 1
    assert next_question(answered((1, 0, 5), (2, 100, 4), (3, 100, 3), (4, 100, 2)), NOW, 99).seed == 1
    # Right once since: the next day. Right twice: three days later.
    assert next_question(answered((1, 0, 3000), (1, 100, 1000)), NOW, 99).seed == 99
    assert next_question(answered((1, 0, 3000), (1, 100, 1441)), NOW, 99).seed == 1
    assert next_question(answered((1, 0, 9000), (1, 100, 5000), (1, 100, 3000)), NOW, 99).seed == 99
    # Right four times since, it is known; wrong again, it starts again.
    known = [(1, 0, 90_000), *((1, 100, minutes) for minutes in (80_000, 70_000, 60_000, 50_000))]
    assert next_question(answered(*known), NOW, 99).seed == 99
    assert next_question(answered(*known, (1, 20, 15)), NOW, 99) == next_question(answered((1, 20, 15)), NOW, 99)
    # What was never wrong is not asked again.
    assert next_question(answered((5, 100, 90_000)), NOW, 99).seed == 99
