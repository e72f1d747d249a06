"""The seven steps: what they say of a shot as facts come in."""

import dataclasses
import math
from datetime import UTC, date, datetime, timedelta

import pytest
from sample_shot import BODY, DUSK, FULL, LENS, PLACE, POLARISER, SHORE, STONE, TEN, WATER

from lucid_ridge.core.facts.kit import Lens
from lucid_ridge.core.facts.shot import changed, facts_from
from lucid_ridge.core.planning.plan.shot_plan import plan_shot
from lucid_ridge.core.planning.reasons import Reason, worst_first, worst_mark
from lucid_ridge.core.planning.sequence.timeline import Overheads, build_sequence, total_time_s
from lucid_ridge.core.planning.verdicts import STEPS


def _with(**changes):
    return plan_shot(changed(FULL, **changes))


def _mark(plan, step):
    return next(verdict.mark for verdict in plan.verdicts if verdict.step == step)


def _texts(plan, step):
    return " ".join(f"{reason.code}: {reason.text}" for reason in plan.because if reason.step == step)


def test_an_empty_shot_is_valid_and_every_step_says_what_it_lacks():
    plan = plan_shot(facts_from())
    assert [verdict.step for verdict in plan.verdicts] == list(STEPS)
    assert {verdict.mark for verdict in plan.verdicts} == {"unsaid"}
    assert all(reason.severity == "unsaid" for reason in plan.because)
    assert plan.sequence.frames == ()


def test_four_focus_positions():
    plan = _with()
    # By hand: 24 mm at f/16 on 0.30 m is f/17.4; diffraction takes 23.3 of the 30 µm, leaving 18.9 for defocus.
    # ln(300/276) = 0.0834 over slices of 2 artanh(0.0189/1.5) = 0.0252 are 3.3; with 20 % of overlap 1 + 2.3/0.8 = 3.9.
    assert len(plan.depth.positions) == 4
    for nearer, farther in zip(plan.depth.positions, plan.depth.positions[1:], strict=False):
        assert nearer.far_limit_m >= farther.near_limit_m
    assert plan.depth.positions[-1].far_limit_m == math.inf
    assert {blur.verdict for blur in plan.depth.elements} == {"sharp"}
    assert _mark(plan, "depth") == "holds"


def test_ten_stops_and_a_polariser():
    assert _with().exposure.shutter_s == 128
    both = _with(filters=(TEN, POLARISER))
    assert both.exposure.shutter_s == pytest.approx(362.04, abs=0.005)
    assert [line.label for line in both.exposure.ledger.lines if line.kind == "filter"] == ["Ten", "Polariser"]
    metered_through = _with(filters=(TEN, dataclasses.replace(POLARISER, on_when_metered=True)))
    assert metered_through.exposure.shutter_s == 128


def test_asking_for_two_minutes():
    plan = _with(filters=(dataclasses.replace(TEN, on_lens=False),), wanted_shutter_s=120, iso=100)
    assert _mark(plan, "exposure") == "fails"
    best = plan.exposure.proposals[0]
    assert (best.filter_names, best.iso) == (("Ten",), 100)
    assert best.shutter_s == pytest.approx(128)
    assert "take Ten" in _texts(plan, "exposure")
    assert "exposure.near_wanted_time: 2 min 08 s is 0.09 stops longer" in _texts(
        _with(wanted_shutter_s=120), "exposure"
    )


def test_a_look_of_water_becomes_a_shutter():
    plan = _with(filters=(dataclasses.replace(TEN, on_lens=False),), wanted_look="textured")
    low, high = next((band.from_s, band.to_s) for band in plan.exposure.looks if band.name == "textured")
    assert low < plan.exposure.wanted_s < high
    still = _with(elements=(STONE, SHORE), wanted_look="textured")
    assert still.exposure.wanted_s is None
    assert "an element that moves" in _texts(still, "exposure")


def test_bracket_is_nested_inside_each_focus_position():
    plan = _with(filters=(), shadow_ev=2.0, highlight_ev=16.0, bracket="range", bracket_step_ev=2.0)
    frames = plan.sequence.frames
    assert len(frames) == 4 * 3
    assert [(frame.focus_index, frame.exposure_index) for frame in frames] == [
        (f, e) for f in range(4) for e in range(3)
    ]
    for first, second, third in zip(frames[::3], frames[1::3], frames[2::3], strict=True):
        assert second.shutter_s / first.shutter_s == pytest.approx(4)
        assert third.shutter_s / second.shutter_s == pytest.approx(4)
    # The darkest frame holds EV 16: mid-grey at least 2.98 stops under it (ISO 12232), at f/16 and ISO 100, to the
    # twentieth of a stop that is not told; the one stop to spare lets it lie where 1/8, the reading's own
    # marking, is one of the frames.
    longest = 16**2 / 2 ** (16 - math.log2(1 / 0.127))
    assert longest * 2**-1.05 <= frames[0].shutter_s <= longest * 2**0.05
    # Every time is one that the camera marks (ISO 516: thirds of a stop).
    for frame in frames:
        assert 3 * math.log2(frame.shutter_s) == pytest.approx(round(3 * math.log2(frame.shutter_s)), abs=1e-6)


def test_a_range_wider_than_the_body_holds_fails_without_a_bracket():
    plan = _with(shadow_ev=2.0, highlight_ev=16.0)
    assert _mark(plan, "exposure") == "fails"
    assert "bracket 3 frames at 2 EV" in _texts(plan, "exposure")


def test_clipped_highlights_are_measured():
    plan = _with(shadow_ev=8.0, highlight_ev=15.5, filters=())
    # Metered EV 11 puts saturation at 13.98: 1.5 stops are missing.
    assert "clipped by 1.5 stops" in _texts(plan, "exposure")
    darker = _with(shadow_ev=8.0, highlight_ev=15.5, filters=(), compensation_ev=-1.6)
    assert "One frame holds" in _texts(darker, "exposure")


def test_automatic_bracket_only_where_the_body_can():
    wide = {"filters": (), "shadow_ev": 2.0, "highlight_ev": 16.0, "bracket": "range"}
    assert _with(**wide).exposure.bracket_automatic is True
    assert _with(**wide, body=dataclasses.replace(BODY, bracket_frames=2)).exposure.bracket_automatic is False
    assert _with(**wide, body=dataclasses.replace(BODY, bracket_step_ev=1)).exposure.bracket_automatic is False
    assert _with(**(wide | {"filters": (TEN,)})).exposure.bracket_automatic is False


def test_prediction_is_marked_as_such():
    plan = _with(metered_shutter_s=None)
    assert plan.exposure.predicted
    assert _mark(plan, "exposure") == "tight"
    assert "exposure.estimated" in _texts(plan, "exposure")
    assert plan.exposure.ledger.lines[0].label == "Predicted light"


def test_settings_in_force_are_known_before_there_is_light():
    plan = _with(metered_shutter_s=None, metered_f_number=None, metered_iso=None, time_utc=None)
    assert _mark(plan, "exposure") == "unsaid"
    assert (plan.exposure.f_number, plan.exposure.iso) == (16, 100)


def test_fading_light_is_followed_only_when_asked():
    late = {"time_utc": DUSK + timedelta(minutes=40)}
    assert _with(**late).exposure.shutter_s == 128
    assert "exposure.light_changes" in _texts(_with(**late), "exposure")
    followed = _with(**late, follow_fading=True)
    assert followed.exposure.shutter_s > 128 * 1.05
    assert followed.exposure.ledger.lines[-1].kind == "fading"


def test_sequence_against_the_light_that_is_left():
    assert _mark(_with(), "sequence") == "holds"
    at_the_end = _with(time_utc=DUSK + timedelta(minutes=56))
    assert _mark(at_the_end, "sequence") == "fails"
    assert "past the light" in _texts(at_the_end, "sequence")
    assert _mark(_with(time_utc=DUSK + timedelta(minutes=49)), "sequence") == "tight"
    untimed = _with(time_utc=None)
    assert _mark(untimed, "sequence") == "unsaid"
    assert len(untimed.sequence.frames) == 4


def _two_foci(plan):
    """One group of two focus positions with one exposure of 4 s."""
    group = plan.sequence.groups[0]
    four_seconds = dataclasses.replace(
        group.sets[0], exposure=dataclasses.replace(group.sets[0].exposure, shutter_s=4.0)
    )
    return [dataclasses.replace(group, positions=group.positions[:2], sets=(four_seconds,))]


def test_times_of_a_sequence_by_hand():
    plan = _with(filters=(), time_utc=None)
    overheads = Overheads(settle_s=5, timer_s=2, write_s=0.5, dark_frame=True)
    frames = build_sequence(_two_foci(plan), 16, 100, overheads)
    # 5 + 2, open 4, dark 4, write 0.5, settle 5, timer 2.
    assert [(frame.start_s, frame.end_s) for frame in frames] == [(7, 11), (22.5, 26.5)]
    assert total_time_s(frames, overheads) == pytest.approx(31)
    # By hand: a wait of 3 s after the mirror before each of the frames.
    waiting = dataclasses.replace(overheads, mirror_s=3)
    waited = build_sequence(_two_foci(plan), 16, 100, waiting)
    assert total_time_s(waited, waiting) == pytest.approx(31 + 2 * 3)
    assert waited[0].start_s == pytest.approx(5 + 2 + 3)
    assert total_time_s((), overheads) == 0


def test_one_frame_says_how_soft_it_leaves_the_range():
    plan = _with(depth_method="single")
    assert len(plan.depth.positions) == 1
    assert _mark(plan, "depth") == "fails"
    assert "focus.range_soft" in _texts(plan, "depth")


@pytest.mark.parametrize(
    ("school", "focus_m"),
    [("balanced", 2 * 2 * 8 / 10), ("third", 2 + 6 / 3), ("subject", 4.0), ("hyperfocal", 1.794)],
)
def test_schools_of_focus(school, focus_m):
    # Balanced: 2ab/(a+b); a third of the way in; the named element; the hyperfocal distance with diffraction counted:
    # f/16.4 at 0.9 m leaves sqrt(30² - 22.06²) = 20.3 of 30 µm, 24²/(16 · 0.0203) + 24 mm, within the range.
    near = 2.0 if school != "hyperfocal" else 0.9
    plan = _with(
        sharp_element_ids=frozenset(),
        near_m=near,
        far_m=8.0,
        far_infinite=False,
        depth_method="single",
        focus_school=school,
        subject_element_id=3,
    )
    assert plan.depth.positions[0].object_distance_m == pytest.approx(focus_m, abs=0.001)


def test_criteria_of_sharpness():
    by_pixels = _with(coc_criterion="pixels")
    assert by_pixels.depth.coc_mm == pytest.approx(2 * 36 / 8256)
    # f/16 draws points 23 µm wide of the 8.7 allowed: no stack holds that, and the plan says what would.
    assert _mark(by_pixels, "depth") == "fails"
    assert "focus.diffraction_too_soft" in _texts(by_pixels, "depth")
    assert "f/4 works in" in _texts(by_pixels, "depth")
    assert _with(coc_criterion="custom", coc_custom_mm=0.06).depth.coc_mm == 0.06
    assert _with(coc_criterion="print").depth.coc_mm == pytest.approx(0.01047, abs=0.0001)


def test_an_upright_print_has_its_width_across_the_short_side():
    # 600 mm of print across 24 mm of sensor are enlarged 25 times, across 36 mm 16.7 times.
    upright, across = _with(coc_criterion="print", orientation="portrait"), _with(coc_criterion="print")
    assert upright.depth.coc_mm == pytest.approx(across.depth.coc_mm * 24 / 36)


def test_what_must_be_sharp_outside_typed_limits_is_judged_in_one_frame_too():
    """Limits of 5 m to infinity leave the nearer things that must be sharp soft: the list says so, and so does the
    verdict.
    """
    plan = _with(near_m=5.0, far_infinite=True, depth_method="single", sharp_element_ids=frozenset({1, 2, 3}))
    soft = [item for item in plan.depth.elements if item.must_be_sharp and item.times_limit > 1]
    assert soft
    assert _mark(plan, "depth") == "fails"
    for item in soft:
        if item.span.near_m < 5:
            assert f"focus.soft_element: {item.name} is {item.verdict}, outside the limits" in _texts(plan, "depth")


def test_a_school_that_has_no_answer_says_what_is_done_instead():
    third = _with(
        near_m=2.0, far_infinite=True, depth_method="single", focus_school="third", sharp_element_ids=frozenset()
    )
    assert "A third of the way to infinity is no distance" in _texts(third, "depth")
    assert third.depth.positions[0].object_distance_m == pytest.approx(4.0)
    subject = _with(
        near_m=2.0,
        far_m=8.0,
        far_infinite=False,
        depth_method="single",
        focus_school="subject",
        subject_element_id=None,
        sharp_element_ids=frozenset(),
    )
    assert _mark(subject, "depth") in ("unsaid", "fails")


def test_far_nearer_than_near_is_said_not_raised():
    plan = _with(near_m=5.0, far_m=2.0, far_infinite=False, sharp_element_ids=frozenset())
    assert _mark(plan, "depth") == "fails"
    assert plan.sequence.frames == ()


def test_focus_closer_than_the_lens_can():
    plan = _with(lens=dataclasses.replace(LENS, closest_focus_mm=500))
    assert "closer than the Zoom focuses" in _texts(plan, "depth")


def test_close_up_on_a_rail():
    macro = Lens(
        id=2,
        name="Macro",
        focal_min_mm=90,
        focal_max_mm=90,
        f_number_min=2.8,
        f_number_max=32,
        closest_focus_mm=300,
        sharpest_f_number=5.6,
        max_magnification=2.0,
    )
    plan = _with(
        lens=macro,
        focal_mm=90,
        magnification=1.5,
        subject_depth_mm=4.0,
        f_number=5.6,
        filters=(),
        metered_through_lens=False,
    )
    assert plan.depth.method == "rail"
    assert plan.depth.positions[0].rail_mm == 0
    assert plan.depth.positions[-1].rail_mm >= 4.0
    # 2 log2(1 + m) = 2.64 stops of extension for a hand-held meter: any close-up handbook.
    extension = next(line for line in plan.exposure.ledger.lines if line.kind == "extension")
    assert extension.stops == pytest.approx(2 * math.log2(2.5), abs=1e-6)
    too_much = _with(lens=macro, focal_mm=90, magnification=3.0, subject_depth_mm=4.0)
    assert "reaches 2:1" in _texts(too_much, "depth")


def test_what_the_frame_misses():
    plan = _with(bearing_deg=60)
    assert _mark(plan, "frame") == "fails"
    assert "Out of the frame: Stone" in _texts(plan, "frame")


def test_the_sun_in_the_frame_raises_a_caution_that_does_not_judge():
    plan = _with(pitch_deg=0, elements=(SHORE, WATER), sharp_element_ids=frozenset({2}))
    caution = next(reason for reason in plan.because if reason.severity == "caution")
    assert "not a solar filter" in caution.text
    assert _mark(plan, "frame") == "holds"


def test_after_sunset_the_way_back_is_dark():
    """Sunset is at 16:00 here: until the sun is 6° down, three quarters of an hour later, one walks without a lamp
    (common practice).
    """
    assert "head torch" not in _texts(_with(time_utc=DUSK - timedelta(minutes=30)), "place")
    assert "way.dark" in _texts(_with(time_utc=DUSK + timedelta(minutes=100)), "place")


def test_days_without_sunset_and_sunrise():
    north = dataclasses.replace(PLACE, latitude_deg=68.2, longitude_deg=13.7, zone="Europe/Oslo")
    summer = _with(location=north, date_local=date(2026, 6, 21), time_utc=datetime(2026, 6, 20, 22, 40, tzinfo=UTC))
    assert "there is no sunset" in _texts(summer, "light")
    assert _mark(summer, "light") == "holds"
    winter = _with(location=north, date_local=date(2026, 12, 21), time_utc=datetime(2026, 12, 21, 11, tzinfo=UTC))
    assert "there is no sunrise" in _texts(winter, "light")


def test_slow_and_fast_shutters():
    no_bulb = _with(body=dataclasses.replace(BODY, has_bulb=False))
    assert "no bulb" in _texts(no_bulb, "exposure")
    fast = _with(filters=(), metered_shutter_s=1 / 6000, body=dataclasses.replace(BODY, fastest_shutter_s=1 / 4096))
    assert "exposure.too_fast_for_body" in _texts(fast, "exposure")


def test_field_card_states():
    assert _mark(_with(card="current"), "field") == "holds"
    assert _mark(_with(card="stale"), "field") == "tight"
    assert _mark(_with(), "field") == "unsaid"


def test_worst_reasons_come_first():
    found = (("light", "holds"), ("field", "fails"), ("place", "caution"), ("depth", "tight"))
    reasons = [Reason(step=step, code=f"{step}.test", severity=severity, text="") for step, severity in found]
    assert [reason.step for reason in worst_first(reasons)] == ["field", "depth", "place", "light"]
    assert worst_mark(reasons) == "fails"
    assert worst_mark([reasons[2]]) == "holds"
    assert worst_mark([]) == "holds"
