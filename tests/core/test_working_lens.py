"""Lenses as they really image up close, with tubes, bellows, close-up lenses and converters."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.facts.kit import Lens
from lucid_ridge.core.optics.conjugates import magnification, object_distance_mm
from lucid_ridge.core.optics.working_lens import Rig, WorkingLens


def test_a_lens_that_shortens():
    # A "100 mm" that reaches 1:1 at 300 mm works at 75 mm there, D m / (1 + m)^2, with the subject 150 mm away
    # (hand-worked).
    close = WorkingLens(100, 1.0, 300).at_magnification(1.0)
    assert (close.focal_mm, close.object_mm, close.image_mm, close.focus_distance_mm) == pytest.approx(
        (75, 150, 150, 300)
    )
    assert close.cost_stops == pytest.approx(2)
    # 90 mm at 2:1 focuses at its own 300 mm (66.7 mm there).
    twice = WorkingLens(90, 2.0, 300).at_magnification(2.0)
    assert (twice.focal_mm, twice.focus_distance_mm) == pytest.approx((66.667, 300), abs=1e-3)
    # Between infinity and there in proportion; never lengthened.
    assert WorkingLens(100, 1.0, 300).real_focal_mm(0.5) == pytest.approx(87.5)
    assert WorkingLens(24, 0.14, 250).shortest_mm == 24


def test_at_infinity_it_is_as_engraved():
    far = WorkingLens(100, 1.0, 300).at_distance(math.inf)
    assert far.focal_mm == pytest.approx(100, rel=1e-9)
    assert far.magnification == pytest.approx(0, abs=1e-9)


@given(st.floats(20, 300), st.floats(0.1, 2), st.floats(1.01, 400))
def test_distance_and_magnification_are_each_other_s_inverse(focal, largest, times):
    closest = 1.05 * focal * (1 + largest) ** 2 / largest * 0.8
    lens = WorkingLens(focal, largest, closest)
    away = times * lens.at_magnification(largest).object_mm
    imaging = lens.at_distance(away)
    assert imaging.object_mm == pytest.approx(away, rel=1e-9)
    assert imaging.magnification <= largest * (1 + 1e-9)
    # The thin lens that images alike does (Gauss).
    assert magnification(imaging.focal_mm, imaging.object_mm) == pytest.approx(imaging.magnification, rel=1e-9)


def test_the_plain_thin_lens_is_a_special_case():
    lens = WorkingLens(50, 1.0)
    for distance in (200, 1000, 1e5):
        away = float(object_distance_mm(50, distance))
        assert lens.at_distance(away).magnification == pytest.approx(float(magnification(50, away)))
        assert lens.at_distance(away).focus_distance_mm == pytest.approx(distance)
    assert lens.at_distance(49) is None


@pytest.mark.parametrize(("dioptres", "stops"), [(10, 0.0), (5, 0.83), (2, 1.47)])
def test_close_up_lenses_cost_only_what_the_lens_is_drawn_out(dioptres, stops):
    # 1:1 on 100 mm; by hand 2 log2(f'(1 + m)/f).
    assert WorkingLens(100, 1.0, rig=Rig(dioptres=dioptres)).at_magnification(1.0).cost_stops == pytest.approx(
        stops, abs=0.005
    )


def test_bellows_of_a_view_camera():
    # 150 mm lens at 300 mm of draw: 1:1, factor 4, 2 stops (common practice).
    bellows = WorkingLens(150, 0.0, rig=Rig((0, 150)))
    drawn = bellows.at_magnification(1.0)
    assert drawn.extension_mm == pytest.approx(150)
    assert drawn.image_mm == pytest.approx(300)
    assert drawn.cost_stops == pytest.approx(2)
    assert bellows.at_magnification(0.2).extension_mm == pytest.approx(30)
    assert bellows.reach == pytest.approx((0, 1))
    assert not bellows.reaches(1.1)


def test_tubes_on_a_lens_that_shortens():
    # 36 mm behind 75 mm at its closest: (150 + 36)/75 - 1 = 1.48 (hand-worked).
    tube = WorkingLens(100, 1.0, 300, rig=Rig((36, 36)))
    assert tube.reach == pytest.approx((0.36, 1.48))
    assert tube.at_magnification(1.48).object_mm == pytest.approx(75 * (1 + 1 / 1.48))
    # The lens ring is used before more tube is.
    assert WorkingLens(100, 1.0, 300, rig=Rig((12, 68))).at_magnification(1.0).extension_mm == 12


def test_the_pupil_ratio_changes_the_light_not_the_distance():
    tele = WorkingLens(200, 1.0, pupil_ratio=0.5)
    assert tele.at_magnification(1.0).light_scale == pytest.approx(3)
    assert tele.at_magnification(1.0).object_mm == 400


def test_what_lies_too_near_for_any_image():
    # Bare, nothing within the focal length of 100 mm is imaged. With 5 dioptres it images as 1/(1/100 + 5/1000) =
    # 66.7 mm (powers add).
    bare, close = WorkingLens(100, 1.0), WorkingLens(100, 1.0, rig=Rig(dioptres=5))
    assert [bare.images(mm) for mm in (66, 68, 100, 101, math.inf)] == [False, False, False, True, True]
    assert [close.images(mm) for mm in (66, 68, 100, 101, math.inf)] == [False, True, True, True, True]
    # A lens that shortens to 66.7 mm at 2:1 and 300 mm has its subject 100 mm away there, as far as its engraved
    # focal length.
    assert WorkingLens(100, 2.0, 300).images(100)


def test_what_a_lens_reaches_without_being_told():
    # 35 mm closest 350 mm: u = (350 + sqrt(350^2 - 4 · 350 · 35))/2 = 310.55, m = 35/275.55 = 0.127 (hand-worked).
    lens = Lens(1, "Wide", 35, 35, 2, 22, 350)
    assert lens.largest_magnification(35) == pytest.approx(0.127, abs=5e-4)
    assert lens.working(35).closest_mm is None
    # A zoom's entered closest focus holds at its long end.
    zoom = Lens(2, "Zoom", 24, 70, 2.8, 22, 380, max_magnification=0.25)
    assert zoom.working(24).closest_mm is None
    assert zoom.working(70).closest_mm == 380


@pytest.mark.parametrize(
    "rig", [{"extension_mm": (5, 2)}, {"extension_mm": (-1, 2)}, {"dioptres": -1}, {"converter": 0.5}]
)
def test_impossible_rigs_are_refused(rig):
    with pytest.raises(InputError):
        Rig(**rig)
