"""What a shutter is wanted for: limits, bands and times; readings through filters; graduated filters and the range;
brackets in a burst.
"""

import dataclasses
import math
from datetime import UTC, date, datetime, timedelta

import ephem
import numpy as np
import pytest

from lucid_ridge.core.facts.filters import Filter
from lucid_ridge.core.facts.kit import Body, Lens
from lucid_ridge.core.facts.place import Element, Location
from lucid_ridge.core.facts.shot import facts_from
from lucid_ridge.core.light.illuminance import sun_illuminance_lux
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
WATER = Element(
    id=1, name="Drain", shape="water", bearing_deg=0, distance_m=4.0, width_m=3, height_m=3, base_m=-1.2, speed_mps=1.0
)
TEN = Filter(1, "Ten", "neutral_density", 10, on_lens=True, on_when_metered=True)
POLARISER = Filter(2, "Polariser", "polariser", 1.5, on_lens=True, on_when_metered=True)
GRAD = Filter(3, "Grad", "graduated", 3, on_lens=True)


def _plan(**values):
    said = {
        "body": BODY,
        "lens": LENS,
        "elements": (WATER,),
        "focal_mm": 24,
        "bearing_deg": 0.0,
        "camera_height_m": 1.2,
        "pitch_deg": -10.0,
        "sharp_element_ids": frozenset({1}),
        "f_number": 8.0,
        "metered_f_number": 8.0,
        "metered_shutter_s": 1 / 8,
        "metered_iso": 100.0,
    }
    return plan_shot(facts_from(**{**said, **values}))


def _said(plan, *weights):
    return " ".join(
        f"{reason.code}: {reason.text}"
        for reason in plan.because
        if reason.step == "exposure" and (not weights or reason.severity in weights)
    )


def _band(plan, name):
    return next((band.from_s, band.to_s) for band in plan.exposure.looks if band.name == name)


def test_frozen_is_a_limit():
    limit = _band(_plan(), "frozen")[1]
    for times in (0.9, 0.5, 0.1):
        fast = _plan(wanted_look="frozen", metered_shutter_s=limit * times)
        assert "exposure.within_look" in _said(fast, "holds")
        assert fast.exposure.verdict.mark == "holds"
    slow = _plan(wanted_look="frozen", metered_shutter_s=limit * 2)
    assert "1.0 stops longer than frozen" in _said(slow, "fails")
    # Faster is reached by opening up or a higher ISO, never by glass.
    assert all(not item.filter_ids for item in slow.exposure.proposals)


def test_a_look_is_a_band():
    low, high = _band(_plan(), "textured")
    for time in (low * 1.01, math.sqrt(low * high), high * 0.9, high * 0.99):
        plan = _plan(wanted_look="textured", metered_shutter_s=time)
        assert "is within textured" in _said(plan, "holds")
        assert plan.exposure.look == "textured"
    for time, weight in ((high * 1.2, "tight"), (high * 2, "fails"), (low / 2, "fails")):
        plan = _plan(wanted_look="textured", metered_shutter_s=time)
        assert "than textured" in _said(plan, weight)
        assert plan.exposure.look != "textured"


def test_what_was_set_by_hand_is_kept_or_said():
    # f/16 set, 1/60 wanted, 1/16 at ISO 100: ISO 400 keeps the aperture.
    pinned = _plan(f_number=16.0, metered_f_number=16.0, metered_shutter_s=1 / 16, wanted_shutter_s=1 / 64)
    first = pinned.exposure.proposals[0]
    assert (first.f_number, first.iso, first.changes) == (16.0, pytest.approx(400, rel=0.01), ())
    # With ISO 100 set as well something must give, and it is said.
    both = _plan(f_number=16.0, iso=100.0, metered_f_number=16.0, metered_shutter_s=1 / 16, wanted_shutter_s=1 / 64)
    assert both.exposure.proposals[0].changes
    assert "you set" in _said(both, "fails")


def test_a_filter_on_when_metered_counts_only_with_a_reading():
    read = _plan(filters=(TEN,))
    assert read.exposure.shutter_s == pytest.approx(1 / 8)
    # Nothing metered: the place has no light of its own here, so none is predicted; with a scene the filter costs
    # its ten stops.
    nothing = _plan(filters=(TEN,), metered_f_number=None, metered_shutter_s=None, metered_iso=None)
    assert nothing.exposure.shutter_s is None


def test_predicted_light_is_not_seen_through_a_filter_that_was_never_metered():
    there = {
        "location": Location("Estuary", 54.53, -3.21, 4, "Europe/London"),
        "date_local": date(2026, 11, 25),
        "time_utc": datetime(2026, 11, 25, 12, tzinfo=UTC),
    }
    unmetered = {"metered_f_number": None, "metered_shutter_s": None, "metered_iso": None}
    bare = _plan(**there, **unmetered).exposure.shutter_s
    ten = _plan(**there, **unmetered, filters=(TEN,)).exposure.shutter_s
    assert ten == pytest.approx(bare * 1024)


def test_a_graduated_filter_narrows_the_range():
    # 12 stops of scene, 11 held: two frames without, one with 3 stops of graduated filter (12 - 3 = 9).
    ranged = {"shadow_ev": 3.0, "highlight_ev": 15.0, "bracket": "range", "metered_shutter_s": 1 / 125}
    assert len(_plan(**ranged).exposure.exposures) == 2
    narrowed = _plan(**ranged, filters=(GRAD,))
    assert len(narrowed.exposure.exposures) == 1
    assert narrowed.exposure.range_stops == pytest.approx(9)
    # Read through it, the highlights are as they were read.
    through = _plan(**ranged, filters=(dataclasses.replace(GRAD, on_when_metered=True),))
    assert through.exposure.range_stops == pytest.approx(12)


def test_highlights_read_through_a_filter_are_as_much_brighter():
    # A polariser of 1.5 stops on for all three readings: all tones are 1.5 stops brighter, and the room over the
    # highlights is the same.
    ranged = {"shadow_ev": 6.0, "highlight_ev": 12.0, "metered_shutter_s": 1 / 125}
    bare, through = _plan(**ranged), _plan(**ranged, filters=(POLARISER,))
    words = [text for text in (_said(bare), _said(through)) if "over the highlights" in text]
    assert len(words) == 2
    room = [text.split(" stops over the highlights")[0].rsplit(" ", 1)[1] for text in words]
    assert room[0] == room[1]


def test_a_bracket_that_the_body_takes_by_itself():
    # Three in a burst: settle 5, timer 2 once, then one after the other.
    ranged = {
        "shadow_ev": 1.0,
        "highlight_ev": 15.0,
        "bracket": "range",
        "bracket_step_ev": 2.0,
        "metered_shutter_s": 1 / 125,
    }
    plan = _plan(**ranged)
    assert (len(plan.exposure.exposures), plan.exposure.bracket_automatic) == (3, True)
    frames = plan.sequence.frames
    assert frames[0].start_s == pytest.approx(7)
    assert frames[1].start_s - frames[0].end_s == pytest.approx(BODY.write_s)
    # Bodies bracket around a middle: two frames are set by hand.
    two = _plan(shadow_ev=3.0, highlight_ev=15.0, bracket="range", metered_shutter_s=1 / 125)
    assert (len(two.exposure.exposures), two.exposure.bracket_automatic) == (2, False)
    assert two.sequence.frames[1].start_s - two.sequence.frames[0].end_s >= 2


def test_motion_is_part_of_sharpness():
    # Grass at 0.1 m/s, 4 m away, 24 mm: 0.1 · 24/3976 · 1/4 s = 0.151 mm, five times the 0.030 allowed
    # (hand-worked); 1/20 s freezes it.
    grass = Element(2, "Grass", "block", 0, 4.0, 1, 0.3, speed_mps=0.1)
    plan = _plan(
        elements=(grass,), sharp_element_ids=frozenset({2}), pitch_deg=0.0, camera_height_m=0.3, metered_shutter_s=1 / 4
    )
    assert "Grass must be sharp and at 0.1 m/s smears over 5.0× the limit in 1/4" in _said(plan, "fails")
    assert plan.exposure.verdict.mark == "fails"
    fast = _plan(
        elements=(grass,),
        sharp_element_ids=frozenset({2}),
        pitch_deg=0.0,
        camera_height_m=0.3,
        metered_shutter_s=1 / 32,
    )
    assert "smears" not in _said(fast)
    # What need not be sharp, or has a look that is wanted, may.
    assert "smears" not in _said(_plan(elements=(grass,), sharp_element_ids=frozenset(), near_m=2.0, far_m=8.0))
    assert "Drain must be sharp" not in _said(_plan(wanted_look="textured"))


def test_each_frame_of_a_stack_gets_the_time_its_own_light_needs():
    # After sunset, 54.5 N in late November, the light falls by more than a stop in ten minutes (common practice:
    # a stop in ten to fifteen).
    there = {
        "location": Location("Estuary", 54.53, -3.21, 4, "Europe/London"),
        "date_local": date(2026, 11, 25),
        "time_utc": datetime(2026, 11, 25, 16, 5, tzinfo=UTC),
        "f_number": 16.0,
        "metered_f_number": 16.0,
        "metered_shutter_s": 64.0,
        "near_m": 0.3,
        "far_infinite": True,
    }
    steady = _plan(**there).sequence.frames
    assert len({frame.shutter_s for frame in steady}) == 1
    followed = _plan(**there, follow_fading=True)
    times = [frame.shutter_s for frame in followed.sequence.frames]
    assert len(times) > 2
    assert times == sorted(times)
    assert times[-1] > 1.3 * times[0]
    # The first opens a few seconds after the time that the ledger is for.
    assert times[0] == pytest.approx(followed.exposure.shutter_s, rel=0.03)
    # What each gathers is the same: midpoint illuminances times durations, by the twilight formula (Janiczek and
    # DeYoung 1987) at ephem's airless altitudes.
    start = there["time_utc"]
    gathered = []
    for frame in followed.sequence.frames:
        seconds = np.linspace(frame.start_s, frame.end_s, 200)
        altitude = np.array([_airless_altitude_deg(start + timedelta(seconds=float(item))) for item in seconds])
        gathered.append(float(np.trapezoid(sun_illuminance_lux(altitude), seconds)))
    assert gathered == pytest.approx([gathered[0]] * len(gathered), rel=0.02)
    assert "each is open as long as its own light needs" in " ".join(
        f"{reason.code}: {reason.text}" for reason in followed.sequence.reasons
    )
    assert "The light falls by 0.5 stop" in " ".join(
        f"{reason.code}: {reason.text}" for reason in _plan(**there).sequence.reasons
    )
    # Begun too late the last ones cannot gather their light at all, and that is said.
    late = _plan(
        **{**there, "time_utc": datetime(2026, 11, 25, 16, 25, tzinfo=UTC), "metered_shutter_s": 128.0},
        follow_fading=True,
    )
    assert late.sequence.verdict.mark == "fails"
    assert "sequence.too_dark" in " ".join(f"{reason.code}: {reason.text}" for reason in late.sequence.reasons)


def _airless_altitude_deg(moment):
    observer = ephem.Observer()
    observer.lat, observer.lon, observer.elevation, observer.pressure = "54.53", "-3.21", 4, 0
    observer.date = moment.replace(tzinfo=None)
    return math.degrees(ephem.Sun(observer).alt)
