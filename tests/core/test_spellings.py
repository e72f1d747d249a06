"""What people write is read, what can be read in two ways is asked about.

Spellings: common practice of the trade; factors: SI and the definitions.
"""

import math
from datetime import time

import pytest

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.units.angles import parse_angle_deg, parse_bearing_deg
from lucid_ridge.core.units.clock import parse_clock
from lucid_ridge.core.units.durations import parse_minutes, parse_seconds, parse_speed_mps
from lucid_ridge.core.units.lengths import COMPASS, format_distance, parse_distance_m, parse_length_m, parse_length_mm
from lucid_ridge.core.units.markings import format_shutter, parse_shutter, spoken_shutter
from lucid_ridge.core.units.ratios import parse_ev, parse_iso, parse_magnification, parse_share
from lucid_ridge.core.units.stops import parse_filter_stops


@pytest.mark.parametrize(
    ("text", "clock"),
    [
        ("8:30", (8, 30)),
        ("08:30", (8, 30)),
        ("8.30", (8, 30)),
        ("8,30", (8, 30)),
        ("16.04", (16, 4)),
        ("0830", (8, 30)),
        ("830", (8, 30)),
        ("8", (8, 0)),
        ("20", (20, 0)),
        ("noon", (12, 0)),
        ("8h30", (8, 30)),
        ("8 h 30", (8, 30)),
        ("8:30pm", (20, 30)),
        ("8:30 p.m.", (20, 30)),
        ("8 pm", (20, 0)),
        ("12 am", (0, 0)),
        ("12:15am", (0, 15)),
        ("12 pm", (12, 0)),
        ("00:00", (0, 0)),
        ("23:59", (23, 59)),
        ("8h", (8, 0)),
        (" 16:04 ", (16, 4)),
    ],
)
def test_clock_times(text, clock):
    assert parse_clock(text) == time(*clock)


def test_clock_times_to_the_second():
    assert parse_clock("16:04:30") == time(16, 4, 30)


@pytest.mark.parametrize(
    "text",
    [
        "",
        "8.3",
        "24:00",
        "8:60",
        "dawn",
        "13 pm",
        "0 am",
        "8:3",
        "-1:00",
        "8:30:61",
        "1e1:00",
        "１６:04",
        "16:04x",
        None,
        830,
    ],
)
def test_what_is_no_clock_time_is_refused_with_examples(text):
    with pytest.raises(InputError, match="clock time"):
        parse_clock(text)


def test_every_minute_of_a_day_is_read_in_every_spelling():
    for minute in range(0, 1440, 7):
        moment = time(minute // 60, minute % 60)
        for text in (
            f"{moment:%H:%M}",
            f"{moment:%H.%M}",
            f"{moment:%H%M}",
            f"{moment:%Hh%M}",
            f"{moment:%I:%M}{'am' if moment.hour < 12 else 'pm'}",
        ):
            assert parse_clock(text) == moment, text


@pytest.mark.parametrize(
    ("text", "bearing"),
    [("45", 45), ("45°", 45), ("NE", 45), ("ne", 45), ("north", 0), ("SSW", 202.5), ("359,5", 359.5)],
)
def test_bearings(text, bearing):
    assert parse_bearing_deg(text) == bearing


def test_all_sixteen_points_of_the_compass():
    # A point is an eighth of a right angle and two of them a quarter: 22.5 degrees.
    for at, point in enumerate(COMPASS):
        assert parse_bearing_deg(point) == at * 22.5


@pytest.mark.parametrize(("text", "angle"), [("12", 12), ("-3.5 deg", -3.5), ("−12,5°", -12.5), ("+4", 4)])
def test_angles(text, angle):
    assert parse_angle_deg(text) == angle


@pytest.mark.parametrize("text", ["", "NEE", "over there", "1,000", "nan", "∞"])
def test_what_is_no_angle(text):
    with pytest.raises(InputError):
        parse_bearing_deg(text)


@pytest.mark.parametrize(
    ("text", "magnification"),
    [("1.5:1", 1.5), ("1:2", 0.5), ("0.5", 0.5), ("1.5×", 1.5), ("2x", 2), ("1 : 4", 0.25), ("1,5:1", 1.5)],
)
def test_magnifications(text, magnification):
    assert parse_magnification(text) == magnification


@pytest.mark.parametrize("text", ["1:0", "", "big", "1:2:3"])
def test_what_is_no_magnification(text):
    with pytest.raises(InputError):
        parse_magnification(text)


@pytest.mark.parametrize(("text", "share"), [("0.3", 0.3), ("30 %", 0.3), ("1/3", 1 / 3), ("30%", 0.3)])
def test_shares(text, share):
    assert parse_share(text) == pytest.approx(share)


@pytest.mark.parametrize(("text", "iso"), [("400", 400), ("ISO 400", 400), ("iso400", 400), ("6400 ISO", 6400)])
def test_speeds_of_a_sensor(text, iso):
    assert parse_iso(text) == iso


@pytest.mark.parametrize("text", ["Lo1", "Lo 1", "LO 0.3", "Hi2", "ISO L1", "H1"])
def test_a_bodys_name_for_an_extended_speed_is_asked_about(text):
    with pytest.raises(InputError, match="write the speed itself"):
        parse_iso(text)


@pytest.mark.parametrize(
    ("text", "ev"),
    [("12", 12), ("EV 12", 12), ("+1/3", 1 / 3), ("-2/3", -2 / 3), ("2 stops", 2), ("−1,5", -1.5), ("1 2/3", 5 / 3)],
)
def test_stops(text, ev):
    assert parse_ev(text) == pytest.approx(ev)


@pytest.mark.parametrize(
    ("text", "stops"),
    # Density 0.301 halves the light (10 to the power of minus density); a factor of 1000 is 9.97 stops.
    [
        ("10", 10),
        ("10 stops", 10),
        ("ND1000", math.log2(1000)),
        ("1000×", math.log2(1000)),
        ("ND 3.0", 3 / math.log10(2)),
        ("ND8", 3),
        ("ND 0.9", 0.9 / math.log10(2)),
        ("0.6 ND", 0.6 / math.log10(2)),
        ("OD 3", 3 / math.log10(2)),
        ("ND64+CPL", 7.5),
        ("3 stops", 3),
        ("1.5", 1.5),
        ("0.9 stops", 0.9),
    ],
)
def test_what_a_filter_costs(text, stops):
    assert parse_filter_stops(text) == pytest.approx(stops, abs=1e-9)


@pytest.mark.parametrize("text", ["ND3", "0.9", "1.8", "3.0", "ND 5"])
def test_what_a_filter_is_labelled_in_two_ways_is_asked_about(text):
    with pytest.raises(InputError, match="two ways"):
        parse_filter_stops(text)


@pytest.mark.parametrize(
    ("text", "seconds"),
    [("1h30", 5400), ("1 h 30", 5400), ("Bulb 4m", 240), ("2 mins", 120), ("b: 4 min", 240), ("2m30", 150)],
)
def test_long_times(text, seconds):
    assert parse_shutter(text) == seconds


def test_times_in_the_plural():
    # The marking 30 s stands for 32 s (ISO 516).
    assert parse_shutter("30 secs") == 32
    assert parse_seconds("2 mins") == 120
    assert parse_seconds("1h30") == 5400
    assert parse_minutes("1h30") == 90


@pytest.mark.parametrize(
    ("text", "metres"), [("2", 2), ("45 cm", 0.45), ("-3 m", -3), ("0", 0), ("6 ft", 1.8288), ("6'2\"", 1.8796)]
)
def test_lengths(text, metres):
    assert parse_length_m(text) == pytest.approx(metres)


@pytest.mark.parametrize(
    ("text", "millimetres"), [("8", 8), ("8 mm", 8), ("3.8 cm", 38), ("0.38 m", 380), ("1 in", 25.4)]
)
def test_small_lengths(text, millimetres):
    assert parse_length_mm(text) == pytest.approx(millimetres)


@pytest.mark.parametrize(
    ("text", "minutes"), [("35", 35), ("35 min", 35), ("1 h 05 min", 65), ("1:05", 65), ("90 s", 1.5)]
)
def test_minutes(text, minutes):
    assert parse_minutes(text) == minutes


@pytest.mark.parametrize(("text", "seconds"), [("5", 5), ("5 s", 5), ("2:30", 150), ("2 min", 120)])
def test_seconds(text, seconds):
    assert parse_seconds(text) == seconds


@pytest.mark.parametrize(("text", "speed"), [("1.5", 1.5), ("1.5 m/s", 1.5), ("5 km/h", 5 / 3.6)])
def test_speeds(text, speed):
    assert parse_speed_mps(text) == pytest.approx(speed)


@pytest.mark.parametrize("text", ["60", "2", "125", "15", "1000"])
def test_a_bare_whole_shutter_is_asked_about_naming_both_spellings(text):
    # To a photographer 60 is a sixtieth; to a clock it is a minute.
    with pytest.raises(InputError) as refused:
        parse_shutter(text)
    assert f"1/{text}" in refused.value.message and f"{text} s" in refused.value.message


def test_distances_as_they_are_shown_are_read_again():
    for exponent in range(-20, 45):
        metres = 10 ** (exponent / 10)
        again = parse_distance_m(format_distance(metres))
        assert again == pytest.approx(metres, rel=0.05)
        assert format_distance(again) == format_distance(metres)


def test_one_time_is_written_alike_in_a_sentence_and_on_a_dial():
    # 16 s, which the trade marks 15, is never 16 in one place and 15 in another.
    assert (spoken_shutter(16), format_shutter(16)) == ("15 s", "15 s")
    assert spoken_shutter(1 / 64) == "1/60"
    assert spoken_shutter(128) == "2 min 08 s"
    assert format_shutter(512) == "8'32\""
