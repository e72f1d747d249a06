"""Comparison of the lenses in the bag."""

from __future__ import annotations

from ...platform.fields import Out


class LensChoiceOut(Out):
    """A lens.

    rig: its accessories, empty for the bare lens. frames: null for too many, or if diffraction is too strong.
    """

    lens_id: int
    name: str
    rig: str
    focal_mm: float
    reached: bool
    smallest: float
    largest: float
    object_mm: float
    working_mm: float | None
    background_mm: float | None
    blur_share: float
    f_number: float
    f_number_label: str
    frames: int | None
    cost_stops: float
    in_use: bool
    object_label: str
    working_label: str | None
    background_label: str


class LensTableOut(Out):
    """words: at which size, and where the background is compared; or what is missing."""

    words: str
    choices: list[LensChoiceOut]
