"""Exposure value, filters, ledger, brackets, proposals and fading light."""

import itertools
import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.exposure import bracketing, ev, filters
from lucid_ridge.core.exposure.fading import fading_exposure_s
from lucid_ridge.core.exposure.ledger import ExposureReading, LedgerFilter, build_ledger, in_changing_light
from lucid_ridge.core.exposure.proposals import BagFilter, propose_settings


def test_apex():
    # APEX in the Exif specification, CIPA DC-008: f/1 at 1 s is EV 0; Av + Tv = EV.
    assert ev.ev100(1, 1, 100) == 0
    assert ev.ev100(16, 1 / 128, 100) == pytest.approx(8 + 7)
    assert ev.ev100(16, 1 / 128, 200) == pytest.approx(14)


def test_sunny_day():
    # Common practice: f/16 at 1/ISO in full sun, EV 15.
    assert ev.ev100(16, 1 / 100, 100) == pytest.approx(15, abs=0.4)


def test_meters():
    # ISO 2720:1974 with K = 12.5 and C = 250: EV 0 is 0.125 cd/m² and 2.5 lux.
    assert ev.ev100_from_luminance(0.125) == pytest.approx(0)
    assert ev.ev100_from_illuminance(2.5) == pytest.approx(0)
    assert ev.ev100_from_illuminance(np.array([2.5, 5.0, 2560.0])) == pytest.approx([0, 1, 10])


@given(st.floats(-10, 20), st.floats(1, 64), st.floats(25, 25600))
def test_shutter_and_exposure_value_are_inverse(value, f_number, iso):
    assert ev.ev100(f_number, ev.shutter_for_ev_s(value, f_number, iso), iso) == pytest.approx(value, abs=1e-9)


@pytest.mark.parametrize("bad", [0, -1, math.nan, math.inf])
def test_bad_settings_are_refused(bad):
    for arguments in ((bad, 1, 100), (8, bad, 100), (8, 1, bad)):
        with pytest.raises(InputError):
            ev.ev100(*arguments)
    with pytest.raises(InputError):
        ev.ev100_from_illuminance(bad)


def test_density():
    # ISO 5-1: density is log10 of the factor. 0.3 costs 0.997 stop, 0.9 is called 3 stops, 3.0 is a thousandfold.
    assert filters.stops_from_factor(10**0.9) == pytest.approx(3, abs=0.011)
    assert filters.stops_from_factor(1000) == pytest.approx(9.966, abs=0.001)
    assert filters.factor_from_stops(10) == 1024
    assert filters.stops_from_factor(np.array([1.0, 2.0])) == pytest.approx([0, 1])


def test_ten_stops_on_an_eighth():
    # Common practice: 1/8 s with ten stops is 128 s, called two minutes.
    assert filters.shutter_with_filters_s(0.125, 10) == 128
    assert filters.shutter_with_filters_s(128, -10) == 0.125


def _ledger(*items, **more):
    return build_ledger(ExposureReading(16, 0.125, 100), 16, 100, items, **more)


def test_ledger_has_a_line_for_each_filter():
    ledger = _ledger(LedgerFilter("ten", 10), LedgerFilter("polariser", 1.5))
    assert [line.kind for line in ledger.lines] == ["reading", "filter", "filter"]
    assert ledger.shutter_s == pytest.approx(362.04, abs=0.005)
    assert ledger.stops == pytest.approx(11.5)


def test_a_filter_on_when_metered_is_not_counted_twice():
    ledger = _ledger(LedgerFilter("ten", 10), LedgerFilter("polariser", 1.5, on_when_metered=True))
    assert ledger.shutter_s == 128
    assert ledger.lines[2].stops == 0


def test_a_filter_taken_off_gives_its_stops_back():
    ledger = _ledger(LedgerFilter("polariser", 1.5, on_lens=False, on_when_metered=True))
    assert ledger.shutter_s == pytest.approx(0.125 / 2**1.5)


def test_aperture_and_iso_lines():
    ledger = build_ledger(ExposureReading(8, 0.125, 200), 16, 100)
    assert [(line.kind, line.stops) for line in ledger.lines] == [("reading", 0), ("aperture", 2), ("iso", 1)]
    assert ledger.shutter_s == 1


def test_extension_is_counted_once():
    through = build_ledger(ExposureReading(8, 0.125, 100), 8, 100, extension_stops=2)
    by_hand = build_ledger(ExposureReading(8, 0.125, 100, through_lens=False), 8, 100, extension_stops=2)
    assert through.shutter_s == 0.125
    assert by_hand.shutter_s == 0.5


def test_compensation_and_changing_light_add_up():
    steady = _ledger(compensation_ev=1.0)
    for stops, label in ((0.5, "Fading light"), (-0.5, "Rising light")):
        ledger = in_changing_light(steady, steady.shutter_s * 2**stops)
        assert ledger.stops == pytest.approx(1 + stops)
        assert ledger.lines[-1].label == label
    assert in_changing_light(steady, steady.shutter_s) == steady
    with pytest.raises(InputError):
        _ledger(compensation_ev=math.nan)


def test_bracket_over_fourteen_stops():
    # 1 + ceil((14 - 11)/2) = 3 frames at 2 EV, by the definition of what a frame holds.
    bracket = bracketing.plan_bracket(2, 16, 11, 2)
    assert bracket.count == 3
    assert [frame.offset_ev for frame in bracket.frames] == [0, 2, 4]
    assert bracket.frames[0].brightest_ev == 16
    assert bracket.frames[-1].darkest_ev <= 2
    assert bracket.spare_stops == pytest.approx(1)
    # Each frame four times as long as the one before.
    times = [ev.shutter_for_ev_s(frame.ev100, 11.3137, 100) for frame in bracket.frames]
    assert [later / earlier for earlier, later in itertools.pairwise(times)] == pytest.approx([4, 4])


def test_mid_grey_lies_three_stops_under_saturation():
    # ISO 12232, saturation-based speed: log2(1/0.127) = 2.98.
    assert pytest.approx(2.977, abs=0.001) == bracketing.HIGHLIGHT_ROOM_STOPS
    frame = bracketing.plan_bracket(8, 15, 11).frames[0]
    assert frame.brightest_ev - frame.ev100 == pytest.approx(2.977, abs=0.001)


@given(st.floats(-5, 10), st.floats(0, 20), st.floats(5, 15), st.floats(0.6, 4), st.floats(0, 0.7))
def test_a_bracket_holds_the_whole_range_without_a_frame_too_many(shadow, span, held, step, margin):
    bracket = bracketing.plan_bracket(shadow, shadow + span, held, step, margin)
    assert bracket.frames[0].brightest_ev == pytest.approx(shadow + span + margin)
    assert bracket.frames[-1].darkest_ev <= shadow + 1e-6
    assert bracket.count == 1 or bracket.spare_stops < step + 1e-6


@pytest.mark.parametrize(
    ("arguments", "field"),
    [
        ((5, 4, 11), "highlight_ev"),
        ((0, 14, 11, 12), "step_ev"),
        ((0, 14, 0), "held_stops"),
        ((0, math.inf, 11), "highlight_ev"),
        ((0, 90, 2, 0.5), "step_ev"),
    ],
)
def test_impossible_brackets_are_refused(arguments, field):
    with pytest.raises(InputError) as caught:
        bracketing.plan_bracket(*arguments)
    assert caught.value.field == field


BAG = [BagFilter(1, "three", 3), BagFilter(2, "six", 6), BagFilter(3, "ten", 10)]
APERTURES = [2 ** (k / 6) for k in range(12, 28)]


def test_two_minutes_from_an_eighth():
    scene = ev.ev100(16, 0.125, 100)
    best, *others = propose_settings(scene, (120, 120), BAG, APERTURES, [100.0], 16, 100)
    assert best.filter_names == ("ten",)
    assert best.f_number == pytest.approx(16)
    assert best.shutter_s == pytest.approx(128)
    assert best.error_stops == pytest.approx(math.log2(128 / 120))
    assert all(abs(math.log2(other.shutter_s / 120)) <= 1 for other in others)


def test_a_kept_polariser_is_in_every_proposal():
    bag = [*BAG, BagFilter(9, "polariser", 1.5, kept=True)]
    proposals = propose_settings(ev.ev100(16, 0.125, 100), (120, 120), bag, APERTURES, [100.0], 16, 100)
    assert proposals
    assert all(9 in proposal.filter_ids for proposal in proposals)


def test_every_proposal_is_a_right_exposure():
    scene = 9.3
    for proposal in propose_settings(
        scene, (4.0, 4.0), BAG, APERTURES, [100.0, 200.0, 400.0], 11.3, 100, other_stops=0.5
    ):
        stops = sum(item.stops for item in BAG if item.id in proposal.filter_ids) + 0.5
        assert ev.ev100(proposal.f_number, proposal.shutter_s / 2**stops, proposal.iso) == pytest.approx(scene)


def test_nothing_in_the_bag_is_an_ordinary_answer():
    assert propose_settings(15, (3600, 3600), [], APERTURES, [100.0], 8, 100) == ()


def test_steady_light_needs_no_more_time():
    assert fading_exposure_s(120, lambda seconds: np.full_like(seconds, 5.0)) == pytest.approx(120, rel=1e-6)


def test_light_that_halves_every_ten_minutes():
    # The integral of 2^(-t/600) is (600/ln 2)(1 - 2^(-t/600)): solved for 240 s of first light by hand.
    rate = math.log(2) / 600
    expected = -math.log(1 - 240 * rate) / rate
    assert fading_exposure_s(240, lambda seconds: np.exp(-rate * seconds)) == pytest.approx(expected, rel=1e-3)


def test_light_that_ends_too_soon_is_infinite():
    assert fading_exposure_s(600, lambda seconds: np.exp(-seconds / 100)) == math.inf


def test_a_limit_is_held_by_every_shorter_time_and_a_lower_iso_costs_nothing():
    # EV 15 at f/8: 1/512 s at ISO 100. Frozen from 1/175 on: nothing has to be put on or turned up.
    best = propose_settings(15, (0.0, 1 / 175), BAG, [8.0], [100.0, 200.0, 1600.0], 8, 100)[0]
    assert (best.filter_ids, best.iso, best.error_stops) == ((), 100, 0)
    # At ISO 1600 chosen so far, ISO 100 is as good.
    lower = propose_settings(15, (0.0, 1 / 175), BAG, [8.0], [100.0, 200.0, 1600.0], 8, 1600)[0]
    assert (lower.filter_ids, lower.error_stops) == ((), 0)


def test_a_band_is_reached_at_its_edge():
    # 0.74 s lies inside 0.10 to 0.82 s: f/8, ISO 100, EV log2(64/0.74).
    inside = propose_settings(math.log2(64 / 0.74), (0.10, 0.82), [], [8.0], [100.0], 8, 100)[0]
    assert (inside.error_stops, inside.shutter_s) == (0, pytest.approx(0.74))
    outside = propose_settings(math.log2(64 / 1.23), (0.10, 0.82), [], [8.0], [100.0], 8, 100)[0]
    assert outside.error_stops == pytest.approx(math.log2(1.5))
