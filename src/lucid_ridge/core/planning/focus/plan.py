"""Step 4: what must be sharp, where to focus, and in how many frames."""

from __future__ import annotations

import math
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from ...errors import InputError
from ...facts.choices import DepthMethod
from ...facts.settings import Settings, settings_of
from ...facts.shot import ShotFacts
from ...framing.along_axis import AxialSpan
from ...optics import depth
from ...optics.conjugates import magnification
from ...optics.stacking import RailStack, slice_depth_inoue1997_mm
from ...optics.working_lens import BARE, Imaging
from ...units.lengths import format_distance
from ...units.markings import format_aperture
from ..reasons import Reason, worst_mark
from ..verdicts import FAILS, UNSAID, Verdict
from ..wording import Sentence
from . import wording as say
from .apertures import ApertureChoice, aperture_choices, rail_stack, ring_stack
from .camera import AlongAxis, along_axis, shot_lens
from .choices import FocusCheck, FocusChoice, focus_checks, focus_choices
from .holding import rail_words
from .optics import Focused, FocusPosition, Optics, optics_at, positions_at, single_focus_m
from .reasons import DepthFound, ElementBlur, depth_reasons, how_stacked

CURVE_POINTS = 300
_METHOD_WORDS = {DepthMethod.SINGLE: "one frame", DepthMethod.RING: "refocusing"}


@dataclass(frozen=True, kw_only=True)
class DepthStep:
    """The focus plan.

    near_m, far_m: the range that must be sharp; curve_*: the scene's blur against distance, all along the optical
    axis.

    along: where everything lies along it. imaging: how the lens images at its nearest focus. extension_stops: light
    that focusing so close costs. throw: how far the ring is turned at each position of a ring stack, 0 at infinity and
    1 at the closest focus. stack_words: how a stack is taken. worst_blur_mm: over the range, diffraction included.
    microscope_slice_mm: how deep a microscopist counts depth per frame, above 1:1.
    """

    verdict: Verdict
    reasons: tuple[Reason, ...]
    f_number: float | None = None
    coc_mm: float | None = None
    magnification: float = 0.0
    effective_f_number: float | None = None
    airy_mm: float | None = None
    hyperfocal_m: float | None = None
    near_m: float | None = None
    far_m: float | None = None
    method: DepthMethod | None = None
    method_words: str | None = None
    worst_blur_mm: float | None = None
    step_mm: float | None = None
    slice_mm: float | None = None
    microscope_slice_mm: float | None = None
    positions: tuple[FocusPosition, ...] = ()
    elements: tuple[ElementBlur, ...] = ()
    ground: ElementBlur | None = None
    apertures: tuple[ApertureChoice, ...] = ()
    choices: tuple[FocusChoice, ...] = ()
    checks: tuple[FocusCheck, ...] = ()
    best_single_f_number: float | None = None
    curve_distance_m: NDArray[np.float64] = field(default_factory=lambda: np.empty(0))
    curve_blur_mm: NDArray[np.float64] = field(default_factory=lambda: np.empty(0))
    along: AlongAxis | None = None
    imaging: Imaging | None = None
    extension_stops: float = 0.0
    throw: tuple[float, ...] = ()
    stack_words: str = ""


def plan_depth(facts: ShotFacts) -> DepthStep:
    """Return the focus plan for everything that must be sharp, or the data that are missing."""
    settings = settings_of(facts)
    if settings is None:
        lacking = "body" if facts.body is None else "lens"
        return _missing(f"no {lacking} yet", say.no_body_or_lens(lacking=lacking), f"{lacking}_id")
    lens = shot_lens(facts, settings)
    if facts.close_up:
        imaging: Imaging | None = lens.at_magnification(float(facts.depth.magnification or 1))
        assert imaging is not None
        along = along_axis(facts, settings, imaging)
        if facts.depth.subject_depth_mm is None:
            return _missing(
                "no subject depth yet", say.no_subject_depth(), "subject_depth_mm", facts, settings, along, imaging
            )
        near = imaging.object_mm / 1000
        far = near + facts.depth.subject_depth_mm / 1000
    else:
        along = along_axis(facts, settings)
        limits = wanted_range_m(facts, along)
        if limits is None:
            behind = tuple(item.name for item in facts.elements if item.id in facts.sharp_element_ids)
            words = say.sharp_behind_camera(elements=behind) if behind else say.nothing_sharp()
            return _missing(
                "nothing in view named sharp" if behind else "nothing named sharp",
                words,
                "sharp_element_ids",
                facts,
                settings,
                along,
            )
        near, far = limits
        imaging = nearest_imaging(facts, settings, near)
    if far < near:
        return _refused(
            settings, along, "far is nearer than near", say.far_before_near(near_m=near, far_m=far), "far_m"
        )
    if imaging is None or not imaging.images(near * 1000):
        return _refused(settings, along, "closer than the focal length", say.within_focal_length(near_m=near), "near_m")
    return _planned(facts, settings, imaging, along, near, far)


def wanted_range_m(facts: ShotFacts, along: AlongAxis) -> tuple[float, float] | None:
    """Return the nearest and farthest distance [m along the axis] that must be sharp, from elements, the ground at the
    frame's edge and typed limits; None if unsaid.

    What stands behind the camera has no distance.
    """
    spans = [
        span
        for item in facts.elements
        if item.id in facts.sharp_element_ids and (span := along.spans[item.id]) is not None
    ]
    if facts.depth.ground_sharp and along.ground_m is not None:
        spans.append(AxialSpan(along.ground_m, along.ground_m))
    said = facts.depth
    near = said.near_m if said.near_m is not None else min((span.near_m for span in spans), default=None)
    far = (
        math.inf
        if said.far_infinite
        else said.far_m
        if said.far_m is not None
        else max((span.far_m for span in spans), default=None)
    )
    if near is None or far is None:
        only = near if far is None else far
        return (only, only) if only is not None and math.isfinite(only) else None
    return near, far


def _planned(
    facts: ShotFacts, settings: Settings, imaging: Imaging, along: AlongAxis, near: float, far: float
) -> DepthStep:
    lens = facts.lens
    assert lens is not None
    optics = optics_at(settings, imaging)
    try:
        method, positions, rail, more = _positions(facts, optics, along, near, far)
    except InputError as error:
        return _refused(settings, along, "too many frames", say.too_many_frames(message=error.message), "f_number")
    focused = Focused.of(optics, positions)
    worst = focused.worst_defocus_mm(near, far)
    blurs = _blurs(facts, along, focused, AxialSpan(near, far))
    ground = None if along.ground_m is None or facts.close_up else _blur(
        0, "Ground at the frame's edge", AxialSpan(along.ground_m, along.ground_m), facts.depth.ground_sharp, focused
    )  # fmt: skip
    apertures = aperture_choices(facts, settings, imaging, along, near, far)
    best = min(apertures, key=lambda choice: choice.single_blur_mm) if apertures else None
    found = DepthFound(
        optics=optics,
        method=method,
        positions=tuple(positions),
        worst_mm=worst,
        blurs=(*blurs, *((ground,) if ground else ())),
        apertures=apertures,
        near=near,
        far=far,
        more=more,
    )
    stack = how_stacked(facts, found)
    reasons = depth_reasons(facts, settings, imaging, along, found) + stack
    frames, marked = len(positions), format_aperture(settings.f_number)
    if facts.close_up:
        text = f"{float(facts.depth.magnification or 0):g}:1, {facts.depth.subject_depth_mm:g} mm deep in {frames}"
    elif math.isclose(near, far):
        text = f"{format_distance(near)} in {frames}"
    else:
        text = f"{format_distance(near)} to {format_distance(far)} in {frames}"
    as_focused = _as_focused(facts, settings, imaging, positions[0])
    scale = as_focused.magnification
    distance, blur = _curve(focused, near, far)
    return DepthStep(
        verdict=Verdict("depth", worst_mark(reasons), f"{text}, {marked}"),
        reasons=tuple(reasons),
        f_number=settings.f_number,
        coc_mm=settings.coc_mm,
        magnification=scale,
        effective_f_number=optics.effective,
        airy_mm=optics.airy_mm,
        hyperfocal_m=optics.hyperfocal_mm / 1000,
        near_m=near,
        far_m=far,
        method=method,
        method_words=_METHOD_WORDS.get(method) or rail_words(facts),
        worst_blur_mm=optics.total_mm(worst),
        step_mm=rail.step_mm if rail else None,
        slice_mm=rail.slice_mm if rail else None,
        microscope_slice_mm=slice_depth_inoue1997_mm(scale, optics.f_number, settings.coc_mm)
        if scale > 1.001
        else None,
        positions=tuple(positions),
        elements=blurs,
        ground=ground,
        apertures=apertures,
        choices=focus_choices(facts, optics, along, near, far, method),
        checks=focus_checks(facts, along, near, far, frames),
        best_single_f_number=best.f_number if best else None,
        curve_distance_m=distance,
        curve_blur_mm=blur,
        along=along,
        imaging=as_focused,
        extension_stops=as_focused.cost_stops,
        throw=_throw(facts, settings, optics, focused) if method == DepthMethod.RING else (),
        stack_words=stack[0].text if stack else "",
    )


@dataclass(frozen=True)
class FocusedAt:
    """Result of one aperture with one focusing method: number of frames, blur as a multiple of the limit, and stops
    lost to extension.
    """

    frames: int
    times_limit: float
    extension_stops: float


def focused_at(
    facts: ShotFacts, settings: Settings, imaging: Imaging, along: AlongAxis, near: float, far: float
) -> FocusedAt | None:
    """Return the result of a shot's focusing method at an aperture over a range [m along the axis]; None for too many
    frames.

    imaging: of the lens at the nearest.
    """
    optics = optics_at(settings, imaging)
    try:
        _, positions, _, _ = _positions(facts, optics, along, near, far)
    except InputError:
        return None
    worst = Focused.of(optics, positions).worst_defocus_mm(near, far)
    return FocusedAt(
        len(positions), optics.times_limit(worst), _as_focused(facts, settings, imaging, positions[0]).cost_stops
    )


def nearest_imaging(facts: ShotFacts, settings: Settings, near_m: float) -> Imaging | None:
    """Return how the lens images at the nearest that must be sharp; None where it cannot."""
    lens = shot_lens(facts, settings)
    return (
        lens.at_magnification(float(facts.depth.magnification or 1))
        if facts.close_up
        else lens.at_distance(near_m * 1000)
    )


def _throw(facts: ShotFacts, settings: Settings, optics: Optics, focused: Focused) -> tuple[float, ...]:
    """Return how far the ring is turned at each position, from infinity (0) to the lens's closest focus (1): a ring
    moves the lens evenly, and magnification grows as the lens moves.
    """
    lens = shot_lens(facts, settings)
    # With tubes or bellows between, the ring's own marks say nothing.
    if lens.rig != BARE or lens.largest <= 0:
        return ()
    scales = np.asarray(magnification(optics.focal_mm, focused.object_mm)) / lens.largest
    return tuple(float(share) for share in np.minimum(1.0, scales))


def _as_focused(facts: ShotFacts, settings: Settings, imaging: Imaging, nearest: FocusPosition) -> Imaging:
    """Return how the lens images at the nearest focus position."""
    return (
        imaging
        if facts.close_up
        else shot_lens(facts, settings).at_distance(nearest.object_distance_m * 1000) or imaging
    )


def _positions(
    facts: ShotFacts, optics: Optics, along: AlongAxis, near: float, far: float
) -> tuple[DepthMethod, list[FocusPosition], RailStack | None, list[Reason]]:
    """Return the method in force, its focus positions, the rail's steps where there are any, and what could not be
    done as chosen.
    """
    method, more = facts.depth.depth_method, []
    ring = ring_stack(optics, near, far, facts.depth.overlap)
    if method == DepthMethod.AUTO:
        method = DepthMethod.SINGLE if ring.count == 1 else DepthMethod.RAIL if facts.close_up else DepthMethod.RING
    if method == DepthMethod.RAIL and not (math.isfinite(far) and far > near):
        method = DepthMethod.RING
        more.append(say.no_rail_to_infinity().tight("depth_method"))
    if method == DepthMethod.SINGLE:
        return method, positions_at(optics, np.array([single_focus_m(facts, optics, along, near, far)])), None, more
    if method == DepthMethod.RAIL:
        rail = rail_stack(optics, near, far, facts.depth.overlap)
        return (
            method,
            positions_at(optics, np.full(rail.count, near), np.arange(rail.count, dtype=np.float64) * rail.step_mm),
            rail,
            more,
        )
    return method, positions_at(optics, ring.object_distances_mm / 1000), None, more


def _blurs(facts: ShotFacts, along: AlongAxis, focused: Focused, subject: AxialSpan) -> tuple[ElementBlur, ...]:
    """Return how sharp each element comes out. Close up the subject is as deep as it was said to be."""
    subject_id = facts.subject.id if facts.close_up and facts.subject else None
    return tuple(
        _blur(
            item.id,
            item.name,
            subject if item.id == subject_id else along.spans[item.id],
            item.id in facts.sharp_element_ids,
            focused,
        )
        for item in facts.elements
    )


def _blur(id_: int, name: str, span: AxialSpan | None, must: bool, focused: Focused) -> ElementBlur:
    """Return the worst blur between two distances."""
    if span is None:
        return ElementBlur(
            id=id_,
            name=name,
            span=None,
            must_be_sharp=must,
            defocus_mm=math.nan,
            blur_mm=math.nan,
            times_limit=math.nan,
            verdict="behind the camera",
        )
    if not focused.optics.images(span.near_m):
        return ElementBlur(
            id=id_,
            name=name,
            span=span,
            must_be_sharp=must,
            defocus_mm=math.inf,
            blur_mm=math.inf,
            times_limit=math.inf,
            verdict="closer than the lens images",
        )
    defocus = focused.worst_defocus_mm(span.near_m, span.far_m)
    times = focused.optics.times_limit(defocus)
    words = "sharp" if times <= 1 else f"soft by {say.times(times)}"
    return ElementBlur(
        id=id_,
        name=name,
        span=span,
        must_be_sharp=must,
        defocus_mm=defocus,
        blur_mm=focused.optics.total_mm(defocus),
        times_limit=times,
        verdict=words,
    )


def _curve(focused: Focused, near: float, far: float) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Return distances [m], even in 1/distance from infinity to nearer than near, and the blur there [mm], diffraction
    included.
    """
    focal_m = focused.optics.focal_mm / 1000
    if math.isfinite(far) and far < near * 1.5:
        spread = max(far - near, 1e-4)
        distance = np.maximum(np.linspace(near - spread, far + spread, CURVE_POINTS), focal_m * 1.02)
    else:
        with np.errstate(divide="ignore"):
            distance = 1 / np.linspace(1 / max(near * 0.72, focal_m * 1.02), 0, CURVE_POINTS)
    return distance, np.asarray(depth.total_blur_mm(focused.least_defocus_mm(distance), focused.optics.airy_mm))


def _refused(settings: Settings, along: AlongAxis, text: str, words: Sentence, dial: str) -> DepthStep:
    reason = words.fails(dial)
    return DepthStep(
        verdict=Verdict("depth", FAILS, text),
        reasons=(reason,),
        f_number=settings.f_number,
        coc_mm=settings.coc_mm,
        along=along,
    )


def _missing(
    text: str,
    words: Sentence,
    dial: str,
    facts: ShotFacts | None = None,
    settings: Settings | None = None,
    along: AlongAxis | None = None,
    imaging: Imaging | None = None,
) -> DepthStep:
    verdict, reasons = Verdict("depth", UNSAID, text), (words.unsaid(dial),)
    if facts is None or settings is None or facts.lens is None:
        return DepthStep(verdict=verdict, reasons=reasons)
    far = shot_lens(facts, settings).at_distance(math.inf)
    assert far is not None
    optics = optics_at(settings, imaging or far)
    elements: tuple[ElementBlur, ...] = ()
    if imaging is not None and along is not None:
        # Close up something is in focus before its depth is said.
        near = imaging.object_mm / 1000
        elements = _blurs(facts, along, Focused.at(optics, [near]), AxialSpan(near, near))
    return DepthStep(
        verdict=verdict,
        reasons=reasons,
        f_number=settings.f_number,
        coc_mm=settings.coc_mm,
        magnification=imaging.magnification if imaging else 0.0,
        hyperfocal_m=optics.hyperfocal_mm / 1000,
        elements=elements,
        along=along,
        imaging=imaging,
        extension_stops=imaging.cost_stops if imaging else 0.0,
    )
