"""Step 4 of a plan as its response body."""

from __future__ import annotations

import numpy as np

from ....core.planning.focus.plan import DepthStep
from ....core.planning.focus.reasons import ElementBlur
from ....core.units.lengths import format_distance, format_distances_apart, format_span
from ....core.units.markings import format_aperture
from ...platform.fields import Labelled, finite_or_none
from ...platform.labels import distance_label, labelled
from ..schemas import depth as out

_UM_PER_MM = 1000.0


def present_depth(step: DepthStep) -> out.DepthOut:
    """Return the focus plan with every figure labelled."""
    um = _UM_PER_MM

    def scaled(value_mm: float | None) -> float | None:
        return None if value_mm is None else finite_or_none(value_mm * um)

    with np.errstate(divide="ignore"):
        inverse = 1 / step.curve_distance_m
    return out.DepthOut(
        f_number=step.f_number,
        f_number_label=format_aperture(step.f_number) if step.f_number else None,
        coc_um=scaled(step.coc_mm),
        airy_um=scaled(step.airy_mm),
        effective_f_number=step.effective_f_number,
        magnification=step.magnification,
        hyperfocal=labelled(step.hyperfocal_m, format_distance),
        near=labelled(step.near_m, format_distance),
        far=labelled(step.far_m, format_distance),
        method=step.method,
        method_words=step.method_words,
        worst_blur_um=scaled(step.worst_blur_mm),
        step_mm=step.step_mm,
        slice_mm=step.slice_mm,
        positions=[
            out.FocusPositionOut(
                object_distance=distance_label(position.object_distance_m),
                focus_distance=Labelled(value=finite_or_none(position.focus_distance_m), label=mark),
                near_limit=distance_label(position.near_limit_m),
                far_limit=distance_label(position.far_limit_m),
                rail_mm=position.rail_mm,
            )
            for position, mark in zip(
                step.positions, format_distances_apart([item.focus_distance_m for item in step.positions]), strict=True
            )
        ],
        elements=[_element_blur(item) for item in step.elements],
        ground=_element_blur(step.ground) if step.ground else None,
        microscope_slice_mm=step.microscope_slice_mm,
        apertures=[
            out.ApertureChoiceOut(
                f_number=choice.f_number,
                label=format_aperture(choice.f_number),
                single_blur_um=choice.single_blur_mm * um,
                single_holds=choice.single_holds,
                stack_count=choice.stack_count,
                within=choice.within,
                airy_um=choice.airy_mm * um,
                chosen=step.f_number is not None and abs(choice.f_number / step.f_number - 1) < 0.06,
                best_single=choice.f_number == step.best_single_f_number,
            )
            for choice in step.apertures
        ],
        choices=[
            out.FocusChoiceOut(
                method=choice.method,
                school=choice.school,
                words=choice.words,
                count=choice.count,
                focus=format_distance(choice.focus_m) if choice.focus_m is not None else None,
                worst_blur_um=choice.worst_blur_mm * um,
                holds=choice.holds,
                loses=choice.loses,
                chosen=choice.chosen,
            )
            for choice in step.choices
        ],
        checks=[
            out.FocusCheckOut(what=check.what, distance=format_distance(check.distance_m), when_soft=check.when_soft)
            for check in step.checks
        ],
        throw=list(step.throw),
        curve_inverse_m=np.round(inverse, 7).tolist(),
        curve_blur_um=np.round(step.curve_blur_mm * um, 3).tolist(),
    )


def _element_blur(item: ElementBlur) -> out.ElementBlurOut:
    span = item.span
    return out.ElementBlurOut(
        id=item.id,
        name=item.name,
        near_m=span.near_m if span else None,
        far_m=span.far_m if span else None,
        distance_label=format_span(span.near_m, span.far_m) if span else "behind",
        must_be_sharp=item.must_be_sharp,
        verdict=item.verdict,
        holds=item.times_limit <= 1,
    )
