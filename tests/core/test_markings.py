"""Markings. Sources: ISO 516 and ISO 517 (third-stop series with rounded figures); the rest common practice."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.units import markings as m
from lucid_ridge.core.units.durations import parse_minutes, parse_seconds


def test_every_shutter_marking_reads_back_to_the_exact_value_behind_it():
    for mark in m.SHUTTER_MARKINGS:
        assert m.parse_shutter(mark.label) == mark.value
        assert m.format_shutter(mark.value) == mark.label


def test_every_aperture_marking_reads_back_to_the_exact_value_behind_it():
    for mark in m.APERTURE_MARKINGS:
        assert m.parse_aperture(mark.label) == mark.value
        assert m.format_aperture(mark.value) == mark.label


def test_figures_stand_near_what_they_mean():
    # A figure never strays further from its exact value than the rounding of the trade (1/60 for 1/64: 0.093
    # stop; f/1.2 for 1.26: 0.14).
    for mark in m.SHUTTER_MARKINGS:
        name = mark.label.removesuffix(" s")
        written = 1 / float(name[2:]) if name.startswith("1/") else float(name)
        assert abs(math.log2(written / mark.value)) < 0.1, mark
    for mark in m.APERTURE_MARKINGS:
        assert abs(2 * math.log2(float(mark.label[2:]) / mark.value)) < 0.15, mark


@pytest.mark.parametrize(
    ("text", "seconds"),
    [
        ("1/60", 1 / 64),  # ISO 516: the exact time behind 1/60
        ("30 s", 32.0),  # ISO 516
        ('30"', 32.0),
        ("1/8", 0.125),
        ("0.6 s", 2 ** (-2 / 3)),
        ("0,6 s", 2 ** (-2 / 3)),
        ("1/2", 0.5),
        ("2'", 120.0),
        ("2'30\"", 150.0),
        ("2′30″", 150.0),
        ("2 min 30 s", 150.0),
        ("2m30s", 150.0),
        ("1 h 5 min", 3900.0),
        ("128 s", 128.0),
        ("2:30", 150.0),
        ("1:04:10", 3850.0),
        ("1", 1.0),
        ("45 s", 45.0),
        ("1/3000", 2**-11.5),
        ("1/7000", 1 / 7000),
    ],
)
def test_shutter_texts(text, seconds):
    assert m.parse_shutter(text) == pytest.approx(seconds, rel=1e-12)


@pytest.mark.parametrize("text", ["60", "30", "2", "128", "125"])
def test_a_bare_whole_number_is_asked_about(text):
    # 60 is 1/60 on a camera's dial and 60 s on a timer (common practice): both spellings are named.
    with pytest.raises(InputError) as refusal:
        m.parse_shutter(text)
    assert f"1/{text}" in refusal.value.message and f"{text} s" in refusal.value.message


@pytest.mark.parametrize(
    ("seconds", "label"), [(60.0, "60 s"), (120.0, "2'"), (128.0, "2'08\""), (512.0, "8'32\""), (1024.0, "17'04\"")]
)
def test_long_times_are_shown_to_the_second(seconds, label):
    assert m.format_shutter(seconds) == label
    assert m.parse_shutter(label) == seconds


@pytest.mark.parametrize(
    ("text", "ends"),
    [
        ("f/3.5-5.6", (2 ** (11 / 6), 2**2.5)),
        ("ƒ/4–6.3", (4.0, 2 ** (16 / 6))),
        ("2.8", (2**1.5, 2**1.5)),
        ("f/4 to f/5.6", (4.0, 2**2.5)),
    ],
)
def test_zooms_are_read_as_their_rims_are_engraved(text, ends):
    assert m.parse_aperture_pair(text) == pytest.approx(ends)


@pytest.mark.parametrize(
    "text", ["", "  ", "abc", "1/0", "0", "-1/60", "1/60/2", "f/8", "1e400", "nan", "inf", "2'30\"x"]
)
def test_what_is_no_shutter_time_is_refused_with_what_is_allowed(text):
    with pytest.raises(InputError) as caught:
        m.parse_shutter(text)
    assert caught.value.field == "shutter_s"
    assert caught.value.message


@pytest.mark.parametrize(
    ("text", "f_number"),
    [
        ("f/11", 2**3.5),
        ("11", 2**3.5),
        ("F11", 2**3.5),
        ("f 5.6", 2**2.5),
        ("5.9", 5.9),
        ("f/8", 8.0),
        ("f/22", 2**4.5),
    ],
)
def test_aperture_texts(text, f_number):
    assert m.parse_aperture(text) == pytest.approx(f_number, rel=1e-12)


@pytest.mark.parametrize("text", ["", "f/", "f/0", "-8", "1/8", "eleven"])
def test_what_is_no_aperture_is_refused(text):
    with pytest.raises(InputError) as caught:
        m.parse_aperture(text)
    assert caught.value.field == "f_number"


@pytest.mark.parametrize(
    ("seconds", "label"),
    [
        (1 / 60, "1/60"),
        (1 / 64, "1/60"),
        (0.125, "1/8"),
        (128, "2'08\""),
        (362.04, "6'02\""),
        (45, "45 s"),
        (59.7, "60 s"),
        (3720, "1 h 02 min"),
        (1 / 90, "1/90"),
        (0.21875, "0.22 s"),
        # 15 s is the marking of 16 s, and 1/15 that of 1/16.
        (14.75, "14.8 s"),
        (1 / 14.6, "1/14.6"),
    ],
)
def test_times_are_shown_as_the_trade_writes_them(seconds, label):
    assert m.format_shutter(seconds) == label


def test_odd_apertures_keep_their_own_figure():
    assert m.format_aperture(5.9) == "f/5.9"
    assert m.format_aperture(2**3.5) == "f/11"


def test_nearest_thirds():
    assert m.nearest_third_shutter_s(1 / 60) == 1 / 64
    assert m.nearest_third_shutter_s(60) == 64
    assert m.nearest_third_f_number(11) == pytest.approx(2**3.5)
    assert m.nearest_marked_iso(120) == 125


@pytest.mark.parametrize("bad", [0, -1, math.inf, math.nan])
def test_numbers_that_are_no_time_are_refused(bad):
    for function in (
        m.format_shutter,
        m.nearest_third_shutter_s,
        m.format_aperture,
        m.nearest_third_f_number,
        m.nearest_marked_iso,
    ):
        with pytest.raises(InputError):
            function(bad)


@settings(max_examples=600)
@given(st.floats(1e-4, 3e4))
def test_any_time_reads_back_within_its_rounding(seconds):
    again = m.parse_shutter(m.format_shutter(seconds))
    assert abs(math.log2(again / seconds)) < 0.11


@pytest.mark.parametrize(
    ("text", "seconds"),
    [
        ("90 s", 90), ("90 sec", 90), ("90 seconds", 90), ('90"', 90), ("2 min", 120), ("2 minutes", 120), ("2'", 120),
        ("2 h", 7200), ("2 hr", 7200), ("2 hours", 7200), ("1 hour", 3600), ("2:30", 150),
    ],
)  # fmt: skip
def test_every_spelling_of_a_time(text, seconds):
    assert parse_seconds(text) == pytest.approx(seconds)
    assert parse_minutes("1 h 05 min") == pytest.approx(65)
