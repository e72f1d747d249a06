"""What belongs together later, and how a card lists frames."""

import dataclasses
from itertools import pairwise

from hypothesis import given
from hypothesis import strategies as st
from sample_shot import FULL, TEN

from lucid_ridge.core.facts.frame_groups import FrameGroup, GroupExposure, GroupFocus, Role, Together
from lucid_ridge.core.facts.kit import Lens
from lucid_ridge.core.facts.place import Element
from lucid_ridge.core.facts.shot import changed, facts_from
from lucid_ridge.core.planning.plan.shot_plan import plan_shot
from lucid_ridge.core.planning.sequence.blend_sheet import blend_sheet
from lucid_ridge.core.planning.sequence.frame_lines import frame_lines

RANGED = {"filters": (), "shadow_ev": 2.0, "highlight_ev": 16.0, "bracket": "range", "bracket_step_ev": 2.0}
CLOSE = facts_from(
    body=FULL.body,
    lens=Lens(2, "Close-up lens", 100, 100, 2.8, 32, 300, max_magnification=1.0),
    elements=(
        Element(
            id=1,
            name="Rosette",
            shape="flower",
            bearing_deg=0,
            distance_m=0.2,
            width_m=0.012,
            height_m=0.012,
            base_m=0.05,
        ),
    ),
    camera_height_m=0.056,
    f_number=8.0,
    magnification=1.0,
    subject_depth_mm=3.0,
    depth_method="rail",
    metered_f_number=8,
    metered_shutter_s=1 / 4,
    metered_iso=100,
)


def _sheet(facts):
    return blend_sheet(plan_shot(facts).sequence)


def test_exposures_are_merged_at_each_focus_and_then_stacked():
    sheet = _sheet(changed(FULL, **RANGED))
    (row,) = sheet.rows
    # Four focus positions of three exposures each: by hand 1 to 3, 4 to 6 and so on, then all of them.
    merge, stack = row.steps
    assert (merge.how, merge.sets) == (Together.BRACKET, ((1, 2, 3), (4, 5, 6), (7, 8, 9), (10, 11, 12)))
    assert (stack.how, stack.sets) == (Together.STACK, (tuple(range(1, 13)),))
    assert merge.words == "merge exposures, 4 times: 1 to 3, 4 to 6, 7 to 9, 10 to 12"
    assert sheet.last is None


def test_the_best_of_twenty_is_chosen_before_it_is_blended():
    wave = FrameGroup(
        Role.FROZEN,
        "wave",
        GroupFocus.FARTHEST,
        exposure=GroupExposure.CARRYING,
        count=20,
        burst_per_s=5,
        together=Together.BEST,
    )
    long = FrameGroup(Role.LONG, focus=GroupFocus.FARTHEST, exposure=GroupExposure.CARRYING, together=Together.BLEND)
    test = FrameGroup(Role.TEST, focus=GroupFocus.NEAREST)
    sheet = _sheet(changed(FULL, filters=(), frame_groups=(wave, long, test), frame_order="pinned"))
    first = sheet.rows[0]
    assert first.span == "1 to 20"
    assert [(step.how, step.sets) for step in first.steps] == [(Together.BEST, (tuple(range(1, 21)),))]
    assert sheet.rows[1].steps == ()
    # A test frame is no part of it.
    assert sheet.last == "blend: wave, long"


def test_nothing_to_take_is_an_empty_sheet():
    assert _sheet(facts_from()).rows == ()


def test_a_rail_of_even_steps_is_one_line():
    plan = plan_shot(CLOSE)
    frames = plan.sequence.frames
    assert len(frames) > 6
    (line,) = frame_lines(frames)
    assert (line.first.number, line.last.number) == (1, len(frames))
    assert abs(line.step_mm) == abs(frames[1].rail_mm - frames[0].rail_mm)


def test_a_bracket_at_each_focus_is_a_line_with_its_times():
    lines = frame_lines(plan_shot(changed(FULL, **RANGED)).sequence.frames)
    assert [(line.first.number, line.last.number, len(line.shutters_s)) for line in lines] == [
        (1, 3, 3),
        (4, 6, 3),
        (7, 9, 3),
        (10, 12, 3),
    ]
    burst = FrameGroup(focus=GroupFocus.NEAREST, exposure=GroupExposure.CARRYING, count=7)
    (line,) = frame_lines(plan_shot(changed(FULL, filters=(TEN,), frame_groups=(burst,))).sequence.frames)
    assert (line.repeats, len(line.shutters_s)) == (7, 1)


GROUPS = st.lists(
    st.builds(
        FrameGroup,
        focus=st.sampled_from([GroupFocus.ALL, GroupFocus.NEAREST, GroupFocus.FARTHEST]),
        exposure=st.sampled_from([GroupExposure.ALL, GroupExposure.CARRYING]),
        count=st.integers(1, 3),
        muted=st.booleans(),
    ),
    min_size=1,
    max_size=4,
)


@given(GROUPS, st.booleans(), st.booleans())
def test_every_frame_stands_once_in_sheet_and_lines(groups, ranged, close):
    facts = CLOSE if close else changed(FULL, **RANGED) if ranged else FULL
    step = plan_shot(dataclasses.replace(facts, frame_groups=tuple(groups))).sequence
    numbers = [frame.number for frame in step.frames]
    sheet = blend_sheet(step)
    assert sorted(number for row in sheet.rows for number in row.frames) == numbers
    for row in sheet.rows:
        for each in row.steps:
            assert sorted(number for numbers in each.sets for number in numbers) == list(row.frames)
    lines = frame_lines(step.frames)
    assert (
        [line.first.number for line in lines] == [1, *(line.last.number + 1 for line in lines[:-1])]
        if lines
        else not numbers
    )
    for line in lines:
        assert (line.last.number - line.first.number + 1) % (len(line.shutters_s) * line.repeats) == 0
    for one, other in pairwise(lines):
        assert one.last.number + 1 == other.first.number
