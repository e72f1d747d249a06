"""Every whole stop of the lens: one frame's worst blur there, and the frames that a stack needs."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

from ...errors import InputError
from ...facts.settings import Settings
from ...facts.shot import ShotFacts
from ...optics import stacking
from ...optics.conjugates import magnification
from ...optics.working_lens import Imaging
from ...units.markings import APERTURE_MARKINGS
from .camera import AlongAxis
from .optics import Focused, Optics, optics_at, single_focus_m


@dataclass(frozen=True)
class ApertureChoice:
    """One aperture: the worst blur of a single frame over the range, and the frames of a stack there (None: too many).

    within: diffraction leaves room for defocus, so that a stack holds what is allowed.
    """

    f_number: float
    single_blur_mm: float
    single_holds: bool
    stack_count: int | None
    airy_mm: float
    within: bool

    @property
    def frames(self) -> int | None:
        """The fewest frames that hold the range here; None where none do."""
        if not self.within:
            return None
        return 1 if self.single_holds else self.stack_count


def aperture_choices(
    facts: ShotFacts, settings: Settings, imaging: Imaging, along: AlongAxis | None, near: float, far: float
) -> tuple[ApertureChoice, ...]:
    """Return the whole stops that the lens can be set to, widest first; without one the aperture in force."""
    lens = facts.lens
    assert lens is not None
    marked = [mark.value for mark in APERTURE_MARKINGS if lens.takes_aperture(mark.value, settings.focal_mm)][::-1]
    stops = marked[::3][::-1] if marked else [settings.f_number]
    return tuple(aperture_choice(facts, optics_at(settings, imaging, stop), along, near, far) for stop in stops)


def aperture_choice(
    facts: ShotFacts, optics: Optics, along: AlongAxis | None, near: float, far: float
) -> ApertureChoice:
    """Return the result of one aperture over a range [m along the axis]: one frame by the chosen school, and a
    stack.
    """
    return _choice_of(
        optics, single_focus_m(facts, optics, along, near, far), near, far, facts.depth.overlap, facts.close_up
    )


# A dial that is turned asks for the same ones each time.
@lru_cache(maxsize=512)
def _choice_of(
    optics: Optics, focus_m: float, near: float, far: float, overlap: float, close_up: bool
) -> ApertureChoice:
    defocus = Focused.at(optics, [focus_m]).worst_defocus_mm(near, far)
    stack = rail_stack if close_up else ring_stack
    try:
        count = stack(optics, near, far, overlap).count
    except InputError:
        count = None
    return ApertureChoice(
        optics.marked,
        optics.total_mm(defocus),
        optics.times_limit(defocus) <= 1,
        count,
        optics.airy_mm,
        not optics.diffraction_alone,
    )


def ring_stack(optics: Optics, near: float, far: float, overlap: float) -> stacking.RingStack:
    """Return the stack that turns the ring from near to far [m]. Raises InputError for too many frames."""
    return stacking.plan_ring_stack(
        optics.focal_mm, optics.f_number, optics.defocus_mm, near * 1000, far * 1000, overlap, optics.pupil_ratio
    )


def rail_stack(optics: Optics, near: float, far: float, overlap: float) -> stacking.RailStack:
    """Return the stack that moves the camera from near to far [m]. Raises InputError for too many frames."""
    scale = float(magnification(optics.focal_mm, near * 1000))
    return stacking.plan_rail_stack(
        scale, optics.f_number, optics.defocus_mm, (far - near) * 1000, optics.pupil_ratio, overlap
    )


def fewest_frames(choices: Sequence[ApertureChoice]) -> tuple[ApertureChoice, int] | None:
    """Return the aperture that holds the range in the fewest frames within the blur limit; of equal ones the sharpest
    in one frame.
    """
    counted = [(choice, count) for choice in choices if (count := choice.frames) is not None]
    return min(counted, key=lambda item: (item[1], item[0].single_blur_mm), default=None)
