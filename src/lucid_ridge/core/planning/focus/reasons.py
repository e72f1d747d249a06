"""Reasons of a focus plan."""

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
from ..reasons import Reason
from . import wording as say
from .apertures import ApertureChoice, fewest_frames
from .camera import AlongAxis, shot_lens
from .holding import stack_reasons
from .optics import FocusPosition, Optics


@dataclass(frozen=True, kw_only=True)
class ElementBlur:
    """The worst blur of an element: with diffraction [mm on the sensor], and as a multiple of the limit.

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


@dataclass(frozen=True, kw_only=True)
class DepthFound:
    """A focus plan before it is judged.

    worst_mm: the worst defocus over the range; more: reasons found while planning.
    """

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
        """Whether the blur exceeds the limit somewhere in the range."""
        return self.optics.times_limit(self.worst_mm) > 1


def depth_reasons(
    facts: ShotFacts, settings: Settings, imaging: Imaging, along: AlongAxis, found: DepthFound
) -> list[Reason]:
    """Return the reasons of a focus plan, except those about its stack.

    Every soft element that must be sharp is among the failures, or lies within a range that is.
    """
    reasons = [*found.more, *_lens_reasons(facts, settings, found), *_school_reasons(facts, along, found)]
    reasons += _range_reasons(found) + _element_reasons(facts, along, found)
    if len(found.positions) == 1 and not (found.soft or found.optics.diffraction_alone):
        reasons.append(_held_reason(found))
    if facts.close_up and imaging.focal_mm < settings.focal_mm * 0.98:
        reasons.append(say.shorter_when_close(focal_mm=imaging.focal_mm).holds("magnification"))
    return reasons


def how_stacked(facts: ShotFacts, found: DepthFound) -> list[Reason]:
    """Return the reasons about a stack, first the technique; empty for one frame."""
    if len(found.positions) < 2:
        return []
    step = found.positions[1].rail_mm
    return [_ring_reason(found)] if step is None else stack_reasons(facts, len(found.positions), step)


def _range_reasons(found: DepthFound) -> list[Reason]:
    """Return why the range is not sharp: from diffraction alone, or from defocus."""
    optics = found.optics
    if optics.diffraction_alone:
        choice, count = fewest_frames(found.apertures) or (None, 0)
        words = say.diffraction_too_soft(
            f_number=optics.marked,
            airy_mm=optics.airy_mm,
            coc_mm=optics.coc_mm,
            better_f_number=choice.f_number if choice else None,
            better_frames=count,
        )
        return [words.fails("f_number")]
    if not found.soft:
        return []
    focused_m = found.positions[0].object_distance_m
    return [say.range_soft(focused_m=focused_m, times_limit=optics.times_limit(found.worst_mm)).fails("depth_method")]


def _element_reasons(facts: ShotFacts, along: AlongAxis, found: DepthFound) -> list[Reason]:
    """Return a reason for each element that must be sharp and is not, or cannot be judged; elements within a soft
    range are covered by its reason.
    """
    covered = found.soft or found.optics.diffraction_alone
    reasons = []
    for blur in found.blurs:
        if not blur.must_be_sharp:
            continue
        if blur.span is None:
            reasons.append(say.element_behind_camera(element=blur.name).unsaid("bearing_deg"))
            continue
        within = found.near * (1 - 1e-9) <= blur.span.near_m and blur.span.far_m <= found.far * (1 + 1e-9)
        if blur.times_limit > 1 and not (covered and within):
            words = say.soft_element(
                element=blur.name, sharpness=blur.verdict, outside=not within, close_up=facts.close_up
            )
            reasons.append(words.fails("subject_depth_mm" if facts.close_up else "near_m"))
    if facts.depth.ground_sharp and along.ground_m is None and not facts.close_up:
        reasons.append(say.no_ground_in_frame().unsaid("ground_sharp"))
    return reasons


def _school_reasons(facts: ShotFacts, along: AlongAxis, found: DepthFound) -> list[Reason]:
    """Return a reason if the chosen way of focusing has no answer here."""
    if found.method != DepthMethod.SINGLE or facts.close_up:
        return []
    if facts.depth.focus_school == FocusSchool.THIRD and math.isinf(found.far):
        return [say.third_of_infinity().holds("focus_school")]
    if facts.depth.focus_school == FocusSchool.SUBJECT and along.spans.get(facts.depth.subject_element_id or 0) is None:
        named = facts.element(facts.depth.subject_element_id) is not None
        return [say.no_subject_to_focus(behind_camera=named).unsaid("subject_element_id")]
    return []


def _lens_reasons(facts: ShotFacts, settings: Settings, found_plan: DepthFound) -> list[Reason]:
    """Return the reasons why the lens, with its accessories, cannot meet the request."""
    lens, working = facts.lens, shot_lens(facts, settings)
    assert lens is not None
    closest = found_plan.positions[0].focus_distance_m
    found: list[Reason] = []
    if not lens.takes_aperture(settings.f_number, settings.focal_mm):
        widest = lens.widest_f_number(settings.focal_mm)
        words = say.no_such_aperture(
            f_number=settings.f_number, lens=lens.name, widest_f_number=widest, smallest_f_number=lens.f_number_max
        )
        found.append(words.fails("f_number"))
    if facts.close_up:
        wanted = float(facts.depth.magnification or 0)
        if not working.reaches(wanted):
            smallest, largest = working.reach
            words = say.no_such_magnification(lens=lens.name, wanted=wanted, smallest=smallest, largest=largest)
            found.append(words.fails("magnification"))
    elif working.rig != BARE:
        found += [_out_of_reach(working, lens.name, place) for place in found_plan.ends if not _reached(working, place)]
    elif too_near(lens, closest):
        words = say.too_close(focus_m=closest, lens=lens.name, closest_m=lens.closest_focus_mm / 1000)
        found.append(words.fails("near_m"))
    return found


def too_near(lens: Lens, focus_m: float) -> bool:
    """Return whether a focus distance [m from the sensor] is too close for a lens without accessories; engraved
    distances are rounded.
    """
    return focus_m * 1000 < lens.closest_focus_mm * 0.999


def cannot_focus(facts: ShotFacts, settings: Settings, position: FocusPosition) -> bool:
    """Return whether the shot's lens, with its accessories, cannot be focused at a position."""
    working = shot_lens(facts, settings)
    if working.rig != BARE:
        return not _reached(working, position.object_distance_m)
    return facts.lens is not None and too_near(facts.lens, position.focus_distance_m)


def _reached(working: WorkingLens, object_m: float) -> bool:
    imaging = working.at_distance(object_m * 1000)
    return imaging is not None and working.reaches(imaging.magnification)


def _out_of_reach(working: WorkingLens, name: str, object_m: float) -> Reason:
    """Return the reason that a lens with accessories does not focus at a distance."""
    smallest, largest = working.reach
    near = working.at_magnification(largest).object_mm / 1000 if largest > 0 else math.inf
    far = working.at_magnification(smallest).object_mm / 1000 if smallest > 1e-9 else math.inf
    return say.out_of_reach(lens=name, near_m=near, far_m=far, wanted_m=object_m).fails("accessory_ids")


def _ring_reason(found: DepthFound) -> Reason:
    count, optics = len(found.positions), found.optics
    first, last = found.positions[0].object_distance_m, found.positions[-1].object_distance_m
    near, far = (float(conjugates.image_distance_mm(optics.focal_mm, distance * 1000)) for distance in (first, last))
    words = say.ring_stack(
        frames=count,
        first_m=first,
        last_m=last,
        blur_mm=None if optics.diffraction_alone else optics.total_mm(found.worst_mm),
        coc_mm=optics.coc_mm,
        framing_change=near / far - 1,
    )
    return words.holds("overlap")


def _held_reason(found: DepthFound) -> Reason:
    words = say.range_sharp(
        focused_m=found.positions[0].object_distance_m,
        near_m=found.near,
        far_m=found.far,
        blur_mm=found.optics.total_mm(found.worst_mm),
        coc_mm=found.optics.coc_mm,
    )
    return words.holds("f_number")
