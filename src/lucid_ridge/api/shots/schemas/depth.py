"""Step 4 of a plan: the range, its focus positions, and the results of other methods."""

from __future__ import annotations

from ....core.facts.choices import DepthMethod, FocusSchool
from ...platform.fields import Labelled, Out


class FocusPositionOut(Out):
    object_distance: Labelled
    focus_distance: Labelled
    near_limit: Labelled
    far_limit: Labelled
    rail_mm: float | None


class ElementBlurOut(Out):
    """The blur of an element.

    near_m, far_m: nearest and farthest visible part along the optical axis; null behind the camera. holds: sharp
    throughout.
    """

    id: int
    name: str
    near_m: float | None
    far_m: float | None
    distance_label: str
    must_be_sharp: bool
    verdict: str
    holds: bool


class ApertureChoiceOut(Out):
    f_number: float
    label: str
    single_blur_um: float
    single_holds: bool
    stack_count: int | None
    airy_um: float
    within: bool
    chosen: bool
    best_single: bool


class FocusChoiceOut(Out):
    """One way to focus; focus: where, null for a stack. loses: what it leaves soft or costs."""

    method: DepthMethod
    school: FocusSchool | None
    words: str
    count: int
    focus: str | None
    worst_blur_um: float
    holds: bool
    loses: str
    chosen: bool


class FocusCheckOut(Out):
    what: str
    distance: str
    when_soft: str


class DepthOut(Out):
    """Step 4.

    curve_inverse_m: 1/distance, 0 at infinity; curve_blur_um: its blur, with diffraction. ground: at the frame's
    nearest edge; null if no ground is in the frame. throw: rotation of the ring at each position, 0 at infinity, 1 at
    the closest focus.
    """

    f_number: float | None
    f_number_label: str | None
    coc_um: float | None
    airy_um: float | None
    effective_f_number: float | None
    magnification: float
    hyperfocal: Labelled | None
    near: Labelled | None
    far: Labelled | None
    method: DepthMethod | None
    method_words: str | None
    worst_blur_um: float | None
    step_mm: float | None
    slice_mm: float | None
    positions: list[FocusPositionOut]
    microscope_slice_mm: float | None
    elements: list[ElementBlurOut]
    ground: ElementBlurOut | None
    apertures: list[ApertureChoiceOut]
    choices: list[FocusChoiceOut]
    checks: list[FocusCheckOut]
    throw: list[float]
    curve_inverse_m: list[float]
    curve_blur_um: list[float]
