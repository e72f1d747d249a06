"""A taken frame beside the planned frame."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import TypedDict

from ..planning.wording import joined
from .cells import Cells


@dataclass(frozen=True)
class CameraSettings:
    """None: not known."""

    f_number: float | None = None
    shutter_s: float | None = None
    iso: float | None = None
    focal_mm: float | None = None
    focus_m: float | None = None


@dataclass(frozen=True)
class JudgedGroup:
    """A group of frames as it becomes a picture.

    stitched: each of its aims is needed; stacked: each of its focus positions is; best: of a frame taken several times
    one is enough. beside: nothing of the picture is made of it. aims: of a panorama that is stacked, which places
    belong to one aim; empty where each place is an aim.
    """

    name: str = ""
    stitched: bool = False
    stacked: bool = False
    best: bool = False
    beside: bool = False
    aims: tuple[tuple[int, ...], ...] = ()

    def aim_of(self, place: int) -> int:
        """Return which aim of a panorama a place belongs to."""
        return next((at for at, places in enumerate(self.aims) if place in places), place)


@dataclass(frozen=True, kw_only=True)
class JudgedFrame:
    """A frame to be judged.

    number: in the plan, 0 of a frame without one. place, exposure: within its group. planned_clipped: share that the
    plan lets clip; None if unknown. error_ev: brighter than predicted, without the effect of settings and drift.
    """

    number: int
    group: int
    place: int
    exposure: int
    cells: Cells
    clipped_share: float
    clipped_channel: str
    error_ev: float | None
    moved: bool
    file_name: str = ""
    planned_clipped: float | None = None
    planned: CameraSettings = CameraSettings()
    taken: CameraSettings = CameraSettings()


class Named(TypedDict):
    """Figures that say which frames a finding is about: their numbers in the plan and the names of their files."""

    numbers: tuple[int, ...]
    files: tuple[str, ...]


def named(frames: Sequence[JudgedFrame]) -> Named:
    """Return which frames a finding is about."""
    return Named(
        numbers=tuple(sorted({frame.number for frame in frames})), files=tuple(frame.file_name for frame in frames)
    )


def numbered(numbers: Sequence[int]) -> str:
    """Return frames of a plan as a sentence begins with them: Frame 3; Frames 1 to 6; Frames 2, 5 and 6."""
    if len(numbers) == 1:
        return f"Frame {numbers[0]}"
    runs: list[list[int]] = []
    for number in numbers:
        if runs and number == runs[-1][-1] + 1:
            runs[-1].append(number)
        else:
            runs.append([number])
    parts = [part for run in runs for part in ([f"{run[0]} to {run[-1]}"] if len(run) > 2 else map(str, run))]
    return f"Frames {joined(parts)}"
