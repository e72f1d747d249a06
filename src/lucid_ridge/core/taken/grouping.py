"""Groups of frames without a plan: bursts, brackets, focus stacks and panoramas, by their times and settings.

The rules are common practice: frames of a group follow each other closely; in a bracket the exposure cycles; in a
burst nothing changes and there are many a second; in a stack or panorama only focus or aim changes, which no file
records.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from ..labels import NamedEnum
from .frames import Shown


class GroupKind(NamedEnum):
    SINGLE = "single"
    BURST = "burst"
    BRACKET = "bracket"
    SERIES = "series"


@dataclass(frozen=True)
class Group:
    """files: their places in the list."""

    kind: GroupKind
    files: tuple[int, ...]


# Longer than this between the end of a frame and the beginning of the next is another group [s].
_APART_S = 20.0
# The exposures of a bracket begin within this of each other: later the light is another [s].
_BRACKET_S = 120.0
_BURST_PER_S = 2.0
_STEP_STOPS = 0.25


def groups_of(files: Sequence[Shown]) -> tuple[Group, ...]:
    """Return files, in the order of the camera's clock, in groups."""
    runs: list[list[int]] = []
    for at, file in enumerate(files):
        before = files[at - 1] if at else None
        if before is not None and _close(before, file) and _same_camera(before, file):
            runs[-1].append(at)
        else:
            runs.append([at])
    return tuple(group for run in runs for group in _kinds(files, run))


def _close(before: Shown, after: Shown) -> bool:
    gap = (after.clock - before.clock).total_seconds() - (before.shutter_s or 0.0)
    # After a long exposure comes a dark frame as long as it.
    return gap <= _APART_S + (before.shutter_s or 0.0)


def _same_camera(one: Shown, other: Shown) -> bool:
    return one.f_number == other.f_number and one.focal_mm == other.focal_mm


def _stops(files: Sequence[Shown], at: int) -> float:
    return math.log2((files[at].shutter_s or 1.0) * (files[at].iso or 100.0))


def _kinds(files: Sequence[Shown], run: list[int]) -> list[Group]:
    if len(run) == 1:
        return [Group(GroupKind.SINGLE, tuple(run))]
    levels = [_stops(files, at) for at in run]
    if max(levels) - min(levels) < _STEP_STOPS:
        span = (files[run[-1]].clock - files[run[0]].clock).total_seconds()
        fast = span <= (len(run) - 1) / _BURST_PER_S
        return [Group(GroupKind.BURST if fast else GroupKind.SERIES, tuple(run))]
    return _brackets(files, run, levels)


def _brackets(files: Sequence[Shown], run: list[int], levels: list[float]) -> list[Group]:
    """Return a run whose exposure changes, divided where it returns to a level that the current bracket already has,
    or pauses too long.
    """
    made: list[list[int]] = [[]]
    had: list[float] = []
    for at, level in zip(run, levels, strict=True):
        late = made[-1] and (files[at].clock - files[made[-1][-1]].clock).total_seconds() > _BRACKET_S
        if late or any(abs(level - other) < _STEP_STOPS for other in had):
            made.append([])
            had = []
        made[-1].append(at)
        had.append(level)
    return [Group(GroupKind.BRACKET if len(group) > 1 else GroupKind.SINGLE, tuple(group)) for group in made]
