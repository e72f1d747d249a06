"""What the log taught and is switched on: the plan uses it wherever it uses, says so, and the log keeps what counted
without it.
"""

from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from sample_shot import DUSK, FULL, WATER

from lucid_ridge.core.facts.calibrations import Calibrated, CalibrationKind, Taught
from lucid_ridge.core.facts.choices import Hold
from lucid_ridge.core.facts.frame_groups import FrameGroup, GroupExposure, GroupFilters, Role
from lucid_ridge.core.facts.kit import Lens
from lucid_ridge.core.facts.place import Approach, Element
from lucid_ridge.core.facts.settings import settings_of
from lucid_ridge.core.facts.shot import changed, facts_from
from lucid_ridge.core.field.recorded import recorded_plan
from lucid_ridge.core.planning.focus.holding import slowest_by_hand_s
from lucid_ridge.core.planning.light.plan import plan_light
from lucid_ridge.core.planning.plan.shot_plan import plan_shot
from lucid_ridge.core.planning.sequence.supplies import cold_factor
from lucid_ridge.core.planning.way.arrival import plan_arrival, walk_minutes
from lucid_ridge.core.weather.forecast import Forecast, ForecastHour

MACRO = Lens(2, "Macro", 100, 100, 2.8, 32, 300, max_magnification=1.0, front_mm=60)
SUNDEW = Element(
    id=1, name="Sundew", shape="flower", bearing_deg=0, distance_m=0.2, width_m=0.012, height_m=0.012, base_m=0.05
)
# Five kilometres on the level by the rule of five kilometres an hour: sixty minutes.
APPROACH = Approach(30.0, 5000.0, 0.0, set_up_min=20.0, reserve_min=15.0)
HEADED = replace(
    FULL,
    approach=APPROACH,
    frame_groups=(FrameGroup(Role.TEST, exposure=GroupExposure.CARRYING, filters=GroupFilters.BARE), FrameGroup()),
)


def taught(kind, value, told=1.0):
    return Calibrated(kind, "x", told, value, value - 0.1, value + 0.1, 9)


def texts(plan):
    return " ".join(f"{reason.code}: {reason.text}" for reason in plan.because)


def test_an_own_pace_by_hand():
    own = replace(
        APPROACH, taught_walk=taught(CalibrationKind.WALKING, 1.25), taught_set_up=taught(CalibrationKind.SET_UP, 1.5)
    )
    assert walk_minutes(APPROACH) == pytest.approx(60)
    assert walk_minutes(own) == pytest.approx(75)
    arrival = plan_arrival(own, DUSK)
    assert (DUSK - arrival.set_up_utc).total_seconds() == pytest.approx(30 * 60)
    assert (arrival.set_up_utc - arrival.leave_car_utc).total_seconds() == pytest.approx(75 * 60)


@given(st.floats(0.4, 3.0), st.floats(0.4, 3.0), st.floats(0.4, 3.0), st.floats(-1.5, 1.5))
@settings(max_examples=25, deadline=None)
def test_the_plan_reckons_with_all_of_it_and_the_log_keeps_what_counted_without(walk, set_up, change, faster):
    speed = taught(CalibrationKind.WATER_SPEED, faster, 0.0)
    own = replace(
        HEADED,
        approach=replace(
            APPROACH,
            taught_walk=taught(CalibrationKind.WALKING, walk),
            taught_set_up=taught(CalibrationKind.SET_UP, set_up),
        ),
        elements=tuple(replace(item, taught_speed=speed) if item.id == WATER.id else item for item in HEADED.elements),
        taught=Taught(filter_change=taught(CalibrationKind.FILTER_CHANGE, change)),
    )
    plain, plan = plan_shot(HEADED), plan_shot(own)
    # One filter goes on between the two groups.
    assert plan.sequence.total_s - plain.sequence.total_s == pytest.approx(20 * (change - 1), abs=1e-6)
    said = {item.name: item for item in plan.exposure.movers}
    usual = {item.name: item for item in plain.exposure.movers}
    assert said["Channel"].speed_mps == pytest.approx(usual["Channel"].speed_mps * 2**faster)
    assert said["Channel"].streak_share(1.0) == pytest.approx(usual["Channel"].streak_share(1.0) * 2**faster)
    words = texts(plan)
    assert f"You take {walk:.2f} times as long on foot" in words
    assert f"You take {20 * set_up:.0f} min to set up (from 9 sessions), not the 20 min entered." in words
    assert f"You take {20 * change:.0f} s to change a filter (from 9 changes in the log), not 20 s." in words
    assert f"Channel is counted as {2**faster:.1f} times the speed entered" in words
    kept = recorded_plan(own, plan)
    assert (kept.walk_min, kept.set_up_min, kept.filter_change_s) == (pytest.approx(60), 20.0, 20.0)
    assert (kept.moving_id, kept.speed_stops) == (WATER.id, faster)
    assert kept.streak_per_s == pytest.approx(said["Channel"].streak_share(1.0))
    changes = [frame.change_s for frame in kept.frames.values()]
    assert sorted(changes)[-1] == pytest.approx(20 * change)


def test_nothing_is_said_where_nothing_was_taught():
    words = texts(plan_shot(HEADED))
    for word in ("log", "of the log", "in the log", "times as long", "times as fast"):
        assert word not in words


def test_series_by_hand_are_the_logs_unless_the_shot_says_otherwise():
    close = facts_from(
        body=FULL.body,
        lens=MACRO,
        elements=(SUNDEW,),
        bearing_deg=0.0,
        camera_height_m=0.056,
        f_number=8.0,
        iso=100.0,
        magnification=1.0,
        subject_depth_mm=3.0,
        depth_method="rail",
        metered_f_number=8.0,
        metered_shutter_s=1 / 500,
        metered_iso=100.0,
        hold=Hold.HAND,
        frames_per_s=8.0,
    )
    by_log = replace(close, taught=Taught(series=taught(CalibrationKind.SERIES, 0.25)))
    assert "focus.hand_stack_hits_missing" in texts(plan_shot(close))
    assert "With 25\u202f% of your series good (from 9 series of the log), expect 4 tries" in texts(plan_shot(by_log))
    said = changed(by_log, hit_rate=0.5)
    assert "With 50\u202f% of your series good, expect 2 tries" in texts(plan_shot(said))


def test_batteries_are_the_logs_in_the_cold_and_out_of_it():
    body = replace(FULL.body, battery_frames=10, batteries=1)
    own = Taught(
        cold_battery=taught(CalibrationKind.BATTERY, 0.4, 0.6), mild_battery=taught(CalibrationKind.BATTERY, 0.9, 1.0)
    )
    for celsius, left in ((-5.0, 0.4), (4.9, 0.4), (5.0, 0.9), (20.0, 0.9)):
        hours = tuple(
            ForecastHour(
                time_utc=DUSK.replace(hour=hour, minute=0),
                low_cloud=0,
                middle_cloud=0,
                high_cloud=0,
                wind_mps=0,
                gust_mps=0,
                rain_mm=0,
                temperature_c=celsius,
                fog=0,
            )
            for hour in range(12, 20)
        )
        facts = replace(FULL, body=body, forecast=Forecast(DUSK.replace(hour=12), hours))
        plain, plan = plan_shot(facts).sequence.supplies, plan_shot(replace(facts, taught=own)).sequence.supplies
        assert plain.cold == pytest.approx(cold_factor(celsius))
        assert plan.cold == left
        assert plan.battery_share * left == pytest.approx(plain.battery_share * plain.cold)
        assert "readings in the log" in texts(plan_shot(replace(facts, taught=own)))


def test_a_boat_has_its_own_steadiness():
    own = Taught(
        hand_shift=taught(CalibrationKind.HAND_HELD, 1.0, 0.0), boat_shift=taught(CalibrationKind.HAND_HELD, -1.0, 0.0)
    )
    for hold, factor in ((Hold.HAND, 2.0), (Hold.BOAT, 0.5)):
        facts = changed(FULL, hold=hold)
        plain, plan = plan_shot(facts), plan_shot(replace(facts, taught=own))
        limit = slowest_by_hand_s(facts, settings_of(facts), plain.depth.imaging)
        assert slowest_by_hand_s(replace(facts, taught=own), settings_of(facts), plan.depth.imaging) == pytest.approx(
            limit * factor
        )
        assert recorded_plan(replace(facts, taught=own), plan).hand_limit_s == pytest.approx(limit)


def test_the_light_is_the_logs_under_such_a_sky():
    own = Taught(*(taught(CalibrationKind.LIGHT_OFFSET, value, 0.0) for value in (-0.3, 0.2, -0.8)))
    plain = replace(FULL, readings=())
    for cover, value in ((0.0, 0.2), (0.9, -0.8)):
        hours = tuple(
            ForecastHour(
                time_utc=DUSK.replace(hour=hour, minute=0),
                low_cloud=cover,
                middle_cloud=0,
                high_cloud=0,
                wind_mps=0,
                gust_mps=0,
                rain_mm=0,
                temperature_c=8,
                fog=0,
            )
            for hour in range(12, 20)
        )
        facts = replace(plain, forecast=Forecast(DUSK.replace(hour=12), hours))
        assert plan_light(replace(facts, taught=own)).ev100 == pytest.approx(plan_light(facts).ev100 + value)
        assert recorded_plan(replace(facts, taught=own), plan_shot(facts)).light_offset_stops == value
    # Without a forecast of the sky the whole counts.
    assert plan_light(replace(plain, taught=own)).ev100 == pytest.approx(plan_light(plain).ev100 - 0.3)
    assert plan_light(replace(plain, taught=Taught(light_clouded=own.light_clouded))).ev100 == pytest.approx(
        plan_light(plain).ev100
    )
