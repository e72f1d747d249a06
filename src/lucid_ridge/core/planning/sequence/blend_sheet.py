"""Step 6, the blend sheet: which frames belong together, and how they become one picture later."""

from __future__ import annotations

from collections.abc import Callable, Hashable, Sequence
from dataclasses import dataclass

from ...facts.frame_groups import FrameGroup, Together
from .groups import PlannedGroup
from .plan import SequenceStep
from .timeline import Frame


@dataclass(frozen=True)
class BlendStep:
    """One step: how frames, or what earlier steps made of them, are put together.

    sets: the frames of each by their numbers.
    """

    how: Together
    sets: tuple[tuple[int, ...], ...]

    @property
    def words(self) -> str:
        """What to do, as a sentence says it."""
        each = [_span(numbers) for numbers in self.sets]
        if len(each) == 1:
            return f"{self.how.label}: {each[0]}"
        return (
            f"{self.how.label}, {len(each)} times: {', '.join(each)}"
            if len(each) < 5
            else f"{self.how.label}, {len(each)} times: {each[0]}, {each[1]} … {each[-1]}"
        )


@dataclass(frozen=True)
class BlendRow:
    """A group of the sheet. at: where it stands in the list of groups; steps: in the order in which they are done."""

    at: int
    group: FrameGroup
    frames: tuple[int, ...]
    steps: tuple[BlendStep, ...]

    @property
    def span(self) -> str:
        return _span(self.frames)


@dataclass(frozen=True)
class BlendSheet:
    """rows: in the order in which they are taken.

    last: how what the groups became is put together; None of one group alone.
    """

    rows: tuple[BlendRow, ...]
    last: str | None


def blend_sheet(step: SequenceStep) -> BlendSheet:
    """Return the groups of frames to blend in a sequence; empty without frames."""
    rows = []
    for at in step.order:
        frames = [frame for frame in step.frames if frame.group == at]
        rows.append(
            BlendRow(
                at, step.groups[at].group, tuple(frame.number for frame in frames), _steps(step.groups[at], frames)
            )
        )
    picture = [row for row in rows if row.group.in_the_picture]
    last = None
    if len(picture) > 1:
        hows = {row.group.together for row in picture}
        how = (
            Together.STACK if hows == {Together.STACK} else Together.BEST if hows == {Together.BEST} else Together.BLEND
        )
        last = f"{how}: {', '.join(row.group.called for row in picture)}"
    return BlendSheet(tuple(rows), last)


def _steps(group: PlannedGroup, frames: Sequence[Frame]) -> tuple[BlendStep, ...]:
    """Return the steps within a group: the same frame taken again, its exposures, its focus positions, its aims."""
    several = len(group.sets) > 1
    found = []
    if group.group.count > 1:
        asked = group.group.together
        how = asked if asked in (Together.BEST, Together.AVERAGE, Together.LIGHTEN) else Together.BEST
        found.append(
            BlendStep(
                how,
                _sets(frames, lambda frame: (frame.aim, frame.object_distance_m, frame.rail_mm, frame.exposure_index)),
            )
        )
    if several:
        found.append(
            BlendStep(
                Together.BRACKET, _sets(frames, lambda frame: (frame.aim, frame.object_distance_m, frame.rail_mm))
            )
        )
    if len(group.positions) > 1:
        found.append(BlendStep(Together.STACK, _sets(frames, lambda frame: frame.aim)))
    if len(group.aims) > 1:
        found.append(BlendStep(Together.STITCH, (tuple(frame.number for frame in frames),)))
    return tuple(found)


def _sets(frames: Sequence[Frame], key: Callable[[Frame], Hashable]) -> tuple[tuple[int, ...], ...]:
    found: dict[Hashable, list[int]] = {}
    for frame in frames:
        found.setdefault(key(frame), []).append(frame.number)
    return tuple(tuple(numbers) for numbers in found.values())


def _span(numbers: Sequence[int]) -> str:
    """Return frame numbers as they are read: 1 to 3, or 1, 4, 7."""
    if len(numbers) == 1:
        return str(numbers[0])
    if list(numbers) == list(range(numbers[0], numbers[-1] + 1)):
        return f"{numbers[0]} to {numbers[-1]}" if len(numbers) > 2 else f"{numbers[0]} and {numbers[1]}"
    return ", ".join(map(str, numbers)) if len(numbers) < 5 else f"{numbers[0]}, {numbers[1]} … {numbers[-1]}"
