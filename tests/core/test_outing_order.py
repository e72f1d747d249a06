"""The order of an outing: equal to a search of all orders, within its limits, and what falls out says by how much."""

import dataclasses
import math
from itertools import permutations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lucid_ridge.core.outing.as_listed import Cause, as_listed, why_left
from lucid_ridge.core.outing.ordering import best_order
from lucid_ridge.core.outing.stops import Beds, Leg, Limits, Place, Stop, Window, way_between

HOUR = 3600.0


def _place(key, north_km, walk_min=10.0, drive_min=30.0, viewpoint=0):
    return Place(
        key,
        54.0 + north_km / 111.2,
        -3.0,
        walk_min * 60,
        walk_min * 80,
        None if drive_min is None else drive_min * 60,
        viewpoint,
    )


def _stop(at, windows, place=None, stay_min=20.0, set_up_min=10.0, leg_min=None):
    made = tuple(Window(start * HOUR, end * HOUR, value) for start, end, value in windows)
    return Stop(
        at, f"stop {at}", made, set_up_min * 60, stay_min * 60, place, None if leg_min is None else leg_min * 60
    )


def test_a_dawn_and_an_evening_in_their_order():
    # By hand: home to the dawn 30 min by car and 10 on foot, 10 to set up: for 7:00 one leaves at 6:10.
    dawn = _stop(0, [(7.0, 7.5, 1.0)], _place(1, 0.0))
    dusk = _stop(1, [(16.0, 16.5, 1.0)], _place(2, 20.0))
    order = best_order([dusk, dawn], Limits())
    assert [visit.stop.at for visit in order.visits] == [0, 1]
    first, second = order.visits
    assert first.begin_s == 7 * HOUR
    assert first.out_s == pytest.approx(6 * HOUR + 10 * 60)
    # On foot back 10 min, 20 km by road at 55 km/h and a third more, on foot in 10 min; then one waits for the light.
    assert second.leg.estimated
    assert second.leg.drive_s == pytest.approx(20 * 1.35 / 55 * 3600, rel=0.01)
    assert second.begin_s == 16 * HOUR
    assert order.back_s == pytest.approx(16 * HOUR + 20 * 60 + 10 * 60 + 30 * 60)


def test_what_cannot_both_be_had_is_chosen_by_what_it_promises():
    one, other = (_stop(at, [(7.0, 7.2, value)], _place(at, 40.0 * at)) for at, value in ((0, 0.4), (1, 0.9)))
    order = best_order([one, other], Limits())
    assert [visit.stop.at for visit in order.visits] == [1]
    broken = why_left(order, one, Limits())
    assert broken.cause == Cause.LATE
    assert 0 < broken.by < 3 * HOUR


def test_limits_are_hard():
    stops = [
        _stop(0, [(7.0, 8.0, 1.0)], _place(1, 0.0, walk_min=60)),
        _stop(1, [(7.0, 20.0, 0.6)], _place(2, 5.0, walk_min=5)),
    ]
    assert len(best_order(stops, Limits()).visits) == 2
    # An hour in and an hour out at 80 m a minute are 9.6 km.
    short = best_order(stops, Limits(most_walk_m=2000))
    assert [visit.stop.at for visit in short.visits] == [1]
    early = best_order(stops, Limits(back_s=7.9 * HOUR))
    assert all(visit.leave_s < 7.9 * HOUR for visit in early.visits)
    late = best_order(stops, Limits(leave_s=9 * HOUR))
    assert [visit.stop.at for visit in late.visits] == [1]


def test_no_stops_and_stops_without_a_window():
    assert best_order([], Limits()).visits == ()
    never = _stop(0, [], _place(1, 0.0))
    order = best_order([never], Limits())
    assert order.visits == ()
    assert why_left(order, never, Limits()).cause == Cause.NO_WINDOW


def test_a_rest_happens_wherever_one_is():
    rest = _stop(1, [(12.0, 14.0, 0.3)], None, stay_min=45.0, set_up_min=0.0)
    order = best_order(
        [_stop(0, [(7.0, 7.5, 1.0)], _place(1, 0.0)), rest, _stop(2, [(16.0, 16.5, 1.0)], _place(2, 10.0))], Limits()
    )
    assert [visit.stop.at for visit in order.visits] == [0, 1, 2]
    # Nobody sits on the spot till noon: one walks back, rests at the car, and drives on from there.
    assert order.visits[1].leg == Leg(walk_out_s=600, walk_m=800)
    assert order.visits[2].leg.walk_out_s == 0


def test_ways_by_hand():
    here, there, beside = _place(1, 0.0), _place(2, 11.12), _place(1, 0.5, viewpoint=7)
    assert way_between(None, None) == Leg()
    assert way_between(None, here) == Leg(1800, 0.0, 600, 800.0, False)
    assert way_between(here, None) == Leg(1800, 600, 0.0, 800.0, False)
    assert way_between(None, _place(3, 0.0, drive_min=None)).estimated
    assert way_between(here, here) == Leg()
    # Half a kilometre off the path: 1.4 × 6 min.
    walk = way_between(here, beside)
    assert walk.walk_in_s == pytest.approx(1.4 * 0.5 / 5 * 3600, rel=0.01) and walk.estimated
    typed = way_between(here, there, 900.0)
    assert (typed.drive_s, typed.estimated) == (900.0, False)


def test_as_listed_tells_who_comes_too_late():
    dawn, dusk = _stop(0, [(7.0, 7.5, 1.0)], _place(1, 0.0)), _stop(1, [(16.0, 16.5, 1.0)], _place(2, 20.0))
    order, broken = as_listed([dusk, dawn], Limits())
    assert [visit.stop.at for visit in order.visits] == [1, 0]
    assert [(item.cause, item.stop.at) for item in broken] == [(Cause.LATE, 0)]
    assert broken[0].by > 9 * HOUR


def _closed(place, walks=(), stay=(), unknown=()):
    def spans(hours):
        return tuple((start * HOUR, end * HOUR) for start, end in hours)

    return dataclasses.replace(
        place,
        walks_closed=tuple(sorted((*spans(walks), *spans(stay)))),
        stay_closed=spans(stay),
        walks_unknown=spans(unknown),
    )


def test_nobody_walks_through_the_flood():
    """The way is closed from 8:55 to 14:44; the light comes at 15:00.

    One waits at the car and walks in after it: 14:44 and ten minutes, ten to set up.
    """
    tide = _closed(_place(1, 0.0), walks=[(8 + 55 / 60, 14 + 44 / 60)])
    order = best_order([_stop(0, [(15.0, 16.0, 1.0)], tide)], Limits())
    (visit,) = order.visits
    assert visit.enter_s > (14 + 44 / 60) * HOUR
    assert visit.begin_s == pytest.approx(15 * HOUR + 4 * 60, abs=2)
    # In the light before the water has gone one is on the far side in time, and waits there: the walk in ends
    # before 8:55.
    over = best_order([_stop(0, [(14.0, 14.5, 1.0)], tide)], Limits())
    (visit,) = over.visits
    assert visit.arrive_s < (8 + 55 / 60) * HOUR < visit.begin_s
    # Back one comes when it is open again.
    assert over.out_s > (14 + 44 / 60) * HOUR


def test_a_gate_is_not_entered_before_it_opens():
    gate = _closed(_place(1, 0.0), stay=[(0.0, 15.0)])
    (visit,) = best_order([_stop(0, [(9.0, 17.0, 1.0)], gate)], Limits()).visits
    assert visit.enter_s > 15 * HOUR
    # Shut again at half past three, there is no time for walk, set-up, 20 minutes and the walk out.
    shut = _closed(_place(1, 0.0), stay=[(0.0, 15.0), (15.5, 24.0)])
    stop = _stop(0, [(9.0, 17.0, 1.0)], shut)
    order = best_order([stop], Limits())
    assert order.visits == ()
    assert why_left(order, stop, Limits()).cause == Cause.CLOSED


def test_a_stay_typed_by_hand_is_a_stay():
    """Ninety minutes behind a gate that shuts at eleven: begun at 9:00 with ten minutes out one is back in time, begun
    at 9:30 not.
    """
    gate = _closed(_place(1, 0.0), stay=[(11.0, 24.0)])
    for start, count in ((9.0, 1), (9.5, 0)):
        assert len(best_order([_stop(0, [(start, 12.0, 1.0)], gate, stay_min=90.0)], Limits()).visits) == count


def test_a_tide_that_is_not_known_is_taken_last():
    place = _closed(_place(1, 0.0), unknown=[(12.0, 48.0)])
    windows = (Window(9 * HOUR, 10 * HOUR, 0.4), Window(15 * HOUR, 16 * HOUR, 0.9))
    doubtful = tuple(dataclasses.replace(window, value=window.value / 2, doubtful=True) for window in windows)
    stop = dataclasses.replace(_stop(0, [], place), windows=(*windows, *doubtful))
    limits = Limits(back_s=24 * HOUR)
    (visit,) = best_order([stop], limits).visits
    assert stop.windows[visit.window].doubtful
    assert visit.begin_s == 15 * HOUR
    known = dataclasses.replace(
        stop, windows=(*windows, *(dataclasses.replace(window, value=0.3) for window in doubtful))
    )
    (visit,) = best_order([known], limits).visits
    assert visit.begin_s == 9 * HOUR


def test_between_two_days_one_sleeps():
    """Dusk on the first day and dawn on the second: home between them at least six hours, or the dawn is left out."""
    dusk, dawn = _stop(0, [(20.0, 20.5, 1.0)], _place(1, 0.0)), _stop(1, [(31.0, 31.5, 0.9)], _place(2, 20.0))
    beds = Beds(6 * HOUR, (36 * HOUR,))
    order = best_order([dusk, dawn], Limits(beds=beds))
    second = order.visits[1]
    # 20:20 packed, ten on foot and half an hour by car: in bed at 21:00; up at 6:10 for 7:00.
    assert second.bed.from_s == 21 * HOUR
    assert second.bed.to_s == pytest.approx(30 * HOUR + 10 * 60)
    # A dawn at 4:00 leaves six hours and ten minutes; one at 3:30 belongs to the night before, which is slept
    # through after it.
    early = _stop(1, [(28.0, 28.2, 0.9)], _place(2, 20.0))
    assert len(best_order([dusk, early], Limits(beds=beds)).visits) == 2
    noon = _stop(1, [(37.0, 37.5, 0.9)], _place(2, 20.0))
    late = _stop(0, [(31.0, 31.5, 1.0)], _place(1, 0.0))
    short = best_order([late, noon], Limits(beds=beds))
    assert len(short.visits) == 1
    assert why_left(short, noon, Limits(beds=beds)).cause == Cause.NIGHT
    # In a tent there is no such limit; at a base the two drives are those that were typed.
    assert len(best_order([late, noon], Limits()).visits) == 2
    based = (
        best_order([dusk, dawn], Limits(beds=dataclasses.replace(beds, evening_s=300.0, morning_s=900.0))).visits[1].bed
    )
    assert based.from_s == pytest.approx(20.5 * HOUR + 300)
    assert based.to_s == pytest.approx(31 * HOUR - 20 * 60 - 900)


def test_a_limit_that_nobody_set_is_no_reason():
    one, other = (_stop(at, [(7.0, 7.2, value)], _place(at, 40.0 * at)) for at, value in ((0, 0.4), (1, 0.9)))
    order = best_order([one, other], Limits(leave_s=6.5 * HOUR))
    for stop in (one, other):
        if stop.at not in [visit.stop.at for visit in order.visits]:
            assert why_left(order, stop, Limits(leave_s=6.5 * HOUR)).cause in (Cause.LATE, Cause.CLOSED)
    far = _stop(2, [(7.0, 20.0, 0.5)], _place(3, 0.0, walk_min=60))
    short = Limits(most_walk_m=2000)
    assert why_left(best_order([far], short), far, short).cause == Cause.WALK


PLACES = [
    _place(key, north, walk, drive, key % 2)
    for key, north, walk, drive in ((1, 0, 5, 20), (1, 0.4, 5, 20), (2, 12, 20, 40), (3, 30, 0, 30))
]
# Everything in steps of five minutes; what closes begins and ends between two.
STEP = 300.0
HALF = STEP / 2
CLOSED = st.lists(st.tuples(st.integers(60, 220), st.integers(4, 60), st.booleans()), max_size=2)
STOPS = st.lists(
    st.tuples(
        st.lists(
            st.tuples(st.integers(72, 240), st.sampled_from([3, 6, 24]), st.sampled_from([0.3, 0.5, 1.0])),
            min_size=0,
            max_size=2,
        ),
        st.sampled_from([0, 1, 2, 3, None]),
        st.sampled_from([10.0, 45.0]),
    ),
    min_size=1,
    max_size=5,
)


def _in_steps(seconds):
    return math.ceil(seconds / STEP - 1e-9)


def _meets(spans, start, end):
    return any(first <= end and start <= last for first, last in spans)


def _searched(stops, limits):
    """The most that any order, any windows and any waiting on steps of five minutes is worth: who is where when,
    minute for minute.
    """
    legs = {}
    last_step = 300

    def leg(before, after):
        key = (before.at if before else None, after.at if after else None)
        if key not in legs:
            legs[key] = way_between(before.place if before else None, after.place if after else None)
        return legs[key]

    best = 0.0

    def arrivals_at_car(free, here, drive):
        """Steps at which one can be at the next car, from the steps from which one is free where one stands."""
        if here is None:
            return {step + _in_steps(drive) for step in range(last_step)}
        place, found, stands = here.place, set(), False
        for step in range(last_step):
            # Waiting continues from the step before, unless the place closes in between.
            stands = (stands and not _meets(place.stay_closed, (step - 1) * STEP, step * STEP)) or step in free
            stands = stands and not _meets(place.stay_closed, step * STEP, step * STEP)
            if stands and not _meets(place.walks_closed, step * STEP, step * STEP + place.walk_s):
                found.add(step + _in_steps(place.walk_s) + _in_steps(drive))
        return found

    def visited(stop, there):
        """Steps from which one is free again after a visit in its windows, by value, from the steps at which one is at
        the spot.
        """
        found, arrived = {}, None
        for step in range(last_step):
            ready = step - _in_steps(stop.set_up_s)
            # The latest arrival has the shortest wait, so it meets the fewest closures.
            arrived = ready if ready in there else arrived
            done = step * STEP + stop.stay_s
            if arrived is None or _meets(stop.place.stay_closed, arrived * STEP, done):
                continue
            for window in stop.windows:
                if window.start_s - 1e-6 <= step * STEP <= window.end_s + 1e-6:
                    found.setdefault(window.value, set()).add(_in_steps(done))
        return found

    def home_by(free, here):
        return any(step * STEP <= limits.back_s + 1e-6 for step in arrivals_at_car(free, here, leg(here, None).drive_s))

    def go(left, here, free, value):
        nonlocal best
        if value > best and home_by(free, here):
            best = value
        if value + sum(max((window.value for window in stops[at].windows), default=0.0) for at in left) <= best:
            return
        for at in left:
            stop = stops[at]
            way = leg(here, stop)
            cars = arrivals_at_car(
                free, here, 0.0 if here is not None and here.place.key == stop.place.key else way.drive_s
            )
            first = min(cars, default=last_step)
            there = {
                step + _in_steps(stop.place.walk_s)
                for step in range(first, last_step)
                if not _meets(stop.place.walks_closed, step * STEP, step * STEP + stop.place.walk_s)
            }
            if here is not None and here.place.key == stop.place.key:
                within = {
                    step + _in_steps(way.walk_in_s)
                    for step in free
                    if not _meets(stop.place.stay_closed, step * STEP, step * STEP + way.walk_in_s)
                }
                there |= within
            for worth, done in visited(stop, there).items():
                go(left - {at}, stop, done, value + worth)

    go(frozenset(range(len(stops))), None, {0}, 0.0)
    return best


def _holds(order, limits):
    """Every walk, wait and stay of an order against what closes, by itself."""
    clock, here = limits.leave_s, None
    for visit in order.visits:
        stop, place = visit.stop, visit.stop.place
        assert visit.out_s >= clock - 1e-6
        if visit.inside:
            assert not _meets((place or here).stay_closed, clock, visit.leave_s)
        else:
            if here is not None:
                assert not _meets(here.stay_closed, clock, visit.out_s)
                assert not _meets(here.walks_closed, visit.out_s, visit.out_s + visit.leg.walk_out_s)
            assert visit.enter_s >= visit.out_s + visit.leg.walk_out_s + visit.leg.drive_s - 1e-6
            if place is not None:
                assert not _meets(place.walks_closed, visit.enter_s, visit.enter_s + place.walk_s)
                assert not _meets(place.stay_closed, visit.arrive_s, visit.leave_s)
        window = stop.windows[visit.window]
        assert window.start_s - 1e-6 <= visit.begin_s <= window.end_s + 1e-6
        assert visit.begin_s >= visit.arrive_s + stop.set_up_s - 1e-6
        assert visit.leave_s == pytest.approx(visit.begin_s + stop.stay_s)
        clock, here = visit.leave_s, place or here
    if here is not None:
        assert not _meets(here.walks_closed, order.out_s, order.out_s + here.walk_s)
    assert order.back_s <= limits.back_s + 1e-6


@given(STOPS, st.sampled_from([math.inf, 20 * HOUR, 16 * HOUR]), st.tuples(CLOSED, CLOSED, CLOSED))
@settings(max_examples=60, deadline=None)
def test_no_order_and_no_waiting_is_worth_more(said, back, closed):
    """Against a search of all orders of up to five stops, with walks, tides and gates."""
    places = [_with_closed(place, closed[place.key - 1]) for place in PLACES]
    stops = [
        _stop(
            at,
            [(start / 12, (start + length) / 12, value) for start, length, value in windows],
            places[0 if place is None else place],
            stay,
        )
        for at, (windows, place, stay) in enumerate(said)
    ]
    limits = Limits(back_s=back)
    order = best_order(stops, limits)
    _holds(order, limits)
    assert order.value == pytest.approx(sum(visit.stop.windows[visit.window].value for visit in order.visits))
    assert order.value >= _searched(stops, limits) - 1e-9


def _with_closed(place, said):
    spans = sorted((start * STEP + HALF, (start + length) * STEP + HALF, gate) for start, length, gate in said)
    return dataclasses.replace(
        place,
        walks_closed=tuple((start, end) for start, end, _ in spans),
        stay_closed=tuple((start, end) for start, end, gate in spans if gate),
    )


@given(STOPS, st.sampled_from([math.inf, 4000.0]))
@settings(max_examples=60, deadline=None)
def test_rests_and_walks_keep_their_limits(said, walk):
    stops = [
        _stop(
            at,
            [(start / 12, (start + length) / 12, value) for start, length, value in windows],
            None if place is None else PLACES[place],
            stay,
            0.0 if place is None else 10.0,
        )
        for at, (windows, place, stay) in enumerate(said)
    ]
    limits = Limits(most_walk_m=walk)
    order = best_order(stops, limits)
    _holds(order, limits)
    assert order.walk_m <= walk + 1e-6


def test_seven_stops_equal_a_search_of_all_their_orders():
    stops = [
        _stop(
            at,
            [(6 + 1.3 * at, 8 + 1.3 * at, 0.4 + 0.1 * (at * 3 % 5)), (15 + 0.2 * at, 16.5 + 0.3 * at, 0.5)],
            PLACES[at % 4],
            30.0,
        )
        for at in range(7)
    ]
    limits = Limits(back_s=19 * HOUR)
    order = best_order(stops, limits)
    best = 0.0
    for some in permutations(range(7), 7):
        found, broken = as_listed([stops[at] for at in some], limits)
        if not broken:
            best = max(best, found.value)
    assert order.value >= best - 1e-9
    assert len(order.visits) < 7 or order.value == pytest.approx(best)


def test_many_stops_are_put_in_order_too():
    stops = [_stop(at, [(at * 0.9, at * 0.9 + 1.5, 1.0)], PLACES[at % 2], 15.0) for at in range(20)]
    order = best_order(stops, Limits())
    assert len(order.visits) >= 15
    starts = [visit.begin_s for visit in order.visits]
    assert starts == sorted(starts)
