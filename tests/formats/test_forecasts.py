"""Hourly forecasts from tables and JSON."""

import json
from datetime import UTC, datetime

import pytest

from lucid_ridge.formats.errors import FormatError
from lucid_ridge.formats.forecasts import read_forecast

NOW = datetime(2026, 11, 24, 6, tzinfo=UTC)
HEAD = "time,low_cloud,middle_cloud,high_cloud,wind_mps,gust_mps,rain_mm,temperature_c,fog\n"


def test_a_table_and_json_give_the_same_hours():
    table = HEAD + "2026-11-25T17:00+01:00,0.1,0.2,0.6,3,5,0,4,0\n2026-11-25T15:00Z,0.4,0,0,2,,,5,\n"
    hours = read_forecast("f.csv", table.encode(), NOW).hours
    assert [hour.time_utc.hour for hour in hours] == [15, 16]
    assert hours[0].gust_mps == 0
    document = {
        "issued": "2026-11-24T03:00Z",
        "hours": [
            {
                "time": "2026-11-25T16:00Z",
                "low_cloud": 0.1,
                "middle_cloud": 0.2,
                "high_cloud": 0.6,
                "wind_mps": 3,
                "gust_mps": 5,
                "temperature_c": 4,
            }
        ],
    }
    read = read_forecast("f.json", json.dumps(document).encode(), NOW)
    assert read.hours[0] == hours[1]
    assert read.issued_utc == datetime(2026, 11, 24, 3, tzinfo=UTC)


def test_hours_without_any_figure_are_gaps():
    table = HEAD + "2026-11-25T15:00Z,0.4,0,0,2,3,0,5,0\n2026-11-25T16:00Z,,,,,,,,\n"
    assert len(read_forecast("f.csv", table.encode(), NOW).hours) == 1


@pytest.mark.parametrize(
    ("row", "words"),
    [
        ("2026-11-25T15:00,0,0,0,1,1,0,5,0", "offset"),
        ("tomorrow,0,0,0,1,1,0,5,0", "not a time"),
        ("2026-11-25T15:00Z,40,0,0,1,1,0,5,0", "low_cloud must lie from 0 to 1"),
        ("2026-11-25T15:00Z,0,0,0,-1,1,0,5,0", "wind_mps"),
        ("2026-11-25T15:00Z,0,0,0,,1,0,5,0", "wind_mps is missing"),
        ("2026-11-25T15:00Z,0,0,0,calm,1,0,5,0", "not a number for wind_mps"),
        ("2026-11-25T15:00Z,0,0,0,inf,1,0,5,0", "not a number"),
    ],
)
def test_rows_that_do_not_fit_are_named(row, words):
    with pytest.raises(FormatError) as caught:
        read_forecast("f.csv", (HEAD + row + "\n").encode(), NOW)
    assert words in caught.value.message


@pytest.mark.parametrize(
    ("name", "content"),
    [
        ("f.json", b"{"),
        ("f.json", b"{}"),
        ("f.json", b'{"hours": []}'),
        ("f.json", b'{"hours": [3]}'),
        ("f.txt", b"x"),
        ("f.csv", b""),
    ],
)
def test_what_is_no_forecast_is_refused(name, content):
    with pytest.raises(FormatError):
        read_forecast(name, content, NOW)
