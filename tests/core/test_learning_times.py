"""What field sessions teach beside their pictures, from ticks and notes worked out by hand."""

from datetime import UTC, datetime, timedelta

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from statsmodels.stats.proportion import proportion_confint

from lucid_ridge.core.facts.calibrations import CalibrationKind, Side
from lucid_ridge.core.learning.times import (
    FieldSession,
    TickedFrame,
    filter_changes,
    lessons_of_times,
    series_lesson,
    ways,
)

START = datetime(2026, 3, 1, 17, tzinfo=UTC)


def at(minutes=0.0, seconds=0.0):
    return START + timedelta(minutes=minutes, seconds=seconds)


def out(number=1, **said):
    return FieldSession(entry_id=number, first_id=number, at_utc=START, **said)


def ticked(number, start_s, shutter_s, change_s, changes, tick_s, waits=False):
    return TickedFrame(number, start_s, shutter_s, change_s, changes, waits, at(seconds=tick_s))


def of(kind, outs, side=Side.WHOLE):
    return next((item for item in lessons_of_times(outs) if item.kind == kind and item.side == side), None)


def test_setting_up_and_walking_are_told_by_what_was_noted():
    # 20 minutes planned and 30 taken; a walk of 40 by the rule done in 50.
    noted = [
        out(
            n, walk_min=40.0, set_up_min=20.0, set_out_utc=at(0), arrived_utc=at(50 + n / 10), ready_utc=at(80 + n / 10)
        )
        for n in range(6)
    ]
    assert of(CalibrationKind.SET_UP, noted).found.value == pytest.approx(1.5)
    assert of(CalibrationKind.SET_UP, noted).worth
    assert of(CalibrationKind.WALKING, noted).found.value == pytest.approx(1.25, abs=0.01)
    assert of(CalibrationKind.SET_UP, noted[:3]).worth is False
    assert [(item.planned_min, item.took_min) for item in ways(noted[:1])] == [(40.0, 50.0), (20.0, 30.0)]


@pytest.mark.parametrize(
    "said",
    [
        {},
        {"arrived_utc": at(5)},
        {"set_out_utc": at(5), "arrived_utc": at(4), "walk_min": 30.0},
        {"set_out_utc": at(0), "arrived_utc": at(30)},
        {"set_out_utc": at(0), "arrived_utc": at(30), "walk_min": 0.0},
        {"set_out_utc": at(0), "arrived_utc": at(2000), "walk_min": 30.0},
    ],
)
def test_what_was_not_noted_or_cannot_be_teaches_nothing(said):
    assert lessons_of_times([out(n, **said) for n in range(8)]) == ()


def test_a_filter_takes_what_is_left_when_hands_and_plan_are_taken_off():
    # The plan: 2 s frames at 0, 10, 20 s, then 30 s for a filter and one at 60 s. Hands take 6 s more for every
    # frame; the filter really takes 45.
    frames = (
        ticked(1, 0, 2, 0, 0, 3),
        ticked(2, 10, 2, 0, 0, 19),
        ticked(3, 20, 2, 0, 0, 35),
        ticked(4, 60, 2, 30, 1, 35 + 40 - 30 + 45 + 6),
    )
    told = filter_changes([out(frames=frames, filter_change_s=30.0), out(frames=frames, filter_change_s=30.0)]).measured
    assert [value for value, _ in told] == pytest.approx([1.5, 1.5])
    assert [frame for _, frame in told] == [4, 4]
    # Two filters at once take twice as long for the same figure.
    twice = (*frames[:3], ticked(4, 90, 2, 60, 2, 35 + 70 - 60 + 90 + 6))
    assert filter_changes([out(frames=twice, filter_change_s=30.0)] * 2).measured[0][0] == pytest.approx(1.5)


def test_pauses_that_mean_something_else_are_left_out():
    plain = tuple(ticked(n, 10 * n, 1, 0, 0, 12 * n) for n in range(6))
    # One that waits for its moment, one after a frame that was never ticked, one after a long rest, and one
    # ticked before the frame before it.
    waits = (ticked(1, 0, 1, 0, 0, 0), ticked(2, 40, 1, 20, 1, 900, waits=True))
    gap = (None, ticked(2, 40, 1, 20, 1, 60))
    rest = (ticked(1, 0, 1, 0, 0, 0), ticked(2, 40, 1, 20, 1, 9000))
    back = (ticked(1, 0, 1, 0, 0, 60), ticked(2, 40, 1, 20, 1, 10))
    outs = [out(frames=item, filter_change_s=20.0) for item in (plain, waits, gap, rest, back)]
    assert filter_changes(outs).measured == ()
    # Without pauses to know the hands by nothing is said at all.
    assert (
        filter_changes(
            [out(frames=(ticked(1, 0, 1, 0, 0, 0), ticked(2, 40, 1, 20, 1, 90)), filter_change_s=20.0)]
        ).measured
        == ()
    )


@given(st.floats(0.3, 4.0), st.floats(0.0, 20.0))
def test_whatever_hands_and_filter_take_is_found(factor, hands):
    frames, tick, start = [], 0.0, 0.0
    for number in range(8):
        changes = 1 if number in (3, 6) else 0
        start += 10 + 20 * changes
        tick += 10 + 20 * factor * changes + hands
        frames.append(ticked(number, start, 1, 20.0 * changes, changes, tick))
    found = filter_changes([out(frames=tuple(frames), filter_change_s=20.0)]).measured
    assert [value for value, _ in found] == pytest.approx([factor, factor], abs=1e-6)


def test_series_by_hand_are_counted_as_wilson_has_it():
    # Three kept in twelve tries: statsmodels says 8.9 to 53.2 %.
    outs = [out(1, tries=4, whole=True), out(2, tries=5, whole=True), out(3, tries=3, whole=True), out(4)]
    found = series_lesson(outs)
    assert found.found.value == 0.25
    assert (found.found.low, found.found.high) == pytest.approx(proportion_confint(3, 12, method="wilson"))
    assert found.worth
    assert found.evidence == (1, 2, 3)
    # What was said and lies inside the interval stays; what is far beside it does not.
    assert not series_lesson([out(n, tries=4, whole=True, hit_rate=0.3) for n in range(3)]).worth
    assert series_lesson([out(n, tries=10, whole=True, hit_rate=0.9) for n in range(5)]).worth
    assert series_lesson([out(1, tries=3, whole=True)]).worth is False
    assert series_lesson([out(1, tries=9, whole=False)]).worth is False
    assert series_lesson([out(1)]) is None


def test_a_battery_in_the_cold_by_its_own_count():
    # 400 frames a battery; 80 by the maker's count took 40 per cent: half of the count is left. Practice expects
    # two thirds at 0 °C.
    cold = [
        out(n, battery=(90.0 + n, 50.0 + n), battery_frames=400, counted=80.0, taken_share=1.0, temperature_c=0.0)
        for n in range(5)
    ]
    found = of(CalibrationKind.BATTERY, cold, Side.COLD)
    assert found.found.value == pytest.approx(0.5)
    assert found.told == pytest.approx(2 / 3)
    assert found.worth
    assert of(CalibrationKind.BATTERY, cold, Side.MILD) is None
    # Half of the frames for half of the drop is the same.
    half = [
        out(n, battery=(90.0, 70.0), battery_frames=400, counted=80.0, taken_share=0.5, temperature_c=0.0)
        for n in range(4)
    ]
    assert of(CalibrationKind.BATTERY, half, Side.COLD).found.value == pytest.approx(0.5)
    for odd in (
        {"battery": (90.0,)},
        {"battery": (50.0, 90.0)},
        {"battery": (90.0, 88.0)},
        {"temperature_c": None},
        {"counted": None},
    ):
        said = {
            "battery": (90.0, 50.0),
            "battery_frames": 400,
            "counted": 80.0,
            "taken_share": 1.0,
            "temperature_c": 12.0,
        } | odd
        assert lessons_of_times([out(n, **said) for n in range(6)]) == ()


def test_the_interval_of_filter_changes_knows_that_hands_vary():
    # Hands take 6 ± 3 s, a change 30 ± 4 s as planned; in each of 2,000 seasons six changes and six pauses
    # without one (seeded).
    rng = np.random.default_rng(31)
    covered = 0
    for _ in range(2000):
        tick, start, frames = 0.0, 0.0, [ticked(0, 0, 1, 0, 0, 0)]
        for number in range(1, 13):
            change = 30.0 if number % 2 else 0.0
            start += 10 + change
            tick += 10 + rng.normal(6, 3) + (rng.normal(30, 4) if change else 0.0)
            frames.append(ticked(number, start, 1, change, int(change > 0), tick))
        (found,) = [
            item
            for item in lessons_of_times([out(frames=tuple(frames), filter_change_s=30.0)])
            if item.kind == CalibrationKind.FILTER_CHANGE
        ]
        covered += found.found.low <= 1.0 <= found.found.high
    assert 0.93 <= covered / 2000 <= 0.97
