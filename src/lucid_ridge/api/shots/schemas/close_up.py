"""The bench of a close-up: field, working distance, background, lights, and ways to its magnification."""

from __future__ import annotations

from ...platform.fields import Out


class CloseUpSetupOut(Out):
    name: str
    focal_mm: float
    smallest: float
    largest: float
    reached: bool
    working_mm: float
    cost_stops: float
    background_deg: float


class LightSketchOut(Out):
    """From above around the subject: distances from it [mm] of the lens's principal plane, its front rim, and a lamp;
    behind_mm: from the lens to the photographer; half the width of both. Null without a lamp or sun.
    """

    bearing_deg: float
    object_mm: float
    working_mm: float
    behind_mm: float
    lens_half_mm: float
    person_half_mm: float
    lamp_mm: float | None
    sun_azimuth_deg: float | None
    sun_altitude_deg: float | None
    lens_shades: bool
    person_shades: bool


class DrawnWayOut(Out):
    words: str
    factor: float
    stops: float


class CloseUpOut(Out):
    """A close-up. drawn_mm: from the lens to the film with bellows; drawn: ways to compute the light it costs."""

    field_width_mm: float
    field_height_mm: float
    working_mm: float
    working_known: bool
    background_name: str | None
    background_times: float | None
    background_width_mm: float | None
    background_blur_share: float
    background_melts: bool
    sketch: LightSketchOut
    drawn_mm: float | None
    drawn: list[DrawnWayOut]
    setups: list[CloseUpSetupOut]
