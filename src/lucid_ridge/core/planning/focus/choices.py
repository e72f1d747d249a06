"""The schools of focusing side by side, each with what it loses; and what to look at on the camera's screen, in which
order.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from ...errors import InputError
from ...facts.choices import DepthMethod, FocusSchool
from ...facts.shot import ShotFacts
from ...facts.words import choice_words
from ...optics import conjugates
from ...units.spelling import percent
from .apertures import rail_stack, ring_stack
from .camera import AlongAxis
from .holding import rail_words
from .optics import Focused, Optics, single_focus_m


@dataclass(frozen=True, kw_only=True)
class FocusChoice:
    """One way to focus a shot: in how many frames, where (None: in several places), its worst blur over the range
    [mm], and what it loses.

    school is None for a stack. chosen: it is the one in force.
    """

    method: DepthMethod
    school: FocusSchool | None
    words: str
    count: int
    focus_m: float | None
    worst_blur_mm: float
    holds: bool
    loses: str
    chosen: bool


@dataclass(frozen=True)
class FocusCheck:
    """What to look at at full magnification, at length and in short, and what to do when it is soft."""

    what: str
    short: str
    distance_m: float
    when_soft: str


def focus_choices(
    facts: ShotFacts, optics: Optics, along: AlongAxis | None, near: float, far: float, method: DepthMethod
) -> tuple[FocusChoice, ...]:
    """Return single frames by every school that has an answer here, then stacks by ring and rail; too many frames
    leave a stack out.
    """
    named = along is not None and along.spans.get(facts.depth.subject_element_id or 0) is not None
    schools = [
        FocusSchool.BALANCED,
        FocusSchool.HYPERFOCAL,
        *([FocusSchool.THIRD] if math.isfinite(far) else []),
        *([FocusSchool.SUBJECT] if named else []),
    ]
    if facts.close_up:
        schools = [FocusSchool.BALANCED]
    found = [
        _single(facts.choosing(focus_school=school), optics, along, near, far, method, facts.depth.focus_school)
        for school in schools
    ]
    for stack in (DepthMethod.RING, DepthMethod.RAIL):
        made = _stack(facts, optics, near, far, stack, method)
        if made is not None:
            found.append(made)
    return tuple(found)


def _single(
    facts: ShotFacts,
    optics: Optics,
    along: AlongAxis | None,
    near: float,
    far: float,
    method: DepthMethod,
    in_force: FocusSchool,
) -> FocusChoice:
    school = facts.depth.focus_school
    focus = single_focus_m(facts, optics, along, near, far)
    focused = Focused.at(optics, [focus])
    at_near, at_far = (optics.times_limit(float(value)) for value in focused.least_defocus_mm(np.array([near, far])))
    worst = focused.worst_defocus_mm(near, far)
    soft = [
        f"{name} soft by {max(1.1, times):.1f}×" for name, times in (("near", at_near), ("far", at_far)) if times > 1
    ]
    loses = " and ".join(soft) or "nothing within the range"
    chosen = method == DepthMethod.SINGLE and (school == in_force or facts.close_up)
    words = f"one frame, {choice_words(school)}"
    return FocusChoice(
        method=DepthMethod.SINGLE,
        school=school,
        words=words,
        count=1,
        focus_m=focus,
        worst_blur_mm=optics.total_mm(worst),
        holds=not soft,
        loses=loses,
        chosen=chosen,
    )


def _stack(
    facts: ShotFacts, optics: Optics, near: float, far: float, stack: DepthMethod, method: DepthMethod
) -> FocusChoice | None:
    if stack == DepthMethod.RAIL and not (
        math.isfinite(far) and far > near and (facts.close_up or method == DepthMethod.RAIL)
    ):
        return None
    try:
        if stack == DepthMethod.RAIL:
            rail = rail_stack(optics, near, far, facts.depth.overlap)
            focused = Focused.at(
                optics, np.full(rail.count, near), np.arange(rail.count, dtype=np.float64) * rail.step_mm
            )
            loses = f"{rail.step_mm * (rail.count - 1):.1f} mm to travel, and the background shifts behind the subject"
        else:
            ring = ring_stack(optics, near, far, facts.depth.overlap)
            focused = Focused.at(optics, ring.object_distances_mm / 1000)
            first, last = (
                float(conjugates.image_distance_mm(optics.focal_mm, mm)) for mm in focused.object_mm[[0, -1]]
            )
            loses = (
                f"{percent(first / last - 1, 1)} of the framing to breathing"
                if len(focused.object_mm) > 1
                else "nothing within the range"
            )
    except InputError:
        return None
    worst = focused.worst_defocus_mm(near, far)
    words = rail_words(facts) if stack == DepthMethod.RAIL else "refocusing"
    return FocusChoice(
        method=stack,
        school=None,
        words=words,
        count=len(focused.object_mm),
        focus_m=None,
        worst_blur_mm=optics.total_mm(worst),
        holds=optics.times_limit(worst) <= 1,
        loses=loses,
        chosen=method == stack,
    )


def focus_checks(
    facts: ShotFacts, along: AlongAxis | None, near: float, far: float, frames: int
) -> tuple[FocusCheck, ...]:
    """Return the points to check before packing up: the nearest, the subject, the farthest, in this order."""
    nearer = "begin the series nearer" if frames > 1 else "focus nearer, or stop down"
    farther = "let the series run further" if frames > 1 else "focus further, or stop down"
    found = [FocusCheck("the nearest that must be sharp", "nearest", near, nearer)]
    subject = facts.subject
    span = along.spans.get(subject.id) if along and subject else None
    if subject is not None and span is not None and not facts.close_up and near < span.near_m < far:
        between = (
            "take one frame more between its neighbours" if frames > 1 else "focus on it, and let near or far go softer"
        )
        found.append(FocusCheck(subject.name, subject.name, span.near_m, between))
    if far > near:
        found.append(
            FocusCheck(
                "the farthest" if math.isfinite(far) else "infinity",
                "farthest" if math.isfinite(far) else "",
                far,
                farther,
            )
        )
    return tuple(found)
