"""A meter reading is carried along the predicted light, or becomes history."""

import dataclasses
import math
from datetime import UTC, date, datetime, timedelta

import pytest
from sample_shot import FULL

from lucid_ridge.core.facts.shot import changed
from lucid_ridge.core.facts.spots import SpotPart, SpotReading
from lucid_ridge.core.field.changes import Difference, as_found
from lucid_ridge.core.outing.at_visit import facts_at
from lucid_ridge.core.planning.exposure.reading_in_force import carried_reading, reading_in_force
from lucid_ridge.core.planning.plan.shot_plan import plan_shot

NOON = datetime(2026, 11, 25, 12, 0, tzinfo=UTC)
READ = changed(
    FULL, time_utc=NOON, metered_at_utc=NOON, metered_f_number=8.0, metered_shutter_s=1 / 125, metered_iso=100.0
)


def _codes(facts):
    return {reason.code for reason in plan_shot(facts).exposure.reasons}


def _predicted(facts):
    return plan_shot(changed(facts, metered_shutter_s=None)).exposure.scene_ev100


def test_at_its_own_time_it_stands():
    assert reading_in_force(READ) is READ
    assert reading_in_force(changed(READ, metered_at_utc=None, time_utc=NOON + timedelta(hours=1))).exposure == (
        dataclasses.replace(READ.exposure, metered_at_utc=None)
    )
    assert carried_reading(changed(READ, metered_shutter_s=None, metered_at_utc=NOON - timedelta(hours=1))) is None


def test_carried_along_the_prediction():
    """EV now = EV read + predicted now - predicted then; the spots and the range go with it."""
    spot = SpotReading(SpotPart.SKY, 13.0)
    facts = changed(READ, time_utc=NOON + timedelta(hours=2), spots=(spot,), highlight_ev=14.0, shadow_ev=8.0)
    change = _predicted(facts) - _predicted(READ)
    assert change < -0.5
    plan = plan_shot(facts)
    # log2(64 · 125) = 12.97 by hand.
    assert plan.exposure.scene_ev100 == pytest.approx(math.log2(64 * 125) + change, abs=0.01)
    then = reading_in_force(facts)
    assert (then.exposure.highlight_ev, then.exposure.shadow_ev) == (
        pytest.approx(14 + change),
        pytest.approx(8 + change),
    )
    assert then.spots[0].ev100 == pytest.approx(13 + change)
    assert "exposure.reading_carried" in _codes(facts)
    assert reading_in_force(then) is then


def test_meter_and_range_have_a_time_each():
    """A new meter reading leaves highlight and shadow at their own time: each is carried by its own change."""
    later = NOON + timedelta(hours=2)
    facts = changed(
        READ, time_utc=later, metered_at_utc=later, range_read_at_utc=NOON, highlight_ev=14.0, shadow_ev=8.0
    )
    change = _predicted(facts) - _predicted(READ)
    then = reading_in_force(facts)
    assert then.exposure.metered_shutter_s == READ.exposure.metered_shutter_s
    assert then.exposure.highlight_ev == pytest.approx(14 + change)
    said = [item for item in plan_shot(facts).exposure.reasons if item.code == "exposure.reading_carried"]
    assert [(item.figures["of_range"], item.dial) for item in said] == [(True, "highlight_ev")]
    # History of one is not history of the other.
    night = changed(facts, time_utc=NOON + timedelta(hours=7), metered_at_utc=NOON + timedelta(hours=7))
    kept = reading_in_force(night).exposure
    assert (kept.metered_shutter_s, kept.highlight_ev) == (READ.exposure.metered_shutter_s, None)


def test_a_reading_of_another_place_is_history():
    elsewhere = dataclasses.replace(READ, read_elsewhere="Tern Weir")
    plan = plan_shot(elsewhere)
    assert plan.exposure.predicted
    (history,) = [item for item in plan.exposure.reasons if item.code == "exposure.reading_is_history"]
    assert "taken at Tern Weir" in history.text
    assert reading_in_force(reading_in_force(elsewhere)) == reading_in_force(elsewhere)


def test_into_the_night_and_on_another_day_it_is_history():
    night = changed(READ, time_utc=NOON + timedelta(hours=7))
    assert "exposure.reading_is_history" in _codes(night)
    assert plan_shot(night).exposure.predicted
    # Kept, it would hold 1/125 over some fifteen stops.
    assert plan_shot(night).exposure.scene_ev100 < math.log2(64 * 125) - 10
    tomorrow = changed(READ, date_local=date(2026, 11, 26), time_utc=NOON + timedelta(days=1))
    assert "exposure.reading_is_history" in _codes(tomorrow)
    # Across sunset by less than two stops it still counts: from a quarter of an hour before to just after.
    low = datetime(2026, 11, 25, 15, 45, tzinfo=UTC)
    late = changed(READ, metered_at_utc=low, time_utc=low + timedelta(minutes=14))
    assert "exposure.reading_carried" in _codes(late)


def test_runner_and_outing_use_the_same_rule():
    for minutes in (20.0, 90.0, 420.0):
        planned = plan_shot(changed(READ, time_utc=NOON + timedelta(minutes=minutes)))
        found = plan_shot(as_found(READ, Difference(later_min=minutes)))
        visited = plan_shot(facts_at(READ, NOON + timedelta(minutes=minutes)))
        for other in (found, visited):
            assert other.exposure.scene_ev100 == pytest.approx(planned.exposure.scene_ev100)
            assert other.exposure.predicted == planned.exposure.predicted


def test_a_contradiction_is_said():
    assert "exposure.reading_contradicts" not in _codes(READ)
    dark = changed(READ, metered_shutter_s=1.0)
    assert "exposure.reading_contradicts" in _codes(dark)
