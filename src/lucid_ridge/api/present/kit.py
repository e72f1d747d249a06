"""Kit as response bodies."""

from __future__ import annotations

import math

from ...core.exposure.filters import factor_from_stops
from ...core.framing.projection import field_of_view_deg
from ...core.units.markings import format_aperture, format_shutter
from ...store.kit import Body, Filter, Lens, Support
from ..schemas import kit as out

FULL_FRAME_WIDTH_MM = 36.0


def present_body(row: Body) -> out.BodyOut:
    plain = {name: getattr(row, name) for name in out.BodyOut.model_fields if hasattr(row, name)}
    return out.BodyOut(
        **plain, fastest_shutter_label=format_shutter(row.fastest_shutter_s), slowest_shutter_label=format_shutter(row.slowest_shutter_s)
    )


def present_lens(row: Lens) -> out.LensOut:
    """Return a lens with its widest and longest horizontal views on a 36 mm wide sensor."""
    plain = {name: getattr(row, name) for name in out.LensOut.model_fields if hasattr(row, name)}
    return out.LensOut(
        **plain,
        f_number_min_label=_widest(row),
        f_number_max_label=format_aperture(row.f_number_max),
        sharpest_label=format_aperture(row.sharpest_f_number),
        widest_view_deg=field_of_view_deg(FULL_FRAME_WIDTH_MM, row.focal_min_mm),
        longest_view_deg=field_of_view_deg(FULL_FRAME_WIDTH_MM, row.focal_max_mm),
    )


def _widest(row: Lens) -> str:
    """Return the widest aperture as lenses are labelled: f/2.8, f/3.5-5.6."""
    label = format_aperture(row.f_number_min)
    return label if row.f_number_min_long is None else f"{label}-{format_aperture(row.f_number_min_long).removeprefix('f/')}"


def present_filter(row: Filter) -> out.FilterOut:
    return out.FilterOut(
        id=row.id, name=row.name, kind=row.kind, stops=row.stops,  # type: ignore[arg-type]
        density=row.stops * math.log10(2), factor=float(factor_from_stops(row.stops)), mount=row.mount,  # type: ignore[arg-type]
        thickness_mm=row.thickness_mm,
    )  # fmt: skip


def present_support(row: Support) -> out.SupportOut:
    return out.SupportOut.model_validate(row)
