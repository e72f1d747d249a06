"""Eclipses against astronomy-engine (a theory of its own) and published almanac times."""

from datetime import UTC, datetime, timedelta

import astronomy
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from sample_shot import FULL

from lucid_ridge.core.facts.shot import changed
from lucid_ridge.core.light.eclipses import covered_share, moon_lit_share, sun_covered_share, umbral_magnitude
from lucid_ridge.core.light.light_at_place import LightAtPlace
from lucid_ridge.core.light.skyline import LEVEL
from lucid_ridge.core.light.sought import Scene
from lucid_ridge.core.light.track import moon_track, sun_track
from lucid_ridge.core.light.windows import wanted_spans
from lucid_ridge.core.planning.light.plan import plan_light
from lucid_ridge.core.spans.instants import unix_seconds

PLACE = (54.55, -3.1, 200.0)
UTC_1970 = datetime(1970, 1, 1)


def _unix(time):
    return (time.Utc() - UTC_1970).total_seconds()


def _moment(seconds):
    return datetime.fromtimestamp(seconds, UTC)


def test_lunar_eclipses_of_six_years_against_astronomy_engine():
    start = datetime(2025, 1, 1, tzinfo=UTC)
    # A place near each moon would be needed for all of them: the umbra is the same everywhere.
    found, time = 0, astronomy.Time.Make(2025, 1, 1, 0, 0, 0)
    while True:
        other = astronomy.SearchLunarEclipse(time)
        peak = _unix(other.peak)
        if _moment(peak) > start + timedelta(days=6 * 365):
            break
        time = other.peak.AddDays(10)
        around = np.arange(peak - 7200, peak + 7200, 10.0)
        depth = umbral_magnitude(around)
        if other.kind == astronomy.EclipseKind.Penumbral:
            assert float(depth.max()) < 0.01
            continue
        found += 1
        half_min = (around[depth > 0][-1] - around[depth > 0][0]) / 120
        assert half_min == pytest.approx(other.sd_partial, abs=0.7)
        total_min = np.count_nonzero(depth >= 1) * 10 / 120
        assert total_min == pytest.approx(other.sd_total, abs=0.7)
        assert abs(float(around[np.argmax(depth)]) - peak) < 40
    assert found >= 6


def test_a_published_total_eclipse_of_the_moon():
    # 14 March 2025: umbral contacts 05:09, 06:26, 07:31, 08:48 UT, magnitude 1.18 (NASA's catalogue, from memory).
    def at(hour, minute):
        return float(umbral_magnitude(float(unix_seconds(datetime(2025, 3, 14, hour, minute, tzinfo=UTC)))))

    minute = 0.02
    assert at(5, 9) == pytest.approx(0, abs=1.5 * minute)
    assert at(6, 26) == pytest.approx(1, abs=minute)
    assert at(7, 31) == pytest.approx(1, abs=minute)
    assert at(8, 48) == pytest.approx(0, abs=1.5 * minute)
    assert at(6, 59) == pytest.approx(1.18, abs=0.01)


def test_solar_eclipses_at_the_place_against_astronomy_engine():
    time, observer, found = astronomy.Time.Make(2026, 1, 1, 0, 0, 0), astronomy.Observer(*PLACE), 0
    while found < 5:
        other = astronomy.SearchLocalSolarEclipse(time, observer)
        time, found, peak = other.peak.time.AddDays(10), found + 1, _unix(other.peak.time)
        scene = Scene(*PLACE, _moment(peak - 6 * 3600), _moment(peak + 6 * 3600), skyline=LEVEL)
        sun, moon = scene.sun, scene.moon
        here = float(sun_covered_share(sun, sun.horizontal(peak), moon, moon.horizontal(peak)))
        assert here == pytest.approx(other.obscuration, abs=0.003)
        spans = wanted_spans(scene, "solar_eclipse", 120.0)
        assert len(spans) == 1
        for mine, theirs in ((spans[0].start_utc, other.partial_begin), (spans[0].end_utc, other.partial_end)):
            # Below the horizon the window is cut where the sun rises or sets.
            if theirs.altitude > 0.5:
                assert abs(mine.timestamp() - _unix(theirs.time)) < 25
    assert found == 5


def test_the_deep_eclipse_of_august_2026_over_britain():
    # 12 August 2026: about 91 % of the disc at 54.5° N, 3° W, deepest about 18:13 UT (published maps, from memory).
    day = datetime(2026, 8, 12, tzinfo=UTC)
    tracks = [track(*PLACE, day, day + timedelta(days=1)) for track in (sun_track, moon_track)]
    seconds = float(unix_seconds(day)) + np.arange(17 * 3600, 20 * 3600, 20.0)
    share = sun_covered_share(tracks[0], tracks[0].horizontal(seconds), tracks[1], tracks[1].horizontal(seconds))
    assert float(share.max()) == pytest.approx(0.91, abs=0.01)
    # The light falls by as much as the disc: log2(1 / 0.09) = 3.5 stops, where a day later it falls by the sun alone.
    at = float(seconds[np.argmax(share)])
    eclipsed = LightAtPlace(*tracks, LEVEL)
    later = [track(*PLACE, day + timedelta(days=1), day + timedelta(days=2)) for track in (sun_track, moon_track)]
    lost = float(LightAtPlace(*later, LEVEL).ev100(at + 86_400)) - float(eclipsed.ev100(at))
    assert lost == pytest.approx(-np.log2(1 - float(share.max())), abs=0.15)


@given(st.floats(0.2, 0.3), st.floats(0.2, 0.3), st.floats(0.0, 0.7))
def test_the_covered_share_by_counting_points(sun, moon, apart):
    x, y = np.meshgrid(np.linspace(-sun, sun, 401), np.linspace(-sun, sun, 401))
    disc = x * x + y * y <= sun * sun
    counted = np.count_nonzero(disc & ((x - apart) ** 2 + y * y <= moon * moon)) / np.count_nonzero(disc)
    assert float(covered_share(sun, moon, apart)) == pytest.approx(counted, abs=0.01)


def test_the_covered_share_at_its_ends():
    # Apart, touching, one within the other, and one upon the other.
    found = covered_share(0.26, [0.26, 0.26, 0.13, 0.28], [1.0, 0.52, 0.05, 0.0])
    assert found == pytest.approx([0, 0, 0.25, 1], abs=1e-9)


def test_moonlight_goes_with_the_umbra():
    before, total = datetime(2025, 3, 14, 3, 0, tzinfo=UTC), datetime(2025, 3, 14, 6, 59, tzinfo=UTC)
    lit = moon_lit_share(np.array([float(unix_seconds(moment)) for moment in (before, total)]))
    assert lit == pytest.approx([1.0, 1e-4], rel=1e-6)
    assert float(moon_lit_share(float(unix_seconds(before)))) == 1.0
    # Half of the disc in the umbra leaves less than half of the light: the other half is in the penumbra.
    half = moon_lit_share(float(unix_seconds(datetime(2025, 3, 14, 5, 48, tzinfo=UTC))))
    assert 0.02 < float(half) < 0.5


def _said(moment, **more):
    facts = changed(FULL, time_utc=moment, date_local=moment.date(), **more)
    return {reason.code: reason for reason in plan_light(facts).reasons}


def test_an_eclipse_is_said_with_its_caution():
    sun = _said(datetime(2026, 8, 12, 18, 13, tzinfo=UTC))
    assert sun["light.sun_eclipsed"].severity == "caution"
    assert "neutral density filter is not a solar filter" in sun["light.sun_eclipsed"].text
    moon = _said(datetime(2026, 8, 28, 4, 10, tzinfo=UTC))
    # 28 August 2026: a partial eclipse of magnitude 0.93 (NASA's catalogue, from memory).
    assert moon["light.moon_eclipsed"].figures["magnitude"] == pytest.approx(0.93, abs=0.01)
    plain = _said(datetime(2026, 8, 20, 4, 10, tzinfo=UTC))
    assert not {"light.sun_eclipsed", "light.moon_eclipsed"} & plain.keys()
