"""What speaks for and against a focus plan."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ...facts.choices import DepthMethod, FocusSchool
from ...facts.kit import Lens
from ...facts.settings import Settings
from ...facts.shot import ShotFacts
from ...framing.along_axis import AxialSpan
from ...optics import conjugates
from ...optics.working_lens import BARE, Imaging, WorkingLens
from ...units.lengths import format_distance
from ...units.markings import format_aperture
from ..verdicts import FAILS, HOLDS, UNSAID, Reason
from .apertures import ApertureChoice, fewest_frames
from .camera import AlongAxis, shot_lens
from .holding import stack_reasons
from .optics import FocusPosition, Optics


@dataclass(frozen=True)
class ElementBlur:
    """How sharp an element comes out at its worst: blur [mm on the sensor, diffraction included] and as multiple of the limit.

    span: its nearest and farthest visible part along the optical axis; None behind the camera.
    """

    id: int
    name: str
    span: AxialSpan | None
    must_be_sharp: bool
    defocus_mm: float
    blur_mm: float
    times_limit: float
    verdict: str


@dataclass(frozen=True)
class DepthFound:
    """A focus plan before it is judged. worst_mm: the worst defocus over the range; more: reasons found on the way."""

    optics: Optics
    method: DepthMethod
    positions: tuple[FocusPosition, ...]
    worst_mm: float
    blurs: tuple[ElementBlur, ...]
    apertures: tuple[ApertureChoice, ...]
    near: float
    far: float
    more: list[Reason]

    @property
    def ends(self) -> list[float]:
        """The object distances of the nearest and the farthest focus [m]; one where they are the same."""
        places = (self.positions[0].object_distance_m, self.positions[-1].object_distance_m)
        return list(dict.fromkeys(places))

    @property
    def soft(self) -> bool:
        """Whether the range is blurred more than is allowed somewhere."""
        return self.optics.times_limit(self.worst_mm) > 1


def depth_reasons(facts: ShotFacts, settings: Settings, imaging: Imaging, along: AlongAxis, found: DepthFound) -> list[Reason]:
    """Return all reasons of a focus plan but for how its stack is taken; every must-be-sharp element that is soft is among the failures, or lies within a range that is."""
    reasons = [*found.more, *_lens_reasons(facts, settings, found), *_school_reasons(facts, along, found)]
    reasons += _range_reasons(found) + _element_reasons(facts, along, found)
    if len(found.positions) == 1 and not (found.soft or found.optics.diffraction_alone):
        reasons.append(_held_reason(found))
    if facts.close_up and imaging.focal_mm < settings.focal_mm * 0.98:
        reasons.append(Reason("depth", HOLDS, f"Focused this close the lens works at {imaging.focal_mm:.0f} mm: from closest focus and largest magnification, and in proportion between there and infinity.", "magnification"))  # fmt: skip
    return reasons


def how_stacked(facts: ShotFacts, found: DepthFound) -> list[Reason]:
    """Return how a stack is taken and whether it can be, the sentence that says how first; nothing for one frame."""
    if len(found.positions) < 2:
        return []
    step = found.positions[1].rail_mm
    return [_ring_reason(found)] if step is None else stack_reasons(facts, len(found.positions), step)


def soft_words(times: float) -> str:
    """Return a blur beyond the limit as its multiple: 1.1× at least, so that it never reads as held."""
    return f"{max(1.1, times):.1f}×" if times < 9.95 else f"{times:.0f}×"


def _range_reasons(found: DepthFound) -> list[Reason]:
    """Return why the range is not held: by diffraction alone, or by defocus with it."""
    optics = found.optics
    if optics.diffraction_alone:
        best = fewest_frames(found.apertures)
        help_ = ""
        if best is not None:
            choice, count = best
            help_ = f" {format_aperture(choice.f_number)} holds it in {'one frame' if count == 1 else f'{count} frames'}."
        said = "as much as" if optics.airy_mm <= optics.coc_mm else "more than"
        text = f"Diffraction alone at {format_aperture(optics.marked)} draws points {optics.airy_mm * 1000:.0f} µm wide, {said} the {optics.coc_mm * 1000:.0f} µm allowed: no stack is sharper than that.{help_}"
        return [Reason("depth", FAILS, text, "f_number")]
    if not found.soft:
        return []
    where = format_distance(found.positions[0].object_distance_m)
    soft = soft_words(optics.times_limit(found.worst_mm))
    return [Reason("depth", FAILS, f"One frame focused at {where} leaves the range soft by {soft}: stop down or take a stack.", "depth_method")]  # fmt: skip


def _element_reasons(facts: ShotFacts, along: AlongAxis, found: DepthFound) -> list[Reason]:
    """Return what must be sharp and is not, or cannot be judged; what lies within a range that is soft is told by that."""
    told = found.soft or found.optics.diffraction_alone
    reasons = []
    for blur in found.blurs:
        if not blur.must_be_sharp:
            continue
        if blur.span is None:
            reasons.append(Reason("depth", UNSAID, f"{blur.name} must be sharp and stands behind the camera: turn it to judge that.", "bearing_deg"))  # fmt: skip
            continue
        within = found.near * (1 - 1e-9) <= blur.span.near_m and blur.span.far_m <= found.far * (1 + 1e-9)
        if blur.times_limit > 1 and not (told and within):
            where = "" if within else ", outside the depth named" if facts.close_up else ", outside the limits typed"
            dial = "subject_depth_mm" if facts.close_up else "near_m"
            reasons.append(Reason("depth", FAILS, f"{blur.name} is {blur.verdict}{where}: widen the range.", dial))
    if facts.depth.ground_sharp and along.ground_m is None and not facts.close_up:
        reasons.append(Reason("depth", UNSAID, "No ground is in the frame: there is none to be sharp at its edge.", "ground_sharp"))
    return reasons


def _school_reasons(facts: ShotFacts, along: AlongAxis, found: DepthFound) -> list[Reason]:
    """Return what a way of focusing was chosen that has no answer here: then near and far are equally blurred instead."""
    if found.method != DepthMethod.SINGLE or facts.close_up:
        return []
    if facts.depth.focus_school == FocusSchool.THIRD and math.isinf(found.far):
        text = "A third of the way to infinity is no distance: focused so that near and far are equally blurred instead."
        return [Reason("depth", HOLDS, text, "focus_school")]
    if facts.depth.focus_school == FocusSchool.SUBJECT and along.spans.get(facts.depth.subject_element_id or 0) is None:
        named = facts.element(facts.depth.subject_element_id) is not None
        what = "The subject stands behind the camera" if named else "Name the subject to focus on"
        return [Reason("depth", UNSAID, f"{what}; until then near and far are equally blurred.", "subject_element_id")]
    return []


def _lens_reasons(facts: ShotFacts, settings: Settings, found_plan: DepthFound) -> list[Reason]:
    """Return what is asked of the lens, as it is rigged, that it cannot do."""
    lens, working = facts.lens, shot_lens(facts, settings)
    assert lens is not None
    closest = found_plan.positions[0].focus_distance_m
    found: list[Reason] = []
    if not lens.takes_aperture(settings.f_number, settings.focal_mm):
        widest = lens.widest_f_number(settings.focal_mm)
        text = f"{format_aperture(settings.f_number)} is outside the {lens.name} ({format_aperture(widest)} to {format_aperture(lens.f_number_max)})."  # fmt: skip
        found.append(Reason("depth", FAILS, text, "f_number"))
    if facts.close_up:
        wanted = float(facts.depth.magnification or 0)
        if not working.reaches(wanted):
            smallest, largest = working.reach
            way = f"reaches {largest:.2g}:1" if wanted > largest else f"gives {smallest:.2g}:1 at least"
            found.append(Reason("depth", FAILS, f"{lens.name} {way}, not {wanted:g}:1.", "magnification"))
    elif working.rig != BARE:
        found += [_out_of_reach(working, lens.name, place) for place in found_plan.ends if not _reached(working, place)]
    elif too_near(lens, closest):
        text = f"The nearest focus position, {format_distance(closest)} from the sensor, is closer than the {lens.name} focuses ({format_distance(lens.closest_focus_mm / 1000)})."  # fmt: skip
        found.append(Reason("depth", FAILS, text, "near_m"))
    return found


def too_near(lens: Lens, focus_m: float) -> bool:
    """Whether a lens without a rig focuses no nearer than so far from the sensor plane [m]; engravings are rounded."""
    return focus_m * 1000 < lens.closest_focus_mm * 0.999


def cannot_focus(facts: ShotFacts, settings: Settings, position: FocusPosition) -> bool:
    """Whether the shot's lens, as it is rigged, cannot be focused there."""
    working = shot_lens(facts, settings)
    if working.rig != BARE:
        return not _reached(working, position.object_distance_m)
    return facts.lens is not None and too_near(facts.lens, position.focus_distance_m)


def _reached(working: WorkingLens, object_m: float) -> bool:
    imaging = working.at_distance(object_m * 1000)
    return imaging is not None and working.reaches(imaging.magnification)


def _out_of_reach(working: WorkingLens, name: str, object_m: float) -> Reason:
    """Return between which distances a rigged lens focuses, for one that is asked and lies outside."""
    smallest, largest = working.reach
    near = working.at_magnification(largest).object_mm / 1000 if largest > 0 else math.inf
    far = working.at_magnification(smallest).object_mm / 1000 if smallest > 1e-9 else math.inf
    text = f"{name} as it is rigged focuses from {format_distance(near)} to {format_distance(far)} before the lens, not on {format_distance(object_m)}."
    return Reason("depth", FAILS, text, "accessory_ids")


def _ring_reason(found: DepthFound) -> Reason:
    count, optics = len(found.positions), found.optics
    first, last = found.positions[0].object_distance_m, found.positions[-1].object_distance_m
    near, far = (float(conjugates.image_distance_mm(optics.focal_mm, distance * 1000)) for distance in (first, last))
    meet = f" meet at {optics.total_mm(found.worst_mm) * 1000:.0f} µm of the {optics.coc_mm * 1000:.0f} µm allowed, diffraction included"
    text = (
        f"{count} focus positions from {format_distance(first)} to {format_distance(last)}{'' if optics.diffraction_alone else meet}; "
        f"turning the ring changes the framing by {near / far - 1:.1%}: leave that margin."
    )
    return Reason("depth", HOLDS, text, "overlap")


def _held_reason(found: DepthFound) -> Reason:
    near, far = found.near, found.far
    span = format_distance(near) if math.isclose(near, far) else f"{format_distance(near)} to {format_distance(far)}"
    blur = f"{found.optics.total_mm(found.worst_mm) * 1000:.0f} µm of {found.optics.coc_mm * 1000:.0f} µm, diffraction included"
    return Reason("depth", HOLDS, f"One frame focused at {format_distance(found.positions[0].object_distance_m)} holds {span}: worst blur {blur}.", "f_number")  # fmt: skip
