"""Stars while the shutter is open, against hand calculations, astronomy-engine and common practice."""

import math
from datetime import UTC, date, datetime

import astronomy
import pytest
from sample_shot import FULL

from lucid_ridge.core.exposure.star_trails import (
    declination_deg,
    star_trail_mm,
    trail_arc_deg,
    untrailed_by_500_s,
    untrailed_by_pixel_s,
    untrailed_by_trail_s,
)
from lucid_ridge.core.facts.shot import changed
from lucid_ridge.core.planning.plan.shot_plan import plan_shot

NIGHT = datetime(2026, 11, 25, 21, 0, tzinfo=UTC)


def test_trails_by_hand():
    # 24 mm · 204 s · 7.292e-5 rad/s = 0.357 mm at the equator, half of it at 60 degrees, none at the pole.
    assert star_trail_mm(24, 204) == pytest.approx(0.357, abs=5e-4)
    assert star_trail_mm(24, 204, [60, 90]) == pytest.approx([0.1785, 0], abs=5e-4)
    # A sidereal day is 23 h 56 min 4.09 s: 15.041 degrees in an hour of the clock.
    assert trail_arc_deg(3600) == pytest.approx(15.041, abs=1e-3)
    assert untrailed_by_trail_s(24, 0.03) == pytest.approx(0.03 / (24 * 7.292e-5), rel=1e-4)
    assert math.isinf(untrailed_by_trail_s(24, 0.03, 90))


def test_rules_of_the_trade():
    # 500/24 = 20.8 s; (35 · 2.8 + 30 · 4.35)/24 = 9.5 s (common practice).
    assert untrailed_by_500_s(24, 1.0) == pytest.approx(20.8, abs=0.05)
    assert untrailed_by_pixel_s(24, 2.8, 4.35) == pytest.approx(9.52, abs=0.01)


def test_declination_of_a_direction():
    # The pole stands as high as the latitude, the equator at 90 less it in the south (any text on spherical astronomy).
    assert declination_deg([54.5, 35.5], [0, 180], 54.5) == pytest.approx([90, 0], abs=1e-6)
    # A star by astronomy-engine: its declination back from where it is seen, without refraction.
    astronomy.DefineStar(astronomy.Body.Star1, 5.2782, 45.998, 42.9)
    place, moment = astronomy.Observer(54.5, -3.0, 0), astronomy.Time.Make(2026, 11, 25, 21, 0, 0.0)
    found = astronomy.Equator(astronomy.Body.Star1, moment, place, True, True)
    seen = astronomy.Horizon(moment, place, found.ra, found.dec, astronomy.Refraction.Airless)
    assert declination_deg(seen.altitude, seen.azimuth, 54.5) == pytest.approx(found.dec, abs=0.01)


def _stars(**said):
    facts = changed(FULL, time_utc=NIGHT, date_local=date(2026, 11, 25), metered_shutter_s=None, **said)
    return [reason for reason in plan_shot(facts).exposure.reasons if reason.code == "exposure.stars"]


def test_the_sky_in_the_frame_says_which_stars():
    (south,) = _stars(bearing_deg=180, pitch_deg=20)
    low, high = south.figures["declinations_deg"]
    # 24 mm upright or not, the middle of the frame at 20° altitude due south of 54.53 N has δ = 20 - 35.47 = -15.5°.
    assert low < -15.5 < high
    assert south.figures["by_trail_s"] == pytest.approx(FULL_COC / (24 * 7.292e-5), rel=0.02)
    (north,) = _stars(bearing_deg=0, pitch_deg=50)
    assert north.figures["declinations_deg"][1] > 85
    assert north.figures["by_trail_s"] > south.figures["by_trail_s"]
    assert _stars(bearing_deg=180, pitch_deg=-70) == []
    day = changed(FULL, metered_shutter_s=None)
    assert not any(reason.code == "exposure.stars" for reason in plan_shot(day).exposure.reasons)


# The handbook's circle of confusion of 36 × 24 mm.
FULL_COC = 0.030
