"""Stored plans, read back from what any version wrote."""

from datetime import UTC, datetime

from lucid_ridge.operations.log.field_sessions import _ticked
from lucid_ridge.store.recorded_plans import stored_plan

FRAME = {
    "number": 1, "f_number": 8.0, "iso": 100.0, "shutter_s": 2.0, "focus_m": 4.0, "filter_ids": [3], "filters": ["ND"],
    "stops_on_lens": 10.0, "expected": [0.2], "look": "silky", "streak_share": None, "start_s": 5.0,
}  # fmt: skip


def test_what_an_early_version_did_not_record_is_not_known():
    plan = stored_plan({"frames": {"0.0.0.0": FRAME}, "start_utc": "2026-11-25T15:25:00+00:00"})
    frame = plan.frames["0.0.0.0"]
    assert (frame.filter_ids, frame.change_s, frame.waits) == ((3,), None, False)
    assert plan.starts_utc == datetime(2026, 11, 25, 15, 25, tzinfo=UTC)
    assert (plan.numbers, plan.settings_of("0.0.0.0").focus_m) == ({"0.0.0.0": 1}, 4.0)


def test_a_filter_change_that_was_not_recorded_teaches_nothing():
    ticks, ids = {"0.0.0.0": [datetime(2026, 11, 25, 15, 26, tzinfo=UTC)]}, {"0.0.0.0": 7}
    for more, ticked in (({}, False), ({"change_s": 0.0}, True)):
        plan = stored_plan({"frames": {"0.0.0.0": FRAME | more}})
        (found,) = _ticked([("0.0.0.0", plan.frames["0.0.0.0"])], ticks, ids)
        assert (found is not None) == ticked


def test_an_entry_without_a_plan_has_no_frames():
    assert (stored_plan(None).frames, stored_plan(None).starts_utc) == ({}, None)
