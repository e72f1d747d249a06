"""Distances, durations and bearings in words. Source for foot and inch: the 1959 international yard agreement."""

import math

import pytest

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.units import lengths
from lucid_ridge.core.units.lengths import format_distances_apart, format_duration, format_move
from lucid_ridge.core.units.spelling import Lengths, Spelling, spelled


@pytest.mark.parametrize(
    ("text", "metres"),
    [
        ("2m", 2),
        ("2", 2),
        ("30 cm", 0.3),
        ("300mm", 0.3),
        ("6 ft", 1.8288),
        ("6'2\"", 1.8796),
        ("10 in", 0.254),
        ("1,5 m", 1.5),
        ("2 km", 2000),
    ],
)
def test_distance_texts(text, metres):
    assert lengths.parse_distance_m(text) == pytest.approx(metres, rel=1e-12)


@pytest.mark.parametrize("text", ["∞", "inf", "Infinity"])
def test_infinity_is_a_distance(text):
    assert lengths.parse_distance_m(text) == math.inf


@pytest.mark.parametrize("text", ["", "0", "-3 m", "two", "3 leagues", "1/2 m"])
def test_what_is_no_distance_is_refused(text):
    with pytest.raises(InputError):
        lengths.parse_distance_m(text)


@pytest.mark.parametrize(
    ("metres", "label"),
    [
        (0.0042, "4.2 mm"),
        (0.085, "85 mm"),
        (0.38, "0.38 m"),
        (12.54, "12.5 m"),
        (640, "640 m"),
        (2400, "2.4 km"),
        (math.inf, "∞"),
        (0, "0 m"),
    ],
)
def test_distance_labels(metres, label):
    assert lengths.format_distance(metres) == label


@pytest.mark.parametrize(
    ("seconds", "label"),
    [(0.6, "0.6 s"), (5, "5 s"), (45, "45 s"), (128, "2 min 08 s"), (120, "2 min"), (3900, "1 h 05 min")],
)
def test_durations(seconds, label):
    assert lengths.format_duration(seconds) == label


def test_compass_points_wrap():
    assert [lengths.compass_point(bearing) for bearing in (0, 359, 45, 225, 720 + 270, -90)] == [
        "N",
        "N",
        "NE",
        "SW",
        "W",
        "W",
    ]


def test_distances_that_would_read_alike_get_more_digits():
    # Five focus marks within two millimetres.
    assert format_distances_apart([0.4051, 0.4056, 0.4061, 1.2, math.inf]) == [
        "405.1 mm",
        "405.6 mm",
        "406.1 mm",
        "1.20 m",
        "∞",
    ]
    assert format_distances_apart([0.411, 0.413, 0.415]) == ["411 mm", "413 mm", "415 mm"]
    assert format_distances_apart([0.4, 0.4]) == ["0.40 m", "0.40 m"]
    assert format_distances_apart([]) == []
    with spelled(Spelling(lengths=Lengths.FEET)):
        assert len(set(format_distances_apart([0.4051, 0.4056, 0.4061]))) == 3


def test_small_moves_are_said_as_hands_make_them():
    # Below a centimetre in millimetres, below a metre in whole centimetres.
    assert [format_move(value) for value in (0.003, 0.012, 0.12, 1.5)] == ["3 mm", "1 cm", "12 cm", "1.5 m"]


def test_spans_of_time_in_words():
    said = {0.6: "0.6 s", 45: "45 s", 128: "2 min 08 s", 120: "2 min", 3599: "59 min 59 s", 3905: "1 h 05 min"}
    assert {seconds: format_duration(seconds) for seconds in said} == said
    # Sixty-one minutes are an hour and one, a day has twenty-four hours.
    assert (format_duration(3660), format_duration(86_400)) == ("1 h 01 min", "24 h 00 min")
