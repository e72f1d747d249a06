"""What is worked through in the field: actions, phases, tables, and plans with what was found."""

import math
from dataclasses import replace
from datetime import UTC, datetime, timedelta

import pytest
from sample_shot import FULL

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.exposure.ledger import ExposureReading
from lucid_ridge.core.facts.filters import FilterKind
from lucid_ridge.core.facts.frame_groups import FrameGroup, GroupExposure, GroupFilters, Role
from lucid_ridge.core.field.changes import Difference, as_found, difference_of, metered_ev100, with_reading
from lucid_ridge.core.field.events import EventKind, FieldEvent
from lucid_ridge.core.field.run_sheet import PhaseKind, filter_actions, last_actions, run_frames
from lucid_ridge.core.field.tables import DELAYS_MIN, meter, tables_of
from lucid_ridge.core.planning.light.plan import plan_light
from lucid_ridge.core.planning.plan.shot_plan import plan_shot


@pytest.fixture
def facts():
    return FULL


def test_filters_come_off_before_others_go_on():
    assert filter_actions(["ten-stop"], ["polariser"]) == ("Take off ten-stop", "Put on polariser")
    assert filter_actions([], []) == ()


def test_no_filter_is_forgotten(facts):
    """Follow the hand's actions: what is on the lens at each frame is what the plan says, and at the end nothing is."""
    bare = FrameGroup(Role.TEST, exposure=GroupExposure.CARRYING, filters=GroupFilters.BARE)
    facts = replace(facts, frame_groups=(bare, FrameGroup(), bare))
    plan = plan_shot(facts)
    frames = run_frames(facts, plan)
    assert frames
    on: list[str] = []
    for frame, planned in zip(frames, plan.sequence.frames, strict=True):
        for action in frame.actions:
            if action.startswith("Put on "):
                on.append(action.removeprefix("Put on "))
            if action.startswith("Take off "):
                on.remove(action.removeprefix("Take off "))
        assert sorted(on) == sorted(planned.filters) == sorted(frame.on_lens)
    for action in last_actions(frames):
        on.remove(action.removeprefix("Take off "))
    assert on == []


def test_every_frame_has_one_exposure_and_its_own_key(facts):
    plan = plan_shot(replace(facts, frame_groups=(FrameGroup(count=3), FrameGroup(Role.SKY))))
    frames = run_frames(facts, plan)
    assert len({frame.key for frame in frames}) == len(frames)
    for frame in frames:
        exposures = [phase for phase in frame.phases if phase.kind == PhaseKind.EXPOSURE]
        assert [phase.seconds for phase in exposures] == [frame.shutter_s]


def test_a_meters_marks_add_up_to_the_ev():
    marks = meter()
    ev = {mark.label: mark.ev for part in (marks.apertures, marks.shutters, marks.isos) for mark in part}
    # ISO 2720: f/16 at 1/125 s, ISO 100 is EV 15; f/8 at 1 s, ISO 400 is EV 4.
    assert ev["f/16"] + ev["1/125"] + ev["100"] == pytest.approx(15, abs=0.05)
    assert ev["f/8"] + ev["1 s" if "1 s" in ev else '1"'] + ev["400"] == pytest.approx(4, abs=0.05)


def test_a_reading_moves_the_time_by_its_stops(facts):
    before = plan_shot(facts)
    ev = plan_shot(facts).exposure.scene_ev100
    assert ev is not None
    brighter = as_found(facts, Difference(reading=ExposureReading(1.0, 2.0 ** -(ev + 2), 100.0)))
    assert metered_ev100(brighter) == pytest.approx(ev + 2)
    after = plan_shot(brighter)
    assert before.exposure.ledger is not None
    assert after.exposure.ledger is not None
    assert after.exposure.ledger.shutter_s == pytest.approx(before.exposure.ledger.shutter_s / 4, rel=0.02)


def test_the_same_reading_changes_nothing(facts):
    ev = metered_ev100(facts)
    assert ev is not None
    same = with_reading(
        facts, ExposureReading(8.0, 64 * 2.0**-ev, 100.0, through_lens=facts.exposure.metered_through_lens)
    )
    assert [frame.shutter_s for frame in plan_shot(same).sequence.frames] == pytest.approx(
        [frame.shutter_s for frame in plan_shot(facts).sequence.frames], rel=1e-6
    )


def test_filters_that_were_on_when_metered_are_counted_back():
    facts = FULL
    on = tuple(
        replace(item, on_when_metered=item.on_lens and item.kind == FilterKind.NEUTRAL_DENSITY)
        for item in facts.filters
    )
    through = replace(facts, filters=on)
    counted = sum(item.stops for item in on if item.on_when_metered)
    bare, ev = metered_ev100(facts), metered_ev100(through)
    assert bare is not None
    assert ev == pytest.approx(bare + counted)


def test_tables_hold_what_plans_say(facts):
    tables = tables_of(facts, plan_shot(facts))
    assert tables.planned_ev100 == pytest.approx(plan_shot(facts).exposure.scene_ev100)
    missing, rows = tables.readings[0]
    assert missing == frozenset()
    evs = [row.ev100 for row in rows]
    assert evs == sorted(evs)
    middle = rows[len(rows) // 2]
    planned = {frame.key: frame.shutter_s for frame in run_frames(facts, plan_shot(facts))}
    assert {key: item.shutter_s for key, item in middle.plan.frames.items()} == pytest.approx(planned, rel=1e-6)
    assert [row.minutes for row in tables.delays] == list(DELAYS_MIN)
    # How far rows lie apart, by the times that stand in them: the first beside the plan.
    before = planned
    for row in tables.delays:
        now = {key: item.shutter_s for key, item in row.plan.frames.items()}
        both = [abs(math.log2(now[key] / before[key])) for key in now if key in before]
        assert row.apart_stops == (pytest.approx(max(both)) if both else None)
        before = now


def test_without_light_there_are_no_tables():
    facts = FULL.choosing(metered_shutter_s=None, time_utc=None)
    assert tables_of(facts, plan_shot(facts)).readings == ()
    assert "server is needed" in tables_of(facts, plan_shot(facts)).ends


def test_later_is_later(facts):
    later = as_found(facts, Difference(later_min=30))
    assert facts.light.time_utc is not None
    assert (later.light.time_utc - facts.light.time_utc).total_seconds() == 1800
    # A reading goes along with the predicted light.
    before, after = metered_ev100(facts), metered_ev100(later)
    if before is not None:
        change = (
            plan_shot(later.choosing(metered_shutter_s=None)).light.ev100
            - plan_shot(facts.choosing(metered_shutter_s=None)).light.ev100
        )
        assert after == pytest.approx(before + change, abs=1e-6)


def event(kind, at_min, **said):
    return FieldEvent(f"{kind} {at_min}", "r", "x", NOON + timedelta(minutes=at_min), EventKind(kind), **said)


NOON = datetime(2026, 6, 1, 12, tzinfo=UTC)


def test_what_was_noted_comes_to_one_difference():
    reading = event("reading", 20, f_number=8.0, shutter_s=0.25, iso=100.0)
    gone = event("filter_missing", 5, value=7.0)
    log = [
        event("late", 10, value=10.0),
        reading,
        event("late", 30, value=20.0),
        gone,
        event("filter_missing", 6, value=3.0),
        event("undone", 7, refers=gone.id),
        event("wind", 8, value=4.0),
        event("wind", 9, value=9.0),
        event("stands_at", 40, value=0.42, text="5"),
        event("taken", 41, frame="0.0.0.0"),
    ]
    found = difference_of(log)
    assert (found.later_min, found.read_after_min) == (30.0, 10.0)
    assert found.missing_filter_ids == frozenset({3})
    assert (found.wind_mps, found.element_id, found.distance_m) == (9.0, 5, 0.42)
    assert found.reading == ExposureReading(8.0, 0.25, 100.0)
    assert difference_of([]) == Difference()


def test_a_reading_is_carried_along_by_the_delay_that_came_after_it(facts):
    """Read on arrival, then half an hour late: the light has gone on falling, as it is predicted to."""
    reading = ExposureReading(8.0, 1.0, 100.0, through_lens=facts.exposure.metered_through_lens)
    first = as_found(facts, Difference(reading=reading))
    ev = metered_ev100(first)
    at_once, after = (
        as_found(facts, Difference(later_min=30.0, reading=reading, read_after_min=30.0)),
        as_found(facts, Difference(later_min=30.0, reading=reading, read_after_min=0.0)),
    )
    assert metered_ev100(at_once) == pytest.approx(ev)
    fall = plan_light(after).ev100 - plan_light(first).ev100
    assert fall < -0.5
    assert metered_ev100(after) == pytest.approx(ev + fall)
    assert at_once.light.time_utc == after.light.time_utc


def test_a_wind_that_no_rule_asks_for_is_told(facts):
    with pytest.raises(InputError) as told:
        as_found(replace(facts, forecast=None), Difference(wind_mps=9.0))
    assert told.value.field == "wind_mps"


def test_the_camera_takes_its_dark_frame_as_long_as_the_time_that_was_found(facts):
    body = replace(facts.body, dark_frame=True)
    dark = replace(facts, body=body)
    for _, rows in tables_of(dark, plan_shot(dark)).readings:
        for row in rows:
            for item in row.plan.frames.values():
                assert item.dark_s == (item.shutter_s if item.shutter_s >= 1 else 0.0)


def test_something_that_stands_nearer_needs_another_focus(facts):
    nearest = min(facts.elements, key=lambda item: item.distance_m)
    found = as_found(facts, Difference(element_id=nearest.id, distance_m=nearest.distance_m / 2))
    assert next(item for item in found.elements if item.id == nearest.id).distance_m == nearest.distance_m / 2
