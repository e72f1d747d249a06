"""Cautions about rotated filters, polarisers, slides and negatives."""

from dataclasses import replace

import pytest

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.exposure.proposals import BagFilter, propose_settings
from lucid_ridge.core.facts.filters import Filter
from lucid_ridge.core.facts.kit import Body, Lens
from lucid_ridge.core.facts.place import Element
from lucid_ridge.core.facts.shot import facts_from
from lucid_ridge.core.optics.circle_of_confusion import crop_factor
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
SLIDE = Body(
    id=2,
    name="Slide",
    sensor_width_mm=36,
    sensor_height_mm=24,
    pixels_wide=8256,
    pixels_high=5504,
    base_iso=50,
    max_iso=50,
    fastest_shutter_s=1 / 1000,
    slowest_shutter_s=32,
    has_bulb=True,
    dynamic_range_stops=5,
    bracket_frames=1,
    bracket_step_ev=1,
    film="slide",
)
NEGATIVE = Body(
    id=3,
    name="Negative",
    sensor_width_mm=36,
    sensor_height_mm=24,
    pixels_wide=8256,
    pixels_high=5504,
    base_iso=400,
    max_iso=400,
    fastest_shutter_s=1 / 1000,
    slowest_shutter_s=32,
    has_bulb=True,
    dynamic_range_stops=8,
    bracket_frames=1,
    bracket_step_ev=1,
    film="negative",
)
LENS = Lens(
    id=1,
    name="Zoom",
    focal_min_mm=16,
    focal_max_mm=70,
    f_number_min=2.8,
    f_number_max=2**4.5,
    closest_focus_mm=280,
    sharpest_f_number=8,
)
VARIABLE = BagFilter(7, "Variable", 2.0, stops_max=8.0)


def _said(**said):
    start = {
        "body": BODY,
        "lens": LENS,
        "focal_mm": 50.0,
        "f_number": 8.0,
        "metered_f_number": 8.0,
        "metered_shutter_s": 1.0,
        "metered_iso": 100.0,
        "elements": (Element(1, "Rock", "boulder", 0, 6.0, 2, 1),),
    }
    return plan_shot(facts_from(**{**start, **said})).exposure


def _mark(step, words):
    return [str(reason.severity) for reason in step.reasons if words in f"{reason.code}: {reason.text}"]


def test_a_variable_filter_is_turned_to_the_time_wanted():
    # EV 13 at f/8, ISO 100: 1/128 s. One second is seven stops more: within 2 to 8 (APEX, by hand).
    best = propose_settings(13.0, (1.0, 1.0), [VARIABLE], [8.0], [100.0], 8.0, 100.0)[0]
    assert best.set_stops == (pytest.approx(7.0),)
    assert best.shutter_s == pytest.approx(1.0)
    # 2 s asks for 8, its strongest; 4 s for more than it has: a stop off is all that is offered.
    assert propose_settings(13.0, (2.0, 2.0), [VARIABLE], [8.0], [100.0], 8.0, 100.0)[0].set_stops == (
        pytest.approx(8.0),
    )
    assert propose_settings(13.0, (4.0, 4.0), [VARIABLE], [8.0], [100.0], 8.0, 100.0)[0].error_stops == pytest.approx(
        -1.0
    )
    # With a fixed one of six they share it: 4 s is nine stops, three of them turned.
    both = propose_settings(13.0, (4.0, 4.0), [VARIABLE, BagFilter(8, "Six", 6.0)], [8.0], [100.0], 8.0, 100.0)[0]
    assert both.shutter_s == pytest.approx(4.0)
    assert dict(zip(both.filter_ids, both.set_stops, strict=True)) == {7: pytest.approx(3.0), 8: None}


def test_a_limit_is_no_reason_to_turn_it():
    # Any time up to 1/60 will do: without glass.
    best = propose_settings(13.0, (0.0, 1 / 60), [VARIABLE], [8.0], [100.0], 8.0, 100.0)[0]
    assert best.filter_ids == ()


def test_a_variable_filter_near_its_strongest_crosses_a_wide_view():
    turned = Filter(7, "Variable", "neutral_density", 7.5, on_lens=True, stops_max=8.0, stops_min=2.0)
    assert _mark(_said(filters=(turned,), focal_mm=16.0), "filters.variable_crosses") == ["tight"]
    assert _mark(_said(filters=(turned,), focal_mm=70.0), "filters.variable_crosses") == []
    weak = Filter(7, "Variable", "neutral_density", 3.0, on_lens=True, stops_max=8.0, stops_min=2.0)
    assert _mark(_said(filters=(weak,), focal_mm=16.0), "filters.variable_crosses") == []
    fixed = Filter(7, "Eight", "neutral_density", 8.0, on_lens=True)
    assert _mark(_said(filters=(fixed,), focal_mm=16.0), "filters.variable_crosses") == []


def test_a_polariser_costs_a_range_until_it_is_metered_through():
    pol = Filter(5, "Polariser", "polariser", 1.5, on_lens=True)
    assert _mark(_said(filters=(pol,)), "costs 1 to 3") == ["caution"]
    through = Filter(5, "Polariser", "polariser", 1.5, on_lens=True, on_when_metered=True)
    assert _mark(_said(filters=(through,)), "costs 1 to 3") == []


def test_a_colour_filter_costs_its_stops_and_stays_on():
    # Red, factor 8: three stops (common practice); it is on for its effect, so a proposal keeps it.
    red = Filter(9, "Red", "colour", 3.0, on_lens=True)
    assert (red.even_stops, red.kind.stays_on, red.kind.lengthens_exposure, red.kind.graduates) == (
        3,
        True,
        False,
        False,
    )


def test_a_colour_filter_is_for_black_and_white():
    red = Filter(9, "Red", "colour", 3.0, on_lens=True)
    assert _mark(_said(filters=(red,)), "filters.tints") == ["caution"]
    assert _mark(_said(filters=(replace(red, on_lens=False),)), "filters.tints") == []


def test_who_keeps_polarisers_off_wide_lenses_is_told():
    pol = Filter(5, "Polariser", "polariser", 1.5, on_lens=True, on_when_metered=True)
    assert _mark(_said(filters=(pol,), focal_mm=16.0, polariser_from_mm=24.0), "your preference") == ["tight"]
    assert _mark(_said(filters=(pol,), focal_mm=24.0, polariser_from_mm=24.0), "your preference") == []
    assert _mark(_said(filters=(pol,), focal_mm=16.0), "your preference") == []


def test_a_slide_keeps_a_third_of_a_stop_and_a_negative_holds_two_more():
    # Mid-grey at EV 6, saturation three stops over it (ISO 12232): highlights at EV 8.9 leave a tenth of a stop,
    # EV 10 lies a stop beyond.
    near = {"shadow_ev": 5.0, "highlight_ev": 8.9}
    assert "tight" in _mark(
        _said(body=SLIDE, metered_iso=50.0, metered_shutter_s=2.0, **near), "on a slide keep a third"
    )
    assert _mark(_said(**near), "slide") == []
    over = {"shadow_ev": 5.0, "highlight_ev": 10.0}
    assert _mark(_said(body=NEGATIVE, metered_iso=400.0, metered_shutter_s=0.25, **over), "a negative still holds") == [
        "tight"
    ]
    assert _mark(_said(**over), "highlights are clipped") == ["fails"]
    assert _mark(
        _said(body=SLIDE, metered_iso=50.0, metered_shutter_s=2.0, shadow_ev=7.0, highlight_ev=10.0),
        "highlights are clipped",
    ) == ["fails"]
    assert _mark(
        _said(body=NEGATIVE, metered_iso=400.0, metered_shutter_s=0.25, compensation_ev=-1.0),
        "filters.negative_underexposed",
    ) == ["caution"]


def test_the_crop_factor_by_the_diagonals():
    # Common practice: 1 for 36 × 24, 1.5 for 23.6 × 15.7, 2 for 17.3 × 13 mm.
    assert crop_factor(36, 24) == pytest.approx(1.0)
    assert crop_factor(23.6, 15.7) == pytest.approx(1.53, abs=0.01)
    assert crop_factor(17.3, 13.0) == pytest.approx(2.0, abs=0.01)
    with pytest.raises(InputError):
        crop_factor(0, 24)
