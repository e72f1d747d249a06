"""What the wind moves while the shutter is open: plants without a speed of their own, and clouds."""

from datetime import UTC, date, datetime, timedelta

import pytest

from lucid_ridge.core.facts.kit import Body, Lens
from lucid_ridge.core.facts.place import Element, Location
from lucid_ridge.core.facts.shot import facts_from
from lucid_ridge.core.planning.plan.shot_plan import plan_shot
from lucid_ridge.core.weather.forecast import Forecast, ForecastHour

BODY = Body(
    id=1,
    name="Body",
    sensor_width_mm=36,
    sensor_height_mm=24,
    pixels_wide=8256,
    pixels_high=5504,
    base_iso=100,
    max_iso=25600,
    fastest_shutter_s=1 / 8192,
    slowest_shutter_s=32,
    has_bulb=True,
    dynamic_range_stops=11,
    bracket_frames=9,
    bracket_step_ev=3,
)
LENS = Lens(
    id=1,
    name="Zoom",
    focal_min_mm=24,
    focal_max_mm=70,
    f_number_min=2.8,
    f_number_max=2**4.5,
    closest_focus_mm=280,
    sharpest_f_number=8,
)
ALDER = Element(1, "Alder", "tree", 0, 10.0, 4, 7)
NOON = datetime(2026, 11, 25, 12, tzinfo=UTC)


def _plan(gust=10.0, cloud=0.0, **said):
    hour = ForecastHour(
        time_utc=NOON,
        low_cloud=cloud,
        middle_cloud=0.0,
        high_cloud=0.0,
        wind_mps=gust / 2,
        gust_mps=gust,
        rain_mm=0.0,
        temperature_c=5.0,
        fog=0.0,
    )
    start = {
        "body": BODY,
        "lens": LENS,
        "focal_mm": 50.0,
        "f_number": 8.0,
        "metered_f_number": 8.0,
        "metered_shutter_s": 1.0,
        "metered_iso": 100.0,
        "elements": (ALDER,),
        "bearing_deg": 0.0,
        "camera_height_m": 1.5,
        "sharp_element_ids": frozenset({1}),
        "location": Location("Weir", 54.5, -3.1, 90, "Europe/London"),
        "date_local": date(2026, 11, 25),
        "time_utc": NOON,
        "forecast": Forecast(NOON - timedelta(hours=2), (hour,)),
    }
    return plan_shot(facts_from(**{**start, **said}))


def _said(plan, *weights):
    return " ".join(
        f"{reason.code}: {reason.text}" for reason in plan.exposure.reasons if not weights or reason.severity in weights
    )


def test_a_tree_in_gusts_smears_at_a_second():
    # 5 % of 10 m/s is 0.5 m/s; 50 mm, some 8 m to its near side: 3 mm a second, a hundred times 0.030
    # (hand-worked to a tenth of its size).
    text = _said(_plan(), "tight")
    assert "Gusts of 10 m/s may move Alder at 0.5 m/s" in text
    times = float(text.split("(our own model): ")[1].split("×")[0])
    assert times == pytest.approx(0.5 * 50 / 8 / 0.03, rel=0.3)


@pytest.mark.parametrize(
    "said",
    [
        {"gust": 1.0},
        {"metered_shutter_s": 1 / 500},
        {"forecast": None},
        {"sharp_element_ids": frozenset()},
        {"elements": (Element(1, "Rock", "boulder", 0, 10.0, 4, 3),)},
        {"elements": (Element(1, "Alder", "tree", 0, 10.0, 4, 7, speed_mps=0.001),)},
    ],
)
def test_what_does_not_sway(said):
    assert "may move" not in _said(_plan(**said))


def test_clouds_over_two_minutes():
    # Low cloud, half the sky; 10 m/s aloft, 1,200 m up, seen at half of 13.5°: 1200/sin 6.75° = 10.2 km away; 50
    # mm · 1200 m / 10.2 km = 5.9 mm of 24.
    text = _said(_plan(cloud=0.5, metered_shutter_s=120.0))
    assert "motion.clouds_drawn: Clouds some 1.2 km away move about 2" in text
    assert "5\u202f% of" in text or "4\u202f% of" in text
    assert "Clouds" not in _said(_plan(cloud=0.0, metered_shutter_s=120.0))
    assert "Clouds" not in _said(_plan(cloud=0.5, metered_shutter_s=120.0, pitch_deg=-30.0))
