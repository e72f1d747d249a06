"""Bodies, lenses, filters and supports."""

from __future__ import annotations

import re
from typing import Annotated, Any, Literal

from pydantic import Field, model_validator

from ...core.errors import InputError
from ...core.units.markings import parse_aperture_pair
from .fields import (
    Aperture,
    In,
    Name,
    Out,
    Shutter,
    bounded,
    filter_costs,
    lengths_m,
    lengths_mm,
    magnifications,
    seconds,
    speeds_iso,
    stops,
)
from .places import ShotRefOut
from .plan import UndoOut

FilterKind = Literal["neutral density", "polariser", "graduated"]
Side = lengths_mm(1, 400)
Pixels = Annotated[int, Field(ge=100, le=100_000)]
Iso = speeds_iso(1, 1_000_000)
Focal = lengths_mm(1, 3000)
FastShutter = Annotated[Shutter, Field(le=60)]
SlowShutter = Annotated[Shutter, Field(le=3600)]


class BodyIn(In):
    name: Name
    sensor_width_mm: Side  # type: ignore[valid-type]
    sensor_height_mm: Side  # type: ignore[valid-type]
    pixels_wide: Pixels
    pixels_high: Pixels
    base_iso: Iso = 100.0  # type: ignore[valid-type]
    max_iso: Iso = 25600.0  # type: ignore[valid-type]
    fastest_shutter_s: FastShutter = 1 / 8192
    slowest_shutter_s: SlowShutter = 32.0
    has_bulb: bool = True
    held_stops: stops(1, 25) = 11.0  # type: ignore[valid-type]
    bracket_frames: Annotated[int, Field(ge=1, le=31)] = 3
    bracket_step_ev: stops(0, 5, above=True) = 2.0  # type: ignore[valid-type]
    write_s: seconds(0, 60) = 0.5  # type: ignore[valid-type]
    dark_frame: bool = False


class BodyPatch(BodyIn):
    name: Name = ""
    sensor_width_mm: Side = 36.0  # type: ignore[valid-type]
    sensor_height_mm: Side = 24.0  # type: ignore[valid-type]
    pixels_wide: Pixels = 8256
    pixels_high: Pixels = 5504


class BodyOut(Out):
    id: int
    name: str
    sensor_width_mm: float
    sensor_height_mm: float
    pixels_wide: int
    pixels_high: int
    base_iso: float
    max_iso: float
    fastest_shutter_s: float
    fastest_shutter_label: str
    slowest_shutter_s: float
    slowest_shutter_label: str
    has_bulb: bool
    held_stops: float
    bracket_frames: int
    bracket_step_ev: float
    write_s: float
    dark_frame: bool
    used_by: list[ShotRefOut]


_FOCALS = re.compile(r"(\d+(?:[.,]\d+)?)\s*(?:mm)?\s*(?:-|–|to)\s*(\d+(?:[.,]\d+)?)\s*(?:mm)?", re.ASCII)
Mount = Literal["screw", "plate"]
Thread = lengths_mm(10, 200)


class LensIn(In):
    """A prime needs one focal length, a zoom two, or both in one text ("24-70 mm"). f_number_min may be "f/3.5-5.6": wide open at each end.

    filter_thread_mm and the hood tell what stands in the corners; front_mm (principal plane to front rim) the working distance.

    pupil_depth_mm: from the rim to the entrance pupil at the shortest focal length; null: the deepest that can be is taken.
    """

    name: Name
    focal_min_mm: Focal  # type: ignore[valid-type]
    focal_max_mm: Focal | None = None  # type: ignore[valid-type]
    f_number_min: Aperture
    f_number_min_long: Aperture | None = None
    f_number_max: Aperture = 22.627416997969522
    closest_focus_mm: lengths_mm(10, 1_000_000)  # type: ignore[valid-type]
    sharpest_f_number: Aperture = 8.0
    max_magnification: magnifications(0, 20, above=True) | None = None  # type: ignore[valid-type]
    pupil_ratio: bounded(0.1, 10) = 1.0  # type: ignore[valid-type]
    filter_thread_mm: Thread | None = None  # type: ignore[valid-type]
    pupil_depth_mm: lengths_mm(0, 500) | None = None  # type: ignore[valid-type]
    front_mm: lengths_mm(0, 500) | None = None  # type: ignore[valid-type]
    hood_mm: lengths_mm(1, 300) | None = None  # type: ignore[valid-type]
    hood_clear_mm: lengths_mm(10, 500) | None = None  # type: ignore[valid-type]

    @model_validator(mode="before")
    @classmethod
    def _both_ends(cls, body: Any) -> Any:
        """Take texts that name both ends of a zoom apart."""
        if not isinstance(body, dict):
            return body
        body = dict(body)
        widest, focal = body.get("f_number_min"), body.get("focal_min_mm")
        if isinstance(widest, str) and "f_number_min_long" not in body:
            try:
                short_end, long_end = parse_aperture_pair(widest)
            except InputError:
                pass
            else:
                body["f_number_min"], body["f_number_min_long"] = short_end, None if long_end == short_end else long_end
        if isinstance(focal, str) and (parts := _FOCALS.fullmatch(focal.strip())):
            body["focal_min_mm"], body["focal_max_mm"] = parts[1], parts[2]
        return body


class LensPatch(LensIn):
    name: Name = ""
    focal_min_mm: Focal = 50.0  # type: ignore[valid-type]
    focal_max_mm: Focal = 50.0  # type: ignore[valid-type]
    f_number_min: Aperture = 4.0
    f_number_max: Aperture = 22.0
    closest_focus_mm: lengths_mm(10, 1_000_000) = 1000.0  # type: ignore[valid-type]


class LensOut(Out):
    id: int
    name: str
    focal_min_mm: float
    focal_max_mm: float
    f_number_min: float
    f_number_min_label: str
    f_number_min_long: float | None
    f_number_max: float
    f_number_max_label: str
    closest_focus_mm: float
    sharpest_f_number: float
    sharpest_label: str
    max_magnification: float | None
    pupil_ratio: float
    filter_thread_mm: float | None
    pupil_depth_mm: float | None
    front_mm: float | None
    hood_mm: float | None
    hood_clear_mm: float | None
    widest_view_deg: float
    longest_view_deg: float
    used_by: list[ShotRefOut]


class FilterIn(In):
    name: Name
    kind: FilterKind = "neutral density"
    stops: filter_costs(0, 25)  # type: ignore[valid-type]
    mount: Mount = "screw"
    thickness_mm: lengths_mm(0.5, 40) = 5.0  # type: ignore[valid-type]


class FilterPatch(FilterIn):
    name: Name = ""
    stops: filter_costs(0, 25) = 1.0  # type: ignore[valid-type]


class FilterOut(Out):
    id: int
    name: str
    kind: FilterKind
    stops: float
    density: float
    factor: float
    mount: Mount
    thickness_mm: float
    used_by: list[ShotRefOut]


class SupportIn(In):
    """A tripod: the camera's lowest and highest place, and the lowest with the column inverted."""

    name: Name
    height_min_m: lengths_m(0, 20)  # type: ignore[valid-type]
    height_max_m: lengths_m(0.01, 20)  # type: ignore[valid-type]
    inverted_min_m: lengths_m(0, 20) | None = None  # type: ignore[valid-type]


class SupportPatch(SupportIn):
    name: Name = ""
    height_min_m: lengths_m(0, 20) = 0.2  # type: ignore[valid-type]
    height_max_m: lengths_m(0.01, 20) = 1.6  # type: ignore[valid-type]


class SupportOut(Out):
    id: int
    name: str
    height_min_m: float
    height_max_m: float
    inverted_min_m: float | None
    used_by: list[ShotRefOut]


class KitOut(Out):
    """undo: what undo and redo of the kit would turn."""

    bodies: list[BodyOut]
    lenses: list[LensOut]
    filters: list[FilterOut]
    supports: list[SupportOut]
    undo: UndoOut


class PresetOut(Out):
    """A usual piece of kit that can be added at once; kind as in the addresses."""

    key: str
    kind: Literal["bodies", "lenses", "filters", "supports"]
    name: str


class PresetsOut(Out):
    presets: list[PresetOut]
