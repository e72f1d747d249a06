"""Bodies, lenses, filters, supports and accessories."""

from __future__ import annotations

import re
from enum import StrEnum
from typing import Annotated, Any

from pydantic import Field, model_validator

from ...core.errors import InputError
from ...core.facts import accessory, filters
from ...core.facts import kit as core
from ...core.units.markings import parse_aperture_pair
from ..platform.fact_fields import changes, gives, takes
from ..platform.fields import Aperture, In, LengthMm, Out
from ..platform.shared_schemas import ShotRefOut
from ..platform.undo import UndoOut


@takes(core.Body)
class BodyIn(In):
    pass


@changes(core.Body)
class BodyPatch(In):
    pass


@gives(core.Body)
class BodyOut(Out):
    id: int
    fastest_shutter_label: str
    slowest_shutter_label: str
    flash_sync_label: str | None
    used_by: list[ShotRefOut]


_FOCALS = re.compile(r"(\d+(?:[.,]\d+)?)\s*(?:mm)?\s*(?:-|–|to)\s*(\d+(?:[.,]\d+)?)\s*(?:mm)?", re.ASCII)


class _LensTexts(In):
    """Splits texts that name both ends of a zoom."""

    @model_validator(mode="before")
    @classmethod
    def _both_ends(cls, body: Any) -> Any:
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


@takes(core.Lens, but=["focal_max_mm", "f_number_max"])
class LensIn(_LensTexts):
    """A prime has one focal length, a zoom two, or both in one text ("24-70 mm").

    f_number_min may be "f/3.5-5.6": wide open at each end.
    """

    focal_max_mm: Annotated[LengthMm, Field(ge=1, le=3000)] | None = None
    f_number_max: Aperture = 2**4.5


@changes(core.Lens)
class LensPatch(_LensTexts):
    pass


@gives(core.Lens)
class LensOut(Out):
    id: int
    f_number_min_label: str
    f_number_max_label: str
    sharpest_label: str
    widest_view_deg: float
    longest_view_deg: float
    used_by: list[ShotRefOut]


@takes(filters.Filter, but=["kind"])
class FilterIn(In):
    kind: filters.FilterKind = filters.FilterKind.NEUTRAL_DENSITY


@changes(filters.Filter)
class FilterPatch(In):
    pass


@gives(filters.Filter)
class FilterOut(Out):
    id: int
    density: float
    factor: float
    used_by: list[ShotRefOut]


@takes(core.Support)
class SupportIn(In):
    pass


@changes(core.Support)
class SupportPatch(In):
    pass


@gives(core.Support)
class SupportOut(Out):
    id: int
    used_by: list[ShotRefOut]


@takes(accessory.Accessory)
class AccessoryIn(In):
    """An accessory. The figures of its kind are required; others are ignored."""


@changes(accessory.Accessory)
class AccessoryPatch(In):
    pass


@gives(accessory.Accessory)
class AccessoryOut(Out):
    """An accessory. words: its effect, with figures. figures: names of the figures its kind has."""

    id: int
    words: str
    figures: list[str]
    used_by: list[ShotRefOut]


class KitOut(Out):
    """The whole kit. undo: what undo and redo of the kit would do."""

    bodies: list[BodyOut]
    lenses: list[LensOut]
    filters: list[FilterOut]
    supports: list[SupportOut]
    accessories: list[AccessoryOut]
    undo: UndoOut


class PieceKind(StrEnum):
    BODIES = "bodies"
    LENSES = "lenses"
    FILTERS = "filters"
    SUPPORTS = "supports"
    ACCESSORIES = "accessories"


class PresetOut(Out):
    """A usual piece of kit that can be added; kind as in the paths."""

    key: str
    kind: PieceKind
    name: str


class PresetsOut(Out):
    presets: list[PresetOut]
