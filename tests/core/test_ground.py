"""Distances, bearings and walks."""

import math
from datetime import UTC, datetime, timedelta

import gpxpy.geo
import numpy as np
import pytest

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.facts.place import Approach
from lucid_ridge.core.ground.geodesy import bearing_deg, distance_m, east_north_m, offset
from lucid_ridge.core.ground.walk import TERRAIN_FACTORS, naismith_h, tobler_speed_km_per_h, walk_along
from lucid_ridge.core.planning.way.arrival import plan_arrival


def test_a_degree_of_latitude_is_sixty_nautical_miles():
    # By the old definition a minute of latitude is a nautical mile, 1852 m (any handbook of navigation), to 0.2 %
    # on the sphere.
    assert distance_m(54, -3, 55, -3) == pytest.approx(60 * 1852, rel=0.002)
    assert distance_m(0, 179.5, 0, -179.5) == pytest.approx(60 * 1852, rel=0.002)
    assert bearing_deg(0, 179.5, 0, -179.5) == pytest.approx(90)
    assert bearing_deg(54, -3, 53, -3) == pytest.approx(180)


def test_distance_against_another_library():
    # gpxpy's own haversine uses the equatorial radius (6378.137 km): 0.11 % longer than the mean one.
    for place in ((54.5, -3.2), (-45, -72), (68.2, 13.7)):
        theirs = gpxpy.geo.haversine_distance(*place, place[0] + 0.01, place[1] + 0.02)
        assert distance_m(*place, place[0] + 0.01, place[1] + 0.02) == pytest.approx(
            theirs * 6371.0088 / 6378.137, rel=1e-6
        )


@pytest.mark.parametrize("bearing", [0, 37, 90, 179.9, 233, 359])
@pytest.mark.parametrize("along_m", [1.0, 250.0, 40_000.0])
def test_there_and_back(bearing, along_m):
    for latitude, longitude in ((54.531, -3.214), (-45.1, 179.9999), (0, 0)):
        there = offset(latitude, longitude, bearing, along_m)
        assert distance_m(latitude, longitude, *there) == pytest.approx(along_m, rel=1e-6)
        assert abs((bearing_deg(latitude, longitude, *there) - bearing + 180) % 360 - 180) < 1e-3
    east, north = east_north_m(*offset(54.5, -3.2, bearing, 300.0), 54.5, -3.2)
    assert (east, north) == (
        pytest.approx(300 * math.sin(math.radians(bearing)), abs=0.05),
        pytest.approx(300 * math.cos(math.radians(bearing)), abs=0.05),
    )


def test_shapes_and_refusals():
    assert np.shape(distance_m(np.zeros((2, 3)), 0, 1, 0)) == (2, 3)
    with pytest.raises(InputError):
        distance_m(math.nan, 0, 1, 0)
    with pytest.raises(InputError):
        offset(0, 0, 0, -1)


def test_naismith():
    # Naismith 1892, in round metric figures: an hour for 5 km, another for 600 m of ascent.
    assert naismith_h(10_000, 600) == pytest.approx(3.0)
    assert naismith_h(np.array([0, 5000]), 0) == pytest.approx([0, 1])
    with pytest.raises(InputError):
        naismith_h(-1, 0)


def test_tobler():
    # Tobler 1993: 6 km/h at a slope of -0.05, about 5 km/h on the flat, the same speed at slopes equally far from
    # -0.05.
    assert tobler_speed_km_per_h(-0.05) == pytest.approx(6.0)
    assert tobler_speed_km_per_h(0.0) == pytest.approx(5.04, abs=0.01)
    assert tobler_speed_km_per_h(0.15) == pytest.approx(tobler_speed_km_per_h(-0.25))


def test_a_walk_along_a_track():
    # A kilometre north climbing 100 m, and back down.
    step = 1000 / 111_195 / 10
    up = [(54.0 + step * index, -3.0, 10.0 * index) for index in range(11)]
    walk = walk_along(up + up[-2::-1])
    assert walk.length_m == pytest.approx(2000, rel=1e-3)
    # Averaging over a hundred metres takes 2.5 m off a summit as sharp as this one.
    assert (walk.ascent_m, walk.descent_m) == (pytest.approx(97.5, abs=0.1), pytest.approx(97.5, abs=0.1))
    assert walk.naismith_h == pytest.approx(2 / 5 + 97.5 / 600, rel=1e-3)
    # Tobler: up at a slope of 0.1 (3.55 km/h), down at -0.1 (5.04 km/h).
    assert walk.tobler_h == pytest.approx(1 / (6 * math.exp(-0.525)) + 1 / (6 * math.exp(-0.175)), rel=0.01)


def test_noise_is_no_climb_and_missing_heights_are_missing():
    noisy = [(54.0 + index * 1e-4, -3.0, 100.0 + (-1) ** index) for index in range(50)]
    assert walk_along(noisy).ascent_m < 3
    bare = [(lat, lon, None) for lat, lon, _ in noisy]
    assert walk_along(bare).tobler_h is None
    assert walk_along(bare).ascent_m == 0
    assert walk_along([]).length_m == 0
    assert walk_along(noisy[:1]).naismith_h == 0


def _level(count, metres, height):
    """Points due north over so many metres, with heights by the distance walked."""
    return [(54.0 + along / 111_195, -3.0, height(along)) for along in np.linspace(0.0, metres, count)]


@pytest.mark.parametrize("count", [200, 800, 4000])
def test_a_level_track_with_a_receivers_noise_is_level(count):
    """Four kilometres with ±2 m of noise are 48 min by Naismith (5 km an hour) and 50 by Tobler (5.04 km an hour on
    the level less what slopes cost).
    """
    random = np.random.default_rng(4)
    walk = walk_along(_level(count, 4000.0, lambda _: 100.0 + random.uniform(-2, 2)))
    assert walk.ascent_m < 10
    assert 0.75 * 48 < walk.naismith_h * 60 < 1.25 * 50
    assert 0.75 * 48 < walk.tobler_h * 60 < 1.25 * 50


@pytest.mark.parametrize("length_m", [150.0, 400.0, 900.0])
def test_wandering_heights_are_no_climb(length_m):
    """A true climb of 15 m under heights that wander by ±4 m: less than 60 m."""
    walk = walk_along(
        _level(1000, 4000.0, lambda along: 15 * along / 4000 + 4 * math.sin(2 * math.pi * along / length_m))
    )
    assert walk.ascent_m < 60


def test_a_real_climb_is_counted():
    # Three hills of 60 m, 800 m from foot to foot, with noise: 180 m of climb.
    random = np.random.default_rng(5)
    walk = walk_along(
        _level(2400, 2400.0, lambda along: 30 * (1 - math.cos(2 * math.pi * along / 800)) + random.uniform(-2, 2))
    )
    assert walk.ascent_m == pytest.approx(180, rel=0.08)


def test_a_gap_between_segments_is_not_walked():
    one, other = _level(20, 1000.0, lambda _: 10.0), [(55.0 + step, -3.0, 210.0) for step in (0.0, 0.004, 0.008)]
    whole = walk_along([*one, *other], [len(one)])
    assert whole.length_m == pytest.approx(1000 + 0.008 * 111_195, rel=1e-3)
    assert whole.ascent_m == pytest.approx(0, abs=1e-6)
    # Without it somebody would have flown a hundred kilometres and two hundred metres up.
    assert walk_along([*one, *other]).length_m > 100_000


def test_when_to_leave():
    light = datetime(2026, 11, 24, 15, 30, tzinfo=UTC)
    arrival = plan_arrival(
        Approach(drive_min=40, walk_m=2500, ascent_m=100, terrain="rough", set_up_min=20, reserve_min=15), light
    )
    # 2.5 km and 100 m: half an hour and ten minutes, a third more on rough ground: 52 min.
    assert arrival.walk_min == pytest.approx(40 * TERRAIN_FACTORS["rough"])
    assert arrival.set_up_utc == light - timedelta(minutes=20)
    assert arrival.leave_home_utc == light - timedelta(minutes=20 + 52 + 40 + 15)
    assert plan_arrival(Approach(), light).leave_home_utc is None
    assert plan_arrival(Approach(), light).leave_car_utc == light - timedelta(minutes=20)


def test_a_walk_that_begins_downhill_has_its_climb_after_it():
    # 40 m down and 100 m up, 800 m of way each: smoothing rounds the foot off by a few metres.
    points = [(54.5 + at * 0.0009, -3.0, 140.0 - 5 * at if at <= 8 else 100.0 + 12.5 * (at - 8)) for at in range(17)]
    walk = walk_along(points)
    assert walk.descent_m == pytest.approx(40, abs=6)
    assert walk.ascent_m == pytest.approx(100, abs=6)
