"""Sets of exposures: times that a camera marks, the frame that carries the picture, and what each holds."""

import dataclasses
import itertools
import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from sample_shot import FULL

from lucid_ridge.core.exposure.bracketing import HIGHLIGHT_ROOM_STOPS
from lucid_ridge.core.exposure.exposure_sets import carrying_index, marked_time_s, times_around_s, times_over_s
from lucid_ridge.core.facts.kit import Body, Lens
from lucid_ridge.core.facts.place import Element
from lucid_ridge.core.facts.shot import changed, facts_from
from lucid_ridge.core.planning.plan.shot_plan import plan_shot

BODY = Body(
    id=1,
    name="Body",
    sensor_width_mm=36,
    sensor_height_mm=24,
    pixels_wide=8256,
    pixels_high=5504,
    base_iso=100,
    max_iso=25600,
    fastest_shutter_s=1 / 8192,
    slowest_shutter_s=32,
    has_bulb=True,
    dynamic_range_stops=11,
    bracket_frames=9,
    bracket_step_ev=3,
)
LENS = Lens(
    id=1,
    name="Zoom",
    focal_min_mm=24,
    focal_max_mm=70,
    f_number_min=2.8,
    f_number_max=2**4.5,
    closest_focus_mm=280,
    sharpest_f_number=8,
)
WATER = Element(3, "Channel", "water", 0, 4.0, 20, 30, speed_mps=1.0)


def _plan(**said):
    start = {
        "body": BODY,
        "lens": LENS,
        "f_number": 8.0,
        "metered_f_number": 8.0,
        "metered_shutter_s": 1 / 8,
        "metered_iso": 100.0,
    }
    return plan_shot(facts_from(**{**start, **said}))


def _said(plan, *weights):
    return " ".join(
        f"{reason.code}: {reason.text}" for reason in plan.exposure.reasons if not weights or reason.severity in weights
    )


def test_times_that_a_camera_marks():
    # ISO 516 in thirds: 1/92 lies between 1/80 (2^-6.33) and 1/100 (2^-6.67); 1/64 is the exact time behind "1/60".
    assert marked_time_s(1 / 92, 30) == pytest.approx(2 ** (-20 / 3))
    assert marked_time_s(1 / 92, 30, -1) == pytest.approx(2 ** (-20 / 3))
    assert marked_time_s(1 / 92, 30, 1) == pytest.approx(2 ** (-19 / 3))
    assert marked_time_s(1 / 64, 30, -1) == marked_time_s(1 / 64, 30, 1) == 1 / 64
    # On bulb it is whole seconds.
    assert [marked_time_s(75.4, 32, way) for way in (-1, 0, 1)] == [75, 75, 76]


def test_around_the_reading():
    # Three at 2 EV around 1/8 s (common practice): 1/32, 1/8, 1/2; of four one more lies above.
    assert times_around_s(1 / 8, 3, 2, 32) == pytest.approx((1 / 32, 1 / 8, 1 / 2))
    assert times_around_s(1 / 8, 4, 1, 32) == pytest.approx((1 / 16, 1 / 8, 1 / 4, 1 / 2))
    plan = _plan(bracket="around", bracket_count=3, bracket_step_ev=2.0)
    assert [item.shutter_s for item in plan.exposure.exposures] == pytest.approx([1 / 32, 1 / 8, 1 / 2])
    assert plan.exposure.bracket_automatic
    assert "3 frames at 2 EV" in _said(plan, "holds")


def test_half_stop_steps_are_even():
    # By hand: half a stop is a factor of 1.414, whatever the marking it begins at.
    times = times_around_s(1 / 8, 5, 0.5, 32)
    assert [math.log2(two / one) for one, two in itertools.pairwise(times)] == pytest.approx([0.5] * 4)


def test_the_bracket_s_headline_is_one_of_its_frames():
    # 1/8 metered is EV 9 at f/8, which holds up to 11.98. Highlights at EV 13, shadows at EV 1: 12 stops, 11 held: two
    # frames two stops apart, the darkest 1.02 to 2.02 stops under 1/8: 1/32 it is, so that 1/8 itself is the other.
    plan = _plan(shadow_ev=1.0, highlight_ev=13.0, bracket="range")
    times = [item.shutter_s for item in plan.exposure.exposures]
    assert times == pytest.approx([1 / 32, 1 / 8])
    # Shadows at EV 0 leave nothing to spare: 1/16 lies two hundredths of a stop over what the highlights allow, which
    # nobody sees, so two frames are still enough.
    exact = _plan(shadow_ev=0.0, highlight_ev=13.0, bracket="range").exposure
    assert [item.shutter_s for item in exact.exposures] == pytest.approx([1 / 16, 1 / 4])
    assert exact.verdict.mark == "holds"
    # Where no marking fits, one more is taken: a third of a stop beside it.
    assert len(_plan(shadow_ev=0.2, highlight_ev=13.2, bracket="range").exposure.exposures) == 3
    assert plan.exposure.shutter_s in times
    assert (
        plan.exposure.ledger.shutter_s
        == plan.exposure.shutter_s
        == plan.exposure.exposures[plan.exposure.carrying].shutter_s
    )


def test_compensation_is_in_every_frame():
    plain, brighter = (
        _plan(shadow_ev=1.0, highlight_ev=15.0, bracket="around", compensation_ev=value) for value in (0.0, 1.0)
    )
    assert [
        two.shutter_s / one.shutter_s
        for one, two in zip(plain.exposure.exposures, brighter.exposure.exposures, strict=True)
    ] == pytest.approx([2, 2, 2])
    assert plain.exposure.exposures[0].brightest_ev - brighter.exposure.exposures[0].brightest_ev == pytest.approx(1)


def test_land_and_sky():
    # Land as metered at EV 9; the sky's EV 14 needs 14 - 2.98 = 11.02 as mid-grey: 2.02 stops less, 1/40
    # (2^-5.33) is the marking that holds it.
    plan = _plan(shadow_ev=2.0, highlight_ev=14.0, bracket="land_and_sky")
    assert [item.shutter_s for item in plan.exposure.exposures] == pytest.approx([2 ** (-16 / 3), 1 / 8])
    assert plan.exposure.shutter_s == pytest.approx(1 / 8)
    assert plan.exposure.bracket_automatic is False
    # Where the sky fits into the land's frame there is one.
    assert len(_plan(shadow_ev=2.0, highlight_ev=11.0, bracket="land_and_sky").exposure.exposures) == 1


def test_highlights_first():
    plan = _plan(highlight_ev=14.0, bracket="highlights", highlight_margin_ev=0.5)
    only = plan.exposure.exposures[0]
    assert 14.5 <= only.brightest_ev <= 14.5 + 1 / 3 + 1e-6
    assert plan.exposure.ledger.lines[-1].label == "Range"
    assert "range.no_readings" in _said(_plan(bracket="highlights"), "unsaid")


def test_every_frame_has_its_look():
    plan = _plan(
        elements=(WATER,),
        bearing_deg=0.0,
        camera_height_m=1.0,
        bracket="around",
        bracket_count=3,
        bracket_step_ev=3.0,
        metered_shutter_s=1 / 8,
    )
    looks = [item.look for item in plan.exposure.exposures]
    assert len(set(looks)) > 1
    assert plan.exposure.look == looks[plan.exposure.carrying]
    assert "looks different in each frame" in _said(plan)


def test_steps_that_leave_gaps_are_refused():
    plan = _plan(bracket="around", bracket_step_ev=12.0)
    assert plan.exposure.verdict.mark == "fails"
    assert "would leave gaps" in _said(plan, "fails")


@given(
    st.floats(-8, 5),
    st.floats(8, 17),
    st.integers(2, 24),
    st.sampled_from([1 / 3, 2 / 3, 1.0, 1.5, 2.0, 3.0]),
    st.floats(0, 2 / 3),
    st.floats(6, 14),
    st.floats(-2, 2),
)
@settings(max_examples=120, deadline=None)
def test_headline_ledger_frames_and_verdict_agree(stops, highlight, span, step, margin, held, compensation):
    body = dataclasses.replace(BODY, dynamic_range_stops=held, fastest_shutter_s=1 / 1e6)
    plan = _plan(
        body=body,
        metered_shutter_s=2.0**stops,
        shadow_ev=highlight - span,
        highlight_ev=highlight,
        bracket="range",
        bracket_step_ev=step,
        highlight_margin_ev=margin,
        compensation_ev=compensation,
    )
    exposure = plan.exposure
    frames = exposure.exposures
    if "would take" in _said(plan) or "would leave gaps" in _said(plan):
        assert exposure.verdict.mark == "fails"
        return
    # The formula's frames, and one more at most where the markings leave no set of that size.
    formula = 1 + max(0, math.ceil((span + margin - held) / step - 1e-9))
    assert formula <= len(frames) <= formula + 1
    assert exposure.shutter_s == frames[exposure.carrying].shutter_s == pytest.approx(exposure.ledger.shutter_s)
    assert exposure.carrying == carrying_index(tuple(item.shutter_s for item in frames), 2.0**stops * 2**compensation)
    # Five hundredths of a stop are what is not told of highlights and shadows.
    assert frames[0].brightest_ev >= highlight + margin - 0.05 - 1e-6
    assert frames[-1].darkest_ev <= highlight - span + 0.21
    for one, two in itertools.pairwise(frames):
        assert one.brightest_ev - two.brightest_ev == pytest.approx(math.log2(two.shutter_s / one.shutter_s))
        assert two.brightest_ev >= one.darkest_ev - 1e-9 or step > held - 0.34
    for item in frames:
        assert item.brightest_ev - item.darkest_ev == pytest.approx(held)
        # A frame's mid-grey lies 2.98 stops under what it holds (ISO 12232), whatever the time.
        middle = math.log2(64 / item.shutter_s)
        assert item.brightest_ev == pytest.approx(middle + HIGHLIGHT_ROOM_STOPS)
    # The first is a third-stop marking, and the others follow in even steps until they are counted in whole seconds.
    if len(frames) > 1 and frames[-1].shutter_s <= 32:
        assert 3 * math.log2(frames[0].shutter_s) == pytest.approx(round(3 * math.log2(frames[0].shutter_s)), abs=1e-6)
        for one, two in itertools.pairwise(frames):
            assert math.log2(two.shutter_s / one.shutter_s) == pytest.approx(step)
    if exposure.verdict.mark == "fails":
        assert "by" in _said(plan, "fails")


@given(st.floats(-10, 5), st.integers(1, 9), st.sampled_from([1 / 3, 1.0, 2.0]), st.floats(-6, 6), st.floats(0, 2))
def test_the_darkest_of_a_set_lies_where_it_must(base, count, step, most, spare):
    times = times_over_s(2.0**base, most - spare, most, count, step, 32)
    darkest, brightest = math.log2(times[0]) - base, math.log2(times[-1]) - base
    assert darkest <= most + 1e-5 or times[0] > 32
    # The brightest reaches as far as the last of the set that was asked for, to half a marking.
    assert brightest >= most - spare + (count - 1) * step - 1 / 6 - 1e-5 or times[-1] > 30


@pytest.mark.parametrize(
    ("highlight_ev", "step_ev", "frames", "said"),
    [
        # 17 stops, 11 held, at 2 EV: 1 + (17 − 11)/2 = 4 frames; a body of nine takes five around the middle by itself.
        (16.0, 2.0, 4, "or by the body's automatic bracket of 5"),
        # 15 stops: three, by itself.
        (14.0, 2.0, 3, "automatic on this body"),
        (14.0, 4.0, 2, "no such step"),
    ],
)
def test_seventeen_stops_on_a_body_of_nine(highlight_ev, step_ev, frames, said):
    facts = changed(
        FULL, shadow_ev=-1.0, highlight_ev=highlight_ev, bracket="range", bracket_step_ev=step_ev, filters=(),
        metered_shutter_s=1 / 60, metered_f_number=16.0, f_number=16.0,
    )  # fmt: skip
    step = plan_shot(facts).exposure
    assert len(step.exposures) == frames
    assert any(said in reason.text for reason in step.reasons)
    assert (step.bracket_automatic is True) == (said == "automatic on this body")
