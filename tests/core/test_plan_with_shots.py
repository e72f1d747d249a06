"""An outing with the plan of each shot at its visit: what fails is said once, and frames that take longer move the
outing.
"""

from dataclasses import replace
from datetime import timedelta

from sample_shot import DUSK, FULL, PLACE

from lucid_ridge.core.facts.outing import Outing, OutingStop, StopKind
from lucid_ridge.core.facts.place import Approach
from lucid_ridge.core.facts.shot import changed
from lucid_ridge.core.outing.plan_with_shots import plan_with_shots
from lucid_ridge.core.outing.stop_facts import StopFacts, StopWindow
from lucid_ridge.core.planning.plan.shot_plan import plan_shot
from lucid_ridge.core.planning.verdicts import FAILS
from lucid_ridge.core.spans.intervals import Interval

OUT = Outing("Dusk", DUSK.date(), contact="Neighbour")
SHOT = replace(
    FULL, location=replace(PLACE, zone="UTC"), approach=Approach(drive_min=30.0, walk_m=500.0, set_up_min=10.0)
)


def _stop(facts, lasts_s, last_start=0.0):
    span = Interval(facts.light.time_utc, facts.light.time_utc + timedelta(seconds=last_start), False, False)
    return StopFacts(
        said=OutingStop(StopKind.SHOT),
        name="Stone",
        facts=facts,
        windows=(StopWindow(span, 0.5, "golden_hour"),),
        lasts_s=lasts_s,
        location_id=1,
        viewpoint_id=1,
        shot_id=1,
    )


def _texts(plan):
    return [reason.text for reason in plan.reasons if reason.severity == FAILS]


def test_frames_past_the_light_are_said_once():
    # Four minutes before its light ends: the three frames of 128 s take longer.
    late = changed(SHOT, time_utc=DUSK + timedelta(minutes=56))
    own = plan_shot(late)
    assert own.sequence.total_s > own.sequence.available_s
    plan, _, at_visits = plan_with_shots(OUT, (_stop(late, own.sequence.total_s),))
    assert at_visits[0].begins_utc == late.light.time_utc
    (said,) = _texts(plan)
    assert said.startswith("Stone: The sequence takes")
    assert plan.marks[0] == FAILS


def test_another_failure_at_the_visit_is_added_with_its_time():
    # The subject sits still for ten seconds only.
    restless = changed(SHOT, patience_s=10.0)
    plan, _, _ = plan_with_shots(OUT, (_stop(restless, plan_shot(restless).sequence.total_s),))
    assert [text.startswith("Stone at 15:25: The sequence takes") for text in _texts(plan)] == [True]
    assert plan.mark == FAILS
    assert not any("fits" in reason.text for reason in plan.reasons)


def test_frames_that_take_longer_than_was_thought_begin_earlier():
    total_s = plan_shot(SHOT).sequence.total_s
    plan, stops, _ = plan_with_shots(OUT, (_stop(SHOT, total_s - 120.0, last_start=900.0),))
    assert stops[0].lasts_s == total_s
    assert stops[0].windows[0].span.end_utc == DUSK + timedelta(seconds=900 - 120)
    frames = next(part.span for part in plan.parts if part.kind == "frames")
    assert abs((frames.end_utc - frames.start_utc).total_seconds() - total_s) < 1
