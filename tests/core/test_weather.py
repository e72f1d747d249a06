"""Promises of a forecast: directions, weights, spread; meter readings; wind chill."""

from datetime import UTC, datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lucid_ridge.core.light.kinds import LightKind
from lucid_ridge.core.light.meter import MeterReading, shift_stops
from lucid_ridge.core.weather.forecast import Forecast, ForecastHour, wind_chill_c
from lucid_ridge.core.weather.promise import DEFAULT_WEIGHTS, SUN_KINDS, Look, rate_window

START = datetime(2026, 11, 24, 15, tzinfo=UTC)
FAIR = {
    "low_cloud": 0.1,
    "middle_cloud": 0.1,
    "high_cloud": 0.1,
    "wind_mps": 1.0,
    "gust_mps": 2.0,
    "rain_mm": 0.0,
    "temperature_c": 5.0,
    "fog": 0.0,
}


def _forecast(now=None, before=None, hours=2, **change):
    past = [ForecastHour(START - timedelta(hours=n), **{**FAIR, **(before or {})}) for n in (3, 2, 1)]
    window = [ForecastHour(START + timedelta(hours=n), **{**FAIR, **change}) for n in range(hours)]
    return Forecast(now or START - timedelta(hours=6), (*past, *window))


def _rate(kind="low_side_light", forecast=None, look=None, weights=DEFAULT_WEIGHTS, now=None):
    forecast = forecast or _forecast()
    return rate_window(
        kind, START, START + timedelta(hours=1), forecast, now or START - timedelta(hours=6), look or Look(), weights
    )


@pytest.mark.parametrize(
    ("kind", "worse", "better"),
    [
        # Each line is a saying of the trade (common practice).
        ("low_side_light", {"low_cloud": 0.95}, {"low_cloud": 0.0}),
        ("glow", {"high_cloud": 0.0, "middle_cloud": 0.0}, {"high_cloud": 0.6}),
        ("glow", {"high_cloud": 0.6, "low_cloud": 0.9}, {"high_cloud": 0.6, "low_cloud": 0.0}),
        ("dark_sky", {"high_cloud": 0.9}, {"high_cloud": 0.0}),
        ("open_shade", {"rain_mm": 2.0}, {"rain_mm": 0.0}),
        ("low_side_light", {"fog": 0.9}, {"fog": 0.0}),
    ],
)
def test_weather_moves_the_rating_the_right_way(kind, worse, better):
    assert _rate(kind, _forecast(**worse)).rating < _rate(kind, _forecast(**better)).rating


FIGURES = st.fixed_dictionaries(
    {name: st.floats(0, 1) for name in ("low_cloud", "middle_cloud", "high_cloud", "fog")}
    | {
        "wind_mps": st.floats(0, 20),
        "gust_mps": st.floats(0, 30),
        "rain_mm": st.floats(0, 5),
        "temperature_c": st.floats(-20, 30),
    }
)
LOOKS = st.builds(Look, st.booleans(), st.booleans(), st.booleans(), st.booleans())


@given(
    FIGURES,
    LOOKS,
    st.sampled_from(["low_cloud", "middle_cloud", "high_cloud"]),
    st.floats(0, 1),
    st.sampled_from(SUN_KINDS),
)
def test_more_cloud_never_raises_direct_light(figures, look, deck, more, kind):
    cloudier = {**figures, deck: min(1.0, figures[deck] + more)}
    assert _rate(kind, _forecast(**cloudier), look).rating <= _rate(kind, _forecast(**figures), look).rating + 1e-9


@given(FIGURES, LOOKS, st.floats(0, 1), st.sampled_from(LightKind))
def test_fog_raises_nothing_but_mist(figures, look, more, kind):
    thicker = {**figures, "fog": min(1.0, figures["fog"] + more)}
    before, after = _rate(kind, _forecast(**figures), look).rating, _rate(kind, _forecast(**thicker), look).rating
    assert after >= before - 1e-9 if kind == LightKind.MIST else after <= before + 1e-9


@given(FIGURES, LOOKS, st.floats(0, 3), st.sampled_from(LightKind))
def test_a_trace_of_rain_is_no_step(figures, look, wet, kind):
    """A hundredth of a millimetre an hour moves a rating by less than a point."""
    dry, damp = (
        _rate(kind, _forecast(before={"rain_mm": wet}, **{**figures, "rain_mm": figures["rain_mm"] + more}), look)
        for more in (0.0, 0.01)
    )
    assert abs(dry.rating - damp.rating) < 1.0


def test_direct_light_under_a_clear_sky_comes_first():
    """Clear is promising; a closed deck at any height, or fog, is not (common practice: a gap on the sun's line at
    every height).
    """
    clear = _rate("low_side_light", _forecast(low_cloud=0.0, middle_cloud=0.0, high_cloud=0.0))
    assert clear.word == "promising"
    for closed in ({"middle_cloud": 1.0}, {"low_cloud": 1.0}, {"fog": 1.0}):
        assert _rate("low_side_light", _forecast(**closed)).rating < clear.rating - 25
    assert _rate("dark_sky", _forecast(fog=1.0)).rating < _rate("dark_sky").rating - 25


def test_mist_wants_a_calm_clear_night_near_the_dew_point_in_a_valley():
    damp = {
        "temperature_c": 5.0,
        "dew_point_c": 4.8,
        "wind_mps": 0.3,
        "low_cloud": 0.0,
        "middle_cloud": 0.0,
        "high_cloud": 0.0,
    }
    valley = Look(valley=True)
    good = _rate("mist", _forecast(before=damp, **damp), valley)
    assert good.word == "promising"
    for worse in ({"dew_point_c": 0.0}, {"wind_mps": 6.0}):
        assert _rate("mist", _forecast(before=damp, **{**damp, **worse}), valley).rating < good.rating - 20
    covered = {**damp, "low_cloud": 1.0}
    assert _rate("mist", _forecast(before=covered, **damp), valley).rating < good.rating - 20
    assert _rate("mist", _forecast(before=damp, **damp)).rating < good.rating


def test_wind_matters_where_there_is_water_or_leaves():
    windy = _forecast(wind_mps=9.0, gust_mps=14.0)
    assert _rate(forecast=windy).rating == _rate(forecast=_forecast()).rating
    for look in (Look(still_water=True), Look(leaves=True), Look(close_up=True)):
        assert _rate(forecast=windy, look=look).rating < _rate(forecast=_forecast(), look=look).rating - 5


def test_rain_that_clears_helps():
    cleared = _rate("glow", _forecast(before={"rain_mm": 1.5}))
    assert cleared.rating > _rate("glow", _forecast()).rating
    assert "rain clearing" in {factor.name for factor in cleared.factors}


def test_weights_are_the_photographers():
    windy, water = _forecast(wind_mps=9.0), Look(still_water=True)
    heavy = _rate(forecast=windy, look=water, weights={**DEFAULT_WEIGHTS, "wind on still water": 60.0})
    none = _rate(forecast=windy, look=water, weights={**DEFAULT_WEIGHTS, "wind on still water": 0.0})
    assert heavy.rating < none.rating
    assert "wind on still water" not in {factor.name for factor in none.factors}
    # What moved it adds up: 50 and the factors' points.
    assert none.rating == pytest.approx(50 + sum(factor.points for factor in none.factors))


def test_the_spread_grows_with_the_lead_time_and_with_gaps():
    def width(promise):
        return promise.high - promise.low

    near, far = (
        _rate("open_shade", _forecast(now=START - timedelta(days=days)), now=START - timedelta(days=days))
        for days in (0.2, 9)
    )
    assert width(far) > 2 * width(near)
    assert far.lead_h == pytest.approx(9 * 24)
    gap = rate_window(
        "open_shade", START, START + timedelta(hours=3), _forecast(hours=1), START, Look(), DEFAULT_WEIGHTS
    )
    assert gap.hours_missing == 2
    # An old forecast is no better than its age.
    stale = _rate("open_shade", _forecast(now=START - timedelta(days=4)), now=START - timedelta(hours=1))
    assert stale.lead_h == pytest.approx(96)


def test_no_forecast_no_promise():
    assert (
        rate_window(
            "glow",
            START + timedelta(days=5),
            START + timedelta(days=5, hours=1),
            _forecast(),
            START,
            Look(),
            DEFAULT_WEIGHTS,
        )
        is None
    )


def test_ratings_stay_within_their_bounds():
    worst = _forecast(low_cloud=1.0, middle_cloud=1.0, high_cloud=1.0, rain_mm=9.0, wind_mps=30.0, gust_mps=40.0)
    heavy = dict.fromkeys(DEFAULT_WEIGHTS, 100.0)
    promise = _rate("low_side_light", worst, Look(True, True, True), heavy)
    assert (promise.rating, promise.low) == (0.0, 0.0)
    assert promise.word == "poor"


def test_wind_chill():
    # Environment Canada / US National Weather Service 2001: 0 °C at 30 km/h feels like -6.5; -10 °C at 20 km/h
    # like -18 (their table).
    assert wind_chill_c(0, 30 / 3.6) == pytest.approx(-6.5, abs=0.05)
    assert wind_chill_c(-10, 20 / 3.6) == pytest.approx(-17.9, abs=0.1)
    assert wind_chill_c(15, 10) is None
    assert wind_chill_c(0, 0.5) is None


def test_readings_shift_the_curve():
    readings = [MeterReading(START, 8.0), MeterReading(START + timedelta(minutes=10), 7.0)]
    assert shift_stops(readings, [8.5, 7.9]) == pytest.approx(-0.7)
    assert shift_stops([], []) is None
