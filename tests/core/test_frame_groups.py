"""Frames in groups: what each comes to, in which order they are taken, and whether they still make the picture that
was planned.
"""

import dataclasses
import math
from datetime import UTC, datetime, time, timedelta
from itertools import pairwise, permutations

import pytest
from hypothesis import given
from hypothesis import strategies as st
from sample_shot import DUSK, FULL, SHORE, STONE, TEN, WATER

from lucid_ridge.core.facts.accessory import Accessory, AccessoryKind
from lucid_ridge.core.facts.frame_groups import (
    FrameGroup,
    FrameOrder,
    GroupExposure,
    GroupFilters,
    GroupFocus,
    GroupStart,
    Moment,
    Role,
    Together,
)
from lucid_ridge.core.facts.kit import Body
from lucid_ridge.core.facts.shot import changed
from lucid_ridge.core.planning.plan.shot_plan import plan_shot
from lucid_ridge.core.planning.sequence.supplies import cold_factor
from lucid_ridge.core.planning.sequence.timeline import build_sequence, overheads_of, total_time_s

OFF = dataclasses.replace(TEN, on_lens=False)


def _groups(*groups, **changes):
    return plan_shot(changed(FULL, frame_groups=groups, **changes))


def _said(plan):
    return [(str(reason.severity), reason.text) for reason in plan.sequence.reasons if reason.dial == "frame_groups"]


def _fails(plan):
    return [text for severity, text in _said(plan) if severity == "fails"]


def test_without_groups_of_ones_own_there_is_one_of_all_that_was_planned():
    plan = _groups()
    (group,) = plan.sequence.groups
    assert (group.group.role, group.group.together) == (Role.STACK, Together.STACK)
    assert [frame.focus_index for frame in plan.sequence.frames] == list(range(len(plan.depth.positions)))
    # The same list said by oneself comes to the same frames, and is judged.
    own = _groups(FrameGroup(Role.STACK, together=Together.STACK))
    assert own.sequence.frames == plan.sequence.frames
    assert _said(own) == [("holds", "The groups cover everything that depth and exposure ask for.")]


def test_two_near_and_far_plus_one_for_the_sky():
    near, far = FrameGroup(Role.NEAR, focus=GroupFocus.NEAREST), FrameGroup(Role.FAR, focus=GroupFocus.FARTHEST)
    sky = FrameGroup(Role.SKY, focus=GroupFocus.FARTHEST, exposure=GroupExposure.DARKEST, offset_ev=-2.0)
    plan = _groups(near, far, sky, filters=(), f_number=16)
    planned = plan.depth.positions
    assert len(plan.sequence.frames) == 3
    by_group = {frame.group: frame for frame in plan.sequence.frames}
    assert by_group[0].object_distance_m == planned[0].object_distance_m
    assert by_group[1].object_distance_m == by_group[2].object_distance_m == planned[-1].object_distance_m
    # 1/8 metered; two stops darker 1/32, which is marked 1/30.
    assert by_group[0].shutter_s == pytest.approx(1 / 8)
    assert by_group[2].shutter_s == pytest.approx(1 / 32)
    assert by_group[2].brightest_ev == pytest.approx(by_group[0].brightest_ev + 2)
    # Of four positions two are left out: what lies between is soft, and is said to be.
    assert any("too soft" in text for text in _fails(plan))


def test_twenty_for_a_breaking_wave_then_one_of_half_a_second():
    wave = FrameGroup(
        Role.FROZEN,
        "breaking",
        GroupFocus.FARTHEST,
        exposure=GroupExposure.OWN,
        shutter_s=1 / 512,
        count=20,
        burst_per_s=10.0,
        filters=GroupFilters.NO_DENSITY,
    )
    drain = FrameGroup(
        Role.LONG,
        "draining",
        GroupFocus.FARTHEST,
        exposure=GroupExposure.OWN,
        shutter_s=0.5,
        filters=GroupFilters.NO_DENSITY,
    )
    plan = _groups(wave, drain)
    frames = [frame for frame in plan.sequence.frames if frame.group == 0]
    assert len(frames) == 20
    # The self-timer runs once, then ten a second: by hand 19 steps of 0.1 s.
    assert frames[-1].start_s - frames[0].start_s == pytest.approx(1.9)
    # 1/8 at ISO 100 is 1/512 at ISO 6400: six stops.
    assert {frame.iso for frame in frames} == {6400}
    (half,) = (frame for frame in plan.sequence.frames if frame.group == 1)
    # Half a second is two stops more than 1/8: base ISO is reached, and a filter is lacking.
    assert (half.shutter_s, half.iso) == (0.5, 100)
    assert any(
        text.startswith("Draining: 0.5 s at ISO 100 is 2.0 stops brighter than the picture") for text in _fails(plan)
    ), _fails(plan)


def test_two_minutes_then_the_same_without_the_filter():
    long = FrameGroup(Role.LONG)
    bare = FrameGroup(Role.FROZEN, filters=GroupFilters.NO_DENSITY)
    plan = _groups(long, bare, f_number=16)
    with_filter = [frame for frame in plan.sequence.frames if frame.group == 0]
    without = [frame for frame in plan.sequence.frames if frame.group == 1]
    assert with_filter[0].filters == ("Ten",)
    assert without[0].filters == ()
    # 1/8 through ten stops is 128 s.
    assert with_filter[0].shutter_s == pytest.approx(128, rel=0.01)
    assert without[0].shutter_s == pytest.approx(1 / 8, rel=0.01)
    assert with_filter[0].brightest_ev == pytest.approx(without[0].brightest_ev, abs=0.01)
    # The ten comes off once, not at every focus.
    changes = sum(one.filters != other.filters for one, other in pairwise(plan.sequence.frames))
    assert changes == 1


def test_a_group_waits_for_a_moment_and_has_the_exposure_of_that_moment():
    # The sun is down over the level horizon at 15:56 UTC on this day at this place (published almanac figures
    # round to the minute).
    sky = FrameGroup(Role.SKY, focus=GroupFocus.FARTHEST, start=GroupStart.MOMENT, start_moment=Moment.SUNSET)
    plan = _groups(FrameGroup(Role.LAND), sky, filters=(), time_utc=DUSK)
    first = next(frame for frame in plan.sequence.frames if frame.group == 1)
    assert timedelta(minutes=10) < timedelta(seconds=first.start_s) < timedelta(minutes=60)
    land = next(frame for frame in plan.sequence.frames if frame.group == 0)
    # The light has fallen until then: the same picture needs longer.
    assert first.shutter_s > land.shutter_s * 1.5
    assert ("holds", "Sky: begins in time.") in _said(plan)


def test_a_clock_time_that_has_passed_when_the_others_are_done_is_late():
    late = FrameGroup(Role.SKY, focus=GroupFocus.FARTHEST, start=GroupStart.CLOCK, start_clock=time(15, 26))
    plan = _groups(FrameGroup(Role.LAND, count=4), late, frame_order=FrameOrder.PINNED, filters=(TEN,))
    assert any("too late" in text for text in _fails(plan))
    # In the order that is chosen the one that cannot wait comes first.
    chosen = _groups(FrameGroup(Role.LAND, count=4), late, filters=(TEN,))
    assert chosen.sequence.order == (1, 0)
    assert not any("too late" in text for text in _fails(chosen))


def test_after_midnight_belongs_to_the_night_before():
    night = datetime(2026, 11, 25, 23, 50, tzinfo=UTC)
    later = FrameGroup(Role.SKY, start=GroupStart.CLOCK, start_clock=time(0, 20))
    plan = _groups(later, time_utc=night, metered_shutter_s=30.0, filters=())
    assert plan.sequence.frames[0].start_s == pytest.approx(30 * 60)


def test_a_moment_that_does_not_come_is_no_answer():
    # Polar day: no sunset in June at 70° N.
    north = dataclasses.replace(FULL.location, latitude_deg=70.0, longitude_deg=25.0, zone="UTC")
    waits = FrameGroup(Role.SKY, start=GroupStart.MOMENT, start_moment=Moment.SUNSET)
    plan = _groups(
        waits,
        location=north,
        date_local=datetime(2026, 6, 21).date(),
        time_utc=datetime(2026, 6, 21, 22, 0, tzinfo=UTC),
    )
    assert ("unsaid", "Sky: sunset does not come on that day; the group follows the one before it.") in _said(plan)
    assert plan.sequence.frames


@pytest.mark.parametrize(
    ("group", "text"),
    [
        (FrameGroup(focus=GroupFocus.POSITION, focus_number=9), "there are 4 focus positions, not 9"),
        (FrameGroup(focus=GroupFocus.DISTANCE), "enter the distance"),
        (FrameGroup(focus=GroupFocus.DISTANCE, focus_m=0.05), "cannot be focused on"),
        (FrameGroup(focus=GroupFocus.ELEMENT), "choose what it is focused on"),
        (FrameGroup(exposure=GroupExposure.OWN), "enter the exposure time"),
        (FrameGroup(exposure=GroupExposure.OWN, shutter_s=1 / 32000, iso=100.0), "cannot be taken"),
        (FrameGroup(start=GroupStart.CLOCK), "enter what it waits for"),
        (FrameGroup(iso=12.0), "cannot be set"),
    ],
)
def test_what_a_group_lacks_or_cannot_do_is_said(group, text):
    plan = _groups(group)
    assert any(text in said for _, said in _said(plan)), _said(plan)
    assert plan.sequence.verdict.mark in ("fails", "unsaid")


def test_a_focus_of_its_own():
    plan = _groups(
        FrameGroup(focus=GroupFocus.ELEMENT, focus_element_id=1),
        FrameGroup(focus=GroupFocus.DISTANCE, focus_m=5.0),
        filters=(),
    )
    first, second = (next(frame for frame in plan.sequence.frames if frame.group == at) for at in (0, 1))
    span = plan.depth.along.spans[1]
    assert span.near_m <= first.object_distance_m <= span.far_m
    assert second.object_distance_m == 5.0
    assert first.focus_index == second.focus_index == -1


def test_muted_dark_and_test_frames_are_no_part_of_the_picture():
    assert any("No group is of the picture" in text for text in _fails(_groups(FrameGroup(Role.TEST))))
    plan = _groups(
        FrameGroup(Role.STACK), FrameGroup(Role.DARK, focus=GroupFocus.FARTHEST), FrameGroup(Role.FAR, muted=True)
    )
    assert {frame.group for frame in plan.sequence.frames} == {0, 1}
    assert not _fails(plan)
    silent = _groups(FrameGroup(muted=True))
    assert silent.sequence.frames == ()
    assert silent.sequence.verdict.mark == "unsaid"


def test_exposures_that_are_left_out_are_missed():
    ranged = {"filters": (), "shadow_ev": 2.0, "highlight_ev": 16.0, "bracket": "range", "bracket_step_ev": 2.0}
    whole = _groups(FrameGroup(), **ranged)
    assert not _fails(whole)
    bright = _groups(FrameGroup(exposure=GroupExposure.BRIGHTEST), **ranged)
    assert [text for text in _fails(bright) if "No group holds the highlights" in text]
    assert [
        text
        for text in _fails(_groups(FrameGroup(exposure=GroupExposure.DARKEST), **ranged))
        if "No group holds the shadows" in text
    ]
    darker = _groups(FrameGroup(offset_ev=-3.0), filters=())
    assert [text for text in _fails(darker) if "as bright as the planned exposure" in text]


def test_a_wish_that_no_group_shows_is_missed():
    sharp = {
        "filters": (OFF,),
        "wanted_look": "frozen",
        "moving_element_id": 3,
        "metered_shutter_s": 1 / 512,
        "f_number": 16,
        "iso": 100,
    }
    planned = plan_shot(changed(FULL, **sharp)).exposure
    assert planned.look == "frozen"
    plan = _groups(FrameGroup(Role.LONG, exposure=GroupExposure.OWN, shutter_s=1.0, filters=GroupFilters.BARE), **sharp)
    assert any("as you want it: frozen" in text for text in _fails(plan)), _said(plan)
    assert not any("as it is wished" in text for text in _fails(_groups(FrameGroup(), **sharp)))


def test_more_frames_than_can_be_taken_are_refused_in_words():
    plan = _groups(FrameGroup(count=500), FrameGroup(count=500))
    assert plan.sequence.frames == ()
    assert plan.sequence.verdict.mark == "fails"
    assert "more than 2000 frames" in plan.sequence.verdict.text


def test_frozen_and_long_are_taken_one_after_the_other_so_that_the_filter_changes_once():
    grass = dataclasses.replace(STONE, id=5, speed_mps=0.3, distance_m=1.5)
    plan = _groups(
        elements=(STONE, SHORE, WATER, grass),
        sharp_element_ids=frozenset({1, 2, 5}),
        bracket="frozen_and_long",
        metered_shutter_s=1 / 30,
        f_number=11,
    )
    roles = [group.group.role for group in plan.sequence.groups]
    assert roles == [Role.FROZEN, Role.LONG]
    frames = plan.sequence.frames
    changes = sum(one.filter_ids != other.filter_ids for one, other in pairwise(frames))
    assert changes == 1
    assert len(frames) == 2 * len(plan.depth.positions)


def test_a_group_through_another_filter_counts_its_stops():
    six = dataclasses.replace(TEN, id=6, name="Six", stops=6, on_lens=False)
    plan = _groups(FrameGroup(), FrameGroup(filters=GroupFilters.CHOSEN, filter_ids=(6,)), filters=(OFF, six))
    bare, dark = (next(frame for frame in plan.sequence.frames if frame.group == at) for at in (0, 1))
    # Six stops: 1/8 becomes 8 s.
    assert bare.shutter_s == pytest.approx(1 / 8)
    assert dark.shutter_s == pytest.approx(8)
    assert dark.filters == ("Six",)
    assert dark.brightest_ev == pytest.approx(bare.brightest_ev)


def test_on_film_a_group_through_a_filter_is_open_as_long_as_the_film_needs():
    film = Body(
        id=2,
        name="Film",
        sensor_width_mm=36,
        sensor_height_mm=24,
        pixels_wide=8256,
        pixels_high=5504,
        base_iso=100,
        max_iso=100,
        fastest_shutter_s=1 / 1000,
        slowest_shutter_s=32,
        has_bulb=True,
        dynamic_range_stops=7,
        bracket_frames=1,
        film_exponent=1.31,
    )
    plan = _groups(FrameGroup(filters=GroupFilters.NO_DENSITY), FrameGroup(), body=film, metered_shutter_s=1 / 32)
    bare, dark = (next(frame for frame in plan.sequence.frames if frame.group == at) for at in (0, 1))
    assert bare.shutter_s == pytest.approx(1 / 32)
    # By hand: 1/32 through ten stops is 32 s, of which the film makes 32^1.31 = 93.7 s.
    assert dark.shutter_s == pytest.approx(93.7, rel=0.01)


def test_cold_takes_a_third_at_freezing():
    assert cold_factor(20) == cold_factor(35) == 1
    assert cold_factor(0) == pytest.approx(2 / 3)
    assert cold_factor(-40) == 0.5


def test_battery_and_card():
    body = dataclasses.replace(FULL.body, battery_frames=400, file_mb=50.0, card_gb=0.15)
    plan = _groups(filters=(), body=body)
    supplies = plan.sequence.supplies
    assert supplies.frames == 4
    assert supplies.files_mb == 200
    assert supplies.card_share == pytest.approx(200 / 150)
    assert any("fill 133\u202f% of the card" in reason.text for reason in plan.sequence.reasons)
    # By hand: 4 frames, and a minute of the camera on counts as two.
    assert supplies.battery_share == pytest.approx((4 + 2 * supplies.on_s / 60) / 400)
    unknown = _groups(filters=()).sequence.supplies
    assert (unknown.battery_share, unknown.card_share) == (None, None)


FOCI = st.sampled_from([GroupFocus.ALL, GroupFocus.NEAREST, GroupFocus.FARTHEST, GroupFocus.MIDDLE])
GROUPS = st.builds(
    FrameGroup,
    role=st.sampled_from([Role.WHOLE, Role.LAND, Role.SKY, Role.LONG]),
    focus=FOCI,
    exposure=st.sampled_from([GroupExposure.ALL, GroupExposure.CARRYING, GroupExposure.DARKEST]),
    filters=st.sampled_from([GroupFilters.PLANNED, GroupFilters.BARE, GroupFilters.CHOSEN]),
    filter_ids=st.sampled_from([(), (1,), (2,), (1, 2)]),
    offset_ev=st.sampled_from([0.0, -1.0, 2.0]),
    count=st.integers(1, 3),
    muted=st.booleans(),
)


@given(st.lists(GROUPS, min_size=1, max_size=4), st.booleans())
def test_the_order_chosen_is_the_quickest_of_all(groups, bracket):
    more = {"bracket": "around"} if bracket else {}
    # In the evening, untimed: the light does not fall, so that times can be held against one another.
    facts = changed(FULL, frame_groups=tuple(groups), time_utc=None, metered_shutter_s=1 / 60, **more)
    plan = plan_shot(facts)
    step, overheads = plan.sequence, overheads_of(facts, facts.body, 0.0, plan.exposure.bracket_automatic is True)
    taken = [group for group in step.groups if not group.group.muted and group.frames]
    assert sorted(step.order) == [group.at for group in taken]
    if not taken:
        assert step.frames == ()
        return
    times = [
        total_time_s(build_sequence(order, plan.exposure.f_number, plan.exposure.iso, overheads), overheads)
        for order in permutations(taken)
    ]
    # As listed where that takes up to five seconds more.
    assert min(times) - 1e-6 <= step.total_s <= min(times) + 5 + 1e-6
    assert step.order == tuple(group.at for group in taken) or step.total_s == pytest.approx(min(times), abs=1e-6)


@given(st.lists(GROUPS, min_size=1, max_size=5))
def test_frames_groups_and_verdict_agree(groups):
    plan = plan_shot(changed(FULL, frame_groups=tuple(groups)))
    step = plan.sequence
    # Every group's frames stand together, as many as it says, in the stated order.
    order = [frame.group for frame in step.frames]
    assert [at for index, at in enumerate(order) if index == 0 or order[index - 1] != at] == list(step.order)
    for group in step.groups:
        wanted = 0 if group.group.muted else group.frames
        assert order.count(group.at) == wanted
    # Nothing overlaps, and each frame is open as long as it says.
    for one, other in pairwise(step.frames):
        assert one.end_s <= other.start_s + 1e-9
    for frame in step.frames:
        assert frame.end_s - frame.start_s == pytest.approx(frame.shutter_s)
        assert math.isfinite(frame.brightest_ev)
    # A mark is earned: where it holds, the groups were judged and nothing said against them.
    if step.verdict.mark == "holds":
        assert all(severity in ("holds", "caution") for severity, _ in _said(plan))
        assert _said(plan)


def test_under_a_flash_nobody_judges_a_groups_own_exposure():
    flash = Accessory(1, "Flash", AccessoryKind.FLASH, guide_number_m=24.0, recycle_s=4.0)
    lit = {"accessories": (flash,), "flash_distance_m": 1.0, "filters": ()}
    long = FrameGroup(Role.LONG, exposure=GroupExposure.OWN, shutter_s=2.0)
    # Without the flash two seconds are reported as far too bright; with it their sum with the burst is nobody's,
    # and is not called good.
    assert any("stops brighter" in text for text in _fails(_groups(FrameGroup(Role.WHOLE), long, filters=())))
    plan = _groups(FrameGroup(Role.WHOLE), long, **lit)
    assert plan.exposure.flash.power is not None
    assert [severity for severity, text in _said(plan) if "not for the flash" in text] == ["unsaid"]
    assert not any("stops brighter" in text for text in _fails(plan))
    assert plan.sequence.verdict.mark != "holds"
    # The planned exposure as it is stays judged.
    assert not any("not for the flash" in text for _, text in _said(_groups(FrameGroup(Role.WHOLE), **lit)))


@pytest.mark.parametrize(("share", "severity"), [(0.2, "holds"), (0.9, "tight"), (1.5, "fails")])
def test_a_battery_is_spent_tight_or_large_enough(share, severity):
    taken = _groups(body=dataclasses.replace(FULL.body, battery_frames=400)).sequence.supplies.battery_share * 400
    frames = round(taken / share)
    plan = _groups(body=dataclasses.replace(FULL.body, battery_frames=frames))
    assert plan.sequence.supplies.battery_share == pytest.approx(taken / frames)
    (reason,) = [reason for reason in plan.sequence.reasons if reason.dial == "body_id"]
    assert str(reason.severity) == severity


def test_a_group_takes_the_position_it_names():
    plan = _groups()
    for number in range(1, len(plan.depth.positions) + 1):
        (frame,) = _groups(FrameGroup(Role.WHOLE, focus=GroupFocus.POSITION, focus_number=number)).sequence.frames
        assert frame.object_distance_m == plan.depth.positions[number - 1].object_distance_m


def test_rows_of_a_panorama_that_nobody_takes_are_counted_from_one():
    wide = {"pano_across_deg": 90.0, "pano_upwards_deg": 120.0}
    whole = _groups(**wide)
    rows = {frame.aim.row for frame in whole.sequence.frames}
    assert rows == set(range(len(rows))) and len(rows) > 1
    # A group of its own takes the row it names; those that are missing are named as people count.
    one = _groups(FrameGroup(Role.WHOLE, aim_row=1, together=Together.STITCH), **wide)
    assert {frame.aim.row for frame in one.sequence.frames} == {0}
    assert any(str(row + 1) in text for row in rows - {0} for text in _fails(one))
