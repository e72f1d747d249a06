"""Rise, set, twilight: against an independent library, and the traps of high latitudes."""

import itertools
from datetime import UTC, date, datetime, timedelta

import ephem
import numpy as np
import pytest

from lucid_ridge.core.light.day import BANDS_DEG, light_curve, light_day
from lucid_ridge.core.light.events import event_absence, sun_events, sun_intervals

DAY = timedelta(days=1)


def _judge(latitude, longitude, start, horizon, rising):
    observer = ephem.Observer()
    observer.lat, observer.lon, observer.pressure, observer.horizon = str(latitude), str(longitude), 0, horizon
    observer.date = start.replace(tzinfo=None)
    find = observer.next_rising if rising else observer.next_setting
    return find(ephem.Sun(), use_center=True).datetime().replace(tzinfo=UTC)


@pytest.mark.parametrize("latitude", [-55, -33, 0, 40, 54.55, 60])
@pytest.mark.parametrize(
    ("kind", "horizon", "rising"),
    [
        ("sunrise", "-0:50", True),
        ("sunset", "-0:50", False),
        ("civil_dawn", "-6", True),
        ("nautical_dusk", "-12", False),
    ],
)
def test_events_agree_with_another_library(latitude, kind, horizon, rising):
    # USNO definitions; ephem stands as judge. A whole year over more latitudes is in test_events_against_ephem.py.
    for month in range(1, 13):
        start = datetime(2026, month, 17, tzinfo=UTC)
        ours = [event.time_utc for event in sun_events(latitude, 10, 0, start, start + DAY) if event.kind == kind]
        if not ours:
            continue
        theirs = _judge(latitude, 10, start, horizon, rising)
        assert min(abs((moment - theirs).total_seconds()) for moment in ours) < 2


def test_summer_without_sunset_and_winter_without_sunrise_are_ordinary():
    # A fact of the trade: beyond the polar circle; 68.2° N in late June and late December.
    for day, cause in (
        (datetime(2026, 6, 21, tzinfo=UTC), "always_above"),
        (datetime(2026, 12, 21, tzinfo=UTC), "always_below"),
    ):
        kinds = {event.kind for event in sun_events(68.2, 13.7, 0, day, day + DAY)}
        assert "sunrise" not in kinds
        assert "sunset" not in kinds
        assert event_absence(68.2, 13.7, 0, day, day + DAY, "sun") == cause


def test_polar_day_for_one_level_is_not_polar_day_for_all():
    # At 54.55° N in June the sun sets, but there is no astronomical dusk (any almanac).
    day = datetime(2026, 6, 21, tzinfo=UTC)
    assert event_absence(54.55, -3.1, 0, day, day + DAY, "sun") is None
    assert event_absence(54.55, -3.1, 0, day, day + DAY, "astronomical") == "always_above"
    winter = datetime(2026, 12, 21, tzinfo=UTC)
    assert event_absence(68.2, 13.7, 0, winter, winter + DAY, "civil") is None


def test_short_nights_before_the_midnight_sun_are_found():
    # 69.6° N in mid May: each night shorter than the one before, the last of them about 41 min long (from memory).
    # ephem judges the times.
    for offset in range(12, 18):
        day = datetime(2026, 5, offset, 12, tzinfo=UTC)
        events = {event.kind: event.time_utc for event in sun_events(69.6, 18.9, 0, day, day + DAY)}
        assert abs((events["sunset"] - _judge(69.6, 18.9, day, "-0:50", False)).total_seconds()) < 2
        assert abs((events["sunrise"] - _judge(69.6, 18.9, day, "-0:50", True)).total_seconds()) < 2
    assert abs(events["sunrise"] - events["sunset"] - timedelta(minutes=41)) < timedelta(seconds=30)
    next_day = datetime(2026, 5, 19, 12, tzinfo=UTC)
    assert event_absence(69.6, 18.9, 0, next_day, next_day + DAY, "sun") == "always_above"


def test_a_local_day_can_hold_two_of_a_kind():
    # Where clocks run ahead of the sun near the polar circle (20° W on UTC, a fact of Icelandic almanacs) sunset falls
    # after midnight in June and comes earlier each day: once it passes midnight, and that day holds one at each end.
    found = 0
    for offset in range(120):
        start = datetime(2026, 5, 1, tzinfo=UTC) + offset * DAY
        kinds = [event.kind for event in sun_events(65.4, -20.0, 0, start, start + DAY)]
        found = max(found, kinds.count("sunset"), kinds.count("sunrise"))
    assert found == 2


def test_events_come_in_order_and_stand_at_their_altitude():
    start = datetime(2026, 9, 1, tzinfo=UTC)
    events = sun_events(54.55, -3.1, 0, start, start + DAY)
    assert [event.kind for event in events] == [
        "astronomical_dawn",
        "nautical_dawn",
        "civil_dawn",
        "sunrise",
        "transit",
        "sunset",
        "civil_dusk",
        "nautical_dusk",
        "astronomical_dusk",
    ]
    for event, altitude in zip(events, (-18, -12, -6, -0.8333, None, -0.8333, -6, -12, -18), strict=True):
        if altitude is not None:
            assert event.altitude_deg == pytest.approx(altitude, abs=0.001)
    assert events[4].azimuth_deg == pytest.approx(180, abs=0.01)


def test_transit_south_of_the_tropics_is_in_the_north():
    start = datetime(2026, 11, 29, tzinfo=UTC)
    transit = next(event for event in sun_events(-45.1, -72.2, 0, start, start + DAY) if event.kind == "transit")
    assert min(transit.azimuth_deg, 360 - transit.azimuth_deg) < 0.05
    assert transit.altitude_deg == pytest.approx(
        90 - (45.1 - 21.5), abs=0.3
    )  # declination -21.5° on that day, any almanac


def test_intervals_cover_the_day_without_gaps():
    start = datetime(2026, 11, 24, tzinfo=UTC)
    spans = sorted(
        (span.start_utc, span.end_utc)
        for low, high in BANDS_DEG.values()
        for span in sun_intervals(54.55, -3.1, 0, start, start + DAY, low, high)
    )
    assert spans[0][0] == start
    assert spans[-1][1] == start + DAY
    for (_, end), (begin, _) in itertools.pairwise(spans):
        assert abs((begin - end).total_seconds()) < 0.1


def test_light_falls_a_stop_in_a_quarter_of_an_hour_around_sunset():
    # Common practice: around sunrise and sunset about a stop in ten to fifteen minutes, while the sun is low but
    # still up.
    day = light_day(54.55, -3.1, 0, date(2026, 11, 24), "Europe/London")
    sunset = next(event for event in day.events if event.kind == "sunset")
    minutes = [
        -1 / day.light.drift_stops_per_minute(sunset.time_utc.timestamp() - 60 * before) for before in (5, 10, 15, 20)
    ]
    assert 10 <= np.mean(minutes) <= 20
    # After sunset it goes faster, and fastest at the end of civil twilight.
    assert -1 / day.light.drift_stops_per_minute(sunset.time_utc.timestamp() + 1800) < 6


def test_curve_runs_minute_by_minute():
    start = datetime(2026, 6, 21, tzinfo=UTC)
    curve = light_curve(68.2, 13.7, 0, start, start + DAY)
    assert len(curve.time_s) == 1441
    assert curve.time_s[1] == 60
    assert np.isfinite(curve.ev100).all()
    assert (curve.altitude_deg > 0).all()


def test_every_instant_of_a_day_has_a_band():
    # Also the very instants at which one band gives way to the next.
    for latitude, zone in ((54.5, "Europe/London"), (68.2, "Europe/Oslo"), (78.2, "Arctic/Longyearbyen")):
        day = light_day(latitude, 10.0, 0.0, date(2026, 3, 20), zone)
        edges = [edge for band in day.bands for edge in (band.span.start_utc, band.span.end_utc)]
        for moment in edges:
            for near in (-0.002, 0.0, 0.002):
                at = moment + timedelta(seconds=near)
                if day.start_utc <= at <= day.end_utc:
                    assert day.band_at(at) is not None
        for band in day.bands:
            assert day.band_at(band.span.start_utc).kind == band.kind
            assert day.band_at(band.span.start_utc + (band.span.end_utc - band.span.start_utc) / 2).kind == band.kind
        assert day.band_at(day.start_utc - timedelta(seconds=1)) is None
