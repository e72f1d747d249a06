"""Kinds of light through a day, what rules one out, and the season."""

from datetime import UTC, date, datetime, timedelta

import pytest

from lucid_ridge.core.light.ephemeris import sun_position
from lucid_ridge.core.light.kinds import LightKind
from lucid_ridge.core.light.season import in_season, intersect, lasting
from lucid_ridge.core.light.skyline import skyline_of
from lucid_ridge.core.light.sought import Scene
from lucid_ridge.core.light.windows import find_windows, wanted_spans
from lucid_ridge.core.spans.instants import local_day
from lucid_ridge.core.spans.intervals import Interval
from lucid_ridge.core.tides.table import TideTable
from lucid_ridge.standins.tide import tide_at

PLACE = (54.55, -3.1, 0.0)
START, END = local_day(date(2026, 11, 24), "Europe/London")


def _scene(**more):
    return Scene(
        **{"latitude_deg": 54.55, "longitude_deg": -3.1, "elevation_m": 0.0, "start_utc": START, "end_utc": END, **more}
    )


def _by_kind(windows):
    return {name: [window for window in windows if window.kind == name] for name in LightKind}


def test_a_view_to_the_south_has_side_light_at_both_ends_of_a_november_day():
    # A fact of the trade: rise in the south-east, set in the south-west; looking north-west both... the sun
    # stands 50° off south.
    kinds = _by_kind(find_windows(_scene(bearing_deg=250.0))[0])
    morning, evening = kinds["low_side_light"], kinds["low_back_light"]
    assert morning[0].span.start_utc.hour in (7, 8)
    assert evening[-1].span.end_utc.hour in (15, 16)
    for window in morning:
        sun = sun_position(*PLACE, window.span.start_utc + (window.span.end_utc - window.span.start_utc) / 2)
        assert 45 <= abs((sun.azimuth_deg - 250 + 180) % 360 - 180) <= 135
        assert window.sun_altitude_deg[1] <= 12.01


def test_blue_hour_and_glow_come_twice_and_touch():
    kinds = _by_kind(find_windows(_scene())[0])
    assert len(kinds["blue_hour"]) == len(kinds["glow"]) == 2
    morning_blue, morning_glow = (
        min(kinds[name], key=lambda window: window.span.start_utc) for name in ("blue_hour", "glow")
    )
    assert abs((morning_blue.span.end_utc - morning_glow.span.start_utc).total_seconds()) < 1


def test_without_a_bearing_no_light_has_a_side():
    windows, out = find_windows(_scene())
    assert not {"low_side_light", "low_back_light"} & {item.kind for item in (*windows, *out)}


def test_the_wanted_kind_comes_first_and_reasons_name_what_is_missing():
    windows, out = find_windows(_scene(bearing_deg=0.0), "blue_hour")
    assert windows[0].kind == "blue_hour"
    assert windows[0].wanted
    reasons = {item.kind: item.reason for item in out}
    # Looking north in November the sun never stands in front of the camera.
    assert "low_back_light" in reasons
    assert "in front of the camera" in reasons["low_back_light"]


def test_open_shade_needs_land_before_the_sun():
    flat = {item.kind: item.reason for item in find_windows(_scene())[1]}
    assert "the land keeps it off the subject" in flat["open_shade"]
    hollow = skyline_of([(0, 25.0)])
    windows = _by_kind(find_windows(_scene(skyline=hollow, subject_skyline=hollow))[0])
    assert windows["open_shade"]
    assert not windows["low_side_light"]


def test_the_subject_may_be_lit_while_the_viewpoint_lies_in_shade():
    hollow = skyline_of([(0, 25.0)])
    windows = _by_kind(find_windows(_scene(bearing_deg=250.0, skyline=hollow))[0])
    assert windows["low_side_light"]


def test_polar_summer_and_winter():
    # 68.2° N: no glow in June since the sun does not set; no low sun in December since it does not rise (facts of
    # the trade).
    for day, kind in ((date(2026, 6, 21), "glow"), (date(2026, 12, 21), "low_side_light")):
        start, end = local_day(day, "Europe/Oslo")
        _, out = find_windows(
            _scene(latitude_deg=68.2, longitude_deg=13.7, start_utc=start, end_utc=end, bearing_deg=270.0)
        )
        assert kind in {item.kind for item in out}
    start, end = local_day(date(2026, 6, 21), "Europe/Oslo")
    windows = _by_kind(
        find_windows(_scene(latitude_deg=68.2, longitude_deg=13.7, start_utc=start, end_utc=end, bearing_deg=270.0))[0]
    )
    assert sum((w.span.end_utc - w.span.start_utc).total_seconds() for w in windows["low_side_light"]) > 2 * 3600


def test_water_and_light_together():
    tide = tide_at("Sallow Bar")
    windows, out = find_windows(_scene(tide=tide, water_low_m=0.0, water_high_m=50.0), "blue_hour")
    assert windows[0].wanted
    assert (
        windows[0].wet_span == windows[0].span
        or abs((windows[0].wet_span.end_utc - windows[0].span.end_utc).total_seconds()) < 1
    )
    windows, out = find_windows(_scene(tide=tide, water_low_m=30.0, water_high_m=None), "blue_hour")
    assert not any(window.wanted for window in windows)
    assert "30.0" in next(item.reason for item in out if item.kind == "blue_hour")


def test_a_tide_table_that_ends_before_the_light_comes_says_so_and_no_height():
    noon = START.timestamp() + 12 * 3600
    short = TideTable("Bar", ((noon - 30 * 3600, 1.0), (noon - 24 * 3600, 4.0)))
    windows, out = find_windows(_scene(tide=short, water_low_m=0.0), "blue_hour")
    assert all(window.water_m is None and not window.wanted for window in windows)
    assert "the tide table does not reach it" in next(item.reason for item in out if item.kind == "blue_hour")


def test_dark_sky_waits_for_the_moon():
    # 24 November 2026 is a full moon (any almanac): up all night, no dark sky; at new moon, 9 December, there is.
    assert not _by_kind(find_windows(_scene())[0])["dark_sky"]
    start, end = local_day(date(2026, 12, 9), "Europe/London")
    assert _by_kind(find_windows(_scene(start_utc=start, end_utc=end))[0])["dark_sky"]


def test_a_season_is_the_sum_of_its_days():
    # Searched at once over three weeks and day by day, the same light must come out.
    scene = _scene(end_utc=START + timedelta(days=21), bearing_deg=250.0)
    at_once = wanted_spans(scene, "low_side_light")
    by_day = []
    for day in range(21):
        part = _scene(start_utc=START + timedelta(days=day), end_utc=START + timedelta(days=day + 1), bearing_deg=250.0)
        by_day += [window.span for window in find_windows(part)[0] if window.kind == "low_side_light"]
    assert len(at_once) == len(by_day) >= 21
    for one, other in zip(at_once, sorted(by_day, key=lambda span: span.start_utc), strict=True):
        assert abs((one.start_utc - other.start_utc).total_seconds()) < 1
        assert abs((one.end_utc - other.end_utc).total_seconds()) < 1


def _span(start, end):
    return Interval(START + timedelta(hours=start), START + timedelta(hours=end), False, False)


def test_intersecting_spans():
    ours, theirs = [_span(0, 4), _span(6, 8), _span(9, 10)], [_span(1, 2), _span(3, 7), _span(8, 9)]
    assert [
        ((s.start_utc - START).total_seconds() / 3600, (s.end_utc - START).total_seconds() / 3600)
        for s in intersect(ours, theirs)
    ] == [
        (1, 2),
        (3, 4),
        (6, 7),
    ]
    assert intersect(ours, []) == []
    assert lasting(ours, 2 * 3600) == ours[:2]


@pytest.mark.parametrize(
    ("month", "day", "inside"),
    [(10, 20, False), (10, 21, True), (12, 31, True), (1, 1, True), (2, 3, True), (2, 4, False), (7, 1, False)],
)
def test_a_season_may_run_over_new_year(month, day, inside):
    assert in_season(datetime(2026, month, day, tzinfo=UTC), 10, 21, 2, 3) is inside
    assert in_season(datetime(2026, month, day, tzinfo=UTC), 2, 4, 10, 20) is not inside
