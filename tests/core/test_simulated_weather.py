"""Simulated weather never speaks as if it were true: whatever a plan says by the forecast names it as simulated."""

from dataclasses import replace
from datetime import UTC, datetime, timedelta

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from sample_shot import FULL

from lucid_ridge.core.facts.place import Approach, Element
from lucid_ridge.core.facts.shot import changed
from lucid_ridge.core.planning.day.windows import promise_of
from lucid_ridge.core.planning.plan.shot_plan import plan_shot
from lucid_ridge.core.planning.way.plan import plan_way
from lucid_ridge.core.planning.weather.reasons import way_cautions
from lucid_ridge.core.spans.intervals import Interval
from lucid_ridge.core.weather.forecast import Forecast, ForecastHour
from lucid_ridge.core.weather.promise import DEFAULT_WEIGHTS

LEAVES = Element(4, "Birch", "tree", 233, 6.0, 3.0, 4.0)
APPROACH = Approach(drive_min=30.0, walk_m=800.0, ascent_m=20.0)
SHOTS = (
    changed(FULL, metered_shutter_s=None, approach=APPROACH),
    changed(FULL, elements=(*FULL.elements, LEAVES), sharp_element_ids=frozenset({1, 4}), pitch_deg=0.0),
    changed(FULL, near_m=None, far_infinite=False, magnification=0.5, subject_depth_mm=8.0, f_number=5.6, filters=()),
)
# Reasons that only a forecast gives: by the room of the catalogue or by their code.
BY_FORECAST = (
    "weather.",
    "light.cloud",
    "sequence.dew",
    "motion.gusts_smear",
    "motion.clouds_drawn",
    "exposure.reading",
)

weathers = st.fixed_dictionaries(
    {name: st.floats(0, 1) for name in ("low_cloud", "middle_cloud", "high_cloud", "fog")}
    | {
        "wind_mps": st.floats(0, 40),
        "gust_mps": st.floats(0, 60),
        "rain_mm": st.floats(0, 30),
        "temperature_c": st.floats(-30, 30),
    }
)


def _forecast(weather, simulated=False):
    start = datetime(2026, 11, 24, tzinfo=UTC)
    hours = tuple(ForecastHour(start + timedelta(hours=number), **weather) for number in range(72))
    return Forecast(start, hours, simulated)


def _reasons(facts):
    plan = plan_shot(facts)
    steps = (plan.place, plan.light, plan.frame, plan.depth, plan.exposure, plan.sequence)
    return [reason for step in steps for reason in step.reasons]


@settings(max_examples=40, deadline=None)
@given(st.sampled_from(range(len(SHOTS))), weathers)
def test_every_reason_that_only_a_forecast_gives_says_so(which, weather):
    facts = SHOTS[which]
    bare = {reason.code for reason in _reasons(facts)}
    true = _reasons(replace(facts, forecast=_forecast(weather)))
    practised = _reasons(replace(facts, forecast=_forecast(weather, simulated=True)))
    # Nothing but the words differs.
    assert [(one.code, one.severity) for one in true] == [(one.code, one.severity) for one in practised]
    new = [after for after in practised if after.code not in bare]
    assert all("imulated" in after.text for after in new if after.code.startswith(BY_FORECAST)), new
    assert not any("imulated" in before.text for before in true)


def test_some_weather_gives_each_kind_of_reason():
    """The check above is not empty."""
    rough = {"low_cloud": 0.5, "middle_cloud": 0.0, "high_cloud": 0.0, "fog": 0.0, "wind_mps": 16.0, "gust_mps": 22.0}
    forecast = _forecast({**rough, "rain_mm": 3.0, "temperature_c": -15.0}, simulated=True)
    codes = {reason.code for facts in SHOTS for reason in _reasons(replace(facts, forecast=forecast))}
    assert {"light.cloud", "motion.clouds_drawn"} <= codes
    assert any(code.startswith("weather.") for code in codes)


def test_promise_and_way_say_it_too():
    weather = {"low_cloud": 0.9, "middle_cloud": 0, "high_cloud": 0, "fog": 0, "wind_mps": 20.0, "gust_mps": 28.0}
    forecast = _forecast({**weather, "rain_mm": 2.0, "temperature_c": -5.0}, simulated=True)
    facts = replace(SHOTS[0], forecast=forecast)
    moment = facts.light.time_utc
    promise = promise_of(
        facts, "glow", Interval(moment, moment + timedelta(minutes=20), False, False), forecast, moment, DEFAULT_WEIGHTS
    )
    assert promise is not None and promise.simulated
    way = plan_way(facts, 60.0, moment)
    said = [reason for reason in way_cautions(facts, way) if reason.code.startswith("weather.")]
    assert said and all(reason.text.startswith("Simulated weather: ") for reason in said)


@pytest.mark.parametrize(("simulated", "words"), [(True, "under the simulated cloud"), (False, "under the cloud")])
def test_the_estimate_names_its_cloud(simulated, words):
    still = {"low_cloud": 0.6, "middle_cloud": 0, "high_cloud": 0, "fog": 0, "wind_mps": 0.0, "gust_mps": 0.0}
    facts = replace(SHOTS[0], forecast=_forecast({**still, "rain_mm": 0.0, "temperature_c": 8.0}, simulated))
    (estimated,) = [item for item in plan_shot(facts).exposure.reasons if item.code == "exposure.estimated"]
    assert words in estimated.text
