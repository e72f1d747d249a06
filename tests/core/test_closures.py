"""What closes the way, by hand: tide and hours against windows, reasons and starts, and that all of them agree."""

from dataclasses import replace
from datetime import UTC, date, datetime, time, timedelta
from zoneinfo import ZoneInfo

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lucid_ridge.core.facts.choices import LightChoices
from lucid_ridge.core.facts.place import (
    Approach,
    Element,
    Hazard,
    HazardKind,
    Location,
    Opening,
    OpeningDays,
    OpeningKind,
)
from lucid_ridge.core.facts.shot import ShotFacts
from lucid_ridge.core.framing.solids import Shape
from lucid_ridge.core.light.skyline import LEVEL
from lucid_ridge.core.planning.plan.shot_plan import plan_shot
from lucid_ridge.core.planning.way.closure_reasons import closure_reasons
from lucid_ridge.core.planning.way.closures import LOOKED_FOR, closures, closures_near, legs_of, usable_part
from lucid_ridge.core.planning.way.openings import closed_spans
from lucid_ridge.core.planning.way.plan import plan_way
from lucid_ridge.core.spans.intervals import Interval
from lucid_ridge.core.tides.table import TideTable

LONDON = ZoneInfo("Europe/London")
DAY = datetime(2026, 3, 1, tzinfo=UTC)
# High water 4 m a few seconds after noon, low 0 m at 06:00 and 18:00: by half a cosine above 3 m from 10:00 to 14:00.
# The seconds keep the clock, which cuts minutes off, from standing between two.
_SECONDS = 20
TIDE = TideTable(
    "Bar",
    tuple(
        (DAY.timestamp() + hours * 3600 + _SECONDS, height)
        for hours, height in ((-6, 0.0), (0, 4.0), (6, 0.0), (12, 4.0), (18, 0.0), (24, 4.0), (30, 0.0))
    ),
)
BAR = Hazard(HazardKind.TIDE, cut_off_m=3.0)
# 48 min on foot by Naismith's rule, 20 min to set up.
WALK = Approach(walk_m=4000.0, ascent_m=0.0, set_up_min=20.0)


def _facts(hours=None, **more):
    moment = None if hours is None else DAY + timedelta(hours=hours)
    here = Location(
        name="Bar",
        latitude_deg=54.0,
        longitude_deg=-3.0,
        elevation_m=0.0,
        zone="UTC",
        skyline=LEVEL,
        tide=TIDE,
        tide_margin_m=0.0,
        tide_margin_min=0.0,
    )
    return ShotFacts(
        location=here, approach=WALK, hazards=(BAR,), light=LightChoices(date_local=DAY.date(), time_utc=moment), **more
    )


def _span(start, end):
    return Interval(DAY + timedelta(hours=start), DAY + timedelta(hours=end), False, False)


def test_the_cut_off_is_where_the_half_cosine_says():
    spans = [item.span for item in closures(_facts(), DAY + timedelta(hours=6), DAY + timedelta(hours=18))]
    assert len(spans) == 1
    assert abs((spans[0].start_utc - (DAY + timedelta(hours=10, seconds=_SECONDS))).total_seconds()) < 1
    assert abs((spans[0].end_utc - (DAY + timedelta(hours=14, seconds=_SECONDS))).total_seconds()) < 1


@pytest.mark.parametrize(
    ("window", "left"),
    [
        # A sequence of 30 min, ten to pack: the way out starts 40 min after the start and takes 48; it must not meet
        # 10:00 to 14:00, nor may the walk in, which ends 20 min before the start. From 08:32 a start is closed until
        # 15:08 (14:00 and 20 min and 48). The frames end in the window: the last start is 30 min before its end.
        ((8, 17), (15 + 8 / 60, 16.5)),
        ((6, 9), (6, 8.5)),
        ((6, 9.2), (6, 8 + 32 / 60)),
        ((9, 12), None),
        ((15.2, 16), (15.2, 15.5)),
    ],
)
def test_which_starts_of_a_window_are_left(window, left):
    usable = usable_part(_facts(), _span(*window), 30 * 60.0)
    if left is None:
        assert usable.span is None
        assert "cut off from 10:00 to 14:00" in usable.broken
    else:
        for got, wanted in zip((usable.span.start_utc, usable.span.end_utc), left, strict=True):
            assert abs((got - DAY).total_seconds() - wanted * 3600) < _SECONDS + 2


def test_a_stay_between_two_walks_may_outlast_the_cut_off():
    # In at 09:00 and set up by 09:20, seven hours of frames, out from 16:30: one is marooned meanwhile, which is
    # said, not forbidden.
    short = replace(WALK, walk_m=400.0)
    facts = replace(_facts(9.75), approach=short)
    assert usable_part(facts, _span(9.7, 9.8), 7 * 3600.0).span is not None
    assert [
        item.severity for item in closure_reasons(facts, plan_way(facts, 7 * 3600.0)) if "10:00 to 14:00" in item.text
    ] == ["tight"]


GATE = Opening(OpeningKind.OPEN, "The barrier at the lane.", time(8, 0), time(20, 0))


def test_behind_a_gate_one_may_not_even_stay():
    facts = replace(_facts(19.0), hazards=(), openings=(GATE,))
    # Frames until 19:30, packed by 19:40, back at 20:28: the gate has closed at 20:00.
    found = closure_reasons(facts, plan_way(facts, 30 * 60.0))
    assert [item.severity for item in found] == ["fails"]
    assert (
        "shut from 20:00 to 08:00 on Mon 2 Mar. It closes the way out, 19:40 to 20:28. The barrier at the lane."
        in found[0].text
    )
    # A start by 18:32 is back in time: 30, 10 and 48 min before eight.
    usable = usable_part(facts, _span(17, 21), 30 * 60.0)
    assert abs((usable.span.end_utc - (DAY + timedelta(hours=18, minutes=32))).total_seconds()) < 1
    # In the morning nobody leaves the car before eight: a start from 09:08.
    usable = usable_part(facts, _span(6, 12), 30 * 60.0)
    assert abs((usable.span.start_utc - (DAY + timedelta(hours=9, minutes=8))).total_seconds()) < 1


def _shut(openings, zone, start, end):
    return [
        (span.start_utc.astimezone(zone).strftime("%a %H:%M"), span.end_utc.astimezone(zone).strftime("%a %H:%M"))
        for span, _ in closed_spans(openings, zone, start, end)
    ]


def test_hours_days_dates_and_permits():
    # 20 June 2026 is a Saturday.
    start, end = (datetime(2026, 6, day, tzinfo=LONDON).astimezone(UTC) for day in (19, 22))
    weekdays = Opening(OpeningKind.OPEN, "", time(9), time(17), OpeningDays.MONDAY_TO_FRIDAY)
    assert _shut([weekdays], LONDON, start, end) == [("Fri 00:00", "Fri 09:00"), ("Fri 17:00", "Mon 00:00")]
    late = Opening(OpeningKind.OPEN, "", time(20), time(2))
    assert _shut([late], LONDON, start, end - timedelta(days=1)) == [
        ("Fri 02:00", "Fri 20:00"),
        ("Sat 02:00", "Sat 20:00"),
    ]
    breeding = Opening(
        kind=OpeningKind.CLOSED,
        note="terns nest",
        from_clock=None,
        to_clock=None,
        days=OpeningDays.EVERY_DAY,
        first_date=date(2020, 4, 1),
        last_date=date(2020, 7, 31),
        every_year=True,
    )
    assert closed_spans([breeding], LONDON, start, end)[0][0].start_utc == start
    assert closed_spans([breeding], LONDON, start + timedelta(days=90), end + timedelta(days=90)) == []
    winter = replace(breeding, first_date=date(2020, 11, 1), last_date=date(2020, 2, 28))
    assert closed_spans([winter], LONDON, start, end) == []
    assert closed_spans([winter], LONDON, start + timedelta(days=200), end + timedelta(days=200))
    permit = Opening(OpeningKind.PERMIT, "", None, None, OpeningDays.EVERY_DAY, date(2026, 6, 20), date(2026, 6, 20))
    assert _shut([permit], LONDON, start, end) == [("Fri 00:00", "Sat 00:00"), ("Sun 00:00", "Mon 00:00")]
    # Opening hours outside their dates say nothing; a permit without dates shuts nothing.
    assert closed_spans([replace(GATE, first_date=date(2026, 7, 1))], LONDON, start, end) == []
    assert closed_spans([Opening(OpeningKind.PERMIT, "ask the warden")], LONDON, start, end) == []


def test_hours_on_the_nights_the_clocks_change():
    # 29 March 2026: from 01:00 to 02:00 there is no such hour; shut from 22:00 to 08:00 is nine hours of real
    # time, in October eleven.
    for day, hours in ((date(2026, 3, 28), 9), (date(2026, 10, 24), 11)):
        start = datetime.combine(day, time(12), tzinfo=LONDON).astimezone(UTC)
        night = closed_spans(
            [Opening(OpeningKind.OPEN, "", time(8), time(22))], LONDON, start, start + timedelta(days=1)
        )
        assert [(span.end_utc - span.start_utc) / timedelta(hours=1) for span, _ in night] == [hours]


@settings(max_examples=80, deadline=None)
@given(
    st.floats(0, 24), st.floats(0, 6), st.floats(0, 12_000), st.floats(0, 4), st.floats(0, 23), st.floats(0.5, 20),
)  # fmt: skip
def test_windows_verdict_and_reasons_agree(hour, sequence_h, walk_m, cut_m, opens, for_h):
    """A start is left in a window exactly where the reasons of a shot at that time do not fail."""
    closes = (opens + for_h) % 24
    hours = Opening(OpeningKind.OPEN, "", _clock(opens), _clock(closes))
    facts = replace(
        _facts(hour), hazards=(replace(BAR, cut_off_m=cut_m),), openings=(hours,), approach=replace(WALK, walk_m=walk_m)
    )
    way = plan_way(facts, sequence_h * 3600)
    fails = any(item.severity == "fails" for item in closure_reasons(facts, way))
    instant = Interval(way.moment_utc, way.moment_utc + timedelta(milliseconds=1), False, False)
    left = usable_part(facts, instant, sequence_h * 3600).span is not None
    assert left != fails
    # So does what is drawn of the way; a walk that takes no time has no leg to draw.
    closed = closures(facts, way.walk_in.start_utc - LOOKED_FOR, way.walk_out.end_utc + LOOKED_FOR)
    drawn = any(leg.closed for leg in legs_of(facts, way, closed))
    assert drawn == fails or (fails and way.walk_in.start_utc == way.walk_in.end_utc)


def test_legs_are_closed_and_dark_each_by_itself():
    # By hand, 1 March at 54° N: the sun sets about 17:50 and is 6° down about 18:25 (any almanac). Frames 17:00 to
    # 17:30, packed 17:40, back at 18:28. A gate that shuts at 17:35 meets packing up and the walk out, and neither
    # drive, walk in, set-up nor frames.
    facts = replace(
        _facts(17.0),
        hazards=(),
        openings=(replace(GATE, to_clock=time(17, 35)),),
        approach=replace(WALK, drive_min=40.0),
    )
    way = plan_way(facts, 30 * 60.0)
    legs = legs_of(facts, way, closures(facts, DAY, DAY + timedelta(days=1)))
    assert [(leg.name, leg.closed) for leg in legs] == [
        ("drive", False),
        ("walk in", False),
        ("set up", False),
        ("frames", False),
        ("pack up", True),
        ("walk out", True),
    ]
    assert [leg.name for leg in legs if leg.dark] == ["walk out"]
    # A tide one may wait out where one stands: it closes walks alone.
    noon = replace(_facts(9.75), approach=replace(WALK, walk_m=400.0))
    legs = legs_of(noon, plan_way(noon, 7 * 3600.0), closures(noon, DAY, DAY + timedelta(days=1)))
    assert not any(leg.closed for leg in legs)


def test_closures_are_shared_out_to_the_spans_they_may_meet():
    known = closures(_facts(), DAY, DAY + timedelta(hours=30))
    spans = [_span(8, 9), _span(20, 21)]
    assert closures_near(spans, known) == [
        [
            item
            for item in known
            if item.span.end_utc >= span.start_utc - LOOKED_FOR and item.span.start_utc <= span.end_utc + LOOKED_FOR
        ]
        for span in spans
    ]
    assert closures_near([], known) == []
    assert closures_near(spans, []) == [[], []]


def _clock(hours):
    return time(int(hours), int(hours % 1 * 60))


def test_the_verdict_of_the_place_says_it():
    post = Element(1, "Post", Shape.POSTS, 180.0, 8.0, 0.3, 1.4)
    for hours, mark, text in ((9.5, "fails", "Bar, no way there"), (16.0, "holds", "Bar, 1 element")):
        verdict = plan_shot(replace(_facts(hours), elements=(post,))).place.verdict
        assert (verdict.mark, verdict.text) == (mark, text)
