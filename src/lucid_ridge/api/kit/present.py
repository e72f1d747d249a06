"""Kit as response bodies."""

from __future__ import annotations

import math
from collections.abc import Sequence

from ...core.exposure.filters import factor_from_stops
from ...core.facts.accessory import FIGURES, AccessoryKind, figures_of
from ...core.framing.projection import field_of_view_deg
from ...core.units.markings import format_aperture, format_shutter
from ...operations.kit.from_rows import known_accessory
from ...operations.platform.usage import Use
from ...store.kit import Accessory, Body, Filter, Lens, Support
from ..platform.shared_schemas import present_uses
from . import schemas as out

FULL_FRAME_WIDTH_MM = 36.0


def present_body(row: Body, uses: Sequence[Use] = ()) -> out.BodyOut:
    plain = {name: getattr(row, name) for name in out.BodyOut.model_fields if hasattr(row, name)}
    return out.BodyOut(
        **plain,
        fastest_shutter_label=format_shutter(row.fastest_shutter_s),
        slowest_shutter_label=format_shutter(row.slowest_shutter_s),
        flash_sync_label=format_shutter(row.flash_sync_s) if row.flash_sync_s is not None else None,
        used_by=present_uses(uses),
    )


def present_lens(row: Lens, uses: Sequence[Use] = ()) -> out.LensOut:
    """Return a lens with its widest and longest horizontal views on a 36 mm wide sensor."""
    plain = {name: getattr(row, name) for name in out.LensOut.model_fields if hasattr(row, name)}
    return out.LensOut(
        **plain,
        used_by=present_uses(uses),
        f_number_min_label=_widest(row),
        f_number_max_label=format_aperture(row.f_number_max),
        sharpest_label=format_aperture(row.sharpest_f_number),
        widest_view_deg=field_of_view_deg(FULL_FRAME_WIDTH_MM, row.focal_min_mm),
        longest_view_deg=field_of_view_deg(FULL_FRAME_WIDTH_MM, row.focal_max_mm),
    )


def _widest(row: Lens) -> str:
    """Return the widest aperture as lenses are labelled: f/2.8, f/3.5-5.6."""
    label = format_aperture(row.f_number_min)
    return (
        label
        if row.f_number_min_long is None
        else f"{label}-{format_aperture(row.f_number_min_long).removeprefix('f/')}"
    )


def present_filter(row: Filter, uses: Sequence[Use] = ()) -> out.FilterOut:
    plain = {name: getattr(row, name) for name in out.FilterOut.model_fields if hasattr(row, name)}
    return out.FilterOut(
        **plain,
        density=row.stops * math.log10(2),
        factor=float(factor_from_stops(row.stops)),
        used_by=present_uses(uses),
    )


def present_support(row: Support, uses: Sequence[Use] = ()) -> out.SupportOut:
    plain = {name: getattr(row, name) for name in out.SupportOut.model_fields if name != "used_by"}
    return out.SupportOut(**plain, used_by=present_uses(uses))


def present_accessory(row: Accessory, uses: Sequence[Use] = ()) -> out.AccessoryOut:
    plain = {name: getattr(row, name) for name in out.AccessoryOut.model_fields if hasattr(row, name)}
    kind = AccessoryKind(row.kind)
    return out.AccessoryOut(
        **plain, words=figures_of(known_accessory(row)), figures=list(FIGURES[kind]), used_by=present_uses(uses)
    )
