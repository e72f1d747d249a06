"""A recipe from a picture: streaks, speeds, and when the light comes again."""

from datetime import UTC, date, datetime

import ephem
import pytest

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.facts.place import Location
from lucid_ridge.core.learning.recipe import (
    SunThen,
    light_again,
    look_of_share,
    same_streak_s,
    speeds_of_look,
    streak_share_of,
    sun_then,
)

HERE = Location("Weir", 54.55, -3.10, 90, "Europe/London")


def test_a_streak_by_hand():
    # 24 mm, 4 m away: magnification 24/(4000 − 24) = 0.006036; 1 m/s in half a second draws 3.02 mm of 24 mm.
    assert streak_share_of(24, 4, 1.0, 0.5) == pytest.approx(0.1258, abs=0.0002)
    assert look_of_share(0.1258) == "textured"
    assert same_streak_s(0.1258, 0.2515) == pytest.approx(0.5, abs=0.001)


def test_what_a_picture_tells_of_its_water():
    low, high = speeds_of_look("textured", 24, 4, 0.5)
    # The band is 0.05 to 0.40 of the short side; half a second at 1 m/s draws 0.1258.
    assert low == pytest.approx(0.05 / 0.1258, rel=0.01)
    assert high == pytest.approx(0.40 / 0.1258, rel=0.01)


def test_what_has_no_answer_is_refused():
    with pytest.raises(InputError):
        speeds_of_look("dreamy", 24, 4, 1)
    for wrong in ((0.0, 1.0), (1.0, 0.0), (1.0, float("inf"))):
        with pytest.raises(InputError):
            same_streak_s(*wrong)
    with pytest.raises(InputError):
        streak_share_of(24, 0, 1, 1)


def test_the_sun_stood_where_another_almanac_has_it():
    moment = datetime(2026, 5, 1, 18, 30, tzinfo=UTC)
    place = ephem.Observer()
    place.lat, place.lon, place.elevation, place.pressure, place.date = "54.55", "-3.10", 90, 0, moment
    sun = ephem.Sun(place)
    found = sun_then(HERE, moment)
    # Ours is as it is seen: a tenth of a degree of refraction above that without air.
    assert found.altitude_deg == pytest.approx(float(sun.alt) * 57.29578, abs=0.2)
    assert found.azimuth_deg == pytest.approx(float(sun.az) * 57.29578, abs=0.05)


def test_the_same_light_comes_twice_a_year():
    # The sun has the same declination as on 1 May about ten weeks before and after the solstice: on 11 August.
    found = light_again(HERE, sun_then(HERE, datetime(2026, 5, 1, 18, 30, tzinfo=UTC)), date(2026, 1, 1), 365)
    assert len(found) == 2
    assert found[0].first <= date(2026, 5, 1) <= found[0].last
    assert found[1].first <= date(2026, 8, 11) <= found[1].last
    for span in found:
        again = sun_then(HERE, span.time_utc)
        assert again.altitude_deg == pytest.approx(
            sun_then(HERE, datetime(2026, 5, 1, 18, 30, tzinfo=UTC)).altitude_deg, abs=1.0
        )


def test_a_sun_that_never_stands_there_is_an_ordinary_answer():
    assert light_again(HERE, SunThen(80.0, 180.0), date(2026, 1, 1), 60) == ()
    # Polar night: nothing.
    assert light_again(Location("North", 78.0, 15.0, 0, "UTC"), SunThen(10.0, 180.0), date(2026, 12, 1), 30) == ()
