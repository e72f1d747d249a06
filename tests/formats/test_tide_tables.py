"""Tide tables as people write them."""

from datetime import UTC, datetime

import pytest

from lucid_ridge.formats.errors import FormatError
from lucid_ridge.formats.tide_tables import TableClock, read_tide_table, write_tide_table

LONDON = "Europe/London"
WATERS = [(datetime(2026, 11, 24, 4, 12, tzinfo=UTC), 1.3), (datetime(2026, 11, 24, 10, 31, tzinfo=UTC), 4.6)]


@pytest.mark.parametrize(
    "text",
    [
        "24 Nov 2026 04:12 1.3 m\n10:31 4.6 m",
        "2026-11-24,04:12,1.3\n2026-11-24,10:31,4.6\n",
        "date;time;height\n24.11.2026;04:12;1,3\n24.11.2026;10:31;4,6",
        "2026-11-24T04:12 1.3\n2026-11-24T10:31 4.6",
        "# from the harbour\nTue 24 November 2026 LW 4:12 am 1.3 m\n\nHW 10:31 4.6",
        "Nov 24, 2026\t04.12\tlow 1.3m\n\t10.31\thigh 4.6m",
        "24 Nov 2026 10:31 4.6\n24 Nov 2026 04:12 4.265 ft",
        "2026/11/24 04:12 GMT 1.3\n2026/11/24 10:31Z 4.6",
        "Sallow Bar 2026\n24 Nov 04:12 1.3\nNov 24 10:31 4.6",
        "24.11.2026 05:12 CET 1,3\n11:31 +01:00 4,6",
    ],
)
def test_ways_to_write_the_same_table(text):
    read = read_tide_table(text, LONDON)
    assert [moment for moment, _ in read] == [moment for moment, _ in WATERS]
    assert [height for _, height in read] == pytest.approx([1.3, 4.6], abs=1e-3)


def test_clock_times_are_those_of_the_place():
    # In July British clocks are an hour ahead of UTC.
    assert read_tide_table("1 Jul 2026 05:00 1\n11:00 4", LONDON)[0][0] == datetime(2026, 7, 1, 4, tzinfo=UTC)


def test_a_table_is_read_in_the_time_that_it_is_printed_in():
    july = "1 Jul 2026 05:00 1\n11:00 4"
    read = {clock: read_tide_table(july, LONDON, clock)[0][0].hour for clock in TableClock}
    assert read == {TableClock.LOCAL: 4, TableClock.WINTER: 5, TableClock.UTC: 5}
    # South of the equator January is summer: winter time in Chile is four hours behind UTC.
    chile = read_tide_table("5 Jan 2026 05:00 1\n11:00 4", "America/Santiago", TableClock.WINTER)
    assert chile[0][0].hour == 9
    # A time that says its zone is in that one.
    assert read_tide_table("1 Jul 2026 05:00 UTC 1\n11:00 4", LONDON)[0][0].hour == 5


def test_a_table_without_years_runs_on_into_the_next():
    read = read_tide_table("31 Dec 2026 20:00 1\n1 Jan 02:10 4", LONDON)
    assert read[1][0] == datetime(2027, 1, 1, 2, 10, tzinfo=UTC)


def test_what_is_written_is_read_again():
    assert read_tide_table(write_tide_table(WATERS, LONDON), LONDON) == WATERS


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("24 Nov 2026 1.3 m\n", "Line 1.*no clock time"),
        ("04:12 1.3\n", "Line 1 has no day"),
        ("24 Nov 2026 04:12 1.3\n10:31 high", "Line 2.*not a height"),
        ("24 Nov 2026 04:12 1.3\n10:31 460", "Line 2.*not a tide"),
        ("3/4/2026 04:12 1.3\n", "Line 1.*two ways"),
        ("24 Nov 2026 25:12 1.3\n", "Line 1"),
        ("24 Nov 2026 04:12 1.3", "less than two"),
        ("", "less than two"),
        # The clocks go from 01:00 to 02:00 that night.
        ("29 Mar 2026 01:30 1.3\n08:00 4", "Line 1.*no 01:30 on 29 Mar 2026.*forward"),
        ("24 Nov 2026 04:12 1.3\n04:12 1.8\n10:00 4", "Line 2.*second water at 04:12"),
        ("9 Dec 04:12 1.3\n10:31 4.6", "Line 1.*not a date"),
    ],
)
def test_what_does_not_fit_names_its_line(text, words):
    with pytest.raises(FormatError, match=words):
        read_tide_table(text, LONDON)
