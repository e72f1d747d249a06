"""A picture as a grid of cells with what each shows: so little is kept of a file that any place of a plan can still be
looked up.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Protocol

import numpy as np
from numpy.typing import NDArray

from .pixels import (
    CLIPPED_FROM,
    Blur,
    BlurKind,
    Clipping,
    blur_together,
    blurs_of,
    brightest_channel,
    clipping,
    frame_blur,
    patch_at,
)
from .sharpness import USUAL_CIRCLE_SHARE, limit_sigma_px

Floats = NDArray[np.floating]
ACROSS, DOWN = 12, 8
# Light is stored more finely: objects against a bright sky are small.
FINER = 3
_CLIPPED_SHARE = 0.002
# A patch to judge blur by: as large a share of the picture, within what a spectrum needs and a computer likes [px].
_PATCH_SHARE, _LEAST_PX, _MOST_PX = 1 / 6, 48, 96
# On finer pixels a patch has this many, and tells blurs up to so many of them; of larger ones the coarse picture
# tells [px].
_FINE_PX, _FINE_UPTO_PX = 128, 3.0
_BLUR_PLACES = np.array([[x, y] for y in (0.25, 0.5, 0.75) for x in (0.2, 0.4, 0.6, 0.8)])


class Fine(Protocol):
    """A picture's grey as fine as its file has it, patch by patch; see formats.camera_pixels."""

    @property
    def wide(self) -> int: ...

    @property
    def high(self) -> int: ...

    def patch(self, x: float, y: float, size_px: int) -> Floats: ...


@dataclass(frozen=True)
class Cells:
    """A picture's figures cell by cell, row by row, ACROSS to a row for a landscape picture and DOWN for one that
    stands upright.

    mean, clipped: of linear light, and the share of it that is clipped, in cells FINER times as small each way.
    sigma_px: blur as a Gaussian's sigma in a picture long_px long, NaN where there is too little to see. moved_deg: in
    which direction something moved, NaN where nothing did.
    """

    across: int
    down: int
    mean: tuple[float, ...]
    clipped: tuple[float, ...]
    sigma_px: tuple[float, ...]
    moved_deg: tuple[float, ...]
    long_px: int

    def sharpest_px(self) -> float | None:
        """Return the blur of the second sharpest cell, since a single one may be wrong; None without a measurable
        cell.
        """
        told = sorted(value for value in self.sigma_px if math.isfinite(value))
        return told[min(1, len(told) - 1)] if told else None

    def around(self, x: float, y: float) -> list[int]:
        """Return the cell of a place and those beside it."""
        column, row = self.at(x, y) % self.across, self.at(x, y) // self.across
        rows = range(max(0, row - 1), min(self.down, row + 2))
        return [
            down * self.across + over
            for down in rows
            for over in range(max(0, column - 1), min(self.across, column + 2))
        ]

    def at(self, x: float, y: float) -> int:
        """Return the cell of a place, given as shares of width and height."""
        return _cell(self.across, self.down, x, y)

    def mean_at(self, x: float, y: float) -> float | None:
        """Return the mean of linear light at a place; None where some of it clips, so that it would come out too
        low.
        """
        at = _cell(self.across * FINER, self.down * FINER, x, y)
        return self.mean[at] if self.clipped[at] <= _CLIPPED_SHARE else None


def _cell(across: int, down: int, x: float, y: float) -> int:
    return min(down - 1, max(0, int(y * down))) * across + min(across - 1, max(0, int(x * across)))


@dataclass(frozen=True)
class Seen:
    """All that is kept of a file's pixels. blur: in the points of cells.long_px."""

    mean: float
    clipped: Clipping
    blur: Blur
    cells: Cells


def look_at(picture: Floats, fine: Fine | None = None) -> Seen:
    """Measure tones, clipping and blur of a picture of linear light (high, wide, 3), 1 at saturation.

    fine: the same picture with more points, on which small blurs are measured.
    """
    grey = (picture[..., 0] + picture[..., 1] + picture[..., 2]) / 3
    high, wide = grey.shape
    across, down = (ACROSS, DOWN) if wide >= high else (DOWN, ACROSS)
    places = [((column + 0.5) / across, (row + 0.5) / down) for row in range(down) for column in range(across)]
    long_px = max(high, wide) if fine is None else max(fine.high, fine.wide)
    times = long_px / max(high, wide)
    limit_px = limit_sigma_px(USUAL_CIRCLE_SHARE, long_px)
    size = int(np.clip(max(high, wide) * _PATCH_SHARE, _LEAST_PX, _MOST_PX))
    blurs = blurs_of(np.stack([patch_at(grey, x, y, size) for x, y in places]).astype(np.float64), limit_px / times)
    blur = (
        frame_blur(grey.astype(np.float64), _BLUR_PLACES, limit_px / times)
        if min(high, wide) >= 2 * _LEAST_PX
        else Blur(None, BlurKind.UNKNOWN)
    )
    blurs, blur = [_times(item, times) for item in blurs], _times(blur, times)
    if fine is not None and times > 1 and min(fine.wide, fine.high) >= _FINE_PX:
        finer = blurs_of(np.stack([fine.patch(x, y, _FINE_PX) for x, y in places]), limit_px)
        blurs = [_finer(coarse, close) for coarse, close in zip(blurs, finer, strict=True)]
        blur = _finer(blur, blur_together(np.stack([fine.patch(x, y, _FINE_PX) for x, y in _BLUR_PLACES]), limit_px))
    cells = Cells(
        across,
        down,
        _means(grey, across * FINER, down * FINER),
        _means((brightest_channel(picture) >= CLIPPED_FROM).astype(np.float64), across * FINER, down * FINER),
        tuple(_or_nan(item.sigma_px) for item in blurs),
        tuple(_or_nan(item.direction_deg) for item in blurs),
        long_px,
    )
    return Seen(float(grey.mean(dtype=np.float64)), clipping(picture), blur, cells)


def _times(blur: Blur, times: float) -> Blur:
    return replace(blur, sigma_px=blur.sigma_px * times) if blur.sigma_px is not None else blur


def _finer(coarse: Blur, fine: Blur) -> Blur:
    """Return the blur that is to be believed: the fine one while it is small, as a large one leaves a small patch
    nothing to see.
    """
    return fine if fine.sigma_px is not None and fine.sigma_px <= _FINE_UPTO_PX else coarse


def _or_nan(value: float | None) -> float:
    return math.nan if value is None else value


def _means(grey: Floats, across: int, down: int) -> tuple[float, ...]:
    """Return the mean of each cell of a grid; a picture with fewer points than cells lends some to several."""
    rows, columns = (
        np.arange(parts) * length // parts for length, parts in zip(grey.shape, (down, across), strict=True)
    )
    # Where two cells begin at one point each has that one.
    sums = np.add.reduceat(np.add.reduceat(grey, rows, axis=0), columns, axis=1)
    high, wide = (
        np.maximum(1, np.diff(starts, append=length))
        for starts, length in zip((rows, columns), grey.shape, strict=True)
    )
    return tuple((sums / (high[:, None] * wide)).ravel().tolist())
