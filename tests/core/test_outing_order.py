"""The order of an outing: equal to a search of all orders, within its limits, and what falls out says by how much."""

import math
from itertools import permutations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lucid_ridge.core.outing.ordering import as_listed, best_order, shortest_delay
from lucid_ridge.core.outing.stops import Leg, Limits, Place, Stop, Window, way_between

HOUR = 3600.0


def _place(key, north_km, walk_min=10.0, drive_min=30.0, viewpoint=0):
    return Place(key, 54.0 + north_km / 111.2, -3.0, walk_min * 60, walk_min * 80, None if drive_min is None else drive_min * 60, viewpoint)


def _stop(at, windows, place=None, stay_min=20.0, set_up_min=10.0, leg_min=None):
    made = tuple(Window(start * HOUR, end * HOUR, value) for start, end, value in windows)
    return Stop(at, f"stop {at}", made, set_up_min * 60, stay_min * 60, place, None if leg_min is None else leg_min * 60)


def test_a_dawn_and_an_evening_in_their_order():
    # By hand: home to the dawn 30 min by car and 10 on foot, 10 to set up: for 7:00 one leaves at 6:10.
    dawn = _stop(0, [(7.0, 7.5, 1.0)], _place(1, 0.0))
    dusk = _stop(1, [(16.0, 16.5, 1.0)], _place(2, 20.0))
    order = best_order([dusk, dawn], Limits())
    assert [visit.stop.at for visit in order.visits] == [0, 1]
    first, second = order.visits
    assert first.begin_s == 7 * HOUR
    assert first.arrive_s - first.leg.total_s == pytest.approx(6 * HOUR + 10 * 60)
    # On foot back 10 min, 20 km by road at 55 km/h and a third more, on foot in 10 min; then one waits for the light.
    assert second.leg.estimated
    assert second.leg.drive_s == pytest.approx(20 * 1.35 / 55 * 3600, rel=0.01)
    assert second.begin_s == 16 * HOUR
    assert order.back_s == pytest.approx(16 * HOUR + 20 * 60 + 10 * 60 + 30 * 60)


def test_what_cannot_both_be_had_is_chosen_by_what_it_promises():
    one, other = (_stop(at, [(7.0, 7.2, value)], _place(at, 40.0 * at)) for at, value in ((0, 0.4), (1, 0.9)))
    order = best_order([one, other], Limits())
    assert [visit.stop.at for visit in order.visits] == [1]
    missed, _ = shortest_delay(order, one, Limits())
    assert 0 < missed < 3 * HOUR


def test_limits_are_hard():
    stops = [_stop(0, [(7.0, 8.0, 1.0)], _place(1, 0.0, walk_min=60)), _stop(1, [(7.0, 20.0, 0.6)], _place(2, 5.0, walk_min=5))]
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
    assert shortest_delay(order, never, Limits())[0] == math.inf


def test_a_rest_happens_wherever_one_is():
    rest = _stop(1, [(12.0, 14.0, 0.3)], None, stay_min=45.0, set_up_min=0.0)
    order = best_order([_stop(0, [(7.0, 7.5, 1.0)], _place(1, 0.0)), rest, _stop(2, [(16.0, 16.5, 1.0)], _place(2, 10.0))], Limits())
    assert [visit.stop.at for visit in order.visits] == [0, 1, 2]
    assert order.visits[1].leg == Leg()
    # The way on begins where the first stop was.
    assert order.visits[2].leg.walk_out_s == 600


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
    order, late = as_listed([dusk, dawn], Limits())
    assert [visit.stop.at for visit in order.visits] == [1, 0]
    assert set(late) == {0}
    assert late[0] > 9 * HOUR


PLACES = [
    _place(key, north, walk, drive, key % 2)
    for key, north, walk, drive in ((1, 0, 5, 20), (1, 0.4, 5, 20), (2, 12, 20, 40), (3, 30, 0, None))
]
STOPS = st.lists(
    st.tuples(
        st.lists(st.tuples(st.integers(0, 22), st.sampled_from([0.2, 0.5, 2.0]), st.sampled_from([0.3, 0.5, 1.0])), min_size=0, max_size=2),
        st.sampled_from([*PLACES, None]),
        st.sampled_from([10.0, 45.0]),
    ),
    min_size=1,
    max_size=5,
)


def _searched(stops, limits):
    """The best by trying every order of every subset, and every choice of windows."""
    best = (0.0, -limits.leave_s)

    def go(left, here, clock, value, walk):
        nonlocal best
        way = way_between(here, None) if value or here is not limits.at else Leg()
        back, far = clock + way.total_s, walk + way.walk_m
        if back <= limits.back_s + 1e-6 and far <= limits.most_walk_m + 1e-6:
            best = max(best, (round(value, 9), -back))
        for at in left:
            stop = stops[at]
            if stop.place is None and here is None:
                continue
            leg = way_between(here, stop.place, stop.leg_s) if stop.place else Leg()
            for window in stop.windows:
                begin = max(clock + leg.total_s + stop.set_up_s, window.start_s)
                if begin <= window.end_s + 1e-6:
                    go(left - {at}, stop.place or here, begin + stop.stay_s, value + window.value, walk + leg.walk_m)

    go(frozenset(range(len(stops))), limits.at, limits.leave_s, 0.0, 0.0)
    return best


@given(STOPS, st.sampled_from([math.inf, 20 * HOUR, 12 * HOUR]), st.sampled_from([math.inf, 4000.0]))
@settings(max_examples=120)
def test_equal_to_a_search_of_everything(said, back, walk):
    stops = [
        _stop(at, [(start, start + length, value) for start, length, value in windows], place, stay)
        for at, (windows, place, stay) in enumerate(said)
    ]
    limits = Limits(back_s=back, most_walk_m=walk)
    order = best_order(stops, limits)
    value, minus_back = _searched(stops, limits)
    assert order.value == pytest.approx(value)
    if order.visits:
        assert order.back_s == pytest.approx(-minus_back, abs=1e-3)
        assert order.back_s <= back + 1e-6 and order.walk_m <= walk + 1e-6
    clock = limits.leave_s
    for visit in order.visits:
        window = visit.stop.windows[visit.window]
        assert visit.arrive_s - visit.leg.total_s >= clock - 1e-6
        assert window.start_s - 1e-6 <= visit.begin_s <= window.end_s + 1e-6
        assert visit.begin_s >= visit.arrive_s + visit.stop.set_up_s - 1e-6
        clock = visit.leave_s


def test_seven_stops_equal_a_search_of_all_their_orders():
    stops = [
        _stop(at, [(6 + 1.3 * at, 8 + 1.3 * at, 0.4 + 0.1 * (at * 3 % 5)), (15 + 0.2 * at, 16.5 + 0.3 * at, 0.5)], PLACES[at % 4], 30.0)
        for at in range(7)
    ]
    order = best_order(stops, Limits(back_s=19 * HOUR))
    best = 0.0
    for some in permutations(range(7), 7):
        found, late = as_listed([stops[at] for at in some], Limits())
        if not late and found.back_s <= 19 * HOUR:
            best = max(best, found.value)
    assert order.value >= best - 1e-9
    assert order.value == pytest.approx(_searched(stops, Limits(back_s=19 * HOUR))[0])


def test_many_stops_are_put_in_order_too():
    stops = [_stop(at, [(at * 0.9, at * 0.9 + 1.5, 1.0)], PLACES[at % 2], 15.0) for at in range(20)]
    order = best_order(stops, Limits())
    assert len(order.visits) >= 15
    starts = [visit.begin_s for visit in order.visits]
    assert starts == sorted(starts)
