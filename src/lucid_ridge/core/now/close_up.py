"""Depth per frame and the frames of a close-up: by the plan of a shot."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass

from ..errors import InputError
from ..facts.kit import Body, Lens
from ..facts.settings import settings_of
from ..facts.shot import facts_from
from ..optics.close_up import magnification_from_field
from ..planning.focus.camera import shot_lens
from ..planning.focus.optics import optics_at
from ..planning.plan.shot_plan import plan_shot
from ..planning.verdicts import FAILS
from ..planning.wording import plural, stops
from ..units.lengths import format_distance, parse_length_mm
from ..units.markings import format_aperture
from ..units.ratios import parse_magnification
from .answer import Answer
from .formats import lens_of

_LENGTH = re.compile(r"(?:mm|cm|m|in|inch|inches|\"|″)\s*$", re.IGNORECASE)


@dataclass(frozen=True, kw_only=True)
class CloseUpNow:
    """field_mm: width and height that fill the frame. step_mm: between frames; None for one frame.

    slice_mm: depth of field of one frame. effective_f_number: with the extension, which costs cost_stops against
    infinity. working_mm: from the lens's front, or from its principal plane if working_known is False. sharp: whether
    the whole depth is within the circle of confusion. diffraction_alone: whether no number of frames can help.
    """

    magnification: float
    depth_mm: float
    f_number: float
    field_mm: tuple[float, float]
    frames: int
    step_mm: float | None
    slice_mm: float
    effective_f_number: float
    cost_stops: float
    working_mm: float
    working_known: bool
    blur_um: float
    limit_um: float
    sharp: bool
    diffraction_alone: bool

    @property
    def answer(self) -> Answer:
        """The frames, what each holds, and what the extension costs."""
        apart = "holds it" if self.step_mm is None else f"{_down(self.step_mm)} apart"
        notes = [
            f"{_down(self.slice_mm)} is sharp in one frame; the frame shows {self.field_mm[0]:.3g} × "
            f"{self.field_mm[1]:.3g} mm at {self.magnification:.3g}:1.",
            f"Effective aperture {format_aperture(self.effective_f_number)}, which costs {stops(self.cost_stops)}. "
            f"{format_distance(self.working_mm / 1000)} from the {'front rim' if self.working_known else 'lens'} to "
            "the subject.",
        ]
        if self.diffraction_alone:
            notes.insert(0, "Too soft from diffraction, whatever the stack: open the aperture.")
        choices = {
            "magnification": self.magnification,
            "subject_depth_mm": self.depth_mm,
            "f_number": self.f_number,
        }
        return Answer(plural(self.frames, "frame"), apart, tuple(notes), choices)


def _down(length_mm: float) -> str:
    """Return a length with two digits, rounded down: steps a little smaller leave no gap."""
    unit, name = (1000.0, "µm") if length_mm < 0.1 else (1.0, "mm")
    digit = 10.0 ** (math.floor(math.log10(length_mm * unit)) - 1)
    return f"{math.floor(length_mm * unit / digit + 1e-9) * digit:.4g} {name}"


def parse_scale(text: str) -> tuple[float | None, float | None]:
    """Return the magnification meant by a text, or the width [mm] that fills the frame: "1.5:1", "0.5", "24 mm".

    One of them is None. Raises InputError for anything else.
    """
    if _LENGTH.search(text):
        return None, parse_length_mm(text)
    return parse_magnification(text), None


def close_up_now(
    *,
    magnification: float | None = None,
    field_mm: float | None = None,
    depth_mm: float,
    f_number: float,
    body: Body,
    lens: Lens | None = None,
    focal_mm: float = 100.0,
) -> CloseUpNow:
    """Return the stack that a subject's depth [mm] needs at a magnification, or with a ruler's field_mm across the
    frame's width.

    lens: None for a thin lens of focal_mm. Raises InputError if neither or both of magnification and field are given.
    """
    if (magnification is None) == (field_mm is None):
        raise InputError("magnification", "Give the magnification, or the width that fills the frame.")
    scale = magnification_from_field(body.sensor_width_mm, field_mm) if field_mm is not None else magnification or 1.0
    lens = lens or lens_of(focal_mm, scale)
    facts = facts_from(
        body=body,
        lens=lens,
        focal_mm=lens.focal_max_mm,
        f_number=f_number,
        magnification=scale,
        subject_depth_mm=depth_mm,
    )
    plan = plan_shot(facts)
    depth, bench, settings = plan.depth, plan.frame.close_up, settings_of(facts)
    if bench is None or depth.imaging is None or settings is None or not depth.positions:
        raise InputError("magnification", f"{scale:.3g}:1 cannot be reached here.")
    optics = optics_at(settings, shot_lens(facts, settings).at_magnification(scale))
    return CloseUpNow(
        magnification=scale,
        depth_mm=depth_mm,
        f_number=f_number,
        field_mm=bench.field_mm,
        frames=max(1, len(depth.positions)),
        step_mm=depth.step_mm if len(depth.positions) > 1 else None,
        slice_mm=1000 * (depth.positions[0].far_limit_m - depth.positions[0].near_limit_m),
        effective_f_number=depth.effective_f_number or optics.effective,
        cost_stops=depth.imaging.cost_stops,
        working_mm=bench.working_mm,
        working_known=bench.working_known,
        blur_um=1000 * (depth.worst_blur_mm or 0.0),
        limit_um=1000 * settings.coc_mm,
        sharp=depth.verdict.mark != FAILS,
        diffraction_alone=optics.diffraction_alone,
    )
