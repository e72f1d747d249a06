"""The galactic centre and its band, and nights in which they show, against ephem (its own star positions and galactic
coordinates) and hand calculations.
"""

import math
from dataclasses import replace
from datetime import UTC, date, datetime, timedelta

import ephem
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from sample_shot import FULL

from lucid_ridge.core.facts.shot import changed
from lucid_ridge.core.light.skyline import LEVEL, skyline_of
from lucid_ridge.core.light.sought import Scene, Sky
from lucid_ridge.core.light.stars import from_galactic, galactic_centre_track, galactic_line, star_horizontal_deg
from lucid_ridge.core.light.windows import find_windows, wanted_spans
from lucid_ridge.core.planning.plan.shot_plan import plan_shot
from lucid_ridge.core.spans.instants import unix_seconds
from lucid_ridge.core.spans.intervals import Interval

# 4 June 2027 is a new moon, 18 June 2027 a full one (any almanac); at 45° S the nights are long then.
SOUTH = {"latitude_deg": -45.1, "longitude_deg": -72.2, "elevation_m": 0.0}
NIGHT = datetime(2027, 6, 6, 4, 0, tzinfo=UTC)


def _by_ephem(latitude, longitude, moment, ra_deg, declination_deg):
    observer = ephem.Observer()
    observer.lat, observer.lon, observer.pressure, observer.date = (
        math.radians(latitude),
        math.radians(longitude),
        0,
        moment.replace(tzinfo=None),
    )
    body = ephem.FixedBody()
    body._ra, body._dec, body._epoch = math.radians(ra_deg), math.radians(declination_deg), ephem.J2000
    body.compute(observer)
    return math.degrees(body.alt), math.degrees(body.az)


@given(
    st.floats(-80, 80),
    st.floats(-180, 180),
    st.datetimes(datetime(2020, 1, 1), datetime(2045, 1, 1)),
    st.floats(0, 359.9),
    st.floats(-85, 85),
)
def test_stars_stand_where_ephem_has_them(latitude, longitude, naive, ra, declination):
    moment = naive.replace(tzinfo=UTC)
    altitude, azimuth = star_horizontal_deg(latitude, longitude, moment, ra, declination)
    high, where = _by_ephem(latitude, longitude, moment, ra, declination)
    # Aberration, a third of an arc minute, is left out here and counted there.
    assert float(altitude) == pytest.approx(high, abs=0.012)
    apart = abs((float(azimuth) - where + 180) % 360 - 180) * math.cos(math.radians(high))
    assert apart < 0.012


def test_galactic_coordinates_by_ephem():
    for longitude, latitude in ((0, 0), (90, 0), (180, 0), (266, -29), (33, 60), (122.93192, 27.12825)):
        ra, declination = from_galactic(longitude, latitude)
        other = ephem.Equatorial(ephem.Galactic(math.radians(longitude), math.radians(latitude), epoch=ephem.J2000))
        assert float(declination) == pytest.approx(math.degrees(other.dec), abs=1e-3)
        away = abs((float(ra) - math.degrees(other.ra) + 180) % 360 - 180) * math.cos(other.dec)
        assert away < 1e-3
    # As arrays.
    assert from_galactic([0, 90], [0, 0])[0].shape == (2,)


def test_the_centre_moves_as_ephem_says():
    place = (SOUTH["latitude_deg"], SOUTH["longitude_deg"], 0.0)
    track = galactic_centre_track(*place, NIGHT, NIGHT + timedelta(hours=6))
    for hours in (0, 2.5, 6):
        moment = NIGHT + timedelta(hours=hours)
        high, where = _by_ephem(*place[:2], moment, 266.41667, -29.00778)
        seconds = float(unix_seconds(moment))
        assert track.altitude_deg(seconds) == pytest.approx(high, abs=0.003)
        assert track.azimuth_deg(seconds) == pytest.approx(where, abs=0.01)
    # It culminates at 90° less the difference of latitude and declination: 90 − 16.1 = 73.9°.
    night = np.linspace(track.start_s - 8 * 3600, track.start_s + 8 * 3600, 2000)
    assert float(np.max(track.altitude_deg(night))) == pytest.approx(90 - (45.1 - 29.0), abs=0.15)


def test_the_band_goes_through_its_centre_and_around_the_sky():
    longitudes, altitude, azimuth = galactic_line(SOUTH["latitude_deg"], SOUTH["longitude_deg"], NIGHT)
    assert (longitudes[0], longitudes[-1]) == (-180, 180)
    track = galactic_centre_track(SOUTH["latitude_deg"], SOUTH["longitude_deg"], 0.0, NIGHT, NIGHT + timedelta(hours=1))
    middle = len(longitudes) // 2
    # The source at the centre lies within a tenth of a degree of longitude 0 (Reid and Brunthaler 2004).
    assert float(altitude[middle]) == pytest.approx(track.altitude_deg(float(unix_seconds(NIGHT))), abs=0.1)
    # A great circle: what stands opposite on it stands as deep as the other stands high.
    assert altitude[0] == pytest.approx(-altitude[middle], abs=1e-6)
    assert len(azimuth) == len(longitudes)


def _scene(start, days=2, **more):
    return Scene(**{**SOUTH, "start_utc": start, "end_utc": start + timedelta(days=days), **more})


def test_core_nights_need_dark_no_moon_and_no_land_before_it():
    new, full = datetime(2027, 6, 5, 16, 0, tzinfo=UTC), datetime(2027, 6, 18, 16, 0, tzinfo=UTC)
    spans = wanted_spans(_scene(new, 1), "galactic_core")
    assert len(spans) == 1
    # Through the night that ephem has between the sun 18° down twice, as the centre is up all night.
    observer = ephem.Observer()
    observer.lat, observer.lon, observer.pressure, observer.horizon = "-45.1", "-72.2", 0, "-18"
    observer.date = new.replace(tzinfo=None)
    dusk = observer.next_setting(ephem.Sun(), use_center=True).datetime().replace(tzinfo=UTC)
    dawn = observer.next_rising(ephem.Sun(), use_center=True).datetime().replace(tzinfo=UTC)
    assert abs((spans[0].start_utc - dusk).total_seconds()) < 30
    assert spans[0].end_utc <= dawn + timedelta(seconds=30)
    assert wanted_spans(_scene(full, 1), "galactic_core") == []
    walled = skyline_of([(0, 80), (180, 80)])
    assert wanted_spans(_scene(new, 1, skyline=walled), "galactic_core") == []


def test_light_summer_nights_are_as_dark_as_they_get():
    # At 54.55° N the sun sinks to 54.55 + 23.44 − 90 = −12.0° at the solstice: never −18°, and dark around midnight only.
    scene = Scene(
        54.55, -3.1, 0.0, datetime(2026, 5, 15, 12, tzinfo=UTC), datetime(2026, 5, 16, 12, tzinfo=UTC), skyline=LEVEL
    )
    sky = Sky(scene, np.array([float(unix_seconds(datetime(2026, 5, 16, 0, 12, tzinfo=UTC)))]))
    lowest = 54.55 + 19.0 - 90
    assert float(sky.dark_below_deg[0]) == pytest.approx(lowest + 1.0, abs=0.1)
    assert len(wanted_spans(scene, "dark_sky")) == 1
    june = replace(
        scene, start_utc=datetime(2026, 6, 14, 12, tzinfo=UTC), end_utc=datetime(2026, 6, 15, 12, tzinfo=UTC)
    )
    for span in wanted_spans(june, "dark_sky"):
        middle = span.start_utc + (span.end_utc - span.start_utc) / 2
        assert float(Sky(june, np.array([float(unix_seconds(middle))])).sun_altitude_deg[0]) < -11.99


def test_rare_kinds_are_listed_when_they_come_or_are_wanted():
    start = datetime(2026, 11, 24, tzinfo=UTC)
    scene = Scene(54.55, -3.1, 0.0, start, start + timedelta(days=1))
    rare = {"galactic_core", "lunar_eclipse", "solar_eclipse", "full_moon", "half_moon", "crescent_moon"}
    found, out = find_windows(scene)
    assert not rare & {item.kind for item in (*found, *out)}
    for kind in sorted(rare):
        wanted, ruled = find_windows(scene, kind)
        assert kind in {item.kind for item in (*wanted, *ruled)}


@pytest.mark.parametrize(
    ("kind", "moment"),
    [
        # Any almanac: new moon 9 December 2026, first quarter 17 December, full 24 December.
        ("crescent_moon", datetime(2026, 12, 12, 16, 30, tzinfo=UTC)),
        ("half_moon", datetime(2026, 12, 17, 19, 0, tzinfo=UTC)),
        ("full_moon", datetime(2026, 12, 24, 19, 0, tzinfo=UTC)),
    ],
)
def test_the_moon_by_its_phase(kind, moment):
    start = datetime(2026, 12, 1, tzinfo=UTC)
    scene = Scene(54.55, -3.1, 0.0, start, start + timedelta(days=29))
    spans = wanted_spans(scene, kind)
    assert any(span.start_utc <= moment <= span.end_utc for span in spans)
    for other in {"crescent_moon", "half_moon", "full_moon"} - {kind}:
        assert not any(_meet(one, two) for one in spans for two in wanted_spans(scene, other))


def _meet(one: Interval, two: Interval) -> bool:
    return one.start_utc < two.end_utc and two.start_utc < one.end_utc


def _at_night(**more):
    here = replace(FULL.location, latitude_deg=-45.1, longitude_deg=-72.2, zone="America/Santiago")
    return changed(
        FULL,
        **{
            "location": here,
            "date_local": date(2027, 6, 5),
            "time_utc": NIGHT,
            "wanted_light": "galactic_core",
            "metered_shutter_s": None,
            "near_m": 8.0,
            "f_number": 2.8,
            "iso": 6400.0,
            "filters": (),
            "camera_height_m": 1.5,
            "sharp_element_ids": frozenset(),
            "bearing_deg": 117.0,
            "pitch_deg": 60.0,
            **more,
        },
    )


def test_a_core_night_is_exposed_for_the_sky():
    wanted, any_light = plan_shot(_at_night()), plan_shot(_at_night(wanted_light=None))
    # The sky is 1 / 0.18 brighter than a mid-grey land, and lies two stops under the middle: 4.47 stops less.
    stops = math.log2(any_light.exposure.shutter_s / wanted.exposure.shutter_s)
    assert stops == pytest.approx(math.log2(1 / 0.18) + 2, abs=0.01)
    # From memory, common practice: 20 s at f/2.8 and ISO 6400 under a dark sky, give or take a stop.
    assert 10 < wanted.exposure.shutter_s < 40
    assert any(reason.code == "exposure.for_the_sky" for reason in wanted.exposure.reasons)


def test_the_frame_says_where_the_centre_is():
    inside = next(item for item in plan_shot(_at_night()).frame.reasons if item.code == "frame.galactic_centre")
    assert (inside.severity, inside.figures["inside"]) == ("holds", True)
    away = plan_shot(_at_night(bearing_deg=320.0, pitch_deg=0.0)).frame
    outside = next(item for item in away.reasons if item.code == "frame.galactic_centre")
    assert (outside.severity, outside.figures["inside"]) == ("tight", False)
    assert away.drawn is not None and away.drawn.galaxy is not None
    day = plan_shot(_at_night(time_utc=datetime(2027, 6, 5, 16, 0, tzinfo=UTC))).frame
    assert day.drawn is not None and day.drawn.galaxy is None
