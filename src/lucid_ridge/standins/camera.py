"""A simulated camera: takes frames of a planned scene with a body's limits, delays and failures, and with planted
errors.

It writes files as cameras do: a JPEG with EXIF, and a DNG with linear light. Simulated, for tests of what follows; it
says nothing about a real camera.
"""

from __future__ import annotations

import io
import math
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from typing import Any

import numpy as np
import tifffile
from numpy.typing import NDArray
from PIL import ExifTags, Image
from PIL.TiffImagePlugin import IFDRational

from ..core.exposure.motion import hand_limit_s
from ..core.facts.kit import Body
from ..core.field.cameras import CameraFailure, FailureKind, FrameOrder, TakenFile
from ..core.tones.exposed import Exposing, SceneRaster, expose
from ..core.tones.response import srgb_from_linear

Floats = NDArray[np.float64]
# Fourteen bits, with black slightly above zero as in real sensors.
_BLACK, _WHITE = 512, 15_871
_QUALITY = 90


@dataclass
class Errors:
    """Planted errors.

    filter_stops: real costs of filters; clock_s: how far the camera's clock is ahead; slips_m: by frame key, a wrong
    focus distance; bumped: keys of frames with a bump of the tripod; water_factor: how many times as fast the water
    is. stops: standard deviation of the shutter between frames.
    """

    filter_stops: dict[int, float] = field(default_factory=dict)
    clock_s: float = 0.0
    slips_m: dict[str, float] = field(default_factory=dict)
    bumped: frozenset[str] = frozenset()
    water_factor: float = 1.0
    stops: float = 0.0
    card_holds: int | None = None
    battery_holds: int | None = None


@dataclass
class SimulatedCamera:
    """A camera.

    stops: labelled cost of each filter. pitch_mm: of its pixels. hold_stops: how many stops slower than the rule its
    hand holds still.
    """

    body: Body
    scene: SceneRaster
    stops: dict[int, float]
    seed: int
    errors: Errors = field(default_factory=Errors)
    raw: bool = False
    hold_stops: float = 0.0
    # How much the light has changed since the scene was drawn [stops].
    light_stops: float = 0.0
    taken: int = 0
    busy_until: datetime | None = None

    def take(self, order: FrameOrder, at_utc: datetime) -> list[TakenFile]:
        """Take a frame; see core.field.cameras.Camera."""
        self._refuse(order, at_utc)
        rng = np.random.default_rng((self.seed, self.taken))
        on_lens = sum(self.errors.filter_stops.get(item, self.stops.get(item, 0.0)) for item in order.filter_ids)
        key = order.key or ""
        shake_px, shake_deg = self._shake(order, key, rng)
        pitch = self.body.sensor_width_mm / max(self.scene.ev.shape)
        focus = max(order.focal_mm / 1000 * 1.05, self.errors.slips_m.get(key, order.focus_m))
        how = Exposing(
            f_number=order.f_number,
            shutter_s=order.shutter_s,
            iso=order.iso,
            stops_on_lens=on_lens - self.light_stops + float(rng.normal(0, 1)) * self.errors.stops,
            focus_m=focus,
            # Thin lens: the blur disc of a point is f²/N times the difference of 1/distance.
            blur_px_per_dioptre=(order.focal_mm**2 / 1000) / order.f_number / pitch,
            base_iso=self.body.base_iso,
            shake_px=shake_px,
            shake_deg=shake_deg,
        )
        moving = SceneRaster(
            self.scene.ev, self.scene.distance_m, self.scene.moves_px_per_s * self.errors.water_factor, self.scene.tint
        )
        linear = expose(moving, how, int(rng.integers(2**31)))
        self.taken += 1
        dark = order.shutter_s if self.body.dark_frame and order.shutter_s >= 1 else 0.0
        self.busy_until = at_utc + timedelta(seconds=order.shutter_s + dark)
        clock = (at_utc + timedelta(seconds=self.errors.clock_s)).replace(tzinfo=None)
        stem = f"LR{self.taken:04d}"
        files = [TakenFile(f"{stem}.JPG", write_jpeg(linear, order, clock, self.body.name), clock)]
        if self.raw:
            files.append(TakenFile(f"{stem}.DNG", write_dng(linear, order, clock, self.body.name), clock))
        return files

    def _refuse(self, order: FrameOrder, at_utc: datetime) -> None:
        if self.busy_until is not None and at_utc < self.busy_until:
            raise CameraFailure(FailureKind.BUSY, "The camera is still busy with the frame before.")
        if self.errors.card_holds is not None and self.taken >= self.errors.card_holds:
            raise CameraFailure(FailureKind.CARD_FULL, "The card is full.")
        if self.errors.battery_holds is not None and self.taken >= self.errors.battery_holds:
            raise CameraFailure(FailureKind.BATTERY, "The battery is empty.")
        if not self.body.can_time(order.shutter_s) or not self.body.takes_iso(order.iso):
            raise CameraFailure(FailureKind.CANNOT, f"The {self.body.name} cannot be set to this.")

    def _shake(self, order: FrameOrder, key: str, rng: np.random.Generator) -> tuple[float, float]:
        """Return the motion blur: from a bump, or from a hand that is steady in half of its tries at the limit of the
        rule.
        """
        direction = float(rng.uniform(0, 180))
        if key in self.errors.bumped:
            return 9.0, direction
        if not order.held:
            return 0.0, direction
        rule = hand_limit_s(order.focal_mm, self.body.sensor_width_mm, self.body.sensor_height_mm)
        limit = rule * 2.0 ** (self.hold_stops + (self.body.stabiliser_stops or 0.0))
        steady = rng.random() < 1 / (1 + math.exp(1.2 * math.log2(order.shutter_s / limit)))
        return (0.0 if steady else float(rng.uniform(5, 11))), direction


def write_jpeg(linear: Floats, order: FrameOrder, clock: datetime, model: str) -> bytes:
    """Return a JPEG of linear light with EXIF. Source: CIPA DC-008."""
    exif = Image.Exif()
    exif[ExifTags.Base.Make], exif[ExifTags.Base.Model] = "Lucid Ridge", model
    exif[ExifTags.Base.DateTime] = f"{clock:%Y:%m:%d %H:%M:%S}"
    exif.get_ifd(ExifTags.IFD.Exif).update(
        {
            ExifTags.Base.ExposureTime: IFDRational(*_ratio(order.shutter_s)),
            ExifTags.Base.FNumber: IFDRational(round(order.f_number * 10), 10),
            ExifTags.Base.ISOSpeedRatings: round(order.iso),
            ExifTags.Base.DateTimeOriginal: f"{clock:%Y:%m:%d %H:%M:%S}",
            ExifTags.Base.SubsecTimeOriginal: f"{clock.microsecond // 10_000:02d}",
            ExifTags.Base.FocalLength: IFDRational(round(order.focal_mm * 10), 10),
        }
    )
    picture = Image.fromarray(np.round(srgb_from_linear(np.clip(linear, 0, 1)) * 255).astype(np.uint8), "RGB")
    out = io.BytesIO()
    picture.save(out, "JPEG", quality=_QUALITY, subsampling=0, exif=exif)
    return out.getvalue()


def write_dng(linear: Floats, order: FrameOrder, clock: datetime, model: str) -> bytes:
    """Return a DNG: a linear mosaic of red, green and blue with black and white level.

    Source: Adobe's DNG specification 1.4; TIFF/EP for the settings.
    """
    high, wide = (side - side % 2 for side in linear.shape[:2])
    mosaic = np.empty((high, wide))
    for row, column, channel in ((0, 0, 0), (0, 1, 1), (1, 0, 1), (1, 1, 2)):
        mosaic[row::2, column::2] = linear[row:high:2, column:wide:2, channel]
    raw = np.round(_BLACK + mosaic * (_WHITE - _BLACK)).astype(np.uint16)
    one = (1, 1)
    matrix: tuple[int, ...] = tuple(
        item for row in range(3) for column in range(3) for item in ((1, 1) if row == column else (0, 1))
    )
    tags: list[tuple[Any, ...]] = [
        (50706, "B", 4, (1, 4, 0, 0), True),
        (50708, "s", 0, model, True),
        (33421, "H", 2, (2, 2), True),
        (33422, "B", 4, (0, 1, 1, 2), True),
        (50714, "H", 1, _BLACK, True),
        (50717, "H", 1, _WHITE, True),
        (50721, "2i", 9, matrix, True),
        (50778, "H", 1, 21, True),
        (50728, "2I", 3, one * 3, True),
        (33434, "2I", 1, _ratio(order.shutter_s), True),
        (33437, "2I", 1, (round(order.f_number * 10), 10), True),
        (34855, "H", 1, min(65535, round(order.iso)), True),
        (36867, "s", 0, f"{clock:%Y:%m:%d %H:%M:%S}", True),
        (37386, "2I", 1, (round(order.focal_mm * 10), 10), True),
        (271, "s", 0, "Lucid Ridge", True),
        (272, "s", 0, model, True),
    ]
    out = io.BytesIO()
    tifffile.imwrite(out, raw, photometric=32803, extratags=tags, metadata=None, software=None)
    return out.getvalue()


def _ratio(seconds: float) -> tuple[int, int]:
    """Return a time as cameras write it: as a fraction below a tenth, else in tenths of a second."""
    if seconds < 0.3:
        return 10, max(10, round(10 / seconds))
    return round(seconds * 10), 10
