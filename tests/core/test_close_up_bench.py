"""Close up: fields, working distances, accessories, background and shadows, by hand."""

import math

import pytest

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.optics.close_up import (
    background_behind,
    close_up_setups,
    field_width_mm,
    magnification_from_field,
    melts_from_mm,
    shadow_on_subject,
)
from lucid_ridge.core.optics.working_lens import Rig, WorkingLens


def test_magnification_from_a_ruler():
    # Common practice: a 17.3 mm sensor over 21 mm of a ruler is 0.82:1, over 11 mm 1.57:1.
    assert magnification_from_field(17.3, 21) == pytest.approx(0.82, abs=0.005)
    assert magnification_from_field(17.3, 11) == pytest.approx(1.57, abs=0.005)
    assert field_width_mm(36, 1.5) == pytest.approx(24)
    assert field_width_mm(17.3, magnification_from_field(17.3, 21)) == pytest.approx(21)


def test_tubes_and_close_up_lenses():
    # m grows by extension/f: 25 mm behind a 50 mm lens that reaches 0.15 make 0.65.
    assert WorkingLens(50, 0.15, rig=Rig((25, 25))).reach == pytest.approx((0.5, 0.65))
    two = WorkingLens(100, 1.0, rig=Rig(dioptres=2))
    # Focused at infinity a close-up lens of 2 dioptres puts the plane at half a metre: m = f · D = 0.2. From 1:1 the
    # image lies at 200 mm behind 83.3 mm (powers add: 10 dioptres of a 100 mm lens and 2 more): 200/83.3 - 1 = 1.4.
    assert two.reach == pytest.approx((0.2, 1.4))
    assert two.at_magnification(1.4).focal_mm == pytest.approx(1000 / 12)
    assert two.at_magnification(0.2).object_mm == pytest.approx(500)


def test_twice_the_focal_length_gives_nearly_twice_the_room():
    # Common practice. At 1:1 the subject lies two focal lengths from the lens.
    setups = {setup.name: setup for setup in close_up_setups(WorkingLens(100, 1.0), 1.0, 36, front_mm=60)}
    alone, longer = setups["the lens alone"], setups["a lens twice as long"]
    assert (alone.object_mm, longer.object_mm) == (200, 400)
    assert alone.working_mm == 140
    assert alone.reached
    # Extension at 1:1 costs two stops (common practice).
    assert alone.cost_stops == pytest.approx(2.0)
    # The longer lens sees half the angle behind the subject.
    assert math.tan(math.radians(longer.background_deg / 2)) == pytest.approx(
        math.tan(math.radians(alone.background_deg / 2)) / 2
    )


def test_a_converter_enlarges_and_keeps_the_distance():
    setups = {setup.name: setup for setup in close_up_setups(WorkingLens(100, 1.0), 2.0, 36)}
    converter = setups["a 2× converter"]
    # The lens works at 1:1, where it stands 200 mm away; two stops for its extension and two for the converter.
    assert converter.object_mm == pytest.approx(200)
    assert converter.largest == pytest.approx(2.0)
    assert converter.reached
    assert converter.cost_stops == pytest.approx(4.0)
    assert not setups["the lens alone"].reached


def test_what_a_close_up_lens_costs_and_its_smallest():
    """A close-up lens adds no extension: only what the lens itself is drawn out by costs light.

    By hand, 2·log2(f'(1 + m)/f).
    """
    ways = {setup.name: setup for setup in close_up_setups(WorkingLens(100, 1.0), 1.0, 36)}
    for dioptres, stops, smallest in ((10, 0.0, 1.0), (5, 0.83, 0.5), (2, 1.47, 0.2)):
        way = ways[f"a close-up lens of {dioptres} dioptres"]
        assert way.cost_stops == pytest.approx(stops, abs=0.005)
        assert way.smallest == pytest.approx(smallest)
        assert way.reached
    assert ways["36 mm of tube"].smallest == pytest.approx(0.36)
    # At 0.3:1 tubes of 36 and 68 mm and lenses of 5 and 10 dioptres begin beyond it.
    few = {setup.name: setup.reached for setup in close_up_setups(WorkingLens(100, 1.0), 0.3, 36)}
    assert [name for name, reached in few.items() if not reached] == [
        "36 mm of tube", "68 mm of tube", "a close-up lens of 5 dioptres", "a close-up lens of 10 dioptres",
    ]  # fmt: skip


def test_the_background_melts_by_its_blur_and_not_by_distance_alone():
    # 100 mm at 1:1, f/4: the subject at 200 mm. 400 mm behind it is twice as far: A · m · (d - u)/d = 25 · 1 · 400/600.
    behind = background_behind(100, 4, 1.0, 36, 400)
    assert behind.times == pytest.approx(2)
    assert behind.melts
    assert behind.by_rule
    assert behind.blur_mm == pytest.approx(25 * 400 / 600)
    # There the frame holds three times the width it holds at the subject.
    assert behind.width_mm == pytest.approx(108)
    assert not background_behind(100, 4, 1.0, 36, 300).by_rule
    assert background_behind(100, 4, 1.0, 36, math.inf).blur_mm == pytest.approx(25)
    # 90 mm at f/32 and 0.1:1 on 36 mm: 2.81 mm · 0.1 = 0.28 mm at most, 0.8 % of the width: however far it lies
    # it does not melt.
    closed = background_behind(90, 32, 0.1, 36, 1e6)
    assert closed.by_rule
    assert not closed.melts
    assert closed.blur_share == pytest.approx(0.0078, abs=0.0002)
    assert math.isinf(melts_from_mm(90, 32, 0.1, 36))
    with pytest.raises(InputError):
        background_behind(100, 4, 1.0, 36, 0)


def test_from_where_on_it_melts():
    # 100 mm, f/4, 1:1: 25/36 of the width at infinity; 5 % where b/(200 + b) = 0.072: 15.5 mm behind the subject.
    from_mm = melts_from_mm(100, 4, 1.0, 36)
    assert from_mm == pytest.approx(15.5, abs=0.1)
    assert background_behind(100, 4, 1.0, 36, from_mm * 1.001).melts
    assert not background_behind(100, 4, 1.0, 36, from_mm * 0.999).melts


def test_whose_shadow_falls_on_the_subject():
    # Looking south with the sun in the north behind, level with the view: the lens itself stands in its way.
    behind = shadow_on_subject(180, -20, 0, 20, 0.2, 0.1, 0.035)
    assert behind.angle_deg == pytest.approx(0, abs=0.01)
    assert behind.lens
    # Low over the shoulder, but clear of the lens: atan(0.035/0.1) is 19.3° around it.
    low = shadow_on_subject(180, -45, 0, 20, 0.2, 0.1, 0.035)
    assert not low.lens
    assert low.photographer
    # From the side, high, or under the horizon nobody casts one.
    assert not any(
        (
            shadow_on_subject(180, -20, 90, 20, 0.2, 0.1, 0.035).photographer,
            shadow_on_subject(180, -20, 0, 85, 0.2, 0.1, 0.035).photographer,
        )
    )
    assert not shadow_on_subject(180, -20, 0, -3, 0.2, 0.1, 0.035).lens


def test_impossible_magnifications_are_refused():
    with pytest.raises(InputError):
        close_up_setups(WorkingLens(100, 1.0), 0, 36)
    with pytest.raises(InputError):
        magnification_from_field(17.3, 0)
