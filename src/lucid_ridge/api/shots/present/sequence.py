"""Step 6 of a plan as its response body."""

from __future__ import annotations

from datetime import timedelta

from ....core.facts.frame_groups import FrameGroup, Moment
from ....core.facts.shot import ShotFacts
from ....core.planning.light.moments import moments_of_day
from ....core.planning.plan.shot_plan import ShotPlan
from ....core.planning.reasons import worst_mark
from ....core.planning.sequence.group_presets import group_ways
from ....core.planning.sequence.groups import PlannedGroup
from ....core.planning.sequence.supplies import Supplies
from ....core.planning.sequence.timeline import Frame
from ....core.planning.verdicts import Mark
from ....core.units.lengths import format_distance, format_distances_apart, format_duration
from ....core.units.markings import format_aperture, format_shutter
from ....core.units.spelling import format_time_of_day
from ..schemas import sequence as out
from .frame import aim_label


def present_sequence(facts: ShotFacts, plan: ShotPlan) -> out.SequenceOut:
    """Return groups and frames with every figure labelled."""
    step, light = plan.sequence, plan.light
    aims = plan.frame.panorama.plan.aims if plan.frame.panorama and plan.frame.panorama.plan else ()
    marks = format_distances_apart([frame.focus_distance_m for frame in step.frames])
    moments = moments_of_day(facts, light)
    return out.SequenceOut(
        frames=[_frame(frame, mark) for frame, mark in zip(step.frames, marks, strict=True)],
        groups=[_group(facts, plan, item, marks) for item in step.groups],
        own_groups=bool(facts.frame_groups),
        ways=[
            out.GroupWayOut(name=way.name, why=way.why, groups=[present_group(item) for item in way.groups])
            for way in group_ways(facts, light, plan.depth, plan.exposure, aims)
        ],
        moments=[
            out.MomentOut(name=moment, clock=facts.clock(moments[moment]) if moment in moments else None)
            for moment in Moment
        ],
        stores=_supplies(step.supplies) if step.supplies else None,
        rows=len({aim.row for aim in aims}) if len(aims) > 1 else 0,
        total_s=step.total_s,
        total_label=format_duration(step.total_s) if step.total_s is not None else None,
        available_s=step.available_s,
        available_label=format_duration(step.available_s) if step.available_s is not None else None,
        start_clock=facts.clock(facts.light.time_utc) if facts.light.time_utc else None,
        end_clock=facts.clock(step.end_utc) if step.end_utc else None,
        window_end_clock=facts.clock(light.window_end_utc) if light.window_end_utc else None,
    )


def present_group(group: FrameGroup) -> out.FrameGroupOut:
    """Return a group as it is said."""
    return out.FrameGroupOut(
        **{**vars(group), "filter_ids": list(group.filter_ids)},
        shutter_label=format_shutter(group.shutter_s) if group.shutter_s is not None else None,
        focus_label=format_distance(group.focus_m) if group.focus_m is not None else None,
        start_clock_label=format_time_of_day(group.start_clock) if group.start_clock is not None else None,
    )


def _frame(frame: Frame, mark: str) -> out.SequenceFrameOut:
    return out.SequenceFrameOut(
        number=frame.number,
        focus_index=frame.focus_index,
        exposure_index=frame.exposure_index,
        focus_label=_focus_label(frame, mark),
        f_number_label=format_aperture(frame.f_number),
        shutter_s=frame.shutter_s,
        shutter_label=format_shutter(frame.shutter_s),
        iso=frame.iso,
        filters=list(frame.filters),
        offset_ev=frame.offset_ev,
        start_s=frame.start_s,
        end_s=frame.end_s,
        start_label=format_duration(frame.start_s),
        aim_label=aim_label(frame.aim) if frame.aim else None,
        group=frame.group,
        look=frame.look,
        brightest_ev=frame.brightest_ev,
    )


def _focus_label(frame: Frame, mark: str) -> str:
    return f"{frame.rail_mm:.2f} mm" if frame.rail_mm is not None else mark


def _group(facts: ShotFacts, plan: ShotPlan, item: PlannedGroup, marks: list[str]) -> out.PlannedGroupOut:
    step = plan.sequence
    frames = [(frame, mark) for frame, mark in zip(step.frames, marks, strict=True) if frame.group == item.at]
    started = facts.light.time_utc is not None and frames
    first, last = (frames[0][0], frames[-1][0]) if frames else (None, None)
    lasts = last.end_s - first.start_s if first is not None and last is not None else None
    looks = list(dict.fromkeys(one.look for one in item.sets if one.look))
    return out.PlannedGroupOut(
        at=item.at,
        said=present_group(item.group),
        called=item.group.called,
        taken=step.order.index(item.at) + 1 if item.at in step.order else None,
        frames=len(frames),
        first=first.number if first else None,
        last=last.number if last else None,
        starts_label=format_duration(first.start_s) if first else None,
        starts_clock=facts.clock(facts.light.time_utc + timedelta(seconds=first.start_s))
        if started and first and facts.light.time_utc
        else None,
        lasts_label=format_duration(lasts) if lasts is not None else None,
        focus_words=_apart([_focus_label(frame, mark) for frame, mark in frames]),
        exposure_words=_apart([format_shutter(frame.shutter_s) for frame, _ in frames]) + _isos(frames),
        filters=list(dict.fromkeys(name for one in item.sets for name in one.filters)),
        look=", ".join(looks) or None,
        mark=Mark(worst_mark(list(item.reasons))) if item.reasons else None,
        remarks=[reason.text for reason in item.reasons],
    )


def _apart(words: list[str]) -> str:
    """Return the differences between frames, briefly: all of a few, first and last of many."""
    each = list(dict.fromkeys(words))
    return ", ".join(each) if len(each) < 4 else f"{each[0]} to {each[-1]}"


def _isos(frames: list[tuple[Frame, str]]) -> str:
    found = list(dict.fromkeys(f"{frame.iso:g}" for frame, _ in frames))
    return f" at ISO {', '.join(found)}" if found else ""


def _supplies(supplies: Supplies) -> out.StoresOut:
    return out.StoresOut(
        open_label=format_duration(supplies.open_s),
        battery_share=supplies.battery_share,
        cold=supplies.cold,
        files_mb=supplies.files_mb,
        card_share=supplies.card_share,
    )
