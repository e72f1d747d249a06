"""Step 6, whether the photographer's groups still make the picture that depth and exposure planned, and come in time."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from ...facts.settings import settings_of
from ...facts.shot import ShotFacts
from ...framing.panorama import Aim
from ...units.lengths import format_duration
from ...units.markings import spoken_shutter
from ..exposure.movers import must_be_frozen
from ..exposure.plan import ExposureStep
from ..exposure.water import wanted_time
from ..focus.optics import Focused, FocusPosition, optics_at
from ..focus.plan import DepthStep
from ..verdicts import FAILS, HOLDS, TIGHT, Reason, Severity
from .groups import AS_BRIGHT_STOPS, GroupSet, PlannedGroup, said_of
from .timeline import Frame

_SLACK = 1 + 1e-6
# A group that begins this much too late has still been in time [s].
_IN_TIME_S = 5.0


def group_reasons(
    facts: ShotFacts, depth: DepthStep, exposure: ExposureStep, groups: Sequence[PlannedGroup], aims: Sequence[Aim]
) -> list[Reason]:
    """Return what the photographer's own groups leave out of the picture; nothing where there are none."""
    if not facts.frame_groups:
        return []
    used = [group for group in groups if group.group.in_the_picture and group.frames]
    if not used:
        return [_reason(FAILS, "No group is of the picture: a dark or a test frame alone does not make one.")]
    sets = [one for group in used for one in group.sets]
    found = [
        *_focus_reasons(facts, depth, [position for group in used for _, position in group.positions]),
        *_range_reasons(exposure, sets),
        *_motion_reasons(facts, exposure, sets),
        *_aim_reasons(used, aims),
    ]
    return found or [_reason(HOLDS, "The groups hold all that depth and exposure ask for.")]


def _reason(mark: Severity, text: str) -> Reason:
    return Reason("sequence", mark, text, "frame_groups")


def _focus_reasons(facts: ShotFacts, depth: DepthStep, positions: Sequence[FocusPosition]) -> list[Reason]:
    """Return by how much what must be sharp is softer in the groups' frames than in those of the focus plan; the same blur judges both."""
    settings = settings_of(facts)
    if settings is None or depth.imaging is None or depth.near_m is None or depth.far_m is None:
        return []
    optics = optics_at(settings, depth.imaging)
    here, planned = (
        optics.times_limit(Focused.of(optics, item).worst_defocus_mm(depth.near_m, depth.far_m)) for item in (positions, depth.positions)
    )
    if here <= max(1.0, planned) * _SLACK:
        return []
    text = (
        f"Where the groups are focused, what must be sharp is up to {here:.1f} times too soft: take the focus positions that are left out."
    )
    return [_reason(FAILS, text)]


def _range_reasons(exposure: ExposureStep, sets: Sequence[GroupSet]) -> list[Reason]:
    """Return which of the planned exposures no group is as bright as."""
    found = []
    for index, item in enumerate(exposure.exposures):
        if any(abs(one.exposure.brightest_ev - item.brightest_ev) <= AS_BRIGHT_STOPS for one in sets):
            continue
        time = spoken_shutter(item.shutter_s)
        what = (
            "is as bright as the exposure that was planned" if len(exposure.exposures) == 1
            else "holds the highlights that" if index == 0 else "holds the shadows that" if index == len(exposure.exposures) - 1 else "holds the tones that"
        )  # fmt: skip
        ending = f", {time}" if len(exposure.exposures) == 1 else f" the exposure of {time} was planned for"
        found.append(_reason(FAILS, f"No group {what}{ending}."))
    return found


def _motion_reasons(facts: ShotFacts, exposure: ExposureStep, sets: Sequence[GroupSet]) -> list[Reason]:
    """Return what moves and is shown as it is wished in no group, though the planned exposures show it so."""
    times = [one.exposure.shutter_s for one in sets]
    found = []
    frozen = {item.id: longest for item, longest in must_be_frozen(facts, exposure.movers)}
    for item in exposure.movers:
        wanted = wanted_time(facts, item.bands) if item.main else None
        wanted = wanted or item.wanted
        if wanted is not None:
            best, planned = (
                _best([wanted.mark_of(time) for time in some]) for some in (times, [one.shutter_s for one in exposure.exposures])
            )
            if best != HOLDS and _RANKS[best] > _RANKS[planned]:
                found.append(_reason(best, f"No group shows {item.name} as it is wished: {wanted.words}."))
        elif item.id in frozen and min(times) > frozen[item.id] * _SLACK >= min(one.shutter_s for one in exposure.exposures):
            found.append(_reason(FAILS, f"No group freezes {item.name}, which must be sharp: {spoken_shutter(frozen[item.id])} at most."))
    return found


_RANKS = {HOLDS: 0, TIGHT: 1, FAILS: 2}


def _best(marks: Sequence[Severity]) -> Severity:
    return min(marks, key=lambda mark: _RANKS[mark])


def _aim_reasons(used: Sequence[PlannedGroup], aims: Sequence[Aim]) -> list[Reason]:
    if len(aims) < 2:
        return []
    taken = {aim for group in used for aim in group.aims}
    left = sorted({aim.row + 1 for aim in aims if aim not in taken})
    if not left:
        return []
    rows = ", ".join(str(row) for row in left)
    return [_reason(FAILS, f"No group takes row{'s' if len(left) > 1 else ''} {rows} of the panorama.")]


def in_time(facts: ShotFacts, groups: Sequence[PlannedGroup], frames: Sequence[Frame]) -> tuple[PlannedGroup, ...]:
    """Return the groups with what is to be said of those that wait for something: whether they come in time."""
    return tuple(_in_time(group, next((frame for frame in frames if frame.group == group.at), None)) for group in groups)


def _in_time(group: PlannedGroup, first: Frame | None) -> PlannedGroup:
    if group.waits_s is None or first is None:
        return group
    late = first.start_s - group.waits_s
    if late > _IN_TIME_S:
        said = said_of(FAILS, group.group, f"begins {format_duration(late)} too late, the frames before it take that long")
    else:
        said = said_of(HOLDS, group.group, "begins in time")
    return replace(group, reasons=(*group.reasons, said))
