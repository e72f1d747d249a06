"""Skylines: written, read, and hiding the sun."""

from datetime import UTC, date, datetime, timedelta

import ephem
import numpy as np
import pytest

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.light.day import light_day
from lucid_ridge.core.light.events import sun_events
from lucid_ridge.core.light.skyline import (
    LEVEL,
    clearance_deg,
    horizon_dip_deg,
    lowered_horizon,
    needed_altitude_deg,
    parse_skyline,
    shows,
    skyline_of,
)
from lucid_ridge.core.light.sought import Scene
from lucid_ridge.core.light.track import sun_track
from lucid_ridge.core.light.windows import find_windows

PLACE = (54.55, -3.1, 0.0)
DAY = datetime(2026, 11, 24, tzinfo=UTC)
TRACK = sun_track(*PLACE, DAY, DAY + timedelta(days=1))


def test_between_two_points_it_is_straight_and_wraps_around_north():
    skyline = skyline_of([(350, 10), (10, 20), (180, 0)])
    assert skyline.altitude_deg(0) == pytest.approx(15)
    assert skyline.altitude_deg(360) == pytest.approx(15)
    assert skyline.altitude_deg(-5) == pytest.approx(12.5)
    assert skyline.altitude_deg(np.array([[95.0], [265.0]])) == pytest.approx(np.array([[10.0], [5.0]]))
    assert LEVEL.altitude_deg(77) == 0
    assert skyline_of([(40, 7)]).altitude_deg(200) == 7


def test_reading_what_was_typed_or_pasted():
    text = "bearing;altitude\n# from the cairn\n 0 ; 4.5\n90°, 12°\n180\t−0.5\n\n270 3 # col\n"
    assert parse_skyline(text) == skyline_of([(0, 4.5), (90, 12), (180, -0.5), (270, 3)])


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "at least one"),
        ("90", "Line 1"),
        ("90 north", "Line 1"),
        ("0 1\n0 2", "twice"),
        ("10 95", "outside"),
        ("900 5", "outside 0 to 360"),
        ("1 2 3", "Line 1"),
        ("10 nan", "finite"),
    ],
)
def test_what_cannot_be_read_is_named(text, words):
    with pytest.raises(InputError) as caught:
        parse_skyline(text)
    assert caught.value.field == "skyline"
    assert words in caught.value.message


def test_too_many_points_are_refused():
    with pytest.raises(InputError, match="at most"):
        skyline_of([(index / 8, 1) for index in range(1441)])


def test_a_level_skyline_is_the_almanac():
    # By definition of the US Naval Observatory the upper limb stands on a level horizon at an airless -50'.
    assert needed_altitude_deg(0.0) == pytest.approx(-50 / 60)
    spans = shows(TRACK, LEVEL)
    rise, fall = (
        event.time_utc
        for event in sun_events(*PLACE, DAY, DAY + timedelta(days=1))
        if event.kind in ("sunrise", "sunset")
    )
    assert len(spans) == 1
    assert abs((spans[0].start_utc - rise).total_seconds()) < 0.5
    assert abs((spans[0].end_utc - fall).total_seconds()) < 0.5


def test_refraction_over_a_skyline():
    # Bennett 1982: 34.5' at 0°, 9.9' at 5°, 5.3' at 10° apparent altitude (tables of refraction agree to 0.1').
    for apparent, minutes in ((5, 9.9), (10, 5.3)):
        lift = apparent - 16 / 60 - needed_altitude_deg(float(apparent))
        assert lift * 60 == pytest.approx(minutes, abs=0.2)
    assert needed_altitude_deg(89.0) == pytest.approx(89 - 16 / 60, abs=0.001)


def test_a_wall_delays_the_sun_by_the_time_it_takes_to_climb():
    # A wall of 6° all around: the sun must climb to 6° less its own radius and the refraction there (8.5').
    spans = shows(TRACK, skyline_of([(0, 6.0)]))
    height = TRACK.altitude_deg(spans[0].start_utc.timestamp())
    assert height == pytest.approx(6 - 16 / 60 - 8.5 / 60, abs=0.01)


def test_a_notch_lets_the_sun_through_once_more():
    # A hollow whose rim is 20° high but for a notch in the south-west: in November the sun (15° high at noon)
    # shows only there.
    rim = skyline_of([(0, 20), (214, 20), (215, 2), (225, 2), (226, 20)])
    spans = shows(TRACK, rim)
    assert len(spans) == 1
    azimuths = [TRACK.azimuth_deg(moment.timestamp()) for moment in (spans[0].start_utc, spans[0].end_utc)]
    assert 213.9 < azimuths[0] < azimuths[1] < 226.1


def test_a_day_behind_a_high_rim_has_no_sun_but_light():
    day = light_day(*PLACE, DAY.date(), "Europe/London", skyline_of([(0, 30)]))
    assert day.sun_shows == ()
    assert [event.kind for event in day.events].count("sunrise") == 1


def test_clearance_keeps_the_callers_shape():
    seconds = np.full((2, 3), TRACK.start_s + 43200)
    assert np.shape(clearance_deg(TRACK, LEVEL, seconds)) == (2, 3)


@pytest.mark.parametrize(("height_m", "dip"), [(0.0, 0.0), (100.0, 17.6 / 60), (900.0, 0.88)])
def test_the_dip_of_the_horizon(height_m, dip):
    # 1.76' times the root of the height in metres (table of dip in nautical almanacs): 0.88° from 900 m.
    assert horizon_dip_deg(height_m) == pytest.approx(dip, abs=1e-9)
    assert lowered_horizon(height_m).dip_deg == pytest.approx(dip)
    with pytest.raises(InputError):
        horizon_dip_deg(-1.0)


@pytest.mark.parametrize("latitude", [54.5, 20.0, -45.1, 68.2])
def test_sunrise_over_the_sea_from_a_height(latitude):
    """Against ephem with its horizon lowered by the dip and the almanac's 34' of refraction: from 900 m the sun rises
    some minutes earlier.
    """
    day = date(2026, 4, 10)
    low = light_day(latitude, -3.1, 0.0, day, "UTC", lowered_horizon(900.0))
    level = light_day(latitude, -3.1, 0.0, day, "UTC")
    observer = ephem.Observer()
    observer.lat, observer.lon, observer.pressure, observer.horizon = str(latitude), "-3.1", 0, f"-{0.88 + 34 / 60}"
    observer.date = "2026/4/10 00:00:00"
    theirs = observer.next_rising(ephem.Sun()).datetime().replace(tzinfo=UTC)
    rises = {
        name: next(event.time_utc for event in found.events if event.kind == "sunrise")
        for name, found in (("low", low), ("level", level))
    }
    assert abs((rises["low"] - theirs).total_seconds()) < 30
    assert timedelta(minutes=3) < rises["level"] - rises["low"] < timedelta(minutes=15)
    # The sun shows from then on, and low light begins: one rule for all.
    assert abs((low.sun_shows[0].start_utc - rises["low"]).total_seconds()) < 30
    scene = Scene(
        latitude_deg=latitude,
        longitude_deg=-3.1,
        elevation_m=0.0,
        start_utc=low.start_utc,
        end_utc=low.end_utc,
        bearing_deg=180.0,
        skyline=lowered_horizon(900.0),
        subject_skyline=lowered_horizon(900.0),
    )
    light = [
        window
        for window in find_windows(scene)[0]
        if window.kind in ("low_side_light", "low_back_light", "low_front_light")
    ]
    assert abs((min(window.span.start_utc for window in light) - rises["low"]).total_seconds()) < 60
    # A typed skyline goes before it: land 2° up, and no dip.
    assert skyline_of([(0, 2.0), (180, 2.0)]).dip_deg == 0.0
