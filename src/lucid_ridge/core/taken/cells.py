"""A picture as a grid of cells with what each shows: so little is kept of a file that any place of a plan can still be looked up."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from .pixels import Blur, BlurKind, Clipping, blur_of, clipping, detail, frame_blur, patch_at

Floats = NDArray[np.float64]
ACROSS, DOWN = 18, 12
# A patch to judge blur by: as large a share of the picture, within what a spectrum needs and a computer likes [px].
_PATCH_SHARE, _LEAST_PX, _MOST_PX = 1 / 14, 32, 96
_BLUR_PLACES = np.array([[x, y] for y in (0.25, 0.5, 0.75) for x in (0.2, 0.4, 0.6, 0.8)])


@dataclass(frozen=True)
class Cells:
    """mean: of linear light; detail: fine detail against it; sigma_px: blur, NaN where there is too little to see. Row by row, ACROSS to a row, for a landscape picture; DOWN for one
    that stands upright.
    """

    across: int
    down: int
    mean: tuple[float, ...]
    detail: tuple[float, ...]
    sigma_px: tuple[float, ...]

    def at(self, x: float, y: float) -> int:
        """Return the cell of a place, given as shares of width and height."""
        column = min(self.across - 1, max(0, int(x * self.across)))
        return min(self.down - 1, max(0, int(y * self.down))) * self.across + column


@dataclass(frozen=True)
class Seen:
    """All that is kept of a file's pixels."""

    mean: float
    clipped: Clipping
    blur: Blur
    cells: Cells


def look_at(picture: Floats) -> Seen:
    """Return what a picture of linear light (high, wide, 3) shows, 1 at saturation."""
    grey = picture.mean(axis=-1)
    high, wide = grey.shape
    across, down = (ACROSS, DOWN) if wide >= high else (DOWN, ACROSS)
    size = int(np.clip(max(high, wide) * _PATCH_SHARE, _LEAST_PX, _MOST_PX))
    means, details, sigmas = [], [], []
    for row in range(down):
        for column in range(across):
            x, y = (column + 0.5) / across, (row + 0.5) / down
            patch = patch_at(grey, x, y, size)
            cell = grey[
                row * high // down : max((row + 1) * high // down, row * high // down + 1),
                column * wide // across : max((column + 1) * wide // across, column * wide // across + 1),
            ]
            means.append(float(cell.mean()))
            details.append(detail(patch))
            sigmas.append(blur_of(patch).sigma_px if details[-1] > 0 else None)
    blur = frame_blur(grey, _BLUR_PLACES) if min(high, wide) >= 2 * _LEAST_PX else Blur(None, BlurKind.UNKNOWN)
    cells = Cells(across, down, tuple(means), tuple(details), tuple(math.nan if item is None else item for item in sigmas))
    return Seen(float(grey.mean()), clipping(picture), blur, cells)
