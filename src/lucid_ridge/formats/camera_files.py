"""Files from a camera: JPEG, TIFF, DNG and the usual raw files, read for their settings, their linear light and a small preview; nothing else of them is kept.

Sources: [1] CIPA DC-008 (Exif 2.32): ExposureTime, FNumber, PhotographicSensitivity, DateTimeOriginal, OffsetTimeOriginal, FocalLength; [2] IEC 61966-2-1 for linearising what is
no raw file; a camera's own tone curve bends that, so such light is not called linear.
"""

from __future__ import annotations

import hashlib
import io
import math
import re
import warnings
from dataclasses import dataclass
from datetime import datetime
from typing import Any

import exifread
import numpy as np
import rawpy
from numpy.typing import NDArray
from PIL import Image, ImageOps, UnidentifiedImageError

from ..core.tones.response import linear_from_srgb, srgb_from_linear
from .errors import FormatError
from .rgb import as_rgb

Floats = NDArray[np.float64]
LARGEST_BYTES = 200_000_000
_MOST_PIXELS = 250_000_000
# On its longer side a picture is judged at no more than this: a circle of confusion is then about two points.
JUDGED_PX = 2400
_PREVIEW_PX = 360
RAW_ENDINGS = frozenset({"dng", "nef", "cr2", "cr3", "arw", "raf", "orf", "rw2", "pef", "srw", "3fr", "iiq"})
PLAIN_ENDINGS = frozenset({"jpg", "jpeg", "tif", "tiff"})
_CLOCK = re.compile(r"(\d{4}):(\d\d):(\d\d) (\d\d):(\d\d):(\d\d)", re.ASCII)
_SRGB = linear_from_srgb(np.arange(256) / 255)


@dataclass(frozen=True)
class CameraFile:
    """What a file tells. clock: of the camera, None where it does not say. picture: (high, wide, 3), 1 at saturation; is_linear: whether it is so by the sensor's own count.

    sha256: of the content, by which the same file is known again. preview: a small JPEG.
    """

    name: str
    sha256: str
    clock: datetime | None
    f_number: float | None
    shutter_s: float | None
    iso: float | None
    focal_mm: float | None
    model: str
    pixels_wide: int
    pixels_high: int
    picture: Floats
    is_linear: bool
    preview: bytes


def read_camera_file(name: str, content: bytes) -> CameraFile:
    """Return what a camera's file tells. Raises FormatError for what is none, is damaged or too large."""
    ending = name.rpartition(".")[2].lower()
    if not content:
        raise FormatError("The file is empty.")
    if len(content) > LARGEST_BYTES:
        raise FormatError(f"The file has {len(content) / 1e6:.0f} MB; at most {LARGEST_BYTES / 1e6:.0f} MB are read.")
    if ending not in RAW_ENDINGS | PLAIN_ENDINGS:
        raise FormatError("This is no kind of file that cameras write: use JPEG, TIFF, DNG or the camera's raw file.")
    raw = ending in RAW_ENDINGS
    picture, wide, high = _raw_picture(content) if raw else _plain_picture(content)
    tags = _tags(content)
    return CameraFile(
        name, hashlib.sha256(content).hexdigest(), _clock(tags), _number(tags, "FNumber", 0.4, 200), _number(tags, "ExposureTime", 1e-7, 1e6),
        _number(tags, "ISOSpeedRatings", 1, 1e7), _number(tags, "FocalLength", 0.5, 5000), _text(tags, "Model"), wide, high, picture, raw, _preview(picture),
    )  # fmt: skip


def _plain_picture(content: bytes) -> tuple[Floats, int, int]:
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            with Image.open(io.BytesIO(content), formats=("JPEG", "TIFF")) as image:
                if image.width * image.height > _MOST_PIXELS:
                    raise FormatError(f"The picture has more than {_MOST_PIXELS / 1e6:.0f} million pixels.")
                shown = as_rgb(ImageOps.exif_transpose(image))
                wide, high = shown.size
                values = np.asarray(shown, dtype=np.uint8)
    except FormatError:
        raise
    except (UnidentifiedImageError, Image.DecompressionBombError):
        raise FormatError("The file is no picture that can be read.") from None
    except Exception:
        # Pillow raises many kinds for damaged files.
        raise FormatError("The picture is damaged and cannot be read to its end.") from None
    # Made smaller in linear light, in which means mean something.
    return _smaller(_SRGB[values]), wide, high


def _raw_picture(content: bytes) -> tuple[Floats, int, int]:
    try:
        with rawpy.imread(io.BytesIO(content)) as raw:
            sizes = raw.sizes
            if sizes.raw_width * sizes.raw_height > _MOST_PIXELS:
                raise FormatError(f"The picture has more than {_MOST_PIXELS / 1e6:.0f} million pixels.")
            if raw.raw_image is None or raw.raw_image.ndim != 2:
                raise FormatError("This raw file holds no mosaic that can be counted: use its JPEG.")
            values = raw.raw_image_visible.astype(np.float64)
            colours = raw.raw_colors_visible
            black = np.asarray(raw.black_level_per_channel, dtype=np.float64)
            white = float(raw.white_level)
            turned = sizes.flip
    except FormatError:
        raise
    except Exception:
        # LibRaw raises many kinds for what is damaged or unknown to it.
        raise FormatError("The raw file is damaged, or of a kind that cannot be read.") from None
    if white <= black.min() or values.size < 16:
        raise FormatError("The raw file's levels make no sense.")
    level = np.clip((values - black[np.minimum(colours, len(black) - 1)]) / (white - black[np.minimum(colours, len(black) - 1)]), 0.0, 1.0)
    picture = _by_twos(level, colours)
    picture = np.rot90(picture, {3: 2, 5: 1, 6: 3}.get(turned, 0))
    return _smaller(np.ascontiguousarray(picture)), picture.shape[1] * 2, picture.shape[0] * 2


def _by_twos(level: Floats, colours: NDArray[Any]) -> Floats:
    """Return red, green and blue of each two by two points: nothing is guessed between them."""
    high, wide = (side - side % 2 for side in level.shape)
    channel = np.where(colours[:high, :wide] == 3, 1, colours[:high, :wide])
    made = np.zeros((high // 2, wide // 2, 3))
    counted = np.zeros((high // 2, wide // 2, 3))
    for row in (0, 1):
        for column in (0, 1):
            of, value = channel[row::2, column::2], level[row:high:2, column:wide:2]
            for index in range(3):
                made[..., index] += np.where(of == index, value, 0.0)
                counted[..., index] += of == index
    return np.asarray(made / np.maximum(counted, 1))


def _smaller(picture: Floats) -> Floats:
    """Return a picture of linear light with its longer side at most as long as is judged, by whole blocks."""
    step = math.ceil(max(picture.shape[:2]) / JUDGED_PX)
    if step <= 1:
        return picture
    high, wide = (side - side % step for side in picture.shape[:2])
    return np.asarray(picture[:high, :wide].reshape(high // step, step, wide // step, step, 3).mean(axis=(1, 3)))


def _preview(picture: Floats) -> bytes:
    step = max(1, math.ceil(max(picture.shape[:2]) / _PREVIEW_PX))
    small = picture[::step, ::step]
    shown = srgb_from_linear(small)
    out = io.BytesIO()
    Image.fromarray(np.round(np.clip(shown, 0, 1) * 255).astype(np.uint8), "RGB").save(out, "JPEG", quality=72)
    return out.getvalue()


def _tags(content: bytes) -> dict[str, Any]:
    try:
        return dict(exifread.process_file(io.BytesIO(content), details=False))
    except Exception:
        # A file without readable settings is still a file; it then says nothing of them.
        return {}


def _found(tags: dict[str, Any], name: str) -> Any:
    return tags.get(f"EXIF {name}") or tags.get(f"Image {name}")


def _number(tags: dict[str, Any], name: str, low: float, high: float) -> float | None:
    found = _found(tags, name)
    try:
        first = found.values[0] if found is not None else math.nan
        # A ratio over nothing is read as its numerator.
        value = float(first) if getattr(first, "den", 1) else math.nan
    except (TypeError, ValueError, IndexError, ZeroDivisionError, OverflowError):
        return None
    return value if math.isfinite(value) and low <= value <= high else None


def _text(tags: dict[str, Any], name: str) -> str:
    found = _found(tags, name)
    return "".join(letter for letter in str(found) if letter.isprintable())[:100].strip() if found is not None else ""


def _clock(tags: dict[str, Any]) -> datetime | None:
    """Return when the shutter opened by the camera's clock, to the hundredth where it says so. Source: [1]."""
    found = _found(tags, "DateTimeOriginal") or tags.get("Image DateTime")
    match = _CLOCK.match(str(found)) if found is not None else None
    if match is None:
        return None
    try:
        year, month, day, hour, minute, second = (int(part) for part in match.groups())
        clock = datetime(year, month, day, hour, minute, second)
    except ValueError:
        return None
    parts = _text(tags, "SubSecTimeOriginal")
    return clock.replace(microsecond=int(float(f"0.{parts}") * 1e6)) if parts.isascii() and parts.isdigit() else clock
