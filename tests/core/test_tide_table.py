"""A tide from a table of waters: the half cosine and the rule of twelfths against worked figures."""

from datetime import UTC, datetime, timedelta

import numpy as np
import pytest

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.tides.heights import HIGH_WATER, LOW_WATER, tide_events, water_spans
from lucid_ridge.core.tides.table import TideTable

START = datetime(2026, 11, 24, 6, tzinfo=UTC)


def _table(*waters):
    return TideTable("Bar", tuple((START.timestamp() + hours * 3600, height) for hours, height in waters))


TABLE = _table((0, 1.0), (6, 5.0), (12, 1.0))


@pytest.mark.parametrize(
    ("sixth", "cosine", "twelfths"),
    # Common practice: after one sixth of the time 0.067 of the range by the cosine, 1/12 = 0.083 by twelfths; at
    # a third and half equal.
    [
        (0, 0.0, 0.0),
        (1, 0.067, 0.0833),
        (2, 0.25, 0.25),
        (3, 0.5, 0.5),
        (4, 0.75, 0.75),
        (5, 0.933, 0.9167),
        (6, 1.0, 1.0),
    ],
)
def test_half_cosine_and_twelfths(sixth, cosine, twelfths):
    at = START.timestamp() + sixth * 3600
    assert TABLE.height_m(at) == pytest.approx(1 + 4 * cosine, abs=0.002)
    assert TABLE.twelfths_height_m(at) == pytest.approx(1 + 4 * twelfths, abs=0.001)


def test_the_rate_is_the_slope_of_the_height():
    at = START.timestamp() + np.linspace(0.1, 11.9, 50) * 3600
    slope = (TABLE.height_m(at + 30) - TABLE.height_m(at - 30)) / (60 / 3600)
    assert np.abs(TABLE.rate_m_per_h(at) - slope).max() < 1e-3
    # Half way up the tide rises fastest: π/2 · 4 m in 6 h.
    assert TABLE.rate_m_per_h(START.timestamp() + 3 * 3600) == pytest.approx(np.pi / 2 * 4 / 6)


def test_outside_its_dates_and_in_gaps_nothing_is_known():
    gappy = _table((0, 1.0), (6, 5.0), (30, 1.2), (36, 4.8))
    seconds = START.timestamp() + np.array([-0.1, 3, 18, 33, 36.1]) * 3600
    assert list(np.isnan(gappy.height_m(seconds))) == [True, False, True, False, True]
    assert gappy.covers(START, START + timedelta(hours=6))
    assert not gappy.covers(START, START + timedelta(hours=7))
    assert not gappy.covers(START, START + timedelta(hours=36))
    assert water_spans(gappy, START - timedelta(hours=2), START + timedelta(hours=40), 0.0, None)[
        0
    ].end_utc <= START + timedelta(hours=6, seconds=1)


def test_events_are_the_waters_themselves():
    events = tide_events(TABLE, START - timedelta(hours=1), START + timedelta(hours=13))
    assert [(event.kind, event.height_m) for event in events] == [(LOW_WATER, 1.0), (HIGH_WATER, 5.0), (LOW_WATER, 1.0)]
    assert tide_events(TABLE, START + timedelta(hours=1), START + timedelta(hours=5)) == []


@pytest.mark.parametrize(
    ("waters", "words"),
    [
        (((0, 1.0),), "at least a high and a low"),
        (((0, 1.0), (1, 5.0)), "less than two hours"),
        (((0, 1.0), (6, 1.0)), "same height"),
        (((0, 1.0), (6, 3.0), (12, 5.0)), "goes on rising"),
    ],
)
def test_what_is_no_table(waters, words):
    with pytest.raises(InputError, match=words):
        _table(*waters)


def test_a_gap_may_hide_a_water():
    assert _table((0, 1.0), (6, 3.0), (24, 5.0), (30, 1.0)).waters[2][1] == 5.0
