"""Checks an edit of a shot: limits of body and lens, and values that must fit together.

Only edited values are checked.
"""

from __future__ import annotations

from collections.abc import Sequence

from ...core.facts import kit
from ...core.facts.accessory import OPTICAL, Accessory, rigged
from ...core.facts.choices import path_of
from ...core.units.lengths import format_distance, format_height
from ...core.units.markings import format_aperture, format_shutter
from ...store.shots import Shot
from ..platform.errors import Refused
from .edit_context import UsedKit
from .edits import ShotEdit


def refusal(name: str, message: str) -> Refused:
    """Return the refusal of a shot's value, at its field in the request."""
    return Refused(path_of(name), message)


def check_kit(used: UsedKit, row: Shot, edit: ShotEdit) -> None:
    """Refuse settings that body and lens do not have."""
    if used.lens:
        _check_lens(row, used.lens, used.accessories, edit)
    if used.body:
        _check_body(used.body, edit)


def check_order(row: Shot, edit: ShotEdit) -> None:
    """Refuse a pair of values in the wrong order."""
    light, depth, exposure = row.light, row.depth, row.exposure
    if light.water_low_m is not None and light.water_high_m is not None and light.water_high_m < light.water_low_m:
        name = "water_low_m" if "water_low_m" in edit.light and "water_high_m" not in edit.light else "water_high_m"
        raise refusal(
            name,
            f"The deepest water ({format_height(light.water_high_m)}) must not be under the shallowest "
            f"({format_height(light.water_low_m)}).",
        )
    if depth.near_m is not None and depth.far_m is not None and not depth.far_infinite and depth.far_m < depth.near_m:
        name = "far_m" if edit.depth.number("far_m") is not None or "near_m" not in edit.depth else "near_m"
        raise refusal(
            name,
            f"The far limit ({format_distance(depth.far_m)}) must not be closer than the near limit "
            f"({format_distance(depth.near_m)}).",
        )
    if (
        exposure.shadow_ev is not None
        and exposure.highlight_ev is not None
        and exposure.highlight_ev < exposure.shadow_ev
    ):
        name = "shadow_ev" if "shadow_ev" in edit.exposure and "highlight_ev" not in edit.exposure else "highlight_ev"
        raise refusal(
            name,
            f"The highlight reading (EV {exposure.highlight_ev:g}) must not be under the shadow reading (EV "
            f"{exposure.shadow_ev:g}).",
        )


def _check_lens(row: Shot, lens: kit.Lens, accessories: Sequence[Accessory], edit: ShotEdit) -> None:
    used = row.frame.focal_mm or lens.focal_min_mm
    focal, aperture = edit.frame.number("focal_mm"), edit.depth.number("f_number")
    if focal is not None and not lens.takes_focal(focal):
        raise refusal(
            "focal_mm", f"{lens.name} goes from {lens.focal_min_mm:g} to {lens.focal_max_mm:g} mm, not {focal:g} mm."
        )
    if aperture is not None:
        _check_aperture("f_number", lens, used, aperture)
    metered_at = edit.exposure.number("metered_f_number")
    if metered_at is not None and row.exposure.metered_through_lens:
        _check_aperture(
            "metered_f_number",
            lens,
            used,
            metered_at,
            " A hand-held meter can read it: untick “read through the lens” first.",
        )
    reach = edit.frame.number("crop_focal_mm")
    if reach is not None and reach < used:
        raise refusal("crop_focal_mm", f"A crop lends reach: {reach:g} mm is shorter than the {used:g} mm in use.")
    scale = edit.depth.number("magnification")
    working = rigged(lens, used, accessories)
    largest = working.reach[1]
    # A magnification below the rig's smallest is accepted: the plan says so, and which accessory to remove.
    if scale is not None and scale > largest and not working.reaches(scale):
        with_ = "".join(f" with {item.name}" for item in accessories if item.kind in OPTICAL)
        raise refusal("magnification", f"{lens.name}{with_} reaches {largest:.2g}:1, not {scale:g}:1.")
    near = edit.depth.number("near_m")
    if near is not None and not working.images(near * 1000):
        raise refusal("near_m", f"{format_distance(near)} lies within the focal length: no lens images that.")


def _check_aperture(name: str, lens: kit.Lens, focal_mm: float, f_number: float, more: str = "") -> None:
    if not lens.takes_aperture(f_number, focal_mm):
        at = f" at {focal_mm:g} mm" if lens.f_number_min_long is not None else ""
        raise refusal(
            name,
            f"{lens.name} opens from {format_aperture(lens.widest_f_number(focal_mm))} to "
            f"{format_aperture(lens.f_number_max)}{at}, not {format_aperture(f_number)}.{more}",
        )


def _check_body(body: kit.Body, edit: ShotEdit) -> None:
    iso, metered, wanted = (edit.exposure.number(name) for name in ("iso", "metered_shutter_s", "wanted_shutter_s"))
    if iso is not None and not body.takes_iso(iso):
        raise refusal("iso", f"{body.name} goes from ISO {body.iso_range[0]:g} to {body.iso_range[1]:g}, not {iso:g}.")
    if metered is not None and metered < body.shortest_s:
        raise refusal("metered_shutter_s", f"{body.name} is no faster than {format_shutter(body.fastest_shutter_s)}.")
    if wanted is not None and not body.can_time(wanted):
        limit = "without end on bulb" if body.has_bulb else format_shutter(body.slowest_shutter_s)
        raise refusal(
            "wanted_shutter_s",
            f"{body.name} goes from {format_shutter(body.fastest_shutter_s)} to {limit}, not {format_shutter(wanted)}.",
        )
