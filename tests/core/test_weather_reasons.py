"""What the forecast says to a shot, by hand: wind, cold, rain, fog, clearing; the light under cloud; plan B."""

from dataclasses import replace
from datetime import UTC, datetime, time, timedelta

import pytest

from lucid_ridge.core.facts.choices import LightChoices
from lucid_ridge.core.facts.place import Access, Approach, Element, Location, OtherPlace
from lucid_ridge.core.facts.shot import ShotFacts
from lucid_ridge.core.framing.solids import Shape
from lucid_ridge.core.planning.light.plan import plan_light
from lucid_ridge.core.planning.place.plan import plan_place
from lucid_ridge.core.planning.plan.shot_plan import plan_shot
from lucid_ridge.core.planning.way.plan import plan_way
from lucid_ridge.core.planning.weather.plan_b import plan_b_reasons
from lucid_ridge.core.planning.weather.reasons import weather_reasons
from lucid_ridge.core.weather.cloud import cloud_share, spread_share
from lucid_ridge.core.weather.forecast import Forecast, ForecastHour
from lucid_ridge.core.weather.measures import Measure

MOMENT = datetime(2026, 6, 10, 11, tzinfo=UTC)
CALM = ForecastHour(
    time_utc=MOMENT,
    low_cloud=0.0,
    middle_cloud=0.0,
    high_cloud=0.0,
    wind_mps=1.0,
    gust_mps=1.2,
    rain_mm=0.0,
    temperature_c=12.0,
    fog=0.0,
)
POST = Element(1, "Post", Shape.POSTS, 180.0, 8.0, 0.3, 1.4)
TARN = Element(2, "Tarn", Shape.WATER, 180.0, 20.0, 30.0, 40.0)


def _facts(change=None, elements=(POST,), issued=MOMENT, later=None):
    """Calm hours around the moment, with a change from that hour on; later: from the hour after it."""
    hours = []
    for number in range(-6, 12):
        hour = replace(CALM, time_utc=MOMENT + timedelta(hours=number), **(change or {}))
        hours.append(replace(hour, **later) if later and number >= 1 else hour)
    here = Location("Here", 54.5, -3.2, 0.0, "UTC")
    return ShotFacts(
        location=here,
        elements=elements,
        approach=Approach(walk_m=1000.0, set_up_min=20.0),
        forecast=Forecast(issued, tuple(hours)),
        light=LightChoices(date_local=MOMENT.date(), time_utc=MOMENT),
    )


def _said(facts):
    return [(item.step, str(item.severity), item.text) for item in weather_reasons(facts, plan_way(facts, 600.0))]


def test_a_calm_day_says_nothing():
    assert _said(_facts()) == []
    assert _said(replace(_facts(), forecast=None)) == []


@pytest.mark.parametrize(
    ("change", "elements", "step", "severity", "words"),
    [
        # Beaufort 8 begins at 17.2 m/s, 6 at 10.8, 3 at 3.4 and 2 at 1.6 (World Meteorological Organization).
        ({"gust_mps": 17.2}, (POST,), "place", "tight", "a gale"),
        ({"gust_mps": 17.1}, (POST,), "light", "caution", "shake the tripod"),
        ({"gust_mps": 10.8}, (POST,), "light", "caution", "shake the tripod"),
        ({"wind_mps": 1.6, "gust_mps": 2.0}, (TARN,), "light", "caution", "ripples"),
        ({"gust_mps": 3.4}, (replace(POST, shape=Shape.TREE),), "light", "caution", "leaves moving"),
        # 0 °C in 30 km/h (8.33 m/s) feels like −6.5; −20 °C in it like −33 (Environment Canada's table).
        ({"temperature_c": -20.0, "wind_mps": 8.33}, (POST,), "place", "tight", "−33 °C"),
        ({"temperature_c": -12.0, "wind_mps": 0.5}, (POST,), "place", "caution", "−12 °C"),
        ({"rain_mm": 0.4}, (POST,), "light", "caution", "Rain of up to 0.4 mm"),
        ({"fog": 0.6}, (POST,), "light", "caution", "Fog is 60\u202f% likely"),
    ],
)  # fmt: skip
def test_each_limit(change, elements, step, severity, words):
    found = _said(_facts(change, elements))
    assert [(item[0], item[1]) for item in found] == [(step, severity)]
    assert words in found[0][2]


@pytest.mark.parametrize(
    "change", [{"gust_mps": 10.7}, {"temperature_c": 0.0, "wind_mps": 8.33}, {"fog": 0.4}, {"rain_mm": 0.05}]
)
def test_under_the_limits_nothing_is_said(change):
    assert _said(_facts(change)) == []


def test_rain_that_ends_and_a_sky_that_clears():
    ends = _said(_facts({"rain_mm": 1.0, "low_cloud": 0.9}, later={"rain_mm": 0.0, "low_cloud": 0.2}))
    assert any("it stops about 12:00" in text for _, _, text in ends)
    assert any("clear, from 90\u202f% covered to 20\u202f% about 12:00" in text for _, _, text in ends)
    before = _facts()
    hours = tuple(replace(hour, rain_mm=1.0 if hour.time_utc < MOMENT else 0.0) for hour in before.forecast.hours)
    stopped = _said(replace(before, forecast=replace(before.forecast, hours=hours)))
    assert [(item[1], "stop about 11:00" in item[2]) for item in stopped] == [("holds", True)]


def test_full_cloud_costs_two_stops():
    # Kasten and Czeplak: 1 − 0.75 · 1 = a quarter of the light, two stops; half covered 0.75 · 0.5^3.4 = 0.071, a
    # tenth of a stop.
    clear, half, full = (plan_light(_facts({"low_cloud": share})).ev100 for share in (0.0, 0.5, 1.0))
    assert clear - full == pytest.approx(2.0, abs=0.01)
    assert clear - half == pytest.approx(0.106, abs=0.01)
    assert plan_light(replace(_facts(), forecast=None)).ev100 == pytest.approx(clear)


def test_the_spread_grows_with_the_lead_and_brackets_the_expected():
    near, far = (plan_light(_facts({"low_cloud": 0.8}, issued=MOMENT - timedelta(days=days))) for days in (0, 9))
    for light in (near, far):
        assert light.ev100_low < light.ev100 < light.ev100_high
    assert far.ev100_high - far.ev100_low > near.ev100_high - near.ev100_low
    # Six points at once, nine more for a day's root: 15 points after a day, 33 after nine, never over 45.
    assert [round(spread_share(hours), 2) for hours in (0, 24, 9 * 24, 40 * 24)] == [0.06, 0.15, 0.33, 0.45]
    assert cloud_share(_facts().forecast, MOMENT + timedelta(days=3)) is None


def test_what_the_plan_says_of_the_cloud():
    text = " ".join(
        reason.text for reason in plan_light(_facts({"low_cloud": 1.0}, issued=MOMENT - timedelta(days=1))).reasons
    )
    assert "is overcast (8/8)" in text
    assert "with this cloud" in text


BOG = OtherPlace("Hollin Bog", 25.0, 4.0)


def test_a_plan_b_without_a_trigger_is_not_judged_to_hold():
    """Every wish stated is judged, or the summit says that it is not: a place to go to instead that hangs on nothing
    is half a wish.
    """
    plain = _facts()
    assert plan_shot(plain).light.verdict.mark == "holds"
    open_ = plan_shot(replace(plain, plan_b=BOG)).light.verdict
    assert (open_.mark, open_.text.endswith(", plan B not decided")) == ("unsaid", True)
    whole = replace(plain.light, plan_b_measure=Measure.RAIN, plan_b_over=0.5, plan_b_clock=time(10))
    assert plan_shot(replace(plain, plan_b=BOG, light=whole)).light.verdict.mark == "holds"


def test_weather_is_said_in_the_step_it_bears_on():
    plan = plan_shot(_facts({"rain_mm": 0.4, "temperature_c": -12.0, "wind_mps": 0.5}))
    assert [item.severity for item in plan.light.reasons if "Rain of" in item.text] == ["caution"]
    assert [item.severity for item in plan.place.reasons if "−12 °C" in item.text] == ["caution"]


def _plan_b(change, over=60.0, measure=Measure.LOW_CLOUD, clock=time(10)):
    facts = replace(_facts(change), plan_b=BOG)
    light = replace(facts.light, plan_b_measure=measure, plan_b_over=over, plan_b_clock=clock)
    return plan_b_reasons(replace(facts, light=light))


@pytest.mark.parametrize(
    ("change", "more", "severity"),
    [
        ({"low_cloud": 0.72}, {}, "caution"),
        ({"low_cloud": 0.6}, {}, "holds"),
        ({"gust_mps": 12.5}, {"measure": Measure.GUSTS, "over": 12.0}, "caution"),
        ({"rain_mm": 0.5}, {"measure": Measure.RAIN, "over": 0.5}, "holds"),
        ({"low_cloud": 0.9}, {"clock": time(23, 30)}, "holds"),
        ({"low_cloud": 0.9}, {"measure": None}, "unsaid"),
    ],
)
def test_plan_b_hangs_on_its_trigger(change, more, severity):
    found = _plan_b(change, **more)
    assert [str(item.severity) for item in found] == [severity]
    assert "Plan B is Hollin Bog, 25 min drive and 4 min on foot" in found[0].text


def test_the_trigger_is_said_in_words():
    assert _plan_b({"low_cloud": 0.72})[0].text.endswith(
        "if low cloud is over 60\u202f% at 10:00; the forecast is 72\u202f%: by this forecast, go there."
    )
    late = _plan_b({"low_cloud": 0.72}, clock=time(11, 30))[0].text
    # The shot begins before half past eleven: it is decided at the last half past eleven before it.
    assert "at 11:30 on Tue 9 Jun" in late
    assert plan_b_reasons(_facts()) == []


def test_access_checked_long_ago_is_a_caution():
    facts = _facts()
    for checked, severity in (
        (datetime(2025, 4, 9).date(), "caution"),
        (datetime(2025, 6, 10).date(), "holds"),
        (datetime(2026, 6, 1).date(), "holds"),
    ):
        reasons = plan_place(replace(facts, access=Access("Gate by the lane", checked, ""))).reasons
        found = [item for item in reasons if "Gate by the lane" in item.text]
        assert [str(item.severity) for item in found] == [severity]
    assert (
        "14 months before"
        in plan_place(replace(facts, access=Access("Gate", datetime(2025, 4, 9).date(), ""))).reasons[1].text
    )
