"""Lenses side by side as a response body."""

from __future__ import annotations

from ....core.planning.focus.lens_comparison import LensChoice, LensComparison
from ....core.units.lengths import format_distance
from ....core.units.markings import format_aperture
from ...platform.fields import finite_or_none
from ..schemas import lenses as out


def present_lenses(found: LensComparison) -> out.LensTableOut:
    """Return the lenses with their figures labelled."""
    return out.LensTableOut(words=found.words, choices=[_choice(item) for item in found.choices])


def _choice(item: LensChoice) -> out.LensChoiceOut:
    plain = {
        name: getattr(item, name)
        for name in out.LensChoiceOut.model_fields
        if hasattr(item, name) and name != "background_mm"
    }
    working = (
        None
        if item.working_mm is None
        else format_distance(item.working_mm / 1000)
        if item.working_mm > 0
        else "inside the lens"
    )
    return out.LensChoiceOut(
        **plain,
        background_mm=finite_or_none(item.background_mm),
        f_number_label=format_aperture(item.f_number),
        object_label=format_distance(item.object_mm / 1000),
        working_label=working,
        background_label=format_distance(item.background_mm / 1000),
    )
