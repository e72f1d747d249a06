"""An outing's plan: its day clock, what is left out, what has to be minded, and what goes into the bag."""

import dataclasses
from datetime import UTC, date, datetime, time, timedelta
from itertools import pairwise

import pytest
from sample_shot import BODY, FULL, TEN

from lucid_ridge.core.facts.outing import Outing, OutingStop, StopKind, StopOrder
from lucid_ridge.core.facts.place import Approach, Hazard, HazardKind
from lucid_ridge.core.facts.shot import changed
from lucid_ridge.core.outing.packing import packing_list
from lucid_ridge.core.outing.plan import plan_outing
from lucid_ridge.core.outing.stop_facts import StopFacts, StopWindow
from lucid_ridge.core.planning.plan.shot_plan import plan_shot
from lucid_ridge.core.planning.way.plan import plan_way
from lucid_ridge.core.spans.intervals import Interval

DAY = date(2026, 11, 25)
WALK = Approach(drive_min=30.0, walk_m=1000.0, ascent_m=0.0, set_up_min=20.0, reserve_min=15.0)
HERE = dataclasses.replace(FULL, approach=WALK)
SAID = OutingStop()
OUT = Outing("Dusk", DAY, contact="Neighbour")


def _at(hour, minute=0):
    return datetime(2026, 11, 25, hour, minute, tzinfo=UTC)


def _shot(begin, end, facts=HERE, location=1, said=SAID, name="Shot", promise=0.5, lasts=600.0):
    windows = (StopWindow(Interval(begin, end, False, False), promise, "low light"),) if begin else ()
    return StopFacts(
        said=said,
        name=name,
        facts=facts,
        windows=windows,
        lasts_s=lasts,
        location_id=location,
        viewpoint_id=location,
        shot_id=location,
    )


def _texts(plan, severity):
    return [reason.text for reason in plan.reasons if reason.severity == severity]


def test_a_single_shot_is_reached_as_its_own_way_says():
    plan = plan_outing(OUT, [_shot(_at(15), _at(15, 30))])
    way = plan_way(HERE, 600.0, _at(15))
    # Drive, reserve, walk and set-up are those of the shot's own plan; so is the way back.
    assert plan.leave_utc == way.arrival.leave_home_utc
    kinds = [part.kind for part in plan.parts]
    assert kinds == ["drive", "walk", "set up", "frames", "pack up", "walk", "drive"]
    assert plan.parts[-2].span.end_utc == way.walk_out.end_utc
    assert plan.mark == "holds"
    # Two kilometres on foot, in and out.
    assert plan.walk_m == 2000


def test_parts_follow_one_another_without_a_gap():
    plan = plan_outing(OUT, [_shot(_at(9), _at(9, 30)), _shot(_at(15), _at(15, 30), location=2)])
    for one, other in pairwise(plan.parts):
        assert abs((other.span.start_utc - one.span.end_utc).total_seconds()) < 1e-3


def test_walks_in_the_dark_ask_for_a_lamp():
    # The sun rises at about 8 UTC there: set up by 7, one walks in the dark.
    plan = plan_outing(OUT, [_shot(_at(7), _at(7, 20))])
    assert any(part.dark for part in plan.parts)
    assert any("head torch" in text for text in _texts(plan, "caution"))
    noon = plan_outing(OUT, [_shot(_at(12), _at(12, 20))])
    assert not any(part.dark for part in noon.parts)


def test_what_falls_out_says_by_how_much_and_why():
    one, other = (
        _shot(_at(10), _at(10, 10), name="One", promise=0.9),
        _shot(_at(10), _at(10, 20), name="Other", location=2, promise=0.3),
    )
    plan = plan_outing(OUT, [one, other])
    assert plan.order == (0,) and plan.left == (1,)
    (said,) = _texts(plan, "fails")
    # After One: ten minutes of frames, ten of packing, twelve back, twelve in, twenty to set up: 64 min after
    # 10:00 at 11:04, 44 too late; before it no better.
    assert said.startswith("Other is left out") and "44 min" in said, said
    never = plan_outing(OUT, [one, _shot(None, None, name="Never")])
    assert any("Never is left out: on these days it has no light" in text for text in _texts(never, "fails"))


def test_limits_are_told():
    early = plan_outing(dataclasses.replace(OUT, back_clock=time(12)), [_shot(_at(15), _at(15, 30))])
    assert early.order == () and "back" in _texts(early, "fails")[0]
    short = plan_outing(dataclasses.replace(OUT, most_walk_m=500.0), [_shot(_at(15), _at(15, 30))])
    assert any("walk" in text for text in _texts(short, "fails"))


def test_a_pinned_order_is_kept_and_its_lateness_told():
    stops = [_shot(_at(15), _at(15, 20), name="Late"), _shot(_at(9), _at(9, 30), name="Early", location=2)]
    pinned = plan_outing(dataclasses.replace(OUT, stop_order=StopOrder.PINNED), stops)
    assert pinned.order == (0, 1)
    assert any(
        text.startswith("Early begins at") and "after low light has ended" in text for text in _texts(pinned, "fails")
    )
    assert plan_outing(OUT, stops).order == (1, 0)


def test_forty_minutes_late_drops_what_is_over_and_keeps_what_is_done():
    stops = [_shot(_at(9), _at(9, 30), name="Dawn"), _shot(_at(11), _at(14), name="Noon", location=2)]
    late = plan_outing(dataclasses.replace(OUT, late_min=40.0), stops)
    assert late.order == (1,)
    assert any("Dawn is left out" in text for text in _texts(late, "fails"))
    done = [_shot(_at(9), _at(9, 30), name="Dawn", said=OutingStop(done=True)), stops[1]]
    after = plan_outing(dataclasses.replace(OUT, late_min=40.0), done)
    assert after.order == (0, 1)
    assert after.visits[0] == plan_outing(OUT, stops).visits[0]
    begins = after.visits[1].out_s
    assert begins == pytest.approx(after.visits[0].leave_s + 2400)


def test_an_unknown_drive_is_not_the_shortest():
    unknown = dataclasses.replace(HERE, approach=dataclasses.replace(WALK, drive_min=None))
    plan = plan_outing(OUT, [_shot(_at(15), _at(15, 30), unknown)])
    assert plan.mark == "unsaid"
    assert any("is not known" in text for text in _texts(plan, "unsaid"))
    assert plan.leave_utc < _at(14)
    typed = plan_outing(OUT, [_shot(_at(15), _at(15, 30), unknown, said=OutingStop(leg_min=25.0))])
    assert typed.mark == "holds"


def test_five_hours_without_a_rest_are_told_and_a_rest_mends_it():
    stops = [_shot(_at(9), _at(9, 30), lasts=3 * 3600), _shot(_at(13), _at(15), location=2, lasts=3 * 3600)]
    assert any("without food or a rest" in text for text in _texts(plan_outing(OUT, stops), "caution"))
    # In between one waits anyway: there the rest costs nothing.
    rest = StopFacts(said=OutingStop(StopKind.REST, minutes=15.0), name="Soup")
    with_rest = plan_outing(OUT, [stops[0], rest, stops[1]])
    assert not any("without food or a rest" in text for text in _texts(with_rest, "caution"))


def test_without_stops_and_without_word_left():
    empty = plan_outing(OUT, [])
    assert (empty.mark, empty.parts) == ("unsaid", ())
    alone = plan_outing(dataclasses.replace(OUT, contact=""), [_shot(_at(12), _at(13))])
    assert any("Tell someone where" in text for text in _texts(alone, "caution"))


def test_the_bag_has_each_thing_once_with_what_it_is_for():
    body = dataclasses.replace(BODY, battery_frames=300, file_mb=50.0, card_gb=64.0)
    tide = Hazard(HazardKind.TIDE, cut_off_m=4.0)
    facts = dataclasses.replace(changed(HERE, body=body), hazards=(tide,))
    stops = [_shot(_at(7), _at(7, 30), facts, name="One"), _shot(_at(15), _at(15, 30), facts, name="Other", location=2)]
    plan = plan_outing(OUT, stops)
    found = packing_list(OUT, plan, stops, [plan_shot(facts)] * 2, ["Thermos"])
    assert len({item.key for item in found}) == len(found)
    by_name = {item.name: item for item in found}
    assert by_name["Body"].why == "One, Other"
    assert by_name["Ten"].group == "filters"
    assert any("batteries for the Body" in name for name in by_name)
    assert "head torch with spare battery" in by_name
    assert "official tide table, and a watch" in by_name
    assert by_name["Thermos"].group == "my own"
    # A filter that stays in the bag is not packed.
    bare = changed(HERE, filters=(dataclasses.replace(TEN, on_lens=False),))
    alone = [_shot(_at(12), _at(13), bare)]
    assert "Ten" not in {item.name for item in packing_list(OUT, plan_outing(OUT, alone), alone, [plan_shot(bare)])}


def test_two_days_reach_over_midnight():
    two = dataclasses.replace(OUT, days=2)
    stops = [
        _shot(_at(20), _at(21), name="Evening"),
        _shot(_at(20) + timedelta(hours=11), _at(20) + timedelta(hours=12), name="Morning", location=2),
    ]
    plan = plan_outing(two, stops)
    assert plan.order == (0, 1)
    assert plan.back_utc.date() == date(2026, 11, 26)
