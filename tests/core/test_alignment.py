"""Alignments against a brute force of another way of computing, and against facts of the sky."""

import math
from datetime import UTC, datetime, timedelta

import ephem
import numpy as np
import pytest

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.light.alignment import Touch, Wanted, find_alignments, seen_element, touching_element
from lucid_ridge.core.light.ephemeris import moon_position, sun_position
from lucid_ridge.core.light.skyline import skyline_of

START = datetime(2026, 1, 1, tzinfo=UTC)
YEAR = START + timedelta(days=365)
PLACE = (54.5, -3.1, 10.0)


@pytest.mark.parametrize("body", ["sun", "moon"])
@pytest.mark.parametrize("place", [PLACE, (68.2, 13.7, 0.0), (-45.1, -72.2, 640.0), (2.0, 100.0, 0.0)])
def test_the_same_minutes_as_a_brute_force(body, place):
    # Skyfield asked for every minute of five days; ours works on splines and root finding.
    wanted = Wanted(body, 134, 2.0, low_deg=0, high_deg=12, above_skyline=False)
    minutes = START.timestamp() + 60.0 * np.arange(5 * 1440)
    position = (sun_position if body == "sun" else moon_position)(*place, minutes)
    theirs = (
        (np.abs((position.azimuth_deg - 134 + 180) % 360 - 180) <= 2)
        & (position.apparent_altitude_deg >= 0)
        & (position.apparent_altitude_deg <= 12)
    )
    ours = np.zeros_like(theirs)
    for hit in find_alignments(*place, START, START + timedelta(days=5), wanted):
        ours |= (minutes >= hit.start_utc.timestamp()) & (minutes <= hit.end_utc.timestamp())
    # A minute that lies within a second of an edge may fall to either side.
    assert np.count_nonzero(ours != theirs) <= 1


def test_sunrise_due_east_at_the_equinoxes():
    # A fact of the sky: only around the equinoxes does the sun rise due east, twice a year.
    hits = find_alignments(*PLACE, START, YEAR, Wanted("sun", 90, 1.0, low_deg=-0.5, high_deg=1.0))
    days = {hit.best_utc.date() for hit in hits}
    assert all(day.month in (3, 9) and 16 <= day.day <= 27 for day in days)
    assert {day.month for day in days} == {3, 9}


def test_midsummer_sunset_stands_furthest_north():
    # sin(declination)/cos(latitude) gives the furthest bearing of sunset: 360 - acos(0.3978/0.5807) = 313.2°, a little
    # more with refraction. Beyond it the sun never sets.
    assert find_alignments(*PLACE, START, YEAR, Wanted("sun", 320, 1.0, low_deg=-0.3, high_deg=0.5)) == []
    assert {
        hit.best_utc.month
        for hit in find_alignments(*PLACE, START, YEAR, Wanted("sun", 314, 1.0, low_deg=-0.3, high_deg=0.5))
    } <= {
        6,
        7,
    }


def test_a_full_moon_rises_opposite_the_setting_sun():
    # A fact of the trade: at full moon, moonrise and sunset come together; so a full moon low in the east has the
    # sun near the horizon.
    hits = find_alignments(*PLACE, START, YEAR, Wanted("moon", 90, 60, low_deg=0, high_deg=1.5, fraction_low=0.98))
    assert 10 <= len(hits) <= 60
    assert all(abs(hit.sun_altitude_deg) < 16 for hit in hits)
    assert all(hit.fraction >= 0.98 - 1e-6 for hit in hits)
    assert all(0.48 < hit.disc_deg < 0.57 for hit in hits)


def test_the_light_wanted_bounds_the_hits():
    wanted = Wanted("moon", 180, 90, low_deg=2, high_deg=20, sun_low_deg=-12, sun_high_deg=-4)
    hits = find_alignments(*PLACE, START, START + timedelta(days=60), wanted)
    assert hits
    for hit in hits:
        for moment in (hit.start_utc, hit.end_utc):
            assert -12.01 < sun_position(*PLACE, moment).altitude_deg < -3.99


def test_a_skyline_delays_a_hit_to_where_the_body_shows():
    level = find_alignments(*PLACE, START, START + timedelta(days=30), Wanted("sun", 135, 20, high_deg=20))
    behind = find_alignments(
        *PLACE, START, START + timedelta(days=30), Wanted("sun", 135, 20, high_deg=20), skyline_of([(0, 5.0)])
    )
    assert len(level) == len(behind) == 30
    assert all(late.start_utc > early.start_utc for early, late in zip(level, behind, strict=True))


def test_behind_an_element_the_disc_touches_it():
    # A tower 8 m wide and 30 m high at 800 m: half a disc (0.265°) beyond its half width of 0.286°, from below
    # its foot to its top (2.04°).
    (wanted,) = touching_element("sun", seen_element(232.0, 800, 8, 30, 0, 1.5))
    assert wanted.tolerance_deg == pytest.approx(0.286 + 0.265, abs=0.002)
    assert wanted.high_deg == pytest.approx(2.04 + 0.265, abs=0.01)
    hits = find_alignments(*PLACE, START, YEAR, wanted)
    assert hits
    assert all(hit.off_bearing_deg <= wanted.tolerance_deg + 1e-6 for hit in hits)


def test_narrow_tolerances_do_not_fall_between_the_samples():
    # The sun crosses 0.02° of bearing in some five seconds; it does so every day at noon.
    hits = find_alignments(*PLACE, START, START + timedelta(days=50), Wanted("sun", 180, 0.01))
    assert len(hits) == 50
    assert all((hit.end_utc - hit.start_utc).total_seconds() < 10 for hit in hits)


@pytest.mark.parametrize(
    "change",
    [
        {"body": "venus"},
        {"tolerance_deg": 0},
        {"tolerance_deg": 181},
        {"low_deg": 5, "high_deg": 4},
        {"fraction_low": 0.9, "fraction_high": 0.1},
    ],
)
def test_impossible_wishes_are_refused(change):
    with pytest.raises(InputError):
        Wanted(**{"body": "sun", "bearing_deg": 90, "tolerance_deg": 1, **change})


def test_more_than_three_years_are_refused():
    with pytest.raises(InputError, match="three years"):
        find_alignments(*PLACE, START, START + timedelta(days=1200), Wanted("sun", 90, 1))


def _brute_force(place, wanted_disc, year=2026):
    """Minute by minute through a year with another library's sun: whether the disc touches the outline and its upper
    limb is over the horizon.
    """
    bearing, half_width, bottom, top = wanted_disc
    seconds = np.arange(
        datetime(year, 1, 1, tzinfo=UTC).timestamp(), datetime(year + 1, 1, 1, tzinfo=UTC).timestamp(), 60.0
    )
    altitude, azimuth = sun_by_meeus(place[0], place[1], seconds)
    off = np.abs((azimuth - bearing + 180) % 360 - 180)
    apparent = altitude + refraction_of(altitude)
    over = altitude > -50 / 60
    return seconds, (off <= half_width + 0.265) & (apparent >= bottom - 0.265) & (apparent <= top + 0.265) & over


def sun_by_meeus(latitude_deg, longitude_deg, seconds):
    """The sun's airless altitude and azimuth to 0.01°.

    Meeus, Astronomical Algorithms, chapters 12, 13, 22 and 25 (low accuracy).
    """
    days = (seconds - 946_728_000.0) / 86400.0
    t = (days + 69.2 / 86400) / 36525
    mean_longitude, anomaly = 280.46646 + 36000.76983 * t, np.radians(357.52911 + 35999.05029 * t)
    centre = (
        (1.914602 - 0.004817 * t) * np.sin(anomaly) + 0.019993 * np.sin(2 * anomaly) + 0.000289 * np.sin(3 * anomaly)
    )
    node = np.radians(125.04 - 1934.136 * t)
    longitude = np.radians(mean_longitude + centre - 0.00569 - 0.00478 * np.sin(node))
    tilt = np.radians(23.439291 - 0.0130042 * t + 0.00256 * np.cos(node))
    ascension = np.arctan2(np.cos(tilt) * np.sin(longitude), np.cos(longitude))
    declination = np.arcsin(np.sin(tilt) * np.sin(longitude))
    hour_angle = np.radians(280.46061837 + 360.98564736629 * days + longitude_deg) - ascension
    latitude = np.radians(latitude_deg)
    altitude = np.arcsin(
        np.sin(latitude) * np.sin(declination) + np.cos(latitude) * np.cos(declination) * np.cos(hour_angle)
    )
    azimuth = np.arctan2(
        np.sin(hour_angle), np.cos(hour_angle) * np.sin(latitude) - np.tan(declination) * np.cos(latitude)
    )
    return np.degrees(altitude), (np.degrees(azimuth) + 180) % 360


def refraction_of(airless_deg):
    """Saemundsson's formula (Meeus, chapter 16), 1010 mbar and 10 °C, in degrees."""
    inside = np.maximum(airless_deg, -1.0)
    return 1.02 / (60 * np.tan(np.radians(inside + 10.3 / (inside + 5.11))))


@pytest.mark.parametrize(
    ("element", "eye"),
    [
        # Mooring posts of 1.4 m, 7 m away, from a camera a foot above the bank: the sun stands behind them up to 8.6°.
        ((235.0, 7.0, 4.0, 1.4, 0.0), 0.34),
        # From the height of the eye the tops lie below the horizon: no sun can stand behind them.
        ((235.0, 7.0, 4.0, 1.4, 0.0), 1.9),
        # A tower of 30 m at 25 km: 42.7 m of drop leave its top under the horizon as seen from 1.5 m.
        ((232.0, 25_000.0, 8.0, 30.0, 0.0), 1.5),
        ((232.0, 25_000.0, 80.0, 300.0, 0.0), 1.5),
        # On a terrace 20 m up, with the camera on the ground.
        ((120.0, 300.0, 6.0, 9.0, 20.0), 0.1),
    ],
)
def test_a_year_behind_an_element_against_brute_force(element, eye):
    bearing, distance, width, height, base = element
    drop = distance**2 / (2 * 6_371_008.8) * 0.87
    bottom, top = (math.degrees(math.atan2(level - drop - eye, distance)) for level in (base, base + height))
    seconds, inside = _brute_force(PLACE, (bearing, math.degrees(math.atan2(width / 2, distance)), bottom, top))
    start, end = datetime(2026, 1, 1, tzinfo=UTC), datetime(2027, 1, 1, tzinfo=UTC)
    (wanted,) = touching_element("sun", seen_element(*element, eye))
    hits = find_alignments(*PLACE, start, end, wanted)
    mine = np.zeros(len(seconds), dtype=bool)
    for hit in hits:
        mine |= (seconds >= hit.start_utc.timestamp()) & (seconds <= hit.end_utc.timestamp())
        # Nothing is promised while the sun is down.
        assert hit.apparent_altitude_deg > -0.3
    # They differ only at the ends of a span, by a minute of the grid and a hundredth of a degree between the libraries.
    ends = np.flatnonzero(np.diff(inside.astype(int)) != 0)
    differing = np.flatnonzero(mine != inside)
    assert len(differing) <= 0.06 * max(1, inside.sum()) + 4
    if len(ends):
        assert all(np.abs(ends - index).min() <= 4 for index in differing)
    else:
        assert not hits
    if height == 1.4 and eye == 0.34:
        assert 100 < len(hits) < 250


def test_near_the_zenith_no_hit_is_missed():
    # At 10° N the sun passes overhead in April and August. Every four seconds through the year by Meeus: due east
    # within a degree, over 80°.
    place = (10.0, 20.0, 0.0)
    found = find_alignments(*place, START, YEAR, Wanted("sun", 135.0, 1.0, low_deg=80.0, high_deg=90.0))
    seconds = np.arange(START.timestamp(), YEAR.timestamp(), 4.0)
    seconds = seconds[(seconds % 86400 > 9.5 * 3600) & (seconds % 86400 < 12 * 3600)]
    altitude, azimuth = sun_by_meeus(place[0], place[1], seconds)
    there = (np.abs((azimuth - 135 + 180) % 360 - 180) <= 1.0) & (altitude >= 80)
    starts = seconds[there & ~np.concatenate(([False], there[:-1] & (np.diff(seconds) < 5)))]
    assert len(starts) > 20
    for start in starts:
        assert any(abs(hit.start_utc.timestamp() - start) < 60 for hit in found), datetime.fromtimestamp(start, UTC)
    assert min((hit.end_utc - hit.start_utc).total_seconds() for hit in found) < 60


TOWER = seen_element(232.0, 800, 8, 30, 0, 1.5)


def test_upon_an_element_the_disc_rests_on_its_top():
    (wanted,) = touching_element("sun", TOWER, Touch.UPON)
    # The top stands at atan(28.5/800) = 2.04°; the centre half a disc (0.265°) over it, within a quarter of the disc.
    assert (wanted.low_deg + wanted.high_deg) / 2 == pytest.approx(2.04 + 0.265, abs=0.01)
    assert wanted.high_deg - wanted.low_deg == pytest.approx(0.26, abs=0.01)
    hits = find_alignments(*PLACE, START, YEAR, wanted)
    assert hits
    assert all(abs(hit.apparent_altitude_deg - 2.305) < 0.16 for hit in hits)


def test_beside_an_element_with_a_gap():
    left, right = touching_element("moon", TOWER, Touch.BESIDE, gap_deg=1.0)
    # From either edge of the tower (0.286°) the gap and half the disc, as an angle in the sky.
    assert (left.bearing_deg, left.beside_deg) == (pytest.approx(232 - 0.286, abs=0.01), pytest.approx(-1.265))
    assert (right.bearing_deg, right.beside_deg) == (pytest.approx(232 + 0.286, abs=0.01), pytest.approx(1.265))
    with pytest.raises(InputError, match="gap"):
        touching_element("moon", TOWER, Touch.BESIDE, gap_deg=31)


@pytest.mark.parametrize("gap", [0.5, 1.0, 4.0])
def test_a_gap_high_in_the_sky_is_a_gap_in_the_sky(gap):
    """A spire whose top stands 60° up: the separation of the sun's centre from the edge beside it, by ephem, is the
    gap and half a disc; in azimuth it is twice that.
    """
    spire = seen_element(150.0, 10.0, 0.05, 17.3, 0.0, 0.0)
    right = touching_element("sun", spire, Touch.BESIDE, gap_deg=gap)[1]
    place = (40.0, 0.0, 0.0)
    hits = [
        hit
        for hit in find_alignments(*place, datetime(2026, 4, 1, tzinfo=UTC), datetime(2026, 9, 1, tzinfo=UTC), right)
        if hit.apparent_altitude_deg > 55
    ]
    assert hits
    observer = ephem.Observer()
    observer.lat, observer.lon, observer.pressure = "40", "0", 0
    for hit in hits:
        observer.date = ephem.Date(hit.best_utc.replace(tzinfo=None))
        sun = ephem.Sun(observer)
        edge = math.radians(right.bearing_deg)
        apart = math.degrees(ephem.separation((sun.az, sun.alt), (edge, sun.alt)))
        assert apart == pytest.approx(gap + 0.265, abs=0.15)
        turned = math.degrees(sun.az) - right.bearing_deg
        assert turned > 1.6 * apart


def test_behind_is_what_is_meant_where_nothing_is_said():
    assert touching_element("sun", TOWER) == touching_element("sun", TOWER, Touch.BEHIND)
