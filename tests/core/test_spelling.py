"""Figures as one reads them.

Source for foot, inch and mile: the 1959 international yard agreement; engraved half stops: common practice.
"""

import json
from datetime import date, datetime
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.facts.shot import ShotFacts
from lucid_ridge.core.planning.plan.dials import dials_of
from lucid_ridge.core.planning.wording import plural
from lucid_ridge.core.units.clock import parse_clock
from lucid_ridge.core.units.days import parse_day
from lucid_ridge.core.units.lengths import (
    format_distance,
    format_height,
    format_move,
    format_scale_length,
    parse_distance_m,
    parse_length_m,
)
from lucid_ridge.core.units.markings import format_shutter, parse_shutter
from lucid_ridge.core.units.spelling import (
    DayOrder,
    DialSteps,
    Hours,
    Lengths,
    Spelling,
    format_clock,
    format_day,
    format_hour,
    percent,
    spelled,
    spelling,
)

AMERICAN = Spelling(Lengths.FEET, Hours.TWELVE, DayOrder.MONTH_FIRST, DialSteps.HALVES)


@pytest.mark.parametrize(
    ("metres", "text"),
    [
        (0, "0 ft"),
        (0.004, "4.0 mm"),
        (0.38, "15″"),
        (0.9144, "3′ 0″"),
        (1.5, "4′ 11″"),
        (2.4, "7′ 10.5″"),
        (1.8796, "6′ 2″"),
        (12.5, "41.0 ft"),
        (100.0, "328 ft"),
        (1200.0, "0.7 mi"),
        (float("inf"), "∞"),
    ],
)
def test_distances_in_feet(metres, text):
    with spelled(AMERICAN):
        assert format_distance(metres) == text
    assert "ft" not in format_distance(metres)


@given(st.floats(0.0995, 5e5))
def test_what_is_written_in_feet_is_read_again(metres):
    with spelled(AMERICAN):
        text = format_distance(metres)
    # Half of the last figure shown: a quarter inch, 0.05 ft and 0.5 ft, 0.05 mi.
    step = 0.25 * 0.0254 if metres < 9.14 else 0.5 * 0.3048 if metres < 804.6 else 0.05 * 1609.344
    assert parse_distance_m(text) == pytest.approx(metres, abs=step * 1.001)


def test_heights_keep_their_sign():
    assert [format_height(value) for value in (1.24, -0.3, -0.01)] == ["1.2 m", "−0.3 m", "0.0 m"]
    with spelled(AMERICAN):
        assert [format_height(value) for value in (1.2, -0.3)] == ["3.9 ft", "−1.0 ft"]
        assert parse_length_m(format_height(-0.3)) == pytest.approx(-0.3048)


def test_small_moves():
    assert [format_move(value) for value in (0.003, 0.12, 1.5)] == ["3 mm", "12 cm", "1.5 m"]
    with spelled(AMERICAN):
        assert [format_move(value) for value in (0.0127, 0.127, 1.5)] == ["0.5″", "5″", "4′ 11″"]


@pytest.mark.parametrize(
    ("hour", "text"), [(0, "12:05 am"), (9, "9:05 am"), (12, "12:05 pm"), (16, "4:05 pm"), (23, "11:05 pm")]
)
def test_twelve_hours(hour, text):
    moment = datetime(2026, 11, 24, hour, 5)
    assert format_clock(moment) == f"{hour:02d}:05"
    with spelled(AMERICAN):
        assert format_clock(moment) == text
        assert parse_clock(text) == moment.time()


def test_days_and_their_order():
    day = date(2026, 11, 24)
    assert (format_day(day), format_day(day, weekday=True), format_day(day, year=False)) == (
        "24 Nov 2026",
        "Tue 24 Nov 2026",
        "24 Nov",
    )
    with spelled(AMERICAN):
        written = (format_day(day), format_day(day, weekday=True), format_day(day, year=False))
        assert written == ("Nov 24, 2026", "Tue, Nov 24, 2026", "Nov 24")
    assert spelling() == Spelling()


@given(st.dates(date(1800, 1, 1), date(2200, 12, 31)), st.booleans(), st.booleans())
def test_what_is_written_as_a_day_is_read_again(day, weekday, american):
    with spelled(AMERICAN if american else Spelling()):
        assert parse_day(format_day(day, weekday)) == day


@pytest.mark.parametrize(
    "text",
    [
        "2026-11-24",
        "24 November 2026",
        "24. Nov 2026",
        "24th nov 2026",
        "november 24 2026",
        "24.11.2026",
        "24/11/2026",
        "11/24/2026",
        " Tue  24 Nov 2026 ",
    ],
)
def test_days_as_people_write_them(text):
    assert parse_day(text) == date(2026, 11, 24)


@pytest.mark.parametrize(
    "text",
    ["", "tomorrow", "31 Feb 2026", "24 Foo 2026", "2026", "24 Nov", "24/24/2026", "0/1/2026", "1_0 Nov 2026", None],
)
def test_what_is_no_day_is_refused(text):
    with pytest.raises(InputError) as refusal:
        parse_day(text)
    assert "date" in refusal.value.message


def test_a_day_that_can_be_read_in_two_ways_is_asked_about():
    with pytest.raises(InputError, match="3 Apr 2026 or 4 Mar 2026"):
        parse_day("3/4/2026")
    assert parse_day("4/4/2026") == date(2026, 4, 4)


def test_dials_in_halves_and_whole_stops():
    """f/4.8 and f/6.7, 1/90 and 1/45, ISO 140 lie half way between whole stops (common practice)."""
    with spelled(Spelling(dial_steps=DialSteps.HALVES)):
        halves = dials_of(ShotFacts())
    with spelled(Spelling(dial_steps=DialSteps.WHOLE)):
        whole = dials_of(ShotFacts())
    labels = [mark.label for mark in halves.apertures.marks]
    assert labels[labels.index("f/4") : labels.index("f/8") + 1] == ["f/4", "f/4.8", "f/5.6", "f/6.7", "f/8"]
    labels = [mark.label for mark in halves.shutters.marks]
    assert labels[labels.index("1/125") : labels.index("1/30") + 1] == ["1/125", "1/90", "1/60", "1/45", "1/30"]
    assert [mark.label for mark in halves.isos.marks][4:8] == ["100", "140", "200", "280"]
    assert [mark.label for mark in whole.apertures.marks][:9] == [
        "f/0.7",
        "f/1",
        "f/1.4",
        "f/2",
        "f/2.8",
        "f/4",
        "f/5.6",
        "f/8",
        "f/11",
    ]
    assert [mark.label for mark in whole.shutters.marks][10:20] == [
        "1/15",
        "1/8",
        "1/4",
        "0.5 s",
        "1 s",
        "2 s",
        "4 s",
        "8 s",
        "15 s",
        "30 s",
    ]
    assert len(dials_of(ShotFacts()).apertures.marks) > len(halves.apertures.marks) > len(whole.apertures.marks)


@pytest.mark.parametrize("stops", [-12.5, -9.5, -6.5, -0.5, 0.5])
def test_half_stops_are_read_as_they_are_written(stops):
    assert parse_shutter(format_shutter(2.0**stops)) == 2.0**stops


# The page is held to the same cases (web/src/lib/format/spelling.test.ts).
CASES = json.loads((Path(__file__).parents[1] / "reference" / "spellings.json").read_text())
WRITERS = {
    "scale_lengths_m": format_scale_length,
    "heights_m": format_height,
    "hours": format_hour,
    "clocks_utc": lambda text: format_clock(datetime.fromisoformat(text)),
    "days": lambda text: format_day(date.fromisoformat(text)),
    "weekdays": lambda text: format_day(date.fromisoformat(text), weekday=True),
}


@pytest.mark.parametrize("kind", WRITERS)
def test_core_and_page_write_figures_alike(kind):
    assert len(CASES[kind]) > 1
    for value, metric, american in CASES[kind]:
        assert WRITERS[kind](value) == metric
        with spelled(AMERICAN):
            assert WRITERS[kind](value) == american


def test_counts_have_their_plural():
    for count, word, text in CASES["plurals"]:
        assert plural(count, word) == text


def test_percentages_are_those_of_the_front_end():
    # A space between number and sign: ISO 80000-1, 7.1.4; halves are rounded up (common practice).
    assert CASES["percentages"]
    for share, decimals, text in CASES["percentages"]:
        assert percent(share, decimals) == text
