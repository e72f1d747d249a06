"""How much of the frame each element takes as one sees it, near before far, and how much stays bare."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

_ACROSS = 48
_SIDES = (("left", "right"), ("upper", "lower"))


@dataclass(frozen=True)
class Coverage:
    """shares: of the window's area, one an element in the order given, what nearer ones hide left out.

    bare: neither solid nor water.

    emptiest: the quarter with most bare room, such as "upper left".
    """

    shares: tuple[float, ...]
    bare: float
    emptiest: str


def coverage(
    outlines: Sequence[Sequence[NDArray[np.float64]]],
    distances_m: Sequence[float],
    window: tuple[float, float, float, float],
    aspect: float,
) -> Coverage:
    """Return the coverage of a window (left, top, width, height, shares of the frame) by outlines; aspect: the
    window's width over height.

    Counted on a grid of 48 points across: good to about one per cent of the frame.
    """
    rows = max(8, round(_ACROSS / aspect))
    x = window[0] + (np.arange(_ACROSS) + 0.5) / _ACROSS * window[2]
    y = window[1] + (np.arange(rows) + 0.5) / rows * window[3]
    owner = np.full((rows, _ACROSS), -1)
    for index in sorted(range(len(outlines)), key=lambda item: -distances_m[item]):
        for polygon in outlines[index]:
            _fill(owner, polygon, x, y, index)
    total = owner.size
    bare = owner < 0
    halves = (bare[:, : _ACROSS // 2], bare[:, _ACROSS // 2 :]), (bare[: rows // 2], bare[rows // 2 :])
    words = [
        pair[0] if first.mean() >= second.mean() else pair[1]
        for pair, (first, second) in zip(_SIDES, halves, strict=True)
    ]
    return Coverage(
        tuple(float(np.count_nonzero(owner == index)) / total for index in range(len(outlines))),
        float(bare.mean()),
        f"{words[1]} {words[0]}",
    )


def _fill(
    owner: NDArray[np.int_], polygon: NDArray[np.float64], x: NDArray[np.float64], y: NDArray[np.float64], index: int
) -> None:
    """Mark the grid's points inside a polygon, by the crossings of each row with its sides."""
    following = np.roll(polygon, -1, axis=0)
    crosses = (polygon[:, 1] > y[:, None]) != (following[:, 1] > y[:, None])
    run = following - polygon
    with np.errstate(divide="ignore", invalid="ignore"):
        at = polygon[:, 0] + (y[:, None] - polygon[:, 1]) / run[:, 1] * run[:, 0]
    # An odd number of crossings to the right of a point is inside.
    right = crosses[:, :, None] & (at[:, :, None] > x)
    owner[np.count_nonzero(right, axis=1) % 2 == 1] = index
