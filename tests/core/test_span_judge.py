"""One judge of a way: where a tide is not known, with margins, and that all who judge the same minute agree."""

from dataclasses import replace
from datetime import UTC, date, datetime, time, timedelta

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from sample_shot import FULL

from lucid_ridge.core.facts.choices import LightChoices
from lucid_ridge.core.facts.outing import Outing, OutingStop, StopKind
from lucid_ridge.core.facts.place import Approach, Element, Hazard, HazardKind, Location, Opening, OpeningKind
from lucid_ridge.core.facts.shot import ShotFacts, changed
from lucid_ridge.core.framing.solids import Shape
from lucid_ridge.core.light.skyline import LEVEL
from lucid_ridge.core.outing.at_visit import light_reasons, stays_of
from lucid_ridge.core.outing.plan import plan_outing
from lucid_ridge.core.outing.stop_facts import StopFacts, StopWindow
from lucid_ridge.core.planning.day.outlook import best_outlook
from lucid_ridge.core.planning.day.windows import windows_of_date
from lucid_ridge.core.planning.light.plan import day_of_light
from lucid_ridge.core.planning.plan.shot_plan import plan_shot
from lucid_ridge.core.planning.reasons import worst_mark
from lucid_ridge.core.planning.verdicts import FAILS, HOLDS, TIGHT, UNSAID
from lucid_ridge.core.planning.way.closure_reasons import closure_reasons
from lucid_ridge.core.planning.way.closures import caught_legs, closures, closures_of_way, usable_part
from lucid_ridge.core.planning.way.plan import plan_way
from lucid_ridge.core.spans.intervals import Interval
from lucid_ridge.core.tides.heights import tide_events, unknown_spans
from lucid_ridge.core.tides.table import TideTable
from lucid_ridge.core.weather.promise import DEFAULT_WEIGHTS

DAY = datetime(2026, 12, 9, tzinfo=UTC)
NOW = DAY - timedelta(days=3)
# 03:10 4.0, 09:20 0.7, 15:30 4.2 m.
ENDS = TideTable(
    "Bar",
    tuple(
        (DAY.timestamp() + 3600 * hour, height) for hour, height in ((3 + 1 / 6, 4.0), (9 + 1 / 3, 0.7), (15.5, 4.2))
    ),
)
BAR = Hazard(HazardKind.TIDE, cut_off_m=2.5)
# 12 min on foot: a kilometre at 5 km/h.
WALK = Approach(drive_min=30.0, walk_m=1000.0, ascent_m=0.0, set_up_min=10.0, reserve_min=0.0)
POST = Element(1, "Post", Shape.POSTS, 233.0, 8.0, 0.3, 1.4)


def way_mark(way, closed):
    """By the rule in words: closed where a closure meets a leg, not known where one might."""
    caught = [item.known for item in closed if caught_legs(way, item)]
    return FAILS if any(caught) else UNSAID if caught else HOLDS


def _facts(hour=None, tide=ENDS, margin_m=0.0, margin_min=0.0, **light):
    moment = None if hour is None else DAY + timedelta(hours=hour)
    here = Location(
        name="Bar",
        latitude_deg=54.5,
        longitude_deg=-3.2,
        elevation_m=0.0,
        zone="UTC",
        skyline=LEVEL,
        tide=tide,
        tide_margin_m=margin_m,
        tide_margin_min=margin_min,
    )
    return ShotFacts(
        location=here,
        approach=WALK,
        hazards=(BAR,),
        elements=(POST,),
        light=LightChoices(date_local=DAY.date(), time_utc=moment, **light),
    )


def _span(start, end):
    return Interval(DAY + timedelta(hours=start), DAY + timedelta(hours=end), False, False)


def _clock(moment):
    return moment.strftime("%H:%M")


def test_where_the_table_ends_nothing_is_open():
    """After the last water the table says nothing: ○, named, and never open."""
    facts = _facts(17.0)
    plan = plan_shot(facts)
    assert plan.place.verdict.mark == UNSAID
    said = next(reason.text for reason in plan.because if "not known" in reason.text)
    assert "from 15:30 onwards" in said and "whether the way is open is not known" in said
    usable = usable_part(facts, _span(16.5, 19), 600.0)
    assert (usable.mark, bool(usable.unknown)) == (UNSAID, True)
    # By half a cosine from 0.7 m at 9:20 to 4.2 m at 15:30 the water reaches 2.5 m at 12:32: 370 min · acos(1 −
    # 2·1.8/3.5)/π = 188.4 after 9:20 is 12:28.
    closed = [item for item in closures(facts, DAY + timedelta(hours=9), DAY + timedelta(hours=24)) if item.known]
    assert _clock(closed[-1].span.start_utc) == "12:28"
    assert _clock(closed[-1].span.end_utc) == "15:30"


def test_a_gap_of_more_than_seven_hours_is_not_known():
    gap = TideTable(
        "Bar",
        tuple(
            (DAY.timestamp() + 3600 * hour, height)
            for hour, height in ((0.0, 0.6), (6.2, 4.0), (18.6, 3.8), (24.8, 0.7))
        ),
    )
    spans = unknown_spans(gap, DAY, DAY + timedelta(hours=24))
    assert [(span.start_utc, span.end_utc) for span in spans] == [
        (DAY + timedelta(hours=6.2), DAY + timedelta(hours=18.6))
    ]
    assert not gap.covers(DAY + timedelta(hours=7), DAY + timedelta(hours=8))
    # 3.8 m is a high water by what follows it, though less than the one before the gap.
    kinds = {_clock(event.time_utc): event.kind for event in tide_events(gap, DAY, DAY + timedelta(hours=25))}
    assert kinds["18:36"] == "high water"
    assert (
        way_mark(
            plan_way(_facts(12.0, gap), 600.0), closures_of_way(_facts(12.0, gap), plan_way(_facts(12.0, gap), 600.0))
        )
        == UNSAID
    )


def test_one_tide_a_day_has_longer_gaps():
    diurnal = TideTable("Far", tuple((DAY.timestamp() + 3600 * 12.4 * at, 0.3 if at % 2 else 1.5) for at in range(12)))
    assert diurnal.covers(DAY + timedelta(hours=1), DAY + timedelta(days=4))


def test_a_place_with_a_tide_hazard_and_no_tide_is_not_open():
    facts = _facts(12.0, tide=None)
    assert plan_shot(facts).place.verdict.mark == UNSAID
    assert usable_part(facts, _span(11, 13), 600.0).mark == UNSAID


def test_the_margin_makes_the_water_higher_and_the_closure_longer():
    """2.5 m less 0.3 m is reached sooner: 370 min · acos(1 − 2·1.5/3.5)/π = 168.2 min after 9:20, and half an hour of
    margin before it: 11:38.
    """
    bare, wide = (
        closures(_facts(None, margin_m=m, margin_min=t), DAY + timedelta(hours=9), DAY + timedelta(hours=15))
        for m, t in ((0, 0), (0.3, 30))
    )
    assert _clock(bare[-1].span.start_utc) == "12:28"
    assert _clock(wide[-1].span.start_utc) == "11:38"


def test_frames_and_light_together():
    """Of a window of an hour frames of 25 minutes may begin in the first 35; of one of twenty minutes none is wholly
    in it, which fails as the plan does.
    """
    facts = replace(_facts(), hazards=())
    whole, short = usable_part(facts, _span(10, 11), 1500.0), usable_part(facts, _span(10, 10 + 1 / 3), 1500.0)
    assert whole.span.end_utc == DAY + timedelta(hours=10, minutes=35)
    assert (short.mark, short.span is not None) == (FAILS, True)
    assert "25 min" in short.short and "20 min" in short.short


# Tides with six hours from water to water, whole or with a hole, gates and ways.
WATERS = st.builds(
    lambda first, high, low, hole: TideTable(
        "Bar",
        tuple(
            (DAY.timestamp() + 3600 * (first + 6.2 * at), high if at % 2 else low)
            for at in range(-6, 12)
            if at not in hole
        ),
    ),
    st.floats(0, 12),
    st.floats(3, 5),
    st.floats(0, 2),
    st.sampled_from([(), (0, 1), (3, 4), (-6, -5, -4, -3, -2, -1), (6, 7, 8, 9, 10, 11)]),
)
GATES = st.none() | st.builds(
    lambda opens, hours: Opening(OpeningKind.OPEN, "", time(opens), time((opens + hours) % 24)),
    st.integers(0, 23),
    st.integers(3, 20),
)


@settings(max_examples=80, deadline=None)
@given(
    WATERS,
    GATES,
    st.floats(1.5, 4.5),
    st.floats(0, 0.6),
    st.floats(0, 60),
    st.floats(0, 23.9),
    st.floats(0, 4000),
    st.floats(0, 3),
)
def test_day_page_windows_and_reasons_give_one_answer(tide, gate, cut_m, margin_m, margin_min, hour, walk_m, hours):
    facts = replace(
        _facts(hour, tide, margin_m, margin_min),
        hazards=(replace(BAR, cut_off_m=cut_m),),
        openings=() if gate is None else (gate,),
        approach=replace(WALK, walk_m=walk_m),
    )
    way = plan_way(facts, hours * 3600)
    closed = closures_of_way(facts, way)
    mark = way_mark(way, closed)
    reasons = [reason for reason in closure_reasons(facts, way) if reason.severity in (FAILS, UNSAID)]
    assert worst_mark(reasons) == mark
    instant = Interval(way.moment_utc, way.moment_utc + timedelta(milliseconds=1), False, False)
    assert usable_part(facts, instant, hours * 3600, held_s=0.0).mark == mark
    # What the table does not cover is never open.
    if any(
        span.start_utc < leg.end_utc and leg.start_utc < span.end_utc
        for span in unknown_spans(tide, way.walk_in.start_utc, way.walk_out.end_utc)
        for leg in (way.walk_in, way.walk_out)
    ):
        assert mark != HOLDS


@settings(max_examples=40, deadline=None)
@given(
    WATERS,
    GATES,
    st.floats(1.5, 4.5),
    st.sampled_from(["glow", "blue_hour", "dark_sky"]),
    st.floats(0, 3),
    st.floats(60, 3000),
)
def test_which_place_takes_the_day_pages_windows(tide, gate, cut_m, kind, water_m, lasts_s):
    facts = replace(
        _facts(None, tide, wanted_light=kind, water_high_m=water_m),
        hazards=(replace(BAR, cut_off_m=cut_m),),
        openings=() if gate is None else (gate,),
    )
    day = day_of_light(facts.location, DAY.date())
    found = windows_of_date(facts, day, lasts_s, None, NOW, DEFAULT_WEIGHTS)
    windows = [item for item in found.windows if item.window.kind == kind]
    # Both are given the same closures: searched for from another start, the instant at which water passes a
    # height differs by microseconds.
    chance = best_outlook(facts, [day], lasts_s, found.closed, None, NOW, DEFAULT_WEIGHTS)
    good = [
        item
        for item in windows
        if item.mark != FAILS and item.take.end_utc - item.take.start_utc >= timedelta(minutes=3)
    ]
    if isinstance(chance, str):
        assert not good
    else:
        assert (chance.span, chance.mark) in [(item.usable.span, item.mark) for item in good]


def test_every_wet_part_of_a_window_is_tried():
    """Dark sky, water under 2.3 m, shut from midnight to six: the longest wet part lies behind the gate, the other one
    does not.
    """
    tide = TideTable(
        "Bar", tuple((DAY.timestamp() + 3600 * (at * 6.2 - 12), 0.5 if at % 2 else 4.5) for at in range(12))
    )
    shut = Opening(OpeningKind.CLOSED, "", time(0), time(6))
    facts = replace(_facts(None, tide, wanted_light="dark_sky", water_high_m=2.3), hazards=(), openings=(shut,))
    day = day_of_light(facts.location, DAY.date())
    (page,) = [
        item
        for item in windows_of_date(facts, day, 600.0, None, NOW, DEFAULT_WEIGHTS).windows
        if item.window.kind == "dark_sky"
    ]
    assert len(page.window.wet_spans) > 1
    assert page.mark == HOLDS
    chance = best_outlook(
        facts,
        [day],
        600.0,
        closures(facts, DAY - timedelta(days=2), DAY + timedelta(days=3)),
        None,
        NOW,
        DEFAULT_WEIGHTS,
    )
    assert chance.span == page.usable.span


OUT = Outing("Day", DAY.date(), contact="Neighbour")
HERE = replace(changed(FULL, wanted_light=None, time_utc=None, date_local=DAY.date()), approach=WALK)


def _stop(facts, start, end, location=1, minutes=None, name="Shot", lasts=600.0, kind=StopKind.SHOT):
    windows = (StopWindow(_span(start, end), 0.5, "its light"),)
    return StopFacts(
        said=OutingStop(kind, minutes=minutes),
        name=name,
        facts=facts,
        windows=windows,
        lasts_s=lasts,
        location_id=location,
        viewpoint_id=location,
        shot_id=location,
    )


@settings(max_examples=40, deadline=None)
@given(
    WATERS,
    GATES,
    st.floats(1.5, 4.5),
    st.floats(0, 3000),
    st.lists(
        st.tuples(
            st.integers(8, 20),
            st.sampled_from([0.3, 1.0, 4.0]),
            st.sampled_from([1, 1, 2]),
            st.sampled_from([None, 20.0, 90.0]),
        ),
        min_size=1,
        max_size=4,
    ),
)
def test_an_outing_is_judged_as_its_ways_are_gone(tide, gate, cut_m, walk_m, said):
    """Its order never walks or stays where the judge of a way says closed; what it calls holding is known to be open,
    and the marks are the judge's.
    """
    facts = replace(
        HERE, location=Location("Bar", 54.5, -3.2, 0.0, "UTC", LEVEL, tide), hazards=(replace(BAR, cut_off_m=cut_m),),
        openings=() if gate is None else (gate,), approach=replace(WALK, walk_m=walk_m),
    )  # fmt: skip
    dry = replace(HERE, location=Location("Fell", 54.7, -3.0, 0.0, "UTC"), approach=WALK)
    stops = [
        _stop(facts if location == 1 else dry, start, start + hours, location, minutes, f"Stop {at}")
        for at, (start, hours, location, minutes) in enumerate(said)
    ]
    plan = plan_outing(OUT, stops)
    walks = [visit.stop.place.walk_s for visit in plan.visits]
    for stay in stays_of(plan.visits, plan.start_utc, plan.out_s, walks):
        own = stops[plan.visits[stay.visits[0]].stop.at].facts
        mark = way_mark(stay.way, closures_of_way(own, stay.way))
        assert mark != FAILS
        at = plan.visits[stay.visits[0]].stop.at
        if mark == UNSAID:
            assert plan.marks[at] in (UNSAID, TIGHT, FAILS)
        if plan.marks[at] == HOLDS:
            assert mark == HOLDS
    for visit in plan.visits:
        against = light_reasons(stops[visit.stop.at].facts, plan.at(visit.begin_s), stops[visit.stop.at].lasts_s)
        if plan.marks[visit.stop.at] == HOLDS:
            assert not [reason for reason in against if reason.severity in (FAILS, UNSAID)]


def test_an_outing_in_the_wrong_light_does_not_hold():
    """Glow wanted, begun in the dark sky: ▲ with the sentence of the shot's own plan."""
    glow = changed(HERE, wanted_light="glow")
    plan = plan_outing(OUT, [_stop(glow, 20, 23)])
    assert (plan.mark, plan.marks[0]) == (FAILS, FAILS)
    own = plan_shot(changed(glow, time_utc=plan.begins_utc(0))).light
    wrong = next(reason.text for reason in own.reasons if reason.severity == FAILS)
    assert any(wrong in reason.text for reason in plan.reasons)


def test_scouting_a_place_that_is_shut_all_day_does_not_hold():
    shut = replace(
        HERE,
        openings=(
            Opening(
                OpeningKind.CLOSED, "Lambing.", None, None, first_date=date(2026, 12, 1), last_date=date(2026, 12, 31)
            ),
        ),
    )
    plan = plan_outing(OUT, [_stop(shut, 9, 15, kind=StopKind.SCOUTING, minutes=45.0)])
    assert (plan.order, plan.mark) == ((), FAILS)
    assert "The place is shut" in plan.reasons[0].text and "no open way" in plan.reasons[0].text


def test_several_days_go_home_at_night():
    two = replace(OUT, days=2)
    stops = [_stop(HERE, 20, 21, 1, name="Evening"), _stop(HERE, 31.5, 32.5, 2, name="Morning")]
    plan = plan_outing(two, stops)
    (night,) = [part for part in plan.parts if part.kind == "night"]
    assert night.where == "at home"
    assert night.span.end_utc - night.span.start_utc >= timedelta(hours=6)
    # Nobody waits at the tripod till morning.
    assert all(
        part.span.end_utc - part.span.start_utc < timedelta(hours=1) for part in plan.parts if part.kind == "wait"
    )
    tent = plan_outing(replace(two, nights="out"), stops)
    assert not [part for part in tent.parts if part.kind == "night"]


def test_a_rest_has_its_hours():
    soup = StopFacts(
        said=OutingStop(StopKind.REST, minutes=30.0, after_clock=time(12), before_clock=time(13)), name="Soup"
    )
    plan = plan_outing(OUT, [_stop(HERE, 9, 9.5), soup, _stop(HERE, 15, 15.5, 2)])
    rest = next(part for part in plan.parts if part.kind == "rest")
    assert DAY + timedelta(hours=12) <= rest.span.start_utc <= DAY + timedelta(hours=13)


@pytest.mark.parametrize("late", [20.0, 300.0])
def test_running_late_names_no_limit_that_nobody_set(late):
    stops = [_stop(HERE, 9, 9.5, 1, name="Dawn"), _stop(HERE, 12, 12.5, 2, name="Noon")]
    plan = plan_outing(replace(OUT, late_min=late), stops)
    assert not [reason for reason in plan.reasons if reason.dial == "most_walk_m"]
