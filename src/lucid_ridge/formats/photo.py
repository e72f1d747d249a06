"""A photograph as a backdrop: the picture at screen size, and its field of view from EXIF.

Sources: [1] CIPA DC-008, Exif: FocalLength, FocalLengthIn35mmFilm (equivalent on the diagonal of 36 × 24 mm),
FocalPlaneXResolution.
"""

from __future__ import annotations

import io
import math
import warnings
from dataclasses import dataclass
from typing import Any

from PIL import ExifTags, Image, ImageOps, UnidentifiedImageError

from ..core.optics.circle_of_confusion import HANDBOOK_DIAGONAL_MM
from .errors import FormatError
from .rgb import MOST_PIXELS, as_rgb

LARGEST_BYTES = 60_000_000
_SHOWN_PX = 1600
# EXIF orientations that swap width and height. Source: [1].
_ON_ITS_SIDE = (5, 6, 7, 8)
_QUALITY = 82
_UNIT_MM = {2: 25.4, 3: 10.0, 4: 1.0}


@dataclass(frozen=True)
class Photo:
    """A photograph.

    content: a JPEG without EXIF. focal_mm, sensor_*_mm: of its camera, for the upright picture; None if EXIF lacks
    them. source: of the focal length, in words.
    """

    content: bytes
    pixels_wide: int
    pixels_high: int
    focal_mm: float | None
    sensor_width_mm: float | None
    sensor_height_mm: float | None
    source: str


def read_photo(content: bytes) -> Photo:
    """Return a photograph (JPEG, PNG, TIFF or WebP). Raises FormatError if it is none, damaged or too large."""
    if not content:
        raise FormatError("The file is empty.")
    if len(content) > LARGEST_BYTES:
        raise FormatError(
            f"The picture has {len(content) / 1e6:.0f} MB; at most {LARGEST_BYTES / 1e6:.0f} MB are read."
        )
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            with Image.open(io.BytesIO(content), formats=("JPEG", "PNG", "TIFF", "WEBP")) as image:
                if image.width * image.height > MOST_PIXELS:
                    raise FormatError(
                        f"The picture has {image.width * image.height / 1e6:.0f} million pixels; at most "
                        f"{MOST_PIXELS / 1e6:.0f} are read."
                    )
                exif = image.getexif()
                details = exif.get_ifd(ExifTags.IFD.Exif)
                wide, high = image.size[::-1] if exif.get(ExifTags.Base.Orientation) in _ON_ITS_SIDE else image.size
                # A JPEG is decoded at a fraction of its size; other formats are reduced before anything else.
                image.draft("RGB", (_SHOWN_PX, _SHOWN_PX))
                image.thumbnail((_SHOWN_PX, _SHOWN_PX))
                shown = as_rgb(ImageOps.exif_transpose(image))
                out = io.BytesIO()
                shown.save(out, "JPEG", quality=_QUALITY)
    except FormatError:
        raise
    except (UnidentifiedImageError, Image.DecompressionBombError):
        raise FormatError("The file is not a picture that can be read: use JPEG, PNG, TIFF or WebP.") from None
    except Exception:
        # Pillow raises many kinds of errors for damaged files.
        raise FormatError("The picture is damaged and cannot be read to its end.") from None
    focal, sensor, source = _field(details, wide, high)
    return Photo(
        out.getvalue(), wide, high, focal, sensor[0] if sensor else None, sensor[1] if sensor else None, source
    )


def _field(details: Any, wide: int, high: int) -> tuple[float | None, tuple[float, float] | None, str]:
    """Return focal length and sensor sides of the upright picture from EXIF. Source: [1]."""
    focal = _number(details.get(ExifTags.Base.FocalLength))
    equivalent = _number(details.get(ExifTags.Base.FocalLengthIn35mmFilm))
    if focal is not None and equivalent is not None:
        diagonal = HANDBOOK_DIAGONAL_MM * focal / equivalent
        across = diagonal / math.hypot(wide, high)
        return focal, (wide * across, high * across), f"EXIF: {focal:g} mm, as {equivalent:g} mm on 36 × 24 mm"
    if equivalent is not None:
        across = HANDBOOK_DIAGONAL_MM / math.hypot(wide, high)
        return equivalent, (wide * across, high * across), f"EXIF: as {equivalent:g} mm on 36 × 24 mm"
    resolution = _number(details.get(ExifTags.Base.FocalPlaneXResolution))
    unit = _UNIT_MM.get(details.get(ExifTags.Base.FocalPlaneResolutionUnit, 2))
    if focal is not None and resolution is not None and unit is not None:
        pitch = unit / resolution
        if 1 <= max(wide, high) * pitch <= 400:
            return focal, (wide * pitch, high * pitch), f"EXIF: {focal:g} mm, sensor from its pixels per length"
    if focal is not None:
        return focal, None, f"EXIF: {focal:g} mm; the sensor is taken as the shot's body"
    return None, None, ""


def _number(value: Any) -> float | None:
    """Return a positive number; Pillow reads 1/0 as NaN and infinity as 4294967295."""
    try:
        number = float(value)
    except (TypeError, ValueError, ZeroDivisionError):
        return None
    return number if math.isfinite(number) and 0 < number < 1e6 else None
