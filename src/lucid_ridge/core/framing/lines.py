"""Lines that lead: where a path, stream, wall or shore enters the frame, and what it points at."""

from __future__ import annotations

import math
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from .outlines import NEAREST_M
from .projection import Camera, view_matrix

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class LeadingLine:
    """A line in the window (0..1): where it comes in, its edge (None where it begins inside), where it ends, and the
    direction there.
    """

    enters: tuple[float, float]
    edge: str | None
    ends: tuple[float, float]
    direction: tuple[float, float]

    def off_target(self, x: float, y: float, aspect: float) -> float:
        """Return the distance at which the line's continuation passes a point [share of the width]; for a point behind
        its end, the distance from that end.
        """
        run = (self.direction[0], self.direction[1] / aspect)
        to = (x - self.ends[0], (y - self.ends[1]) / aspect)
        length = math.hypot(*run)
        if length == 0:
            return math.hypot(*to)
        ahead = (to[0] * run[0] + to[1] * run[1]) / length
        return math.hypot(*to) if ahead <= 0 else abs(to[0] * run[1] - to[1] * run[0]) / length


def leading_line(camera: Camera, course: Floats, window: tuple[float, float, float, float]) -> LeadingLine | None:
    """Return how a course (n, 3; near end first) leads through the window of a frame; None where nothing of it is
    seen.
    """
    placed = np.column_stack((course, np.ones(len(course)))) @ view_matrix(camera).T
    segments = []
    for here, there in pairwise(placed):
        cut = _in_front(here, there)
        if cut is None:
            continue
        ends = [
            ((point[0] / point[2] - window[0]) / window[2], (point[1] / point[2] - window[1]) / window[3])
            for point in cut
        ]
        inside = _inside(ends[0], ends[1])
        if inside is not None:
            segments.append(inside)
    if not segments:
        return None
    (enters, edge), (ends_at, run) = (segments[0][0], segments[0][2]), (segments[-1][1], segments[-1][3])
    return LeadingLine(enters, edge, ends_at, run)


def _in_front(here: Floats, there: Floats) -> tuple[Floats, Floats] | None:
    if here[2] < NEAREST_M and there[2] < NEAREST_M:
        return None
    if here[2] < NEAREST_M or there[2] < NEAREST_M:
        middle = here + (there - here) * (NEAREST_M - here[2]) / (there[2] - here[2])
        return (middle, there) if here[2] < NEAREST_M else (here, middle)
    return here, there


def _inside(
    start: tuple[float, float], end: tuple[float, float]
) -> tuple[tuple[float, float], tuple[float, float], str | None, tuple[float, float]] | None:
    """Return the part of a segment inside the window: entry, exit, the edge it enters at (None inside), direction.

    Source: Liang and Barsky 1984.
    """
    run = (end[0] - start[0], end[1] - start[1])
    first, last, edge = 0.0, 1.0, None
    for slope, room, name in (
        (-run[0], start[0], "left"),
        (run[0], 1 - start[0], "right"),
        (-run[1], start[1], "top"),
        (run[1], 1 - start[1], "bottom"),
    ):
        if slope == 0:
            if room < 0:
                return None
            continue
        at = room / slope
        if slope < 0 and at > first:
            first, edge = at, name
        elif slope > 0:
            last = min(last, at)
    if first >= last:
        return None
    return (
        (start[0] + first * run[0], start[1] + first * run[1]),
        (start[0] + last * run[0], start[1] + last * run[1]),
        edge,
        run,
    )
