"""What step 3 says of place, tripod, panorama, close-up and corners."""

import dataclasses
import math
from datetime import UTC, date, datetime

import pytest

from lucid_ridge.core.facts.filters import Filter
from lucid_ridge.core.facts.kit import Body, Lens, Support
from lucid_ridge.core.facts.place import Element, Hazard, HazardKind, Location
from lucid_ridge.core.facts.shot import changed, facts_from
from lucid_ridge.core.framing.footing import Ground, standing_area
from lucid_ridge.core.light.skyline import skyline_of
from lucid_ridge.core.planning.plan.shot_plan import plan_shot

# 24 November 2026, 11:30: the sun in the south-south-east, some 14° up (checked below).
FACTS = facts_from(
    location=Location("Shore", 54.53, -3.21, 4, "Europe/London"),
    viewpoint_name="Bank",
    elements=(Element(1, "Stone", "boulder", 180, 2.0, 0.6, 0.4), Element(2, "Mast", "post", 188, 60, 0.5, 9)),
    date_local=date(2026, 11, 24),
    time_utc=datetime(2026, 11, 24, 11, 30, tzinfo=UTC),
    body=Body(
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
    ),
    lens=Lens(
        id=1,
        name="Zoom",
        focal_min_mm=24,
        focal_max_mm=70,
        f_number_min=2.8,
        f_number_max=22.6,
        closest_focus_mm=380,
        sharpest_f_number=8,
    ),
    focal_mm=24,
    bearing_deg=184,
    pitch_deg=-8,
    camera_height_m=1.2,
    f_number=11,
    sharp_element_ids=frozenset({1, 2}),
    metered_f_number=11,
    metered_shutter_s=1 / 60,
    metered_iso=100,
)
AREA = standing_area([(-1, -1), (1, -1), (1, 1), (-1, 1)], [1])
LEGS = Support(1, "Legs", 0.4, 1.6, 0.1)
MACRO = Lens(
    id=2,
    name="Macro",
    focal_min_mm=90,
    focal_max_mm=90,
    f_number_min=2.8,
    f_number_max=32,
    closest_focus_mm=300,
    sharpest_f_number=5.6,
    max_magnification=2.0,
    front_mm=88,
)


def _plan(**changes):
    return plan_shot(changed(FACTS, **changes))


def _said(plan, *weights):
    return " ".join(
        f"{reason.code}: {reason.text}"
        for reason in plan.because
        if reason.step == "frame" and (not weights or reason.severity in weights)
    )


def test_outside_the_standing_area_fails_and_the_edge_is_a_caution():
    inside = _plan(standing=AREA)
    assert "standing area" not in _said(inside) and "edge is" not in _said(inside)
    # 0.4 m from the side with the drop.
    near = _plan(standing=AREA, camera_east_m=0.6)
    assert "The edge is 0.40 m away" in _said(near, "caution")
    outside = _plan(standing=AREA, camera_east_m=1.5)
    assert "standing.outside_area: The camera is 0.50 m outside" in _said(outside, "fails")


def test_an_edge_that_is_only_noted_asks_for_the_standing_area():
    edge = (Hazard(HazardKind.EDGE, "loose"),)
    assert "Draw the standing area first" not in _said(_plan(hazards=edge))
    moved = _plan(hazards=edge, camera_north_m=-1.43)
    assert (
        "standing.edge_not_drawn: An edge is recorded here, but no standing area: the camera is 1.43 m from"
        in _said(moved, "unsaid")
    )
    assert moved.frame.verdict.mark != "holds"
    # With the area drawn it is judged by that; without an edge nothing is asked.
    assert "Draw the standing area" not in _said(_plan(hazards=edge, standing=AREA, camera_north_m=0.4))
    assert "Draw the standing area" not in _said(_plan(camera_north_m=-1.43))


@pytest.mark.parametrize(
    ("height", "weight", "words"),
    [
        (1.2, "holds", "holds the camera at 1.20 m"),
        (0.2, "tight", "standing.column_reversed"),
        (0.05, "tight", "bag on the ground"),
        (2.0, "fails", "reaches 1.60 m, 0.40 m less"),
    ],
)
def test_what_the_tripod_reaches(height, weight, words):
    assert words in _said(_plan(support=LEGS, camera_height_m=height), weight)


def test_a_panorama_is_counted_into_the_sequence():
    single, wide = _plan(), _plan(pano_across_deg=120, pano_overlap=0.4)
    pano = wide.frame.panorama.plan
    assert len(wide.sequence.frames) == len(pano.aims) * len(single.sequence.frames)
    assert [frame.aim for frame in wide.sequence.frames][:: len(single.sequence.frames)] == list(pano.aims)
    assert wide.sequence.total_s == pytest.approx(len(pano.aims) * single.sequence.total_s)
    assert f"{len(pano.aims)} frames" in _said(wide)
    assert "panorama of" in next(verdict.text for verdict in wide.verdicts if verdict.step == "frame")
    # The sun in the south: the frame nearest to it is the one to meter.
    sun = wide.light.sun_azimuth_deg
    assert 160 < sun < 180
    nearest = min(range(len(pano.aims)), key=lambda index: abs(pano.aims[index].bearing_deg - sun))
    assert wide.frame.panorama.brightest == nearest


def test_a_pivot_beside_the_pupil_slips_and_one_under_it_does_not():
    wide = _plan(pano_across_deg=120, pano_pivot_mm=60)
    assert "Stone slips by" in _said(wide, "tight")
    # By hand: chord 2 · 60 mm · sin(turn/2) times (1/2 - 1/60), in pixels of 36 mm/8256 at the focal length as it
    # images.
    aims = wide.frame.panorama.plan.aims
    turn = aims[1].bearing_deg - aims[0].bearing_deg
    slip = (
        2
        * 0.06
        * math.sin(math.radians(turn) / 2)
        * (1 / 2 - 1 / 60)
        * 24
        * (1 + wide.depth.magnification)
        / (36 / 8256)
    )
    assert wide.frame.panorama.slip_px == pytest.approx(slip, rel=0.01)
    assert _plan(pano_across_deg=120).frame.panorama.slip_px is None


def test_a_panorama_that_cannot_be_taken_says_why():
    plan = _plan(pano_upwards_deg=170, pitch_deg=60)
    assert plan.frame.panorama.plan is None
    assert "straight up" in _said(plan, "fails")
    assert len(plan.sequence.frames) == len(_plan(pitch_deg=60).sequence.frames)


def _close(**changes):
    flower = Element(
        id=1, name="Flower", shape="flower", bearing_deg=0, distance_m=0.15, width_m=0.01, height_m=0.008, base_m=0.1
    )
    return _plan(
        **{
            "elements": (flower,),
            "lens": MACRO,
            "focal_mm": 90,
            "magnification": 1.5,
            "subject_depth_mm": 3.0,
            "bearing_deg": 0.0,
            "pitch_deg": 0.0,
            "camera_height_m": 0.104,
            "sharp_element_ids": frozenset({1}),
            **changes,
        }
    )


def test_the_bench_close_up():
    plan = _close()
    close = plan.frame.close_up
    # 36 × 24 mm at 1.5:1 hold 24 × 16 mm. 90 mm shorten to 66.7 at 2:1 (300 mm), to 72.5 at 1.5:1: the subject lies
    # 72.5 · (1 + 1/1.5) = 120.8 mm away, 72.5 · 2.5 + 120.8 = 302.1 mm from the sensor and so 302.1 - (90 + 88) = 124.1
    # mm before a barrel that stays as it is.
    assert close.field_mm == pytest.approx((24, 16))
    assert close.object_mm == pytest.approx(120.8, abs=0.05)
    assert close.working_mm == pytest.approx(124.1, abs=0.05)
    assert "124 mm from the front of the lens" in _said(plan)
    assert "level with Flower" in _said(plan)
    assert _plan().frame.close_up is None


def test_the_background_close_up_melts_or_not():
    flower, leaf = (
        Element(
            id=1,
            name="Flower",
            shape="flower",
            bearing_deg=0,
            distance_m=0.15,
            width_m=0.01,
            height_m=0.008,
            base_m=0.1,
        ),
        Element(2, "Leaf", "block", 0, 0.35, 0.1, 0.3),
    )
    near = _close(elements=(flower, dataclasses.replace(leaf, distance_m=0.19)), f_number=32)
    # The flower begins 5 mm before its middle: 45 mm behind a subject 120.8 mm away, f/32 and 1.5:1: 72.5/32 · 1.5 ·
    # 45/165.8 = 0.92 mm, and 0.11 mm of diffraction: 2.6 % of the width; twice as far would not matter.
    assert (
        "Leaf is 0.4 times as far behind the subject as the camera is before it and does not melt: its blur is 3\u202f%"
        in _said(near, "tight")
    )
    assert "close_up.background: Leaf is 1.7 times" in _said(_close(elements=(flower, leaf)), "holds")
    # The wall it grows on is no background.
    wall = _close(elements=(flower, Element(3, "Wall", "block", 0, 0.165, 2.0, 1.0)))
    assert wall.frame.close_up.background_name is None
    far = _close(elements=(flower, dataclasses.replace(leaf, distance_m=0.6)))
    assert "melts" in _said(far, "holds")
    # Blurred away it collides with nothing.
    assert not any(reading.key.startswith("clearance") for reading in far.frame.readings)


def test_ones_own_shadow_close_up():
    # Looking north from below the sun in the south: it comes over the shoulder, 14° high; pitched so that the
    # lens is out of its way.
    shaded = _close(pitch_deg=-60)
    assert "your own shadow" in _said(shaded, "tight")
    assert "shadow falls" not in _said(_close(bearing_deg=90.0))


def test_insects_fly_off():
    wasp = Element(
        id=1, name="Wasp", shape="insect", bearing_deg=0, distance_m=0.15, width_m=0.02, height_m=0.01, base_m=0.1
    )
    # 302 mm from the sensor less 90 and 120 of barrel: 92 mm.
    assert "an insect will fly" in _said(
        _close(elements=(wasp,), lens=dataclasses.replace(MACRO, front_mm=120)), "tight"
    )


def test_filters_in_the_corners():
    # Two screw-in filters of 5 mm on a 72 mm thread with the pupil 40 mm deep: 50 · tan θ = 34.5 - 24/11/2
    # reaches 16.0 mm of 21.6.
    lens = dataclasses.replace(FACTS.lens, filter_thread_mm=72.0, pupil_depth_mm=40.0)
    glass = [Filter(number, f"Glass {number}", "neutral_density", 1, on_lens=True) for number in (1, 2)]
    cut = _plan(lens=lens, filters=tuple(glass))
    assert cut.frame.vignetting.darkens_from_mm == pytest.approx(24 * (34.5 - 24 / 11 / 2) / 50, abs=0.01)
    assert "vignetting.cuts: Glass 2" in _said(cut, "fails")
    # Zoomed in it clears; without a known depth it is only said to be possible.
    assert "clears the corners" in _said(_plan(lens=lens, filters=tuple(glass), focal_mm=50), "holds")
    unknown = _plan(lens=dataclasses.replace(lens, pupil_depth_mm=None), filters=tuple(glass))
    assert "at worst" in _said(unknown, "tight")
    assert "not known" in _said(_plan(filters=tuple(glass)))
    assert _plan(lens=lens).frame.vignetting is None


def test_what_is_cut_can_be_wanted():
    plan = _plan(bearing_deg=150, sharp_element_ids=frozenset({2}))
    cut = next(reading for reading in plan.frame.readings if reading.key.startswith("cut"))
    assert cut.reason.text in _said(plan)
    muted = _plan(bearing_deg=150, sharp_element_ids=frozenset({2}), muted_readings=frozenset({cut.key}))
    assert cut.reason.text not in _said(muted)


def test_a_crop_cuts_what_the_whole_frame_holds():
    whole = _plan(bearing_deg=184, pitch_deg=-4)
    assert not any(reading.key == "cut:2" for reading in whole.frame.readings)
    # Cropped to the lower half of the field of 48 mm, the top of the mast is gone: 9 m at 60 m rise above the middle.
    crop = _plan(bearing_deg=184, pitch_deg=-4, crop_focal_mm=48, crop_y=0.75)
    cut = next(reading for reading in crop.frame.readings if reading.key == "cut:2")
    assert "top" in cut.text or "Out of the frame" in cut.text


def test_a_crop_that_cuts_nothing_is_named_in_the_verdict():
    plan = _plan(crop_focal_mm=26)
    assert next(verdict.text for verdict in plan.verdicts if verdict.step == "frame").endswith("cropped")


def test_slope_lifts_the_camera_with_the_ground():
    # 10° down to the south: 3 m to the north the ground, and the camera on it, stands 0.529 m higher.
    plan = _plan(ground=Ground(10, 180, 30), camera_north_m=3.0)
    assert plan.frame.drawn.eye[2] == pytest.approx(1.2 + 3 * math.tan(math.radians(10)))
    assert plan.frame.camera_height_m == 1.2


def test_sun_and_moon_and_the_land_are_drawn():
    plan = _plan(bearing_deg=plan_shot(FACTS).light.sun_azimuth_deg, pitch_deg=0)
    assert plan.frame.sun.x == pytest.approx(0.5, abs=0.002)
    assert plan.frame.drawn.sunlit
    # A fell that hides the sun takes shadows and sunlight out of the drawing; it is drawn where the scene has no ridge.
    dark = _plan(location=dataclasses.replace(FACTS.location, skyline=skyline_of([(90, 1), (170, 30), (250, 1)])))
    assert not dark.frame.drawn.sunlit
    assert all(item.shadow is None for item in dark.frame.drawn.elements)
    assert dark.frame.drawn.skyline is not None
    assert plan.frame.drawn.elements[1].shadow is not None
    night = _plan(time_utc=datetime(2026, 11, 24, 21, 0, tzinfo=UTC), bearing_deg=None)
    assert night.frame.sun is None
    moon = _plan(
        time_utc=datetime(2026, 11, 24, 21, 0, tzinfo=UTC),
        bearing_deg=night.light.moon_azimuth_deg,
        pitch_deg=night.light.moon_altitude_deg,
    ).frame.drawn.moon
    # A day after full moon nearly all of the disc is lit; half a degree of 73.7° is the disc's share.
    assert moon.fraction > 0.97
    assert moon.diameter_share == pytest.approx(
        math.radians(0.52) * 24 * (1 + night.depth.magnification) / 36, rel=0.01
    )
    assert (moon.x, moon.y) == (pytest.approx(0.5, abs=1e-3), pytest.approx(0.5, abs=1e-3))
