"""Everything that moves: its speed, its look, what is wished of it, and what passes through the frame."""

import dataclasses
import math
from datetime import UTC, date, datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st
from sample_shot import FULL, SHORE, STONE, WATER

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.exposure import passing
from lucid_ridge.core.exposure.motion import LookName, look_of_streak, share_of_waves, times_of_look_s, waves_of_share
from lucid_ridge.core.exposure.moving_things import THINGS, MotionWish, MovingKind, passes, speed_of
from lucid_ridge.core.facts.kit import Body, Lens
from lucid_ridge.core.facts.place import Element, Location
from lucid_ridge.core.facts.shot import changed, facts_from
from lucid_ridge.core.planning.exposure.water import drawn_share
from lucid_ridge.core.planning.plan.shot_plan import plan_shot
from lucid_ridge.core.weather.forecast import Forecast, ForecastHour

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
NOON = datetime(2026, 11, 25, 12, tzinfo=UTC)
FALL = Element(1, "Fall", "water", 0, 4.0, 6, 3, speed_mps=1.0)
BEACH = Element(2, "Walkers", "block", 0, 20.0, 10, 1.8, moving=MovingKind.PEOPLE, passing_per_min=4.0)
FERN = Element(3, "Fern", "flower", 2, 3.5, 0.8, 0.5)


def _plan(shutter=1.0, gust=10.0, cloud=0.0, forecast=True, **said):
    hour = ForecastHour(
        time_utc=NOON,
        low_cloud=cloud,
        middle_cloud=0.0,
        high_cloud=0.0,
        wind_mps=gust / 2,
        gust_mps=gust,
        rain_mm=0.0,
        temperature_c=5.0,
        fog=0.0,
    )
    start = {
        "body": BODY,
        "lens": LENS,
        "focal_mm": 50.0,
        "f_number": 8.0,
        "metered_f_number": 8.0,
        "metered_shutter_s": shutter,
        "metered_iso": 100.0,
        "elements": (FALL,),
        "bearing_deg": 0.0,
        "camera_height_m": 1.5,
        "location": Location("Weir", 54.5, -3.1, 90, "Europe/London"),
        "date_local": date(2026, 11, 25),
        "time_utc": NOON,
        "forecast": Forecast(NOON - timedelta(hours=2), (hour,)) if forecast else None,
    }
    return plan_shot(facts_from(**{**start, **said})).exposure


def _marks(step, words):
    return {str(reason.severity) for reason in step.reasons if words in f"{reason.code}: {reason.text}"}


def test_a_speed_said_goes_before_the_usual_one():
    assert speed_of(None, MovingKind.PEOPLE) == 1.4
    assert speed_of(2.5, MovingKind.PEOPLE) == 2.5
    assert speed_of(None, None) is None
    # The wind moves plants: they have no speed of their own.
    assert speed_of(None, MovingKind.PLANTS) is None
    assert {kind for kind in MovingKind if passes(kind)} == {
        MovingKind.PEOPLE,
        MovingKind.BIRDS,
        MovingKind.BOAT,
        MovingKind.INSECT,
    }
    assert not passes(None)
    assert all(thing.speed_mps is None or 0 < thing.speed_mps <= 20 for thing in THINGS.values())


def test_the_chance_of_an_empty_frame_is_poissons():
    # Source: the Poisson distribution, any text on probability: P(0) = exp(-mean).
    assert passing.empty_chance(0.1, 10.0, 0.0) == pytest.approx(math.exp(-1))
    assert passing.empty_chance(0.0, 10.0, 3600.0) == 1.0
    assert passing.empty_chance(1.0, 30.0, 3600.0) == pytest.approx(0.0, abs=1e-300)
    # Of frames that are empty every other time four are enough nine times in ten: 1 - 1/16 > 0.9 > 1 - 1/8.
    assert passing.frames_needed(0.5) == 4
    assert passing.frames_needed(0.9) == 1
    assert passing.frames_needed(1.0) == 1
    assert passing.frames_needed(0.0) == math.inf
    with pytest.raises(InputError):
        passing.empty_chance(-1.0, 1.0, 1.0)


def test_three_minutes_empty_a_beach():
    # Common practice: "three minutes". Half a metre at 1.4 m/s covers a point for 0.36 s: alone it is gone after 7 s;
    # at six a minute after 26 s; at eight a minute 0.048 of the time somebody stands there, and three minutes are just
    # enough; at ten never (hand-worked from the model).
    covering = 0.5 / 1.4
    assert passing.vanishing_time_s(0.0, covering) == pytest.approx(7.14, rel=0.01)
    assert passing.vanishing_time_s(0.1, covering) == pytest.approx(25, rel=0.02)
    assert 120 < passing.vanishing_time_s(8 / 60, covering) < 180
    assert passing.vanishing_time_s(10 / 60, covering) == math.inf


@given(st.floats(0.0, 2.0), st.floats(0.001, 20.0))
def test_the_vanishing_time_is_where_the_share_is_reached(rate, covering):
    least = passing.vanishing_time_s(rate, covering)
    if math.isinf(least):
        assert rate * covering >= passing.UNSEEN_SHARE * (1 - 1e-9)
    else:
        assert passing.covered_share(rate, covering, least) == pytest.approx(passing.UNSEEN_SHARE, rel=1e-6)
        assert passing.covered_share(rate, covering, 2 * least) < passing.UNSEEN_SHARE


def test_walkers_vanish_in_a_long_time_and_leave_ghosts_in_a_short_one():
    gone = {"elements": (FALL, BEACH), "motion_wishes": ((2, MotionWish.GONE),)}
    assert _marks(_plan(60.0, **gone), "Walkers") == {"holds"}
    short = _plan(1.0, **gone)
    assert _marks(short, "leaves ghosts") == {"fails"}
    assert "nine times in ten" in next(reason.text for reason in short.reasons if "ghosts" in reason.text)


def test_without_a_rate_nobody_judges():
    unsaid = Element(2, "Walkers", "block", 0, 20.0, 10, 1.8, moving=MovingKind.PEOPLE)
    step = _plan(600.0, elements=(FALL, unsaid), motion_wishes=((2, MotionWish.GONE),))
    assert _marks(step, "Walkers") == {"unsaid"}
    # So many that no time does it: a failure that says what does.
    crowd = Element(2, "Walkers", "block", 0, 20.0, 10, 1.8, moving=MovingKind.PEOPLE, passing_per_min=60.0)
    step = _plan(600.0, elements=(FALL, crowd), motion_wishes=((2, MotionWish.GONE),))
    assert _marks(step, "no time makes them vanish") == {"fails"}


def test_a_wish_for_what_stands_still_is_not_judged():
    rock = Element(4, "Rock", "boulder", 0, 6.0, 2, 1)
    step = _plan(1.0, elements=(FALL, rock), motion_wishes=((4, MotionWish.FROZEN),))
    assert _marks(step, "not_judged") == {"unsaid"}
    # Plants without a forecast, and clouds without one, alike.
    step = _plan(
        1.0, forecast=False, elements=(FALL, FERN), motion_wishes=((3, MotionWish.FROZEN), (None, MotionWish.SILKY))
    )
    assert _marks(step, "not_judged") == {"unsaid"}
    assert sum("not_judged" in reason.code for reason in step.reasons) == 2
    assert step.verdict.mark != "holds"


def test_frozen_leaves_and_silky_water_are_two_frames():
    wishes = {"elements": (FALL, FERN), "wanted_look": "silky", "motion_wishes": ((3, MotionWish.FROZEN),)}
    one = _plan(1.0, 4.0, **wishes)
    # What the forecast moves is never certain to smear.
    assert _marks(one, "no single time gives everything you want: take two frames") == {"tight"}
    two = _plan(1.0, 4.0, **wishes, bracket="frozen_and_long")
    assert len(two.exposures) == 2
    assert _marks(two, "Fern: ") == {"holds"}
    assert next(item.look for item in two.movers if item.id == 3) == "frozen"


def test_proposals_give_all_that_is_wished_where_one_time_can():
    # The fall silky from 0.8 s on and the walkers gone: the times of both, not those of the first alone.
    step = _plan(
        1 / 60,
        elements=(FALL, BEACH),
        wanted_look="veiled",
        motion_wishes=((2, MotionWish.GONE),),
        metered_shutter_s=2.0,
    )
    least = max(item.wanted.from_s for item in step.movers)
    assert least > 10
    for proposal in step.proposals:
        assert proposal.shutter_s >= least * 2 ** -(1 + 1e-6)


def test_the_main_mover_stays_what_it_was():
    step = _plan(4.0, elements=(BEACH, FALL), wanted_look="silky")
    assert step.moving_element_id == 1
    assert [item.main for item in step.movers] == [False, True]
    # Only walkers: then their look is the one that a wish means.
    assert _plan(4.0, elements=(BEACH,)).moving_element_id == 2


@given(
    st.floats(1 / 4000, 300.0),
    st.sampled_from(list(MotionWish)),
    st.sampled_from([None, "silky", "frozen"]),
    st.floats(0.0, 20.0),
    st.sampled_from(["none", "frozen_and_long"]),
    st.floats(0.0, 30.0),
)
def test_verdict_list_and_frames_agree(shutter, wish, main, gust, bracket, rate):
    walkers = Element(2, "Walkers", "block", 0, 20.0, 10, 1.8, moving=MovingKind.PEOPLE, passing_per_min=rate)
    step = _plan(
        shutter,
        gust,
        0.5,
        elements=(FALL, walkers, FERN),
        wanted_look=main,
        motion_wishes=((2, wish),),
        bracket=bracket,
    )
    item = next(found for found in step.movers if found.id == 2)
    frozen = bracket == "frozen_and_long" and wish == MotionWish.FROZEN and len(step.exposures) == 2
    time = step.exposures[0].shutter_s if frozen else step.shutter_s
    # The look that is listed is that of the frame which shows it.
    assert item.look == look_of_streak(item.streak_mm_per_s * time, 24, 0.03) or math.isclose(
        item.streak_mm_per_s * time, 0.03, rel_tol=1e-6
    )
    said = [
        reason
        for reason in step.reasons
        if (reason.text.startswith(("Walkers:", "So many of Walkers")) and reason.dial == "motion_wishes")
        or "So many of Walkers" in reason.text
    ]
    assert len(said) == 1 or (
        wish != MotionWish.GONE and any("no single time" in reason.text for reason in step.reasons)
    )
    times = item.wanted
    if times is not None and said:
        inside = times.from_s * (1 - 1e-9) <= time <= times.to_s * (1 + 1e-9)
        assert (said[0].severity == "holds") == inside
    if any(reason.severity == "fails" for reason in step.reasons):
        assert step.verdict.mark == "fails"


def test_far_water_becomes_smooth_by_its_waves():
    # Common practice: surf from a cliff 5 to 7 s, half a minute for a veil, minutes to flatten. At 300 m its streak
    # alone would ask 1'20" for silky: 0.4 · 24 mm / (70 mm / 300 m · 0.5 m/s).
    surf = Element(1, "Surf", "water", 0, 300.0, 200, 100, moving=MovingKind.SURF, speed_mps=0.5)
    far = next(item for item in _plan(elements=(surf,), focal_mm=70.0, camera_height_m=30.0).movers if item.main)
    silky = far.times_for(MotionWish.SILKY)
    assert silky.from_s == pytest.approx(5, rel=0.05)
    assert silky.from_s <= 5.5 <= 7 <= silky.to_s
    assert far.times_for(MotionWish.VEILED).from_s == pytest.approx(30, rel=0.05)
    assert far.look_in(30.5) == "veiled"
    assert far.look_in(150.0) == "flattened"
    # Ripples on a lake 100 m away lie flat within minutes.
    lake = Element(1, "Lake", "water", 0, 100.0, 200, 100, moving=MovingKind.RIPPLES)
    ripples = next(item for item in _plan(elements=(lake,), focal_mm=24.0, camera_height_m=5.0).movers if item.main)
    assert ripples.times_for(MotionWish.FLATTENED).from_s <= 180
    # Near water keeps its answers: a drain at 1 m/s, 4 m away, 24 mm, is textured from 1/4 to nearly 2 s by its streak.
    drain = Element(1, "Drain", "water", 0, 4.0, 3, 3, speed_mps=1.0)
    kinds = (drain, dataclasses.replace(drain, moving=MovingKind.STREAM))
    near = [next(item for item in _plan(elements=(one,), focal_mm=24.0).movers if item.main) for one in kinds]
    assert near[0].times_for(MotionWish.TEXTURED) == near[1].times_for(MotionWish.TEXTURED)


@given(st.floats(0.01, 400), st.floats(0.001, 0.2), st.sampled_from([None, 4.0, 10.0]))
def test_waves_and_streak_agree_with_the_bands(shutter, streak_mm_per_s, period):
    """A time inside a band has its look, whichever of the two scales made the band."""
    for look in LookName:
        low, high = times_of_look_s(look, streak_mm_per_s, 24.0, 0.03, period)
        if not low * 1.001 < shutter < high * 0.999:
            continue
        streak = streak_mm_per_s * shutter
        smooth = max(streak, float(share_of_waves(shutter / period)) * 24.0 if period else 0.0)
        seen = streak if streak <= 0.03 else max(0.03 * 1.001, smooth)
        assert look_of_streak(seen, 24.0, 0.03) in (look, LookName.FROZEN)
    assert waves_of_share(share_of_waves(shutter / 10)) == pytest.approx(min(shutter / 10, 120.0))


@pytest.mark.parametrize(
    ("flow_bearing_deg", "share"),
    [
        # Across the view: all of it; as if nothing were said.
        (None, 1.0),
        (323.0, 1.0),
        # Towards the lens, seen from 0.3 m over the water 4 m away: 0.3 / √(0.3² + 4²) = 0.0748 of it.
        (53.0, 0.0748),
        # At 30° to the view: √(sin² 30° + (cos 30° · 0.0748)²) = 0.504.
        (263.0, 0.504),
    ],
)
def test_flow_towards_the_lens_draws_less(flow_bearing_deg, share):
    water = dataclasses.replace(WATER, flow_bearing_deg=flow_bearing_deg)
    assert drawn_share(water, 0.3, 4.0) == pytest.approx(share, abs=5e-4)
    # A fall of water has no direction on the ground.
    assert drawn_share(dataclasses.replace(water, shape="wall"), 0.3, 4.0) == 1.0


def test_the_direction_of_flow_moves_the_look():
    def streak(flow_bearing_deg):
        water = dataclasses.replace(WATER, flow_bearing_deg=flow_bearing_deg)
        plan = plan_shot(changed(FULL, elements=(STONE, SHORE, water)))
        return next(item for item in plan.exposure.movers if item.name == "Channel").streak_mm_per_s

    assert streak(323.0) == pytest.approx(streak(None), rel=1e-6)
    assert streak(53.0) < 0.3 * streak(None)
