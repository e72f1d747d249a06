"""How much light reaches a place: sun, moon, skyline, cloud, against other libraries and facts of the trade."""

import math
from datetime import UTC, date, datetime

import ephem
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pvlib import atmosphere, clearsky
from sunlight import sunlight

from lucid_ridge.core.exposure.ev import ev100_from_illuminance, ev100_from_luminance
from lucid_ridge.core.exposure.fading import fading_exposure_s, steady_exposure_s
from lucid_ridge.core.light.clear_sky import beam_efficacy_lm_w, beam_irradiance_w_m2, beam_share
from lucid_ridge.core.light.day import light_day
from lucid_ridge.core.light.illuminance import cloud_factor_kasten1980, sun_illuminance_lux
from lucid_ridge.core.light.light_at_place import NIGHT_LUX, illumination
from lucid_ridge.core.light.skyline import skyline_of

FELL = (54.5, -3.0, 100.0)


def _day(day, skyline=None, zone="Europe/London"):
    return light_day(*FELL, day, zone, skyline) if skyline else light_day(*FELL, day, zone)


def _seconds(*moment):
    return datetime(*moment, tzinfo=UTC).timestamp()


def test_the_beam_is_pvlibs():
    # pvlib 0.16, clearsky.ineichen at sea level and a Linke turbidity of 3, air mass by Kasten and Young 1989.
    apparent = np.array([0.5, 1.0, 3.0, 6.06, 10.0, 25.0, 60.0, 90.0])
    air = atmosphere.get_relative_airmass(90 - apparent, "kastenyoung1989")
    judge = clearsky.ineichen(90 - apparent, air, linke_turbidity=3.0, altitude=0, dni_extra=1367.0)["dni"]
    assert beam_irradiance_w_m2(apparent) == pytest.approx(judge, abs=1.0)
    assert beam_irradiance_w_m2(-0.1) == 0


def test_a_wall_in_the_last_golden_light():
    # 231 W/m² at 5.9 degrees (pvlib) at about 95 lm/W (Perez and others 1990) are 22,000 lux on a wall that faces the
    # sun; limewashed (reflectance 0.85) it stands near EV 15.9 with its skylight, not at 14.2 without any sun.
    light = sunlight(5.9, 270)
    assert light.beam_lux == pytest.approx(22_000, rel=0.03)
    wall = np.array([-1.0, 0.0, 0.0])
    lux = float(light.irradiance_lux(wall)) + light.beam_lux * float(wall @ light.beam_from)
    assert float(ev100_from_luminance(0.85 * lux / math.pi)) == pytest.approx(15.9, abs=0.25)


def test_the_whole_light_stays_that_of_the_almanac():
    altitudes = np.linspace(-17.9, 90, 500)
    found = illumination(altitudes)
    assert found.level_lux == pytest.approx(np.asarray(sun_illuminance_lux(altitudes)), rel=2e-3)
    assert (found.sun_sky_lux >= 0).all()
    # The beam grows with the sun, from nothing at the horizon.
    square = found.sun_beam_lux / np.sin(np.radians(np.maximum(altitudes, 0.3)))
    assert (np.diff(square[altitudes > 0.5]) > -0.02 * square.max()).all()
    assert float(illumination(-0.7).sun_beam_lux) == pytest.approx(0, abs=1e-9)


def test_shade_is_some_stops_under_the_sun():
    # Common practice: open shade under a clear sky and a high sun is two to three stops under sunlight; EV 15 in full
    # sun. With the sun down all light is sky light.
    high, low = illumination(60.0), illumination(-3.0)
    assert 2 <= math.log2(high.level_lux / high.sun_sky_lux) <= 3.2
    assert float(ev100_from_illuminance(high.level_lux)) == pytest.approx(15, abs=0.5)
    assert low.sun_beam_lux == 0
    # Diffuse horizontal light of a clear sky by pvlib (45 degrees: 92 W/m²) at 130 lm/W is 12,000 lux.
    assert float(illumination(45.0).sun_sky_lux) == pytest.approx(12_000, rel=0.05)


def test_cloud_takes_the_beam_and_scatters_it():
    # Kasten and Czeplak 1980: a quarter of the light is left under eight oktas, all of it from the sky.
    for altitude in (3.0, 40.0):
        clear, covered = illumination(altitude), illumination(altitude, cloud_oktas=8)
        assert covered.level_lux == pytest.approx(clear.level_lux / 4)
        assert covered.sun_beam_lux == 0
        # Behind the land it is as light as in front of it then: the whole sky shines.
        assert illumination(altitude, cloud_oktas=8, sun_free=0).level_lux == pytest.approx(covered.level_lux)
    assert float(illumination(20.0, cloud_oktas=4).level_lux) == pytest.approx(
        float(illumination(20.0).level_lux) * float(cloud_factor_kasten1980(4))
    )


def test_moonlight_is_daylight_many_stops_down():
    # Full moon against sun: a factor of 402,000 or 18.6 stops (magnitudes -12.73 and -26.74; Krisciunas and Schaefer
    # 1991), in the same geometry; the two altitude curves agree within a third of a stop.
    for altitude in (20.0, 52.0, 80.0):
        by_moon, by_sun = illumination(-40.0, altitude), illumination(altitude)
        moon = by_moon.moon_beam_lux + by_moon.moon_sky_lux
        assert math.log2(float(by_sun.level_lux / moon)) == pytest.approx(18.6, abs=0.4)
        assert float(by_moon.moon_beam_lux / moon) == pytest.approx(float(beam_share(altitude)), rel=1e-3)
    # By day it adds nothing; over a moonless night some eight stops.
    assert math.log2(float(illumination(20.0, 30.0).level_lux / illumination(20.0).level_lux)) < 1e-4
    assert 6 < math.log2(float(illumination(-40.0, 52.0).level_lux / NIGHT_LUX)) < 10
    # A moon behind the land leaves the glow of its sky.
    hidden = illumination(-40.0, 20.0, moon_free=0.0)
    assert hidden.moon_beam_lux == 0
    assert hidden.moon_sky_lux > 0


def test_the_last_of_the_disc_over_a_rim():
    # The disc is 32 minutes wide: while it sinks behind a rim the beam goes with its visible area, half of it with the
    # centre on the rim.
    rim = skyline_of([[0, 20], [180, 20]])
    light = _day(date(2027, 6, 10), rim).light
    minutes = _seconds(2027, 6, 10, 17, 50) + np.arange(0, 30 * 60, 5.0)
    free = np.asarray(light.illumination(minutes).sun_beam_lux) / np.asarray(
        _day(date(2027, 6, 10)).light.illumination(minutes).sun_beam_lux
    )
    assert free[0] == pytest.approx(1)
    assert free[-1] == 0
    assert (np.diff(free) <= 1e-9).all()
    apparent = np.array([_apparent_deg(second) for second in minutes])
    half = minutes[int(np.argmin(np.abs(free - 0.5)))]
    assert apparent[minutes == half] == pytest.approx([20.0], abs=0.03)


def _apparent_deg(second, body=ephem.Sun):
    place = ephem.Observer()
    place.lat, place.lon, place.elevation, place.pressure, place.temp = "54.5", "-3.0", 100, 1010, 10
    place.date = datetime.fromtimestamp(float(second), UTC).replace(tzinfo=None)
    return math.degrees(body(place).alt)


def _airless_deg(second, body=ephem.Sun):
    place = ephem.Observer()
    place.lat, place.lon, place.elevation, place.pressure = "54.5", "-3.0", 100, 0
    place.date = datetime.fromtimestamp(float(second), UTC).replace(tzinfo=None)
    return math.degrees(body(place).alt)


def test_a_moonlit_dusk_by_hand():
    # 2027-01-22: full moon (ephem); at a sun of -9.9 degrees the twilight gives some 0.1 lux and the moon about as much.
    start = _seconds(2027, 1, 22, 17, 40)
    light = _day(date(2027, 1, 22)).light
    seconds = start + np.arange(0, 3600, 300.0)
    sun = np.array([_airless_deg(second) for second in seconds])
    moon = np.array([_airless_deg(second, ephem.Moon) for second in seconds])
    place = ephem.Observer()
    place.date = "2027/1/22 18:00"
    body = ephem.Moon(place)
    assert body.phase > 99
    expected = np.asarray(sun_illuminance_lux(sun)) + np.asarray(illumination(-90.0, moon).level_lux) - NIGHT_LUX
    # Distance and the few degrees of phase angle are left out by hand: within a quarter of a stop.
    assert np.abs(np.log2(np.asarray(light.lux(seconds)) / expected)).max() < 0.35
    # It does not fall to nothing: over the hour by less than two stops, where the sun alone would take six.
    lost = math.log2(float(light.lux(seconds[0]) / light.lux(seconds[-1])))
    alone = math.log2(float(sun_illuminance_lux(sun[0]) / sun_illuminance_lux(sun[-1])))
    assert lost < 2 < alone


@given(
    st.floats(-70, 70), st.floats(-179, 179), st.dates(date(2024, 1, 1), date(2030, 12, 31)), st.floats(0, 24),
    st.lists(st.tuples(st.integers(0, 359), st.floats(-1, 40)), min_size=1, max_size=5, unique_by=lambda one: one[0]),
    st.floats(0, 8), st.floats(4, 900), st.sampled_from([None, 1.1, 1.31, 1.45]),
)  # fmt: skip
@settings(max_examples=60, deadline=None)
def test_any_exposure_gathers_what_was_asked(latitude, longitude, day, hour, land, oktas, wanted, film):
    """A midpoint sum over two thousand steps, developed at the rate of each instant, is the judge."""
    light = light_day(latitude, longitude, 0.0, day, "UTC", skyline_of(land)).light
    start = datetime(day.year, day.month, day.day, tzinfo=UTC).timestamp() + hour * 3600

    def lux(after_s):
        return np.asarray(light.lux(start + after_s, oktas))

    found = fading_exposure_s(wanted, lux, film_exponent=film)
    if math.isinf(found) or found > 6 * 3600:
        return
    middles = (np.arange(2000) + 0.5) / 2000 * found
    needed = wanted / (lux(middles) / lux(np.zeros(1)))
    needed = needed if film is None else np.where(needed > 1, needed**film, needed)
    assert math.log2(float((found / 2000 / needed).sum())) == pytest.approx(0, abs=0.05)
    assert steady_exposure_s(found, lux, film) == pytest.approx(wanted, rel=0.04)


def test_a_night_without_a_moon_is_long_and_not_fading():
    assert fading_exposure_s(8 * 3600, lambda seconds: np.full_like(seconds, 0.001)) == pytest.approx(
        8 * 3600, rel=1e-6
    )


def test_lumens_of_a_watt_of_sunlight():
    assert float(beam_efficacy_lm_w(5)) == 95
    assert 104 < float(beam_efficacy_lm_w(60)) < 105
