"""Situations of the trade, solved as a good practitioner would; beside each its reason, all common practice unless a
source is named.
"""

import dataclasses
import math

import pytest
from sample_shot import BODY, FULL, LENS, SHORE, STONE

from lucid_ridge.core.exposure.moving_things import MotionWish, MovingKind
from lucid_ridge.core.facts.choices import BracketMode, Hold
from lucid_ridge.core.facts.filters import Filter, FilterKind
from lucid_ridge.core.facts.kit import Lens
from lucid_ridge.core.facts.place import Element
from lucid_ridge.core.facts.shot import changed, facts_from
from lucid_ridge.core.facts.wishes import Leaning, Stake
from lucid_ridge.core.solving.goals import Goal
from lucid_ridge.core.solving.solver import solve
from lucid_ridge.core.solving.wording import concession_words

THREE, SIX, TEN = (
    Filter(number, f"{stops}-stop", "neutral_density", stops) for number, stops in ((1, 3), (2, 6), (3, 10))
)
GRAD = Filter(4, "3-stop graduated", "graduated", 3)
POLARISER = Filter(5, "Polariser", "polariser", 1.5)
BAG = (THREE, SIX, TEN, GRAD, POLARISER)
STREAM = Element(3, "Stream", "water", 233, 4.0, 20, 30, speed_mps=1.0)
LEAVES = Element(8, "Fern", "flower", 233, 1.5, 0.5, 0.5, speed_mps=0.3)
# Without a bag and without a stack: what must be sharp lies far enough for one frame.
FAR = {
    "elements": (SHORE, STREAM),
    "sharp_element_ids": frozenset({2}),
    "near_m": 2400.0,
    "pitch_deg": 0.0,
    "camera_height_m": 1.5,
}


def _shot(**said):
    # EV 15 at f/16: 1/125 at ISO 100, a sunny day (the sunny-16 rule).
    base = changed(
        FULL, filters=BAG, f_number=None, metered_f_number=16, metered_shutter_s=1 / 128, metered_iso=100, **FAR
    )
    return changed(base, **said)


def _stops(found):
    return sum(item.stops for item in found.best.candidate.glass.filters if item.kind == FilterKind.NEUTRAL_DENSITY)


def test_posts_at_the_ebb_in_bright_light_take_the_ten_stop():
    # Water flattened to mist at noon is minutes: from 1/125 ten stops make 8 s, and closing down does the rest.
    found = solve(_shot(wanted_look="flattened", moving_element_id=3))
    assert _stops(found) >= 10
    assert found.best.plan.exposure.look == "flattened"
    assert found.best.candidate.iso == 100


def test_silky_falls_in_shade_need_no_strong_glass():
    # In open shade, EV 10, f/16 gives 1/4 by itself: one weak filter at most, no ten-stop.
    found = solve(_shot(wanted_look="silky", moving_element_id=3, metered_f_number=16, metered_shutter_s=1 / 4))
    assert _stops(found) <= 6 and len(found.best.candidate.glass.filters) <= 1
    assert found.best.plan.exposure.look == "silky"


def test_a_breaking_wave_is_frozen_by_opening_and_by_iso_without_any_filter():
    found = solve(_shot(wanted_look="frozen", moving_element_id=3, metered_shutter_s=1 / 30))
    assert _stops(found) == 0
    assert found.best.plan.exposure.look == "frozen"
    assert found.best.candidate.f_number < 16


def test_a_flower_before_the_hills_is_stacked_rather_than_shot_at_the_smallest_aperture():
    near = {
        "elements": (STONE, SHORE),
        "sharp_element_ids": frozenset({1, 2}),
        "near_m": 0.3,
        "far_infinite": True,
        "pitch_deg": -30.0,
        "camera_height_m": 0.3,
    }
    found = solve(_shot(**near))
    # One frame cannot: at f/22 diffraction and depth both fail (as the depth plan says). A few frames by the ring do.
    assert len(found.best.plan.sequence.frames) > 1
    assert found.best.candidate.f_number <= 16
    assert found.best.blur_times <= 1


def test_who_wants_sharpness_first_takes_more_frames_at_a_sharper_aperture_than_who_wants_few():
    near = {
        "elements": (STONE, SHORE),
        "sharp_element_ids": frozenset({1, 2}),
        "near_m": 0.3,
        "far_infinite": True,
        "pitch_deg": -30.0,
        "camera_height_m": 0.3,
    }
    sharp, few = (solve(_shot(leaning=leaning, **near)).best for leaning in (Leaning.SHARP, Leaning.FEW))
    assert sharp.blur_times < few.blur_times
    assert len(sharp.plan.sequence.frames) > len(few.plan.sequence.frames)
    assert abs(math.log2(sharp.candidate.f_number / LENS.sharpest_f_number)) < abs(
        math.log2(few.candidate.f_number / LENS.sharpest_f_number)
    )


def test_a_sky_three_stops_too_bright_takes_the_graduated_filter_or_a_bracket():
    # 14 stops of scene, 11 held: a three-stop graduated filter, or more than one frame; never one bare frame.
    found = solve(_shot(shadow_ev=4.0, highlight_ev=18.0))
    graduated = any(item.kind == FilterKind.GRADUATED for item in found.best.candidate.glass.filters)
    assert graduated or len(found.best.plan.exposure.exposures) > 1
    assert found.best.missed[next(wish for wish in found.wishes if wish.goal == Goal.RANGE)] == 0
    # Who wants one frame gets the filter.
    one = solve(_shot(shadow_ev=4.0, highlight_ev=18.0, most_frames=1))
    assert any(item.kind == FilterKind.GRADUATED for item in one.best.candidate.glass.filters)
    assert len(one.best.plan.sequence.frames) == 1


def test_a_church_of_twenty_stops_is_bracketed():
    found = solve(_shot(shadow_ev=-2.0, highlight_ev=17.0, metered_shutter_s=1.0))
    assert found.best.candidate.bracket == BracketMode.RANGE
    # 19 stops, 11 held, 2 between: by hand 1 + (19 - 11) / 2 = 5 exposures.
    assert len(found.best.plan.exposure.exposures) >= 4


def test_frozen_fern_and_silky_stream_are_two_frames():
    # No one time does both: the fern is frozen in a second, short frame and blended.
    both = {
        "elements": (SHORE, STREAM, LEAVES),
        "sharp_element_ids": frozenset({2, 8}),
        "near_m": 1.4,
        "motion_wishes": ((8, MotionWish.FROZEN),),
    }
    found = solve(
        _shot(
            wanted_look="silky",
            moving_element_id=3,
            metered_shutter_s=1 / 8,
            camera_height_m=1.2,
            pitch_deg=-15.0,
            **both,
        )
    )
    assert found.best.candidate.bracket == BracketMode.FROZEN_AND_LONG
    short, long = sorted(item.shutter_s for item in found.best.plan.exposure.exposures)
    assert long / short > 8


def test_by_hand_at_dusk_the_iso_goes_up_and_not_the_time():
    found = solve(_shot(hold="hand", metered_shutter_s=2.0))
    assert found.best.candidate.hold == Hold.HAND
    # Opened from f/16 to f/2.8 two seconds are 1/16: two stops more than 1/60 have to come from the ISO.
    assert found.best.candidate.iso >= 400
    # One over the focal length on 36 × 24 mm, and a walker's 1/60.
    assert found.best.plan.exposure.shutter_s <= 1 / 24 * 1.07
    assert _stops(found) == 0


def test_people_are_made_to_vanish_with_a_long_time():
    walkers = Element(9, "Walkers", "post", 233, 15.0, 0.5, 1.8, moving=MovingKind.PEOPLE, passing_per_min=6.0)
    found = solve(_shot(elements=(SHORE, walkers), motion_wishes=((9, MotionWish.GONE),)))
    assert found.best is not None
    assert found.best.plan.exposure.shutter_s > 5
    assert _stops(found) >= 6


def test_a_polariser_that_is_on_stays_on():
    on = dataclasses.replace(POLARISER, on_lens=True)
    found = solve(_shot(filters=(THREE, SIX, TEN, GRAD, on), wanted_look="silky", moving_element_id=3))
    assert 5 in found.best.candidate.glass.ids


def test_an_insect_in_the_hand_is_one_sharp_burst_at_a_short_time():
    # Close up by hand 1/320 is the floor; the ISO pays for it.
    macro = Lens(7, "Close-up lens", 100, 100, 2.8, 32, 300, max_magnification=1.0)
    insect = facts_from(
        body=BODY,
        lens=macro,
        elements=(
            Element(
                id=1,
                name="Lacewing",
                shape="insect",
                bearing_deg=0,
                distance_m=0.25,
                width_m=0.012,
                height_m=0.012,
                base_m=0.05,
            ),
        ),
        camera_height_m=0.3,
        magnification=0.5,
        subject_depth_mm=2.5,
        metered_f_number=8,
        metered_shutter_s=1 / 30,
        metered_iso=100,
        hold="hand",
        filters=BAG,
    )
    found = solve(insect)
    assert found.best.plan.exposure.shutter_s <= 1 / 300
    assert found.best.candidate.iso >= 400
    assert len(found.best.plan.sequence.frames) == 1


# What cannot be had: the concession that a practitioner would name is among those found.


def _words(found):
    assert found.best is None
    return [({wish.goal for wish in item.released}, item) for item in found.concessions]


def _named(found, facts, *goals):
    sets = _words(found)
    return [concession_words(item, facts) for released, item in sets if released == set(goals)]


def test_minutes_of_water_without_a_filter_in_the_sun_are_not_to_be_had():
    facts = _shot(wanted_look="flattened", moving_element_id=3, filters=())
    said = _named(solve(facts), facts, Goal.MOTION)
    assert said and said[0].startswith("accept ") and "for Stream instead of flattened" in said[0]


def test_one_frame_from_a_hand_before_the_lens_to_infinity_leaves_something_soft():
    near = {
        "elements": (STONE, SHORE),
        "sharp_element_ids": frozenset({1, 2}),
        "near_m": 0.3,
        "far_infinite": True,
        "pitch_deg": -30.0,
        "camera_height_m": 0.3,
    }
    facts = _shot(most_frames=1, **near)
    found = solve(facts)
    assert any("be soft by" in words for words in _named(found, facts, Goal.SHARP))
    assert any(
        words.startswith("take ") and words.endswith("instead of 1") for words in _named(found, facts, Goal.FRAMES)
    )


def test_a_long_time_by_hand_asks_for_something_that_stands():
    facts = _shot(wanted_look="silky", moving_element_id=3, hold="hand")
    assert "put it on a tripod" in _named(solve(facts), facts, Goal.HOLD)


def test_frozen_in_the_dusk_at_base_iso_asks_for_iso_or_for_the_movement():
    facts = _shot(wanted_look="frozen", moving_element_id=3, metered_shutter_s=2.0, most_iso=100.0)
    found = solve(facts)
    assert any(words.startswith("accept ISO") for words in _named(found, facts, Goal.NOISE))
    assert _named(found, facts, Goal.MOTION)


def test_light_that_is_gone_too_soon_asks_for_an_earlier_start():
    # The golden hour ends a minute after this start, and eight minutes do not fit: begin earlier, where the light is
    # stronger and still weak enough, or go on after it.
    later = dataclasses.replace(FULL.light, time_utc=FULL.light.time_utc.replace(hour=16, minute=23))
    facts = dataclasses.replace(_shot(wanted_shutter_s=480.0, metered_shutter_s=8.0), light=later)
    found = solve(facts)
    assert any(words.startswith("begin earlier, at ") for words in _named(found, facts, Goal.START))
    assert any(words.startswith("go on for ") for words in _named(found, facts, Goal.LIGHT))


@pytest.mark.parametrize("stake", [Stake.STRONG, Stake.WISH])
def test_what_is_only_wished_is_never_a_concession(stake):
    facts = _shot(wanted_look="flattened", moving_element_id=3, filters=(), motion_stake=stake)
    assert solve(facts).best is not None
