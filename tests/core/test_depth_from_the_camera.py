"""Depth from where the camera is: axis distances, one blur, lenses that shorten; and that verdict, list, strip, ruler
and finder agree.
"""

import dataclasses
import math

import numpy as np
import pytest
from hypothesis import HealthCheck, assume, given, settings
from hypothesis import strategies as st

from lucid_ridge.core.facts.choices import DepthMethod, FocusSchool
from lucid_ridge.core.facts.kit import Body, Lens
from lucid_ridge.core.facts.place import Element
from lucid_ridge.core.facts.settings import settings_of, standing_on
from lucid_ridge.core.facts.shot import changed, facts_from
from lucid_ridge.core.framing.many_cameras import InFocus
from lucid_ridge.core.framing.projection import Camera
from lucid_ridge.core.framing.tuner import Target, misses_of
from lucid_ridge.core.optics.depth import airy_diameter_mm, blur_diameter_mm, near_limit_mm
from lucid_ridge.core.optics.stacking import plan_rail_stack
from lucid_ridge.core.planning.focus.camera import _bearing_of, focused_camera, scene_solids
from lucid_ridge.core.planning.focus.plan import plan_depth
from lucid_ridge.core.planning.plan.shot_plan import plan_shot

BODY = Body(1, "Body", 36, 24, 8256, 5504)
WIDE = Lens(1, "Wide", 24, 24, 2.8, 22.6, 150)
MACRO = Lens(2, "Macro", 100, 100, 2.8, 32, 300, max_magnification=1.0)
NINETY = Lens(3, "Ninety", 90, 90, 2.8, 45, 300, max_magnification=2.0)


def _shot(**values):
    return facts_from(**{"body": BODY, "lens": WIDE, "bearing_deg": 0.0, "f_number": 16.0, **values})


def _text(step):
    return " ".join(f"{reason.code}: {reason.text}" for reason in step.reasons)


def test_a_gentian_at_the_tripod_s_foot():
    # 0.2 m from the mark under 1.5 m, 75° down: its middle (4 cm up) is 1.46 m along the axis, its top 1.423 m,
    # its foot 1.501 m (hand-worked).
    gentian = Element(1, "Gentian", "post", 0, 0.2, 0.002, 0.08)
    step = plan_depth(
        _shot(elements=(gentian,), sharp_element_ids=frozenset({1}), camera_height_m=1.5, pitch_deg=-75, f_number=8)
    )
    assert step.near_m == pytest.approx(1.423, abs=1e-3)
    assert step.far_m == pytest.approx(1.501, abs=1e-3)
    assert step.positions[0].object_distance_m == pytest.approx(1.46, abs=5e-3)
    assert step.verdict.mark == "holds"


def test_a_slab_before_the_feet_takes_one_frame():
    # 0.7 m away, 10 cm high, 20° down from 1.5 m: 1.137 m along the axis (hand-worked), not 0.7 m; f/16 holds it
    # to infinity in one frame.
    slab = Element(1, "Slab", "block", 0, 0.7, 0.4, 0.1)
    step = plan_depth(
        _shot(
            elements=(slab,),
            sharp_element_ids=frozenset({1}),
            far_infinite=True,
            camera_height_m=1.5,
            pitch_deg=-20,
            f_number=11,
        )
    )
    assert step.near_m == pytest.approx(1.137, abs=1e-3)
    assert step.verdict.mark == "holds"
    assert len(step.positions) == 1
    # By geometry alone f/11 holds from 0.86 m (half of H = 24²/(11.31 · 0.030) + 24 mm); with diffraction from
    # 1.02 m, still nearer than the slab.
    assert near_limit_mm(24, 11.31, 0.030, 24 * 24 / (11.31 * 0.030) + 24) == pytest.approx(860, abs=5)
    assert step.positions[0].near_limit_m == pytest.approx(1.0, abs=0.15)


def test_the_ground_at_the_frame_s_edge_is_offered_and_can_be_asked_for():
    # 0.34 m high, 14° down, 24 mm upright: 0.351 m along the axis (hand-worked).
    far = Element(1, "Peak", "ridge", 0, 5000, 4000, 500)
    shot = _shot(
        elements=(far,),
        sharp_element_ids=frozenset({1}),
        camera_height_m=0.34,
        pitch_deg=-14,
        orientation="portrait",
        f_number=11,
    )
    offered = plan_depth(shot)
    assert offered.ground.span.near_m == pytest.approx(0.351, abs=1e-3)
    assert not offered.ground.must_be_sharp
    assert offered.near_m > 1000
    asked = plan_depth(changed(shot, ground_sharp=True))
    assert asked.near_m == pytest.approx(0.351, abs=1e-3)
    assert asked.ground.verdict == "sharp"
    none = plan_depth(changed(shot, ground_sharp=True, pitch_deg=60))
    assert none.verdict.mark == "unsaid"
    assert "No ground is in the frame" in _text(none)


def test_what_must_be_sharp_behind_the_camera_is_not_judged_as_held():
    front, back = Element(1, "Stone", "boulder", 0, 3, 0.5, 0.4), Element(2, "Hut", "block", 180, 30, 4, 3)
    step = plan_depth(_shot(elements=(front, back), sharp_element_ids=frozenset({1, 2}), camera_height_m=1.0))
    assert step.verdict.mark == "unsaid"
    assert "focus.element_behind_camera: Hut" in _text(step)
    alone = plan_depth(_shot(elements=(front, back), sharp_element_ids=frozenset({2}), camera_height_m=1.0))
    assert alone.verdict.mark == "unsaid"
    # In a panorama the camera is turned to it.
    round_about = plan_depth(
        _shot(elements=(front, back), sharp_element_ids=frozenset({1, 2}), camera_height_m=1.0, pano_across_deg=360.0)
    )
    assert round_about.far_m == pytest.approx(30, rel=0.02)


def test_one_blur_decides_and_diffraction_alone_is_named():
    # 2:1 at f/8: N_e 24, 2.44 · 0.55 µm · 24 = 32 µm of 30 allowed. Slices as a microscopist counts them, 0.677 mm
    # (Inoué and Spring, from memory): 5 mm with 20 % of overlap in 11 frames, where the geometric 0.36 mm would ask for
    # 19.
    shot = _shot(
        lens=NINETY, magnification=2.0, subject_depth_mm=5.0, f_number=8.0, coc_criterion="custom", coc_custom_mm=0.030
    )
    step = plan_depth(shot)
    assert step.airy_mm == pytest.approx(0.0322, abs=1e-4)
    assert step.slice_mm == pytest.approx(0.677, abs=1e-3)
    assert step.microscope_slice_mm == pytest.approx(0.677, abs=1e-3)
    assert len(step.positions) == 11
    assert plan_rail_stack(2.0, 8.0, 0.030, 5.0, overlap=0.2).count == 19
    assert step.verdict.mark == "fails"
    assert (
        "focus.diffraction_too_soft: Too soft from diffraction, whatever the stack: f/8 draws points 32 µm "
        "wide, more than the 30 µm allowed" in _text(step)
    )
    assert "f/5.6 works in" in _text(step)
    # There it does: sqrt(30² - 22.5²) = 19.8 µm are left, slices of 2 · 5.6 · 0.0198 · 3/4 = 0.166 mm.
    open_ = plan_depth(changed(shot, f_number=5.6))
    assert open_.verdict.mark == "holds"
    assert open_.slice_mm == pytest.approx(0.1665, abs=2e-3)


def test_a_lens_that_shortens_focuses_where_it_says():
    # 100 mm to 1:1 at 300 mm: 75 mm there, the subject 150 mm from the lens and 300 mm from the sensor
    # (hand-worked); 90 mm to 2:1 at 300 mm.
    one = plan_depth(_shot(lens=MACRO, magnification=1.0, subject_depth_mm=2.0, f_number=8.0))
    assert one.near_m == pytest.approx(0.150)
    assert one.positions[0].focus_distance_m == pytest.approx(0.300)
    two = plan_depth(_shot(lens=NINETY, magnification=2.0, subject_depth_mm=2.0, f_number=5.6))
    assert two.positions[0].focus_distance_m == pytest.approx(0.300)
    # Without a stated largest it reaches what its closest focus gives: 35 mm on 350 mm is 0.13:1 (hand-worked).
    plain = plan_depth(_shot(lens=Lens(4, "Plain", 35, 35, 2, 22, 350), magnification=1.0, subject_depth_mm=2.0))
    assert "Plain reaches 0.13:1, not 1:1" in _text(plain)
    assert plain.verdict.mark == "fails"


def test_the_pupil_ratio_counts_in_slices_limits_and_blur_alike():
    # 1:1, f/8, p = 0.5: entrance pupil 100 mm behind the principal plane of 100 mm. By hand: a point 201 mm away,
    # focused at 200 mm, is a cone from the pupil 12.5 mm wide over 301 mm: 12.5 · 1 · 1/301 = 0.0415 mm; twice as much
    # (1/201) for a symmetrical lens is 0.0622.
    assert blur_diameter_mm(100, 8, 200, 201, 0.5) == pytest.approx(12.5 / 301, rel=1e-9)
    assert blur_diameter_mm(100, 8, 200, 201) == pytest.approx(12.5 / 201, rel=1e-9)


def test_macro_framing_agrees_with_its_magnification():
    # A sundew 15 × 25 mm put at 0.20 m, 100 mm, 1.5:1 on 36 × 24 mm: the field is 24 × 16 mm, so its front takes 15/24
    # of the width and does not fit its height (hand-worked); the camera comes nearer to where the magnification has it.
    tube = Lens(5, "Macro", 100, 100, 2.8, 32, 300, max_magnification=1.5, front_mm=60)
    sundew = Element(
        id=1, name="Sundew", shape="block", bearing_deg=0, distance_m=0.20, width_m=0.015, height_m=0.025, base_m=0.05
    )
    shot = _shot(
        lens=tube,
        elements=(sundew,),
        sharp_element_ids=frozenset({1}),
        magnification=1.5,
        subject_depth_mm=4.0,
        camera_height_m=0.0625,
        f_number=8,
    )
    plan = plan_shot(shot)
    (seen,) = plan.frame.elements
    assert seen.outline.right - seen.outline.left == pytest.approx(15 / 24, rel=1e-6)
    assert seen.outline.bottom - seen.outline.top == pytest.approx(25 / 16, rel=1e-3)
    close = plan.frame.close_up
    # 72 mm at 1.5:1 and 300 mm: f = 300 · 1.5/2.5² = 72, u = 72 (1 + 1/1.5) = 120 mm; in the barrel's terms 300 -
    # 160 = 140 mm of room.
    assert close.object_mm == pytest.approx(120)
    assert close.working_mm == pytest.approx(140)
    assert "8 cm nearer" in " ".join(
        f"{reason.code}: {reason.text}" for reason in close.reasons
    ) or "80 mm nearer" in " ".join(reason.text for reason in close.reasons)
    # The fine-tuner measures the same picture.
    inside = settings_of(shot)
    camera = focused_camera(shot, inside, plan.depth.imaging)
    as_tuned = dataclasses.replace(camera, east_m=0.0, north_m=0.0, height_m=0.0625)
    wish = Target("whole", 0)
    missed = misses_of(scene_solids(shot), (wish,), as_tuned, in_focus=InFocus(0, close.object_mm / 1000))
    # Over by (25 - 16)/2 mm at the top and at the foot, in shares of the width of 24 mm.
    assert missed[0] == pytest.approx(math.hypot(4.5 / 24, 4.5 / 24), rel=1e-2)
    assert standing_on(camera, shot.ground).north_m == pytest.approx(0.080, abs=1e-6)


scenes = st.lists(
    st.builds(
        Element,
        id=st.integers(1, 4),
        name=st.just("Thing"),
        shape=st.sampled_from(["boulder", "post", "block", "tree", "water", "ridge", "flower"]),
        bearing_deg=st.floats(-30, 30).map(lambda turn: turn % 360),
        distance_m=st.floats(0.3, 3000),
        width_m=st.floats(0.02, 60),
        height_m=st.floats(0.02, 60),
    ),
    min_size=1,
    max_size=4,
    unique_by=lambda item: item.id,
)
lenses = st.builds(
    Lens,
    id=st.just(1),
    name=st.just("Lens"),
    focal_min_mm=st.sampled_from([18.0, 24.0, 50.0, 100.0, 200.0]),
    focal_max_mm=st.just(0.0),
    f_number_min=st.just(2.8),
    f_number_max=st.just(32.0),
    closest_focus_mm=st.just(900.0),
    pupil_ratio=st.floats(0.5, 2),
).map(lambda lens: dataclasses.replace(lens, focal_max_mm=lens.focal_min_mm))


@settings(max_examples=120, deadline=None, suppress_health_check=[HealthCheck.too_slow])
@given(
    scenes,
    lenses,
    st.sampled_from([2.8, 4.0, 5.6, 8.0, 11.0, 16.0, 22.0, 32.0]),
    st.sampled_from(DepthMethod),
    st.sampled_from(FocusSchool),
    st.floats(0.05, 3),
    st.floats(-80, 10),
    st.booleans(),
    st.booleans(),
    st.floats(0.008, 0.06),
)
def test_verdict_list_strip_and_ruler_agree(
    scene, lens, f_number, method, school, height, pitch, infinite, ground, coc
):
    shot = _shot(
        lens=lens,
        elements=tuple(scene),
        sharp_element_ids=frozenset(item.id for item in scene[:2]),
        f_number=f_number,
        depth_method=method,
        focus_school=school,
        subject_element_id=scene[0].id,
        camera_height_m=height,
        pitch_deg=pitch,
        far_infinite=infinite,
        ground_sharp=ground,
        coc_criterion="custom",
        coc_custom_mm=coc,
    )
    step = plan_depth(shot)
    assume(step.positions)
    listed = [*step.elements, *([step.ground] if step.ground else [])]
    musts = [item for item in listed if item.must_be_sharp]
    # What must be sharp and is not, or is not in view, is never held.
    if any(item.times_limit > 1 or item.span is None for item in musts):
        assert step.verdict.mark in ("fails", "unsaid")
    if any(item.times_limit > 1 for item in musts):
        assert step.verdict.mark == "fails"
    # What is held leaves the whole range within what is allowed.
    if step.verdict.mark == "holds":
        assert step.worst_blur_mm <= coc * (1 + 1e-6)
        assert all(item.verdict == "sharp" for item in musts)
    # The list is no softer than the range it lies in.
    for item in listed:
        if item.span and step.near_m <= item.span.near_m and item.span.far_m <= step.far_m:
            assert item.blur_mm <= step.worst_blur_mm * (1 + 1e-6)
    # The ruler draws the same blur.
    inside = (step.curve_distance_m >= step.near_m) & (step.curve_distance_m <= step.far_m)
    assert (step.curve_blur_mm[inside] <= step.worst_blur_mm * (1 + 1e-6)).all()
    assert (step.curve_blur_mm >= airy_diameter_mm(step.effective_f_number) * (1 - 1e-9)).all()
    # The strip says the same of the aperture in force.
    ours = next((choice for choice in step.apertures if abs(choice.f_number / f_number - 1) < 0.02), None)
    if ours is not None and abs(ours.f_number / f_number - 1) < 1e-9:
        if step.method == "single":
            assert ours.single_blur_mm == pytest.approx(step.worst_blur_mm, rel=1e-6)
            assert ours.single_holds == (step.worst_blur_mm <= coc * (1 + 1e-6))
        elif step.method == "ring":
            assert ours.stack_count == len(step.positions)
            if ours.within:
                assert step.worst_blur_mm <= coc * (1 + 1e-6)
        if not ours.within:
            assert step.verdict.mark == "fails"
    # Slices meet: what one position holds the next one takes over.
    if step.method == "ring":
        assert all(
            one.far_limit_m >= other.near_limit_m * (1 - 1e-6)
            for one, other in zip(step.positions, step.positions[1:], strict=False)
        )
    assert not np.isnan(step.curve_blur_mm).any()


def test_a_panorama_is_turned_to_what_stands_in_the_west():
    # By hand: 3 m north of the mark, what stands 4 m west of it is seen in the direction 180° + atan(4/3) = 233.13°.
    west = Element(9, "Cairn", "post", 270.0, 4.0, 0.3, 1.0)
    moved = Camera(0, 24, 36, 24, east_m=0.0, north_m=3.0, height_m=1.0)
    assert _bearing_of(moved, west) == pytest.approx(180 + math.degrees(math.atan2(4, 3)))
    assert _bearing_of(dataclasses.replace(moved, north_m=0.0), west) == pytest.approx(270)
