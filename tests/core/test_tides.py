"""The harmonic tide against published speeds and against UTide."""

import itertools
from datetime import UTC, datetime, timedelta

import numpy as np
import pytest
import utide
from utide import _ut_constants as utide_constants
from utide.harmonics import FUV

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.tides.harmonics import (
    CONSTITUENTS,
    HarmonicConstants,
    equilibrium_argument_deg,
    nodal_correction,
    tide_height_m,
    tide_rate_m_per_h,
)
from lucid_ridge.core.tides.heights import slack_spans, tide_events, water_spans
from lucid_ridge.standins.tide import HarmonicTide, tide_at, tide_places

START = datetime(2026, 1, 1, tzinfo=UTC)
BAR = tide_at("Sallow Bar")
# Python's ordinal of 1970-01-01, from which UTide counts days.
EPOCH_DAY = 719_163.0


# As UTide calls them.
THEIR_NAMES = {"LAM2": "LDA2", "RHO": "RHO1", "M1": "NO1"}
# UTide counts these from the sun's perigee, Schureman and tables of constants from the mean sun; it has no 2MK3.
COUNTED_OTHERWISE = ("S1", "SA", "2MK3")


def test_speeds_of_the_published_table():
    # Schureman, Special Publication 98, table 2 [degrees an hour].
    published = {
        "M2": 28.9841042,
        "S2": 30.0,
        "N2": 28.4397295,
        "K1": 15.0410686,
        "O1": 13.9430356,
        "M4": 57.9682084,
        "K2": 30.0821373,
        "P1": 14.9589314,
        "Q1": 13.3986609,
        "MS4": 58.9841042,
        "L2": 29.5284789,
        "NU2": 28.5125831,
        "MF": 1.0980331,
        "2MK3": 42.9271398,
        "OO1": 16.1391017,
    }
    assert len(CONSTITUENTS) == 37
    for name, speed in published.items():
        assert CONSTITUENTS[name].speed_deg_per_h == pytest.approx(speed, abs=1e-6)
    for name, wave in CONSTITUENTS.items():
        # The argument must turn at its speed.
        turned = np.diff(equilibrium_argument_deg(name, START.timestamp() + np.array([0.0, 3600.0 * 1000])))[0] / 1000
        assert turned == pytest.approx(wave.speed_deg_per_h, abs=2e-6)


def _theirs(name, hours, flags):
    days = hours / 86400 + EPOCH_DAY
    index = np.array([utide_constants.constit_index_dict[THEIR_NAMES.get(name, name)]])
    return [np.squeeze(part) for part in FUV(days, days[0], index, 54.5, flags)]


@pytest.mark.parametrize("name", [name for name in CONSTITUENTS if name not in COUNTED_OTHERWISE])
def test_equilibrium_arguments_against_utide(name):
    hours = START.timestamp() + 3600.0 * np.array([0.0, 1000.0, 8000.0])
    off = (_theirs(name, hours, [1, 0, 0, 0])[2] * 360 - equilibrium_argument_deg(name, hours) + 180) % 360 - 180
    assert np.abs(off).max() < 0.005  # degrees: half a second of tide


@pytest.mark.parametrize(
    "name", ["M2", "N2", "K1", "O1", "K2", "M4", "MS4", "NU2", "L2", "P1", "M6", "MK3", "MN4", "MSF", "Q1"]
)
def test_nodal_corrections_against_utide(name):
    """Over the 18.6 years of the node.

    UTide sums the satellites of each, Doodson and Warburg's series round them: of Q1 and MSF four per cent remain.
    """
    hours = START.timestamp() + 3600.0 * np.linspace(0, 163_000, 19)
    factors, turns, _ = _theirs(name, hours, [0, 0, 1, 0])
    ours, angle = nodal_correction(name, hours)
    rough = name in ("Q1", "MSF", "NU2")
    assert np.abs(factors - ours).max() < (0.06 if rough else 0.015)
    assert np.abs((turns * 360 - angle + 180) % 360 - 180).max() < (3.0 if rough else 1.0)


def test_twelve_constituents_against_utide_with_its_nodal_corrections():
    """A year of tide from constants as a harbour publishes them (invented), rebuilt by UTide with its own corrections:
    within four centimetres of five metres.
    """
    waves = (
        ("M2", 1.42, 327.0),
        ("S2", 0.45, 12.0),
        ("N2", 0.27, 303.0),
        ("K2", 0.13, 10.0),
        ("NU2", 0.05, 300.0),
        ("L2", 0.06, 330.0),
        ("K1", 0.09, 188.0),
        ("O1", 0.07, 42.0),
        ("P1", 0.03, 180.0),
        ("Q1", 0.02, 350.0),
        ("M4", 0.12, 100.0),
        ("MS4", 0.08, 150.0),
    )
    hours = START.timestamp() + 3600.0 * np.arange(0, 8760)
    theirs = np.full(hours.shape, 2.4)
    for name, amplitude, lag in waves:
        factor, turn, argument = _theirs(name, hours, [0, 0, 0, 0])
        theirs += amplitude * factor * np.cos(np.radians((turn + argument) * 360 - lag))
    ours = tide_height_m(HarmonicConstants(2.4, waves), hours)
    assert np.abs(theirs - ours).max() < 0.04
    # Without the corrections it would be off by much more.
    assert np.abs(theirs - tide_height_m(HarmonicConstants(2.4, waves, nodal=False), hours)).max() > 0.08


def test_a_year_against_utide_on_the_same_constants():
    # UTide rebuilds the year from the same amplitudes and lags, its nodal corrections switched off as ours.
    hours = START.timestamp() + 3600.0 * np.arange(0, 8760)
    days = hours.astype("datetime64[s]")
    ours = BAR.height_m(hours)
    fitted = utide.solve(
        days,
        ours,
        lat=54.5,
        nodal=False,
        trend=False,
        method="ols",
        conf_int="none",
        constit=[name for name, _, _ in BAR.constants.waves],
        verbose=False,
    )
    for name, amplitude, lag in BAR.constants.waves:
        row = list(fitted.name).index(name)
        assert fitted.A[row] == pytest.approx(amplitude, abs=0.002)
        assert (fitted.g[row] - lag + 180) % 360 - 180 == pytest.approx(0, abs=0.5)
    for name, amplitude, lag in BAR.constants.waves:
        row = list(fitted.name).index(name)
        fitted.A[row], fitted.g[row] = amplitude, lag
    fitted.mean = BAR.constants.mean_m
    theirs = utide.reconstruct(days, fitted, verbose=False).h
    assert np.abs(theirs - ours).max() < 0.001


def test_springs_follow_the_full_moon_and_neaps_the_quarters():
    # A fact of the coast: the range is greatest a day or two after full and new moon. Full moon on 3 January,
    # quarter on the 10th 2026.
    def tide_range(day):
        events = tide_events(BAR, START + timedelta(days=day), START + timedelta(days=day + 1))
        heights = [event.height_m for event in events]
        return max(heights) - min(heights)

    assert tide_range(3) > 1.5 * tide_range(11)


def test_high_and_low_waters_alternate_and_are_turning_points():
    events = tide_events(BAR, START, START + timedelta(days=30))
    # The semidiurnal tide turns every 6.2 h: 58 highs and 58 lows in thirty days, one more or less.
    assert 113 <= len(events) <= 118
    assert all(one.kind != other.kind for one, other in itertools.pairwise(events))
    for event in events[:20]:
        seconds = event.time_utc.timestamp()
        around = BAR.height_m(np.array([seconds - 900, seconds + 900]))
        assert ((around < event.height_m) if event.kind == "high water" else (around > event.height_m)).all()


def test_rate_is_the_slope_of_the_height():
    seconds = START.timestamp() + np.linspace(0, 86400, 50)
    slope = (BAR.height_m(seconds + 30) - BAR.height_m(seconds - 30)) / (60 / 3600)
    assert tide_rate_m_per_h(BAR.constants, seconds) == pytest.approx(slope, abs=1e-4)


def test_spans_of_wanted_water():
    day = START + timedelta(days=1)
    for low, high in ((None, 2.0), (3.5, None), (2.0, 3.0)):
        spans = water_spans(BAR, START, day, low, high)
        assert spans
        for span in spans:
            middle = BAR.height_m((span.start_utc.timestamp() + span.end_utc.timestamp()) / 2)
            assert (low is None or middle >= low) and (high is None or middle <= high)
            for moment, cut in ((span.start_utc, span.starts_before), (span.end_utc, span.ends_after)):
                edge = BAR.height_m(moment.timestamp())
                assert cut or min(abs(edge - level) for level in (low, high) if level is not None) < 0.001
    assert water_spans(BAR, START, day, 20.0, None) == []


def test_slack_lies_around_high_and_low_water():
    day = START + timedelta(days=1)
    turns = [event.time_utc for event in tide_events(BAR, START, day)]
    slack = [span for span in slack_spans(BAR, START, day) if not (span.starts_before or span.ends_after)]
    assert len(slack) >= 3
    assert all(any(span.start_utc < turn < span.end_utc for turn in turns) for span in slack)


def test_one_constituent_alone_is_a_cosine():
    alone = HarmonicTide("Alone", HarmonicConstants(2.0, (("S2", 1.0, 0.0),)))
    # The solar tide has its high water at noon and midnight of the mean sun, at Greenwich with no lag.
    assert tide_height_m(alone.constants, START.timestamp()) == pytest.approx(3.0)
    assert tide_height_m(alone.constants, np.array([[START.timestamp() + 6 * 3600]])) == pytest.approx(
        np.array([[1.0]])
    )


def test_constants_that_make_no_sense_are_refused():
    for waves in ((("M9", 1.0, 0.0),), (("M2", -1.0, 0.0),)):
        with pytest.raises(InputError):
            HarmonicConstants(0.0, waves)


def test_places_by_name():
    assert "Sallow Bar" in tide_places()
    assert tide_at("Nowhere") is None
    assert tide_at(None) is None
