"""The pixels of a camera file as linear light, strip by strip, so that a large picture needs little more memory than
its decoded bytes.

Source: [1] IEC 61966-2-1, to linearise processed files.
"""

from __future__ import annotations

import io
import math
import warnings
from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
import pillow_heif
import rawpy
from numpy.typing import NDArray
from PIL import ExifTags, Image, UnidentifiedImageError

from ..core.tones.response import linear_from_srgb
from .errors import FormatError
from .rgb import MOST_PIXELS, as_rgb

pillow_heif.register_heif_opener(thumbnails=False)

Counts = NDArray[np.uint16]
# The longer side of the picture kept for tones; sharpness is measured at a higher resolution.
JUDGED_PX = 2400
# Above this, tones are read from a picture of half the size.
_TONES_FROM_PIXELS = 30_000_000
# Above this a JPEG is decoded at a half or a quarter of its size, which its decoder does without holding it whole.
# Other files are always held whole.
_JPEG_WHOLE_UPTO_PIXELS, _OTHERS_UPTO_PIXELS = 48_000_000, 64_000_000
_STRIP_ROWS = 256
FULL_SCALE = 65_535
# Linear light by sRGB value, in 16 bits. Source: [1].
_LINEAR = np.round(linear_from_srgb(np.arange(256) / 255) * FULL_SCALE).astype(np.uint16)
# How a stored picture is turned upright: mirrored left to right first, then a number of quarter turns counter-
# clockwise. Source: CIPA DC-008, Orientation.
_TURNS = {2: (True, 0), 3: (False, 2), 4: (True, 2), 5: (True, 1), 6: (False, 3), 7: (True, 3), 8: (False, 1)}
_RAW_TURNS = {3: 2, 5: 1, 6: 3}


@dataclass(frozen=True)
class Turn:
    """How a picture is turned upright: mirrored left to right first, then by quarter turns counter-clockwise."""

    mirrored: bool = False
    quarters: int = 0

    def upright(self, picture: NDArray[Any]) -> NDArray[Any]:
        return np.rot90(picture[:, ::-1] if self.mirrored else picture, self.quarters)

    def stored(self, x: float, y: float) -> tuple[float, float]:
        """Return the stored position of a position in the upright picture, as shares of width and height."""
        for _ in range(self.quarters):
            x, y = 1 - y, x
        return (1 - x if self.mirrored else x), y


@dataclass(frozen=True)
class FinePixels:
    """The grey of linear light at decoding resolution, in patches.

    wide, high: of the upright picture. strip: reads rows of the stored picture, from left, top, right, bottom.
    """

    wide: int
    high: int
    turn: Turn
    strip: Callable[[int, int, int, int], Counts]

    def patch(self, x: float, y: float, size_px: int) -> NDArray[np.float64]:
        """Return the square around a position, x and y as shares of width and height; moved inside at the edges."""
        wide, high = (self.high, self.wide) if self.turn.quarters % 2 else (self.wide, self.high)
        half = min(size_px, wide, high) // 2
        column, row = (
            max(half, min(side - half, round(share * side)))
            for share, side in zip(self.turn.stored(x, y), (wide, high), strict=True)
        )
        counts = self.strip(column - half, row - half, column + half, row + half)
        return self.turn.upright(counts.mean(axis=2) / FULL_SCALE)


@dataclass(frozen=True)
class Pixels:
    """Pixels of a file.

    picture: linear light (high, wide, 3), 1 at saturation, at most JUDGED_PX long. wide, high: of the upright file.
    exif: of a HEIF, which only its decoder finds.
    """

    picture: NDArray[np.float32]
    fine: FinePixels
    wide: int
    high: int
    exif: bytes | None = None


def plain_pixels(content: bytes) -> Pixels:
    """Read a JPEG, TIFF or HEIF. Raises FormatError if it is none, damaged or too large."""
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            return _of_image(content)
    except FormatError:
        raise
    except (UnidentifiedImageError, Image.DecompressionBombError):
        raise FormatError("The file is no picture that can be read.") from None
    except Exception:
        # Pillow raises many kinds of errors for damaged files.
        raise FormatError("The picture is damaged and cannot be read to its end.") from None


def _of_image(content: bytes) -> Pixels:
    with Image.open(io.BytesIO(content), formats=("JPEG", "TIFF", "HEIF")) as image:
        kind, wide, high = image.format, image.width, image.height
        pixels = wide * high
        if pixels > MOST_PIXELS:
            raise FormatError(f"The picture has more than {MOST_PIXELS / 1e6:.0f} million pixels.")
        if pixels > _OTHERS_UPTO_PIXELS and kind != "JPEG":
            raise FormatError(
                f"The picture has {pixels / 1e6:.0f} million pixels; of this kind of file at most "
                f"{_OTHERS_UPTO_PIXELS / 1e6:.0f} million are read: send its JPEG."
            )
        # HEIF is turned upright while decoding.
        turn = (
            Turn(*_TURNS.get(image.getexif().get(ExifTags.Base.Orientation, 1), (False, 0)))
            if kind != "HEIF"
            else Turn()
        )
        if kind == "JPEG" and pixels > _JPEG_WHOLE_UPTO_PIXELS:
            part = 2 if pixels <= 4 * _JPEG_WHOLE_UPTO_PIXELS else 4
            image.draft("RGB", (wide // part, high // part))
        image.load()
        tones = image.reduce(2) if image.mode == "RGB" and image.width * image.height > _TONES_FROM_PIXELS else image
        return replace(
            _upright(tones, image, turn, wide, high), exif=image.info.get("exif") if kind == "HEIF" else None
        )


def _upright(tones: Image.Image, fine: Image.Image, turn: Turn, wide: int, high: int) -> Pixels:
    """Turn a picture upright and average it. tones: the picture, or half of it; fine: the whole, to measure blur."""
    picture = turn.upright(_averaged(_strips_of(tones), tones.width, tones.height))
    across, down = (fine.height, fine.width) if turn.quarters % 2 else (fine.width, fine.height)
    return Pixels(
        np.ascontiguousarray(picture),
        FinePixels(across, down, turn, _strips_of(fine)),
        *((high, wide) if turn.quarters % 2 else (wide, high)),
    )


def _strips_of(image: Image.Image) -> Callable[[int, int, int, int], Counts]:
    def strip(left: int, top: int, right: int, below: int) -> Counts:
        part = image.crop((left, top, right, below))
        return np.asarray(_LINEAR[np.asarray(part if part.mode == "RGB" else as_rgb(part))])

    return strip


def raw_pixels(content: bytes) -> Pixels:
    """Read a raw file from its mosaic: red, green and blue of each two by two points, without interpolation.

    Raises FormatError.
    """
    try:
        with rawpy.imread(io.BytesIO(content)) as raw:
            return _of_mosaic(raw)
    except FormatError:
        raise
    except Exception:
        # LibRaw raises many kinds of errors for damaged or unknown files.
        raise FormatError("The raw file is damaged, or of a kind that cannot be read.") from None


def _of_mosaic(raw: Any) -> Pixels:
    sizes = raw.sizes
    if sizes.raw_width * sizes.raw_height > MOST_PIXELS:
        raise FormatError(f"The picture has more than {MOST_PIXELS / 1e6:.0f} million pixels.")
    if raw.raw_image is None or raw.raw_image.ndim != 2:
        raise FormatError("This raw file holds no mosaic that can be counted: use its JPEG.")
    # Copies, because blur is measured after the file is closed.
    values, colours = raw.raw_image_visible.copy(), raw.raw_colors_visible.copy()
    black = np.asarray(raw.black_level_per_channel, dtype=np.float64)
    white = float(raw.white_level)
    if white <= black.min() or values.size < 16:
        raise FormatError("The raw file's levels make no sense.")
    high, wide = (side // 2 for side in values.shape)

    def strip(left: int, top: int, right: int, below: int) -> Counts:
        of = colours[2 * top : 2 * below, 2 * left : 2 * right]
        at = np.minimum(of, len(black) - 1)
        level = np.clip((values[2 * top : 2 * below, 2 * left : 2 * right] - black[at]) / (white - black[at]), 0.0, 1.0)
        return np.asarray(np.round(_by_twos(level, of) * FULL_SCALE), dtype=np.uint16)

    turn = Turn(quarters=_RAW_TURNS.get(sizes.flip, 0))
    picture = turn.upright(_averaged(strip, wide, high))
    across, down = (high, wide) if turn.quarters % 2 else (wide, high)
    return Pixels(np.ascontiguousarray(picture), FinePixels(across, down, turn, strip), across * 2, down * 2)


def _by_twos(level: NDArray[np.float64], colours: NDArray[Any]) -> NDArray[np.float64]:
    """Return red, green and blue of each two by two points."""
    channel = np.where(colours == 3, 1, colours)
    made = np.zeros((level.shape[0] // 2, level.shape[1] // 2, 3))
    counted = np.zeros_like(made)
    for row in (0, 1):
        for column in (0, 1):
            of, value = channel[row::2, column::2], level[row::2, column::2]
            for index in range(3):
                made[..., index] += np.where(of == index, value, 0.0)
                counted[..., index] += of == index
    return np.asarray(made / np.maximum(counted, 1))


def _averaged(strip: Callable[[int, int, int, int], Counts], wide: int, high: int) -> NDArray[np.float32]:
    """Return a picture at most JUDGED_PX long, each point the mean of a whole block."""
    step = max(1, math.ceil(max(wide, high) / JUDGED_PX))
    across, down = max(1, wide // step), max(1, high // step)
    picture = np.empty((down, across, 3), dtype=np.float32)
    rows = max(1, _STRIP_ROWS // step)
    for top in range(0, down, rows):
        below = min(down, top + rows)
        blocks = strip(0, top * step, across * step, below * step).reshape(below - top, step, across, step, 3)
        # Rows and columns are added one by one: sums over such a short axis take several times as long.
        sums = sum((blocks[:, at] for at in range(1, step)), start=blocks[:, 0].astype(np.uint32))
        sums = sum((sums[:, :, at] for at in range(1, step)), start=sums[:, :, 0])
        picture[top:below] = sums * (1 / (step * step * FULL_SCALE))
    return picture
