"""Positions of sun and moon against published examples and an independent library."""

import math
from datetime import UTC, datetime, timedelta, timezone

import ephem
import numpy as np
import pytest

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.light import ephemeris
from lucid_ridge.core.light.track import sun_track
from lucid_ridge.core.spans.instants import local_day, unix_seconds, zone_info


def test_nrel_worked_example():
    # Reda and Andreas, NREL/TP-560-34302, appendix A.5: zenith 50.11162°, azimuth 194.34024°. Their example sets UT1 =
    # UTC; the Earth was 0.36 s behind that day, which moves the sun by 0.0015° of hour angle: the tolerance is twice
    # that.
    moment = datetime(2003, 10, 17, 12, 30, 30, tzinfo=timezone(timedelta(hours=-7)))
    sun = ephemeris.sun_position(39.742476, -105.1786, 1830.14, moment, pressure_mbar=820, temperature_c=11)
    assert 90 - sun.apparent_altitude_deg == pytest.approx(50.11162, abs=0.003)
    assert sun.azimuth_deg == pytest.approx(194.34024, abs=0.003)


def test_refraction_at_the_horizon():
    # Any almanac: about 34' at an apparent altitude of zero, which is an airless -0.57°; nothing overhead.
    assert ephemeris.refraction_deg(-0.57) == pytest.approx(34 / 60, abs=0.03)
    assert ephemeris.refraction_deg(90) == pytest.approx(0, abs=0.001)
    assert ephemeris.refraction_deg(-5) == 0
    assert ephemeris.refraction_deg(np.array([45.0])) == pytest.approx(1 / 60, abs=0.001)


@pytest.mark.parametrize(
    ("latitude", "longitude"), [(54.55, -3.1), (68.2, 13.7), (-45.1, -72.2), (0, 0), (-70, 160), (80, -100)]
)
def test_sun_and_moon_agree_with_another_library(latitude, longitude):
    # ephem (VSOP87 and a truncated ELP) is good to about 0.01° for both.
    observer = ephem.Observer()
    observer.lat, observer.lon, observer.pressure, observer.elevation = str(latitude), str(longitude), 0, 100
    times = [datetime(2026, month, 11, hour, 17, tzinfo=UTC) for month in range(1, 13) for hour in (1, 9, 18)]
    for body, judge in ((ephemeris.sun_position, ephem.Sun()), (ephemeris.moon_position, ephem.Moon())):
        ours = body(latitude, longitude, 100, times)
        for index, moment in enumerate(times):
            observer.date = moment.replace(tzinfo=None)
            judge.compute(observer)
            assert ours.altitude_deg[index] == pytest.approx(math.degrees(judge.alt), abs=0.01)
            turn = (ours.azimuth_deg[index] - math.degrees(judge.az) + 180) % 360 - 180
            assert abs(turn) * math.cos(judge.alt) < 0.01


def test_the_sun_stands_in_the_north_south_of_the_tropics():
    # A fact of the trade: at 45° S the midday sun is in the north.
    noon = datetime(2026, 11, 29, 16, 40, tzinfo=UTC)
    assert (
        min(ephemeris.sun_position(-45.1, -72.2, 640, noon).azimuth_deg, 20) <= 20
        or ephemeris.sun_position(-45.1, -72.2, 640, noon).azimuth_deg >= 340
    )


def test_shapes_and_kinds_of_times():
    start = np.datetime64("2026-06-21T00:00:00")
    grid = start + np.arange(6).reshape(2, 3) * np.timedelta64(1, "h")
    result = ephemeris.sun_position(54, -3, 0, grid)
    assert result.altitude_deg.shape == (2, 3)
    one = ephemeris.sun_position(54, -3, 0, datetime(2026, 6, 21, 4, tzinfo=UTC))
    assert isinstance(one.altitude_deg, float)
    assert one.altitude_deg == pytest.approx(result.altitude_deg[1, 1], abs=1e-9)


@pytest.mark.parametrize(
    ("place", "field"),
    [
        ((91, 0, 0), "latitude_deg"),
        ((0, 181, 0), "longitude_deg"),
        ((0, 0, 9999), "elevation_m"),
        ((math.nan, 0, 0), "latitude_deg"),
    ],
)
def test_impossible_places_are_refused(place, field):
    with pytest.raises(InputError) as caught:
        ephemeris.sun_position(*place, datetime(2026, 1, 1, tzinfo=UTC))
    assert caught.value.field == field


def test_times_without_a_zone_or_outside_the_ephemeris_are_refused():
    with pytest.raises(InputError):
        unix_seconds(datetime(2026, 1, 1))
    with pytest.raises(InputError):
        unix_seconds(datetime(2300, 1, 1, tzinfo=UTC))
    with pytest.raises(InputError):
        zone_info("Europe/Atlantis")


def test_leap_seconds_count():
    # 2016-12-31 had a leap second (IERS bulletin C 52): a UTC day before and after is 86400 counted seconds all the
    # same, and the sun's hour angle must not jump by more than the second itself (0.004°).
    times = [datetime(2016, 12, 31, 12, tzinfo=UTC), datetime(2017, 1, 1, 12, tzinfo=UTC)]
    before, after = ephemeris.sun_position(0, 0, 0, times).azimuth_deg
    assert abs(after - before) < 0.5


def test_track_follows_the_exact_positions():
    start, end = datetime(2026, 3, 20, tzinfo=UTC), datetime(2026, 3, 21, tzinfo=UTC)
    for latitude in (-80, 0, 54.55, 89):
        track = sun_track(latitude, 10, 0, start, end)
        seconds = np.linspace(track.start_s, track.end_s, 37) + 0.0
        exact = ephemeris.sun_position(latitude, 10, 0, seconds)
        assert track.altitude_deg(seconds) == pytest.approx(exact.altitude_deg, abs=1e-4)
        turn = (track.azimuth_deg(seconds) - exact.azimuth_deg + 180) % 360 - 180
        assert np.max(np.abs(turn) * np.cos(np.radians(exact.altitude_deg))) < 1e-4


@pytest.mark.parametrize(("day", "hours"), [((2026, 3, 29), 23), ((2026, 10, 25), 25), ((2026, 6, 1), 24)])
def test_local_days_of_clock_changes(day, hours):
    # The dates on which British clocks change in 2026: last Sundays of March and October.
    start, end = local_day(datetime(*day).date(), "Europe/London")
    assert (end - start) == timedelta(hours=hours)
