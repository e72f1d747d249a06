"""Camera files: JPEG, HEIF, TIFF, DNG and the usual raw files, read for their settings, linear light and a small
preview. Nothing else is kept.

Sources: [1] CIPA DC-008 (Exif 2.32): ExposureTime, FNumber, PhotographicSensitivity, DateTimeOriginal,
OffsetTimeOriginal, FocalLength, SubjectDistance, BodySerialNumber. A camera's tone curve changes the light of
processed files, so only raw files are called linear.
"""

from __future__ import annotations

import hashlib
import io
import math
import re
from dataclasses import dataclass
from datetime import datetime
from typing import Any

import exifread
import numpy as np
from numpy.typing import NDArray
from PIL import Image

from ..core.tones.response import srgb_from_linear
from .camera_pixels import FinePixels, plain_pixels, raw_pixels
from .errors import FormatError

LARGEST_BYTES = 200_000_000
_PREVIEW_PX = 360
RAW_ENDINGS = frozenset({"dng", "nef", "cr2", "cr3", "arw", "raf", "orf", "rw2", "pef", "srw", "3fr", "iiq"})
PLAIN_ENDINGS = frozenset({"jpg", "jpeg", "tif", "tiff", "heic", "heif", "hif"})
_CLOCK = re.compile(r"(\d{4}):(\d\d):(\d\d) (\d\d):(\d\d):(\d\d)", re.ASCII)
_OFFSET = re.compile(r"([+-])(\d\d):(\d\d)", re.ASCII)


@dataclass(frozen=True)
class CameraFile:
    """The content of a file. clock: camera time, None if missing; utc_offset_min: of that clock, positive east of
    Greenwich. model: of the camera; serial: of its body.

    picture, fine: see Pixels; is_linear: whether they are proportional to the sensor's signal. sha256: of the content,
    by which the same file is recognised. preview: a small JPEG.
    """

    name: str
    sha256: str
    clock: datetime | None
    utc_offset_min: int | None
    f_number: float | None
    shutter_s: float | None
    iso: float | None
    focal_mm: float | None
    focus_m: float | None
    model: str
    serial: str
    pixels_wide: int
    pixels_high: int
    picture: NDArray[np.float32]
    fine: FinePixels
    is_linear: bool
    preview: bytes


def read_camera_file(name: str, content: bytes) -> CameraFile:
    """Return the content of a camera file. Raises FormatError if it is none, damaged or too large."""
    ending = name.rpartition(".")[2].lower()
    if not content:
        raise FormatError("The file is empty.")
    if len(content) > LARGEST_BYTES:
        raise FormatError(f"The file has {len(content) / 1e6:.0f} MB; at most {LARGEST_BYTES / 1e6:.0f} MB are read.")
    if ending not in RAW_ENDINGS | PLAIN_ENDINGS:
        raise FormatError(
            "This is no kind of file that cameras write: use JPEG, HEIC, TIFF, DNG or the camera's raw file."
        )
    raw = ending in RAW_ENDINGS
    pixels = raw_pixels(content) if raw else plain_pixels(content)
    tags = _tags(content if pixels.exif is None else pixels.exif.removeprefix(b"Exif\0\0"))
    return CameraFile(
        name=name,
        sha256=hashlib.sha256(content).hexdigest(),
        clock=_clock(tags),
        utc_offset_min=_utc_offset_min(tags),
        f_number=_number(tags, "FNumber", 0.4, 200),
        shutter_s=_number(tags, "ExposureTime", 1e-7, 1e6),
        iso=_number(tags, "ISOSpeedRatings", 1, 1e7),
        focal_mm=_number(tags, "FocalLength", 0.5, 5000),
        focus_m=_number(tags, "SubjectDistance", 0.001, 1e6),
        model=_text(tags, "Model"),
        serial=_text(tags, "BodySerialNumber"),
        pixels_wide=pixels.wide,
        pixels_high=pixels.high,
        picture=pixels.picture,
        fine=pixels.fine,
        is_linear=raw,
        preview=_preview(pixels.picture),
    )


def _preview(picture: NDArray[np.float32]) -> bytes:
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
        # A file without readable settings is still accepted, without settings.
        return {}


def _found(tags: dict[str, Any], name: str) -> Any:
    return tags.get(f"EXIF {name}") or tags.get(f"Image {name}")


def _number(tags: dict[str, Any], name: str, low: float, high: float) -> float | None:
    found = _found(tags, name)
    try:
        first = found.values[0] if found is not None else math.nan
        # A ratio with denominator zero is read as its numerator.
        value = float(first) if getattr(first, "den", 1) else math.nan
    except (TypeError, ValueError, IndexError, ZeroDivisionError, OverflowError):
        return None
    return value if math.isfinite(value) and low <= value <= high else None


def _text(tags: dict[str, Any], name: str) -> str:
    found = _found(tags, name)
    return "".join(letter for letter in str(found) if letter.isprintable())[:100].strip() if found is not None else ""


def _clock(tags: dict[str, Any]) -> datetime | None:
    """Return when the shutter opened by the camera's clock, to the hundredth if recorded. Source: [1]."""
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


def _utc_offset_min(tags: dict[str, Any]) -> int | None:
    """Return the camera clock's offset from UTC [min]; None if the file has none. Source: [1], OffsetTimeOriginal."""
    match = _OFFSET.fullmatch(_text(tags, "OffsetTimeOriginal") or _text(tags, "OffsetTime"))
    if match is None:
        return None
    minutes = int(match[2]) * 60 + int(match[3])
    return (minutes if match[1] == "+" else -minutes) if minutes <= 14 * 60 else None
