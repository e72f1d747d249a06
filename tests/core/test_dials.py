"""The detents of the dials: what body and lens can be set to, and a sentence at either end."""

import dataclasses
import math

import pytest

from lucid_ridge.core.facts.kit import Body, Lens
from lucid_ridge.core.facts.shot import facts_from
from lucid_ridge.core.planning.plan.dials import dials_of
from lucid_ridge.core.planning.plan.shot_plan import plan_shot

BODY = Body(
    id=1,
    name="Body",
    sensor_width_mm=36,
    sensor_height_mm=24,
    pixels_wide=6000,
    pixels_high=4000,
    base_iso=100,
    max_iso=25600,
    fastest_shutter_s=1 / 8192,
    slowest_shutter_s=32,
    has_bulb=True,
    dynamic_range_stops=11,
    bracket_frames=5,
    bracket_step_ev=2,
)
ZOOM = Lens(
    id=1,
    name="Zoom",
    focal_min_mm=24,
    focal_max_mm=70,
    f_number_min=2 * math.sqrt(2),
    f_number_max=2**4.5,
    closest_focus_mm=280,
    sharpest_f_number=8,
)
# A zoom marked f/3.5-5.6: it opens less wide the longer it is set.
KIT_ZOOM = dataclasses.replace(
    ZOOM, name="Kit zoom", focal_min_mm=18, focal_max_mm=55, f_number_min=2 ** (11 / 6), f_number_min_long=2**2.5
)
PRIME = dataclasses.replace(ZOOM, name="Fifty", focal_min_mm=50, focal_max_mm=50)


def _labels(detents):
    return [mark.label for mark in detents.marks]


def test_without_kit_the_dials_show_what_the_trade_engraves():
    dials = dials_of(facts_from())
    assert {"f/1.4", "f/8", "f/22"} <= set(_labels(dials.apertures))
    assert {"24", "50", "200"} <= set(_labels(dials.focals))
    assert all(
        detents.at_start and detents.at_end for detents in (dials.apertures, dials.isos, dials.focals, dials.shutters)
    )


def test_apertures_end_where_the_lens_does():
    labels = _labels(dials_of(facts_from(lens=ZOOM)).apertures)
    assert (labels[0], labels[-1]) == ("f/2.8", "f/22")
    # Three marks a stop over six stops, both ends counted.
    assert len(labels) == 19


@pytest.mark.parametrize(("focal", "widest"), [(18, "f/3.5"), (55, "f/5.6")])
def test_a_zoom_of_two_apertures_at_each_end(focal, widest):
    found = dials_of(facts_from(lens=KIT_ZOOM, focal_mm=focal)).apertures
    assert found.marks[0].label == widest
    assert widest in found.at_start and f"{focal} mm" in found.at_start


def test_the_widest_aperture_closes_as_a_zoom_grows_longer():
    widest = [KIT_ZOOM.widest_f_number(focal) for focal in range(18, 56)]
    assert widest == sorted(widest)
    assert widest[0] == pytest.approx(2 ** (11 / 6)) and widest[-1] == pytest.approx(2**2.5)
    assert all(KIT_ZOOM.takes_aperture(value, focal) for value, focal in zip(widest, range(18, 56), strict=True))
    assert not KIT_ZOOM.takes_aperture(2 ** (11 / 6), 55)


def test_a_plan_never_works_wider_than_the_zoom_opens_there():
    for focal in (18, 24, 35, 55):
        plan = plan_shot(facts_from(body=BODY, lens=KIT_ZOOM, focal_mm=focal, near_m=3, far_m=4))
        assert plan.depth.f_number is None or plan.depth.f_number >= KIT_ZOOM.widest_f_number(focal) * 0.999


def test_a_prime_has_one_focal_length():
    found = dials_of(facts_from(lens=PRIME)).focals
    assert _labels(found) == ["50"]


def test_isos_end_where_the_body_does_and_say_so():
    found = dials_of(facts_from(body=BODY)).isos
    assert (_labels(found)[0], _labels(found)[-1]) == ("100", "25600")
    assert "ISO 100" in found.at_start and "ISO 25600" in found.at_end


def test_long_times_are_labelled_in_minutes_and_seconds():
    # A timer counts on by doubling: 512 s are eight minutes and thirty-two seconds.
    labels = {mark.value: mark.label for mark in dials_of(facts_from(body=BODY)).shutters.marks}
    assert (labels[64], labels[128], labels[512], labels[1024]) == ("1'04\"", "2'08\"", "8'32\"", "17'04\"")


def test_without_bulb_the_dial_ends_at_the_longest_time_of_the_body():
    found = dials_of(facts_from(body=dataclasses.replace(BODY, has_bulb=False))).shutters
    assert found.marks[-1].label == "30 s"
    assert "30 s" in found.at_end


def test_marks_rise_or_fall_throughout():
    for facts in (facts_from(), facts_from(body=BODY, lens=ZOOM), facts_from(body=BODY, lens=PRIME)):
        for detents in dataclasses.astuple(dials_of(facts)):
            values = [mark[0] for mark in detents[0]]
            assert values in (sorted(values), sorted(values, reverse=True))
            assert len(set(values)) == len(values)
