"""What becomes of an outing by a stop's plan B: worked by hand, at the odd ends, and against the outing planned
without the stop.
"""

import dataclasses
from datetime import UTC, date, datetime, time, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st
from sample_shot import FULL

from lucid_ridge.core.facts.outing import Outing, OutingStop, StopKind
from lucid_ridge.core.facts.place import Approach, OtherPlace
from lucid_ridge.core.facts.shot import changed
from lucid_ridge.core.outing.plan import plan_outing
from lucid_ridge.core.outing.plan_b import plan_b
from lucid_ridge.core.outing.stop_facts import StopFacts, StopWindow
from lucid_ridge.core.spans.intervals import Interval
from lucid_ridge.core.weather.measures import Measure

DAY = date(2026, 11, 25)
OUT = Outing("Dusk", DAY, contact="Neighbour")
WALK = Approach(drive_min=30.0, walk_m=1000.0, ascent_m=0.0, set_up_min=20.0, reserve_min=15.0)
ON_FOOT_S = 1000 / 5000 * 3600


def _at(hour, minute=0):
    return datetime(2026, 11, 25, hour, minute, tzinfo=UTC)


DUSK = _at(16)


def _shot(begin, end, name="Shot", location=1, decided=None, **said):
    facts = dataclasses.replace(FULL, approach=WALK)
    if decided is not None:
        facts = changed(
            facts,
            plan_b=OtherPlace("Fold", 30.0, 12.0),
            plan_b_measure=Measure.LOW_CLOUD,
            plan_b_over=85.0,
            plan_b_clock=decided,
        )
    windows = StopWindow(Interval(begin, end, False, False), 0.5, "low light")
    return StopFacts(
        said=OutingStop(**said),
        name=name,
        facts=facts,
        windows=(windows,),
        lasts_s=600.0,
        location_id=location,
        viewpoint_id=location,
        shot_id=location,
    )


def _other(end=DUSK, location=9, **said):
    facts = dataclasses.replace(FULL, approach=WALK)
    spans = (StopWindow(Interval(_at(8), end, False, False), 0.25, "daylight"),)
    return StopFacts(
        said=OutingStop(StopKind.SCOUTING, minutes=45.0, **said),
        name="Fold",
        facts=facts,
        windows=spans,
        lasts_s=0.0,
        location_id=location,
        viewpoint_id=location,
    )


def _b(stops, other, at=0, outing=OUT):
    return plan_b(outing, stops, plan_outing(outing, stops), at, other)


def _clock(found, kind, stop):
    return next(part.span.start_utc for part in found.plan.parts if part.kind == kind and part.stop == stop)


def test_from_home_one_leaves_no_earlier_than_it_is_decided():
    found = _b([_shot(_at(15), _at(15, 30), decided=time(12))], _other())
    # Decided at noon; a drive of 30 with a reserve of 15 minutes, and a kilometre on foot at 5 km/h.
    assert found.decided_utc == _at(12)
    assert found.plan.leave_utc == _at(12)
    assert _clock(found, "scouting", 0) == _at(12, 45) + timedelta(seconds=ON_FOOT_S)
    assert found.plan.back_utc == _at(12, 45) + timedelta(seconds=2 * ON_FOOT_S, minutes=45 + 30)
    assert (found.mark, found.minded) == ("holds", ())


def test_what_has_begun_by_then_stays_as_it_was():
    stops = [_shot(_at(9), _at(9, 30), "Dawn", 2), _shot(_at(15), _at(15, 30), "Dusk", 1, decided=time(9, 5))]
    plan = plan_outing(OUT, stops)
    found = plan_b(OUT, stops, plan, 1, _other())
    assert found.plan.visits[0] == plan.visits[0]
    # One is at work at five past nine: the way begins when that is packed up.
    first = found.plan.visits[1]
    assert first.out_s == pytest.approx(plan.visits[0].leave_s)


def test_decided_only_on_the_spot_the_way_begins_there():
    found = _b([_shot(_at(15), _at(15, 30), decided=time(14, 50))], _other())
    # Half an hour from home would be 14:50 + 45 min; from the same coordinates there is only the walk out and in again.
    assert found.plan.leave_utc == _at(14, 50)
    assert _clock(found, "scouting", 0) == _at(14, 50) + timedelta(seconds=2 * ON_FOOT_S)


def test_a_decision_that_comes_too_late_is_told():
    found = _b([_shot(_at(15), _at(15, 30), decided=time(13))], _other(end=_at(13, 30)))
    assert found.mark == "fails"
    assert any("Fold is left out" in reason.text for reason in found.minded)


def test_what_it_costs_the_other_stops_is_told():
    # Who must begin there by half past twelve and stays for more than six hours cannot be elsewhere at twenty to two.
    stops = [_shot(_at(12), _at(12, 20), "Noon", 1, decided=time(10)), _shot(_at(13, 40), _at(13, 50), "Later", 2)]
    longer = dataclasses.replace(_other(end=_at(12, 30)), said=OutingStop(StopKind.SCOUTING, minutes=400.0, worth=9.0))
    found = _b(stops, longer)
    assert (found.mark, found.plan.left) == ("fails", (1,))
    assert any(reason.text.startswith("Later is left out") for reason in found.minded)


def test_what_nobody_can_judge_is_not_called_good():
    stops = [_shot(_at(15), _at(15, 30), decided=time(12))]
    # A plan B without a place, a stop that is left out itself, a trigger that nobody has said.
    assert _b(stops, None).mark == "unsaid"
    never = [dataclasses.replace(stops[0], windows=())]
    assert (_b(never, _other()).mark, _b(never, _other()).plan) == ("unsaid", None)
    open_ = changed(stops[0].facts, plan_b_clock=None)
    found = _b([dataclasses.replace(stops[0], facts=open_)], _other())
    assert (found.mark, found.decided_utc) == ("unsaid", None)
    assert found.plan is not None
    with pytest.raises(ValueError, match="no plan B"):
        _b([_shot(_at(15), _at(15, 30))], _other())


def test_it_is_decided_on_the_day_of_the_outing_not_of_the_shot():
    stops = [_shot(_at(15), _at(15, 30), decided=time(12))]
    on_other_day = changed(stops[0].facts, date_local=date(2026, 3, 1))
    assert _b([dataclasses.replace(stops[0], facts=on_other_day)], _other()).decided_utc == _at(12)


@given(
    st.lists(st.tuples(st.integers(8, 15), st.integers(10, 90), st.integers(1, 4)), min_size=1, max_size=4),
    st.integers(0, 3), st.integers(6, 16), st.integers(0, 59), st.integers(0, 60),
)  # fmt: skip
def test_over_random_outings_the_past_stays_and_nothing_overlaps(said, which, hour, minute, late):
    outing = dataclasses.replace(OUT, late_min=float(late))
    at = which % len(said)
    stops = [
        _shot(
            _at(start),
            _at(start) + timedelta(minutes=lasts),
            f"Stop {index}",
            location,
            decided=time(hour, minute) if index == at else None,
        )
        for index, (start, lasts, location) in enumerate(said)
    ]
    plan = plan_outing(outing, stops)
    found = plan_b(outing, stops, plan, at, _other())
    if found.plan is None:
        assert at in plan.left
        return
    decided = (found.decided_utc - plan.start_utc).total_seconds()
    visits = {visit.stop.at: visit for visit in found.plan.visits}
    # What has begun by then before the stop is as it was; what has not begins on the way no earlier than it is decided.
    before = plan.visits[: [visit.stop.at for visit in plan.visits].index(at)]
    begun = [visit for visit in before if visit.arrive_s <= decided]
    assert list(found.plan.visits[: len(begun)]) == begun
    for visit in found.plan.visits[len(begun) :]:
        assert visit.out_s >= decided - 1e-6
    # The mark is that of the plan it draws.
    assert (found.mark == "fails") == any(reason.severity == "fails" for reason in found.minded)
    if at not in visits:
        assert found.mark == "fails"
    for one, other in zip(found.plan.parts, found.plan.parts[1:], strict=False):
        assert abs((other.span.start_utc - one.span.end_utc).total_seconds()) < 1e-3


def test_a_decision_lies_before_what_it_decides():
    """Plan B is decided at one o'clock, and the stop begins at seven in the morning: at one o'clock of the day
    before.
    """
    found = _b([_shot(_at(7), _at(7, 30), decided=time(13))], _other())
    assert found.decided_utc == _at(13) - timedelta(days=1)
