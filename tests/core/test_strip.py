"""A session on one clock: its span, its ticks, and a plan of another day."""

from datetime import UTC, datetime, timedelta, timezone

import pytest

from lucid_ridge.core.field.strip import Spell, strip

START = datetime(2026, 6, 1, 4, 7, tzinfo=UTC)


def spell(minutes, lasts_min=1.0, start=START):
    begins = start + timedelta(minutes=minutes)
    return Spell("frame", begins, begins + timedelta(minutes=lasts_min), "x", 1)


def test_both_lie_on_one_clock_with_full_minutes_written_at_it():
    found = strip([spell(0, 20)], [spell(5, 30)])
    assert found.begins_utc < START
    assert found.share(START + timedelta(minutes=35)) < 1
    # Some 37 minutes at five minutes each.
    assert {tick.minute % 5 for tick in found.ticks} == {0}
    assert 6 <= len(found.ticks) <= 9


def test_a_plan_of_another_day_is_left_out():
    found = strip([spell(3 * 24 * 60)], [spell(0)])
    assert found.planned == ()
    assert found.ends_utc - found.begins_utc < timedelta(minutes=3)
    assert strip([spell(0)], []) is None


def test_ticks_are_full_hours_of_the_places_own_clock():
    # Nepal is 5 h 45 min ahead of UTC.
    there = START.astimezone(timezone(timedelta(hours=5, minutes=45)))
    found = strip([], [spell(0, 400, there)])
    assert {tick.minute for tick in found.ticks} == {0}


@pytest.mark.parametrize("lasts_min", [0.001, 1, 90, 600, 5000])
def test_there_are_never_too_many_ticks(lasts_min):
    found = strip([], [spell(0, lasts_min)])
    assert len(found.ticks) <= 36
    assert all(found.begins_utc <= tick <= found.ends_utc for tick in found.ticks)
