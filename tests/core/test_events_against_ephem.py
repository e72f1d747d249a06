"""A year of rise, set and twilight over the latitudes, judged by libraries with theories of their own (not our
ephemeris).

The rule for grazing: an event's time is only as sharp as the body crosses its level steeply. For the sun (ephem,
VSOP87) 2 s become 0.0004 degrees divided by the rate at which its altitude changes, where that is less than 0.72
degrees an hour. For the moon (astronomy-engine, a truncated theory good to some 5 arc seconds) it is 0.0017 degrees, so
that 2 s hold above 3 degrees an hour.
"""

import math
from datetime import UTC, datetime, timedelta

import astronomy
import ephem
import pytest

from lucid_ridge.core.light.events import moon_absence, moon_events, sun_events
from lucid_ridge.core.light.track import body_track

START = datetime(2026, 1, 1, tzinfo=UTC)
END = START + timedelta(days=365)
LATITUDES = (-70, -55, -33, 0, 23.4, 40, 54.55, 60, 65, 69.6, 75, 80)
SHARP_S, SUN_DEG, MOON_DEG = 2.0, 0.0004, 0.0017
SUN_LEVELS = {
    "sunrise": "-0:50",
    "sunset": "-0:50",
    "civil_dawn": "-6",
    "civil_dusk": "-6",
    "nautical_dawn": "-12",
    "nautical_dusk": "-12",
    "astronomical_dawn": "-18",
    "astronomical_dusk": "-18",
}


def _sun_by_ephem(latitude, event):
    observer = ephem.Observer()
    observer.lat, observer.lon, observer.pressure, observer.horizon = str(latitude), "10", 0, SUN_LEVELS[event.kind]
    # Shortly before, so that the next one is the one meant.
    observer.date = (event.time_utc - timedelta(minutes=25)).replace(tzinfo=None)
    find = observer.next_rising if event.kind.endswith(("rise", "dawn")) else observer.next_setting
    return find(ephem.Sun(), use_center=True).datetime().replace(tzinfo=UTC)


def _moon_by_astronomy_engine(latitude, event):
    before = event.time_utc - timedelta(minutes=25)
    start = astronomy.Time.Make(
        before.year, before.month, before.day, before.hour, before.minute, before.second + before.microsecond / 1e6
    )
    direction = astronomy.Direction.Rise if event.kind == "moonrise" else astronomy.Direction.Set
    found = astronomy.SearchRiseSet(astronomy.Body.Moon, astronomy.Observer(latitude, 10, 0), direction, start, 2)
    return found.Utc().replace(tzinfo=UTC)


def _tolerance_s(track, moment, place_deg):
    seconds = moment.timestamp()
    before, after = track.altitude_deg([seconds - 30.0, seconds + 30.0])
    rate = abs(after - before) / 60
    return max(SHARP_S, place_deg / rate if rate else math.inf)


@pytest.mark.parametrize("latitude", LATITUDES)
def test_a_year_of_the_sun(latitude):
    track = body_track("sun", latitude, 10, 0, START, END)
    events = [event for event in sun_events(latitude, 10, 0, START, END) if event.kind in SUN_LEVELS][::7]
    sharp = 0
    for event in events:
        slack = _tolerance_s(track, event.time_utc, SUN_DEG)
        sharp += slack == SHARP_S
        try:
            apart = abs((_sun_by_ephem(latitude, event) - event.time_utc).total_seconds())
        except (ephem.AlwaysUpError, ephem.NeverUpError):
            assert slack > SHARP_S, f"ephem knows no {event.kind} on {event.time_utc} at {latitude}"
            continue
        # Where it grazes, ephem may step over a pair of crossings minutes apart; it never may where it is sharp.
        assert apart < slack or (slack > SHARP_S and apart > 3600), (
            f"{event.kind} on {event.time_utc} at {latitude}: {apart:.1f} s apart"
        )
    assert len(events) > (300 if abs(latitude) < 54 else 80)
    assert sharp > (0.97 if abs(latitude) < 76 else 0.9) * len(events)


@pytest.mark.parametrize("latitude", LATITUDES[::2])
def test_a_year_of_the_moon(latitude):
    # Upper limb and 34' of refraction for both; parallax in both.
    track = body_track("moon", latitude, 10, 0, START, END)
    events = [event for event in moon_events(latitude, 10, 0, START, END) if event.kind != "moon_transit"][::14]
    for event in events:
        slack = _tolerance_s(track, event.time_utc, MOON_DEG)
        apart = abs((_moon_by_astronomy_engine(latitude, event) - event.time_utc).total_seconds())
        assert apart < slack, f"{event.kind} on {event.time_utc} at {latitude}: {apart:.1f} s apart"
    assert len(events) >= 20


def test_one_lunar_day_a_month_has_no_moonrise():
    # A fact of almanacs: moonrise comes some 50 min later each day, so that about once a month a day has none. It is
    # "not in this window", not "always below".
    days = [START + timedelta(days=number) for number in range(59)]
    without = [
        day
        for day in days
        if not any(event.kind == "moonrise" for event in moon_events(40, 0, 0, day, day + timedelta(days=1)))
    ]
    assert len(without) == 2
    for day in without:
        assert moon_absence(40, 0, 0, day, day + timedelta(days=1)) is None


def test_the_moon_stays_up_and_down_near_the_pole():
    # At 80° N the moon's declination (up to 28°) keeps it up for days and down for days each month (any almanac).
    causes = {
        moon_absence(80, 10, 0, START + timedelta(days=day), START + timedelta(days=day + 1)) for day in range(28)
    }
    assert causes == {"always_above", "always_below", None}


def test_across_the_date_line():
    # Taveuni lies on the 180th meridian: a degree either side is the same sky, 8 min of sun time apart (4 min a
    # degree).
    day = START + timedelta(days=90)
    east = [event for event in sun_events(-16.8, 179.0, 0, day, day + timedelta(days=1)) if event.kind == "sunrise"]
    west = [event for event in sun_events(-16.8, -179.0, 0, day, day + timedelta(days=1)) if event.kind == "sunrise"]
    assert len(east) == len(west) == 1
    assert (east[0].time_utc - west[0].time_utc).total_seconds() == pytest.approx(8 * 60, abs=5)
