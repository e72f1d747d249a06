"""The moon's phase and light."""

import math
from datetime import UTC, datetime, timedelta

import astronomy
import numpy as np
import pytest

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.light.ephemeris import apparent_of_date_km
from lucid_ridge.core.light.moon import moon_illuminance_lux, moon_phase, phase_words
from lucid_ridge.core.spans.instants import unix_seconds


def _longitude_latitude(body, moment):
    x, y, z = apparent_of_date_km(body, np.atleast_1d(unix_seconds(moment)))[0][0]
    obliquity = np.radians(23.440636)
    y, z = y * np.cos(obliquity) + z * np.sin(obliquity), z * np.cos(obliquity) - y * np.sin(obliquity)
    return np.degrees(np.arctan2(y, x)) % 360, np.degrees(np.arctan2(z, np.hypot(x, y))), np.sqrt(x * x + y * y + z * z)


def test_meeus_moon_example():
    # Meeus, Astronomical Algorithms, 2nd ed., example 47.a: 1992 April 12, 0h TD (UTC is 59.2 s behind): apparent
    # longitude 133.167265°, latitude -3.229126°, distance 368409.7 km; true obliquity 23.440636°. His series are good
    # to 10" and 4".
    moment = datetime(1992, 4, 12, tzinfo=UTC) - timedelta(seconds=59.2)
    longitude, latitude, distance = _longitude_latitude("moon", moment)
    assert longitude == pytest.approx(133.167265, abs=10 / 3600)
    assert latitude == pytest.approx(-3.229126, abs=4 / 3600)
    assert distance == pytest.approx(368409.7, abs=5)


def test_meeus_sun_example():
    # Meeus, example 25.b: 1992 October 13, 0h TD: apparent longitude 199°54'21.818", latitude +0.721", distance
    # 0.99760775 au; true obliquity 23°26'24.83" (from memory, as are the last digits).
    moment = datetime(1992, 10, 13, tzinfo=UTC) - timedelta(seconds=59.2)
    (x, y, z) = apparent_of_date_km("sun", np.atleast_1d(unix_seconds(moment)))[0][0]
    obliquity = np.radians(23 + 26 / 60 + 24.83 / 3600)
    longitude = np.degrees(np.arctan2(y * np.cos(obliquity) + z * np.sin(obliquity), x)) % 360
    assert longitude == pytest.approx(199 + 54 / 60 + 21.818 / 3600, abs=1.0 / 3600)
    assert np.sqrt(x * x + y * y + z * z) / 149_597_870.7 == pytest.approx(0.99760775, abs=2e-6)


def test_meeus_illuminated_fraction():
    # Meeus, example 48.a: 1992 April 12, 0h TD: phase angle 69.0756°, lit fraction 0.6786.
    phase = moon_phase(datetime(1992, 4, 12, tzinfo=UTC) - timedelta(seconds=59.2))
    assert phase.phase_angle_deg == pytest.approx(69.0756, abs=0.01)
    assert phase.fraction == pytest.approx(0.6786, abs=0.0002)
    # The example's apparent right ascensions and declinations as longitudes, and their difference.
    moon, sun = (_longitude_deg(*place) for place in ((134.6885, 13.7684), (20.6579, 8.6964)))
    assert phase.elongation_deg == pytest.approx(moon - sun, abs=0.01)


def _longitude_deg(right_ascension_deg, declination_deg, obliquity_deg=23.440636):
    turn, height, tilt = (math.radians(value) for value in (right_ascension_deg, declination_deg, obliquity_deg))
    return (
        math.degrees(math.atan2(math.sin(turn) * math.cos(tilt) + math.tan(height) * math.sin(tilt), math.cos(turn)))
        % 360
    )


def test_phases_against_another_library():
    # astronomy-engine gives the moments of the quarters; there the elongation must be 0, 90, 180, 270.
    quarter = astronomy.SearchMoonQuarter(astronomy.Time.Make(2026, 1, 1, 0, 0, 0))
    for _ in range(9):
        moment = quarter.time.Utc().replace(tzinfo=UTC)
        off = (moon_phase(moment).elongation_deg - 90 * quarter.quarter + 180) % 360 - 180
        assert abs(off) < 0.01
        assert (
            phase_words(90.0 * quarter.quarter)
            == ("new moon", "first quarter", "full moon", "last quarter")[quarter.quarter]
        )
        quarter = astronomy.NextMoonQuarter(quarter)


def test_elongation_runs_on_through_new_and_full_moon():
    """Against another library's difference of ecliptic longitudes, every three hours of two months; the moon's
    latitude plays no part.
    """
    moments = [datetime(2026, 11, 1, tzinfo=UTC) + timedelta(hours=3 * step) for step in range(480)]
    found = moon_phase(moments).elongation_deg
    wanted = [
        astronomy.MoonPhase(astronomy.Time.Make(item.year, item.month, item.day, item.hour, 0, 0)) for item in moments
    ]
    off = (found - np.array(wanted) + 180) % 360 - 180
    assert np.abs(off).max() < 0.01
    steps = np.diff(found) % 360
    assert steps.min() > 1.2 and steps.max() < 2.0
    # Full for about a day, as people say it, not for half of one.
    assert sum(phase_words(angle) == "full moon" for angle in found[:236]) * 3 == pytest.approx(24, abs=4)


def test_phase_words_wrap_around():
    assert [phase_words(angle) for angle in (0, 359, 30, 90, 120, 181, 225, 268, 300)] == [
        "new moon",
        "new moon",
        "waxing crescent",
        "first quarter",
        "waxing gibbous",
        "full moon",
        "waning gibbous",
        "last quarter",
        "waning crescent",
    ]
    # Any almanac: full on 24 November 2026.
    full = moon_phase(datetime(2026, 11, 24, 14, 54, tzinfo=UTC))
    assert phase_words(float(full.elongation_deg)) == "full moon"


def test_light_of_the_moon():
    # Handbook figures: a full moon high up gives 0.1 to 0.3 lux, a quarter moon about a tenth of the full moon's light.
    full = moon_illuminance_lux(60, 0)
    assert 0.1 < full < 0.4
    assert full / moon_illuminance_lux(60, 90) == pytest.approx(10, rel=0.25)
    # Nearer by a tenth is brighter by the square of it.
    assert moon_illuminance_lux(60, 0, 346_000) / full == pytest.approx((384.4 / 346) ** 2, rel=1e-3)
    assert moon_illuminance_lux(-2, 0) == 0


def test_light_of_the_moon_in_arrays_and_at_the_edges():
    light = moon_illuminance_lux(np.array([[-90.0, -0.8, 5.0], [20.0, 90.0, np.nan]]), 30.0)
    assert light.shape == (2, 3)
    assert light[0, 0] == 0
    assert (np.diff(light.ravel()[:5]) >= 0).all()
    assert np.isnan(light[1, 2])
    for arguments in ((91, 0), (0, -1), (0, 181), (10, 10, 0)):
        with pytest.raises(InputError):
            moon_illuminance_lux(*arguments)


@pytest.mark.parametrize("joint_deg", [5.0, 20.0])
def test_the_segments_of_moonlight_meet(joint_deg):
    # Worked by hand from the published coefficients: at 5° the two polynomials give log10 lux -1.996 and -2.002, at
    # 20° -1.239 and -1.240 (Janiczek and DeYoung 1987), so the light has no step there of more than 2 %.
    below, above = moon_illuminance_lux(np.array([joint_deg - 1e-6, joint_deg + 1e-6]), 0.0)
    assert above == pytest.approx(below, rel=0.02)
    assert math.log10(above) == pytest.approx({5.0: -2.0, 20.0: -1.24}[joint_deg], abs=0.01)
