"""Reasons about the photographer's own groups: whether they make the planned picture, and in time."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from ...facts.settings import settings_of
from ...facts.shot import ShotFacts
from ...framing.panorama import Aim
from ..exposure.movers import must_be_frozen
from ..exposure.plan import ExposureStep
from ..exposure.water import wanted_time
from ..focus.optics import Focused, FocusPosition, optics_at
from ..focus.plan import DepthStep
from ..reasons import Reason
from ..verdicts import FAILS, HOLDS, TIGHT, Severity
from . import wording as say
from .groups import AS_BRIGHT_STOPS, GroupSet, PlannedGroup
from .timeline import Frame

_SLACK = 1 + 1e-6
_DIAL = "frame_groups"
# A group that begins late by less than this is still in time [s].
_IN_TIME_S = 5.0


def group_reasons(
    facts: ShotFacts, depth: DepthStep, exposure: ExposureStep, groups: Sequence[PlannedGroup], aims: Sequence[Aim]
) -> list[Reason]:
    """Return the reasons about parts of the picture that the photographer's own groups leave out; empty without
    groups.
    """
    if not facts.frame_groups:
        return []
    used = [group for group in groups if group.group.in_the_picture and group.frames]
    if not used:
        return [say.none_of_the_picture().fails(_DIAL)]
    sets = [one for group in used for one in group.sets]
    found = [
        *_focus_reasons(facts, depth, [position for group in used for _, position in group.positions]),
        *_range_reasons(exposure, sets),
        *_motion_reasons(facts, exposure, sets),
        *_aim_reasons(used, aims),
    ]
    return found or [say.complete().holds(_DIAL)]


def _focus_reasons(facts: ShotFacts, depth: DepthStep, positions: Sequence[FocusPosition]) -> list[Reason]:
    """Return the reasons about subjects that must be sharp and are softer in the groups' frames than in the focus
    plan, by the same blur.
    """
    settings = settings_of(facts)
    if settings is None or depth.imaging is None or depth.near_m is None or depth.far_m is None:
        return []
    optics = optics_at(settings, depth.imaging)
    here, planned = (
        optics.times_limit(Focused.of(optics, item).worst_defocus_mm(depth.near_m, depth.far_m))
        for item in (positions, depth.positions)
    )
    if here <= max(1.0, planned) * _SLACK:
        return []
    return [say.focus_missing(times_limit=here).fails(_DIAL)]


def _range_reasons(exposure: ExposureStep, sets: Sequence[GroupSet]) -> list[Reason]:
    """Return which planned exposures no group matches in brightness."""
    found = []
    for index, item in enumerate(exposure.exposures):
        if any(abs(one.exposure.brightest_ev - item.brightest_ev) <= AS_BRIGHT_STOPS for one in sets):
            continue
        last = len(exposure.exposures) - 1
        part = "whole" if last == 0 else "highlights" if index == 0 else "shadows" if index == last else "tones"
        found.append(say.exposure_missing(shutter_s=item.shutter_s, part=part).fails(_DIAL))
    return found


def _motion_reasons(facts: ShotFacts, exposure: ExposureStep, sets: Sequence[GroupSet]) -> list[Reason]:
    """Return which movers no group shows as wanted, though the planned exposures do."""
    times = [one.exposure.shutter_s for one in sets]
    found = []
    frozen = {item.id: longest for item, longest in must_be_frozen(facts, exposure.movers)}
    for item in exposure.movers:
        wanted = wanted_time(facts, item.bands) if item.main else None
        wanted = wanted or item.wanted
        if wanted is not None:
            best, planned = (
                _best([wanted.mark_of(time) for time in some])
                for some in (times, [one.shutter_s for one in exposure.exposures])
            )
            if best != HOLDS and _RANKS[best] > _RANKS[planned]:
                found.append(say.look_missing(element=item.name, wanted=wanted.words).reason(best, _DIAL))
        elif item.id in frozen and min(times) > frozen[item.id] * _SLACK >= min(
            one.shutter_s for one in exposure.exposures
        ):
            found.append(say.freeze_missing(element=item.name, freezes_s=frozen[item.id]).fails(_DIAL))
    return found


_RANKS = {HOLDS: 0, TIGHT: 1, FAILS: 2}


def _best(marks: Sequence[Severity]) -> Severity:
    return min(marks, key=lambda mark: _RANKS[mark])


def _aim_reasons(used: Sequence[PlannedGroup], aims: Sequence[Aim]) -> list[Reason]:
    if len(aims) < 2:
        return []
    taken = {aim for group in used for aim in group.aims}
    left = tuple(sorted({aim.row + 1 for aim in aims if aim not in taken}))
    return [say.rows_missing(rows=left).fails(_DIAL)] if left else []


def in_time(facts: ShotFacts, groups: Sequence[PlannedGroup], frames: Sequence[Frame]) -> tuple[PlannedGroup, ...]:
    """Return the groups, those that wait for something with a reason whether they begin in time."""
    return tuple(
        _in_time(group, next((frame for frame in frames if frame.group == group.at), None)) for group in groups
    )


def _in_time(group: PlannedGroup, first: Frame | None) -> PlannedGroup:
    if group.waits_s is None or first is None:
        return group
    late = first.start_s - group.waits_s
    if late > _IN_TIME_S:
        reason = say.too_late(group=group.group.called, late_s=late).fails(_DIAL)
    else:
        reason = say.in_time(group=group.group.called).holds(_DIAL)
    return replace(group, reasons=(*group.reasons, reason))
