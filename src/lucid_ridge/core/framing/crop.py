"""Cropping: the remaining frame, its pixels and print size, and the gain in reach.

A crop changes the field, not the detail: pixels go down with the square of the reach (common practice).
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from ..errors import InputError


class Aspect(StrEnum):
    """Width over height in landscape orientation; a portrait frame turns them.

    A free aspect has its own ratio, as it stands.
    """

    THREE_TWO = "3:2"
    FOUR_THREE = "4:3"
    FIVE_FOUR = "5:4"
    SQUARE = "1:1"
    SIXTEEN_NINE = "16:9"
    PANORAMIC = "65:24"
    FREE = "free"


ASPECTS: dict[str, float] = {
    name: int(name.split(":")[0]) / int(name.split(":")[1]) for name in Aspect if name != Aspect.FREE
}
PRINT_PPI = (300, 240, 180)
_MM_PER_INCH = 25.4


@dataclass(frozen=True)
class Crop:
    """The part of a frame that is kept: shares of its width and height, where its left and top lie, pixels, and the
    focal length whose field it has.
    """

    width_share: float
    height_share: float
    pixels_wide: int
    pixels_high: int
    as_focal_mm: float
    left: float = 0.0
    top: float = 0.0

    @property
    def pixel_share(self) -> float:
        return self.width_share * self.height_share

    @property
    def window(self) -> tuple[float, float, float, float]:
        """left, top, width and height as shares of the frame."""
        return self.left, self.top, self.width_share, self.height_share

    def print_cm(self, ppi: float) -> tuple[float, float]:
        """Return width and height [cm] of a print at ppi pixels per inch."""
        return self.pixels_wide / ppi * _MM_PER_INCH / 10, self.pixels_high / ppi * _MM_PER_INCH / 10


def crop_frame(
    frame_mm: tuple[float, float],
    pixels: tuple[int, int],
    focal_mm: float,
    as_focal_mm: float | None = None,
    aspect: str | None = None,
    ratio: float | None = None,
    middle: tuple[float, float] = (0.5, 0.5),
) -> Crop:
    """Return the crop of a frame (width and height as it stands, in mm and pixels).

    as_focal_mm: crop to the field of a longer lens. aspect: an Aspect, turned for a portrait frame; free takes ratio,
    width over height as the frame stands. middle: where the crop's middle should lie (shares); it is moved in so that
    the crop lies inside. Raises InputError for a shorter lens than the one in use, an unknown aspect, or a free one
    without its ratio.
    """
    if as_focal_mm is not None and as_focal_mm < focal_mm * 0.999:
        raise InputError(
            "crop_focal_mm", f"A crop lends reach: {as_focal_mm:g} mm is shorter than the {focal_mm:g} mm in use."
        )
    share = 1.0 if as_focal_mm is None else min(1.0, focal_mm / as_focal_mm)
    width, height = share, share
    if aspect is not None:
        own = frame_mm[0] / frame_mm[1]
        wanted = _wanted(aspect, ratio, own)
        if wanted > own:
            height = share * own / wanted
        else:
            width = share * wanted / own
    left, top = (
        min(max(centre - size / 2, 0.0), 1 - size) for centre, size in zip(middle, (width, height), strict=True)
    )
    return Crop(width, height, round(pixels[0] * width), round(pixels[1] * height), focal_mm / share, left, top)


def _wanted(aspect: str, ratio: float | None, own: float) -> float:
    if aspect not in tuple(Aspect):
        raise InputError("crop_aspect", f"The aspect is one of {', '.join(Aspect)}, not “{aspect}”.")
    if aspect == Aspect.FREE:
        if ratio is None:
            raise InputError("crop_ratio", "A free aspect needs its width over its height.")
        return ratio
    return ASPECTS[aspect] if own >= 1 else 1 / ASPECTS[aspect]
