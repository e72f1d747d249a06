"""Step 4: what must be sharp, where to focus, and in how many frames."""

from __future__ import annotations

import math
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from ..errors import InputError
from ..facts.choices import DepthMethod, FocusSchool
from ..facts.place import Element
from ..facts.settings import Settings, settings_of
from ..facts.shot import ShotFacts
from ..optics import conjugates, depth, stacking
from ..optics.apertures import worst_blur_mm
from ..units.lengths import format_distance
from ..units.markings import APERTURE_MARKINGS, format_aperture
from .marks import FAILS, HOLDS, TIGHT, UNSAID, Reason, Verdict, worst_mark

CURVE_POINTS = 300
# A focus position this far is past what a ring can be set to: it is the infinity mark.
_INFINITY_MARK_MM = 1e7


@dataclass(frozen=True)
class FocusPosition:
    """One setting of ring or rail. Distances [m]: from the lens, and as engraved (from the sensor plane)."""

    object_distance_m: float
    focus_distance_m: float
    near_limit_m: float
    far_limit_m: float
    rail_mm: float | None = None


@dataclass(frozen=True)
class ElementBlur:
    """How sharp an element comes out: blur [mm on the sensor, diffraction included] and as multiple of the limit."""

    id: int
    name: str
    distance_m: float
    must_be_sharp: bool
    defocus_mm: float
    blur_mm: float
    times_limit: float
    verdict: str


@dataclass(frozen=True)
class ApertureChoice:
    """One aperture: the worst blur of a single frame over the range, and the frames that a stack needs there."""

    f_number: float
    single_blur_mm: float
    stack_count: int | None
    airy_mm: float


@dataclass(frozen=True)
class DepthStep:
    """The focus plan. near_m, far_m: the range that must be sharp; curve_*: the scene's blur against distance."""

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
    method: str | None = None
    worst_blur_mm: float | None = None
    step_mm: float | None = None
    slice_mm: float | None = None
    positions: tuple[FocusPosition, ...] = ()
    elements: tuple[ElementBlur, ...] = ()
    apertures: tuple[ApertureChoice, ...] = ()
    best_single_f_number: float | None = None
    curve_distance_m: NDArray[np.float64] = field(default_factory=lambda: np.empty(0))
    curve_blur_mm: NDArray[np.float64] = field(default_factory=lambda: np.empty(0))


def plan_depth(facts: ShotFacts) -> DepthStep:
    """Return the focus plan for what must be sharp, or what is missing to make one."""
    settings = settings_of(facts)
    if settings is None:
        lacking = "body" if facts.body is None else "lens"
        return _missing(f"no {lacking} yet", f"Choose a {lacking}: depth of field starts from it.", f"{lacking}_id", None)
    assert facts.lens is not None
    if facts.close_up:
        if facts.depth.subject_depth_mm is None:
            return _missing(
                "no subject depth yet",
                "Say how deep the subject is, in mm from its nearest to its farthest sharp point.",
                "subject_depth_mm",
                settings,
            )
        near = conjugates.object_distance_for_magnification_mm(settings.focal_mm, float(facts.depth.magnification or 1)) / 1000
        far = near + facts.depth.subject_depth_mm / 1000
    else:
        limits = wanted_range_m(facts)
        if limits is None:
            return _missing(
                "nothing named sharp", "Say which elements must be sharp, or type a near and a far limit.", "sharp_element_ids", settings
            )
        near, far = limits
    if far < near:
        reason = Reason(
            "depth", FAILS, f"The far limit ({format_distance(far)}) is closer than the near limit ({format_distance(near)}).", "far_m"
        )
        return DepthStep(Verdict("depth", FAILS, "far is nearer than near"), (reason,), settings.f_number, settings.coc_mm)
    if near * 1000 <= settings.focal_mm * 1.001:
        reason = Reason("depth", FAILS, f"{format_distance(near)} lies within the focal length: no lens images that.", "near_m")
        return DepthStep(Verdict("depth", FAILS, "closer than the focal length"), (reason,), settings.f_number, settings.coc_mm)
    return _planned(facts, settings, near, far)


def wanted_range_m(facts: ShotFacts) -> tuple[float, float] | None:
    """Return the nearest and farthest distance [m] that must be sharp, from elements and typed limits; None if unsaid."""
    distances = [item.distance_m for item in facts.elements if item.id in facts.sharp_element_ids]
    near = facts.depth.near_m if facts.depth.near_m is not None else min(distances, default=None)
    far = math.inf if facts.depth.far_infinite else facts.depth.far_m if facts.depth.far_m is not None else max(distances, default=None)
    if near is None or far is None:
        only = near if far is None else far
        return (only, only) if only is not None and math.isfinite(only) else None
    return near, far


def _planned(facts: ShotFacts, settings: Settings, near: float, far: float) -> DepthStep:
    focal, marked, coc = settings.focal_mm, settings.f_number, settings.coc_mm
    lens = facts.lens
    assert lens is not None
    reasons: list[Reason] = []
    method = facts.depth.depth_method
    try:
        ring = stacking.plan_ring_stack(focal, marked, coc, near * 1000, far * 1000, facts.depth.overlap)
        if method == DepthMethod.AUTO:
            method = DepthMethod.SINGLE if ring.count == 1 else DepthMethod.RAIL if facts.close_up else DepthMethod.RING
        rail = None
        if method == DepthMethod.RAIL:
            scale_near = float(conjugates.magnification(focal, near * 1000))
            rail = (
                stacking.plan_rail_stack(scale_near, marked, coc, (far - near) * 1000, lens.pupil_ratio, facts.depth.overlap)
                if math.isfinite(far) and far > near
                else None
            )
            if rail is None:
                method = DepthMethod.RING
                reasons.append(Reason("depth", TIGHT, "A rail cannot reach to infinity: planned with the focus ring.", "depth_method"))
    except InputError as error:
        return DepthStep(Verdict("depth", FAILS, "too many frames"), (Reason("depth", FAILS, error.message, "f_number"),), marked, coc)
    if method == DepthMethod.SINGLE:
        positions = [_position(settings, single_focus_m(facts, settings, near, far))]
    elif rail is not None:
        positions = [_rail_position(settings, near, index * rail.step_mm) for index in range(rail.count)]
    else:
        positions = [_position(settings, float(mm) / 1000) for mm in ring.object_distances_mm]
    objects = np.array([position.object_distance_m for position in positions]) * 1000
    scale = float(np.max(conjugates.magnification(focal, objects)))
    effective = float(conjugates.effective_f_number(marked, scale, lens.pupil_ratio))
    airy = float(depth.airy_diameter_mm(effective))
    ends = np.array([near, far]) * 1000
    if method == DepthMethod.RAIL and rail is not None:
        worst = coc * rail.step_mm / rail.slice_mm
    elif method == DepthMethod.RING:
        worst = ring.worst_blur_mm
    else:
        worst = float(np.max(depth.blur_diameter_mm(focal, marked, objects[0], ends)))
    blurs = () if facts.close_up else tuple(_element_blur(facts, item, settings, objects, airy) for item in facts.elements)
    apertures = _apertures(facts, settings, near, far)
    best = min(apertures, key=lambda choice: choice.single_blur_mm) if apertures else None
    distance, blur = _curve(settings, objects if method != DepthMethod.RAIL else objects[:1], near, far)
    reasons += _judge(facts, settings, method, positions, worst, airy, blurs, best, near, far)
    frames = len(positions)
    if facts.close_up:
        text = f"{float(facts.depth.magnification or 0):g}:1, {facts.depth.subject_depth_mm:g} mm deep in {frames}"
    elif math.isclose(near, far):
        text = f"{format_distance(near)} in {frames}"
    else:
        text = f"{format_distance(near)} to {format_distance(far)} in {frames}"
    return DepthStep(
        Verdict("depth", worst_mark(reasons), f"{text}, {format_aperture(marked)}"), tuple(reasons), marked, coc, scale, effective, airy,
        float(depth.hyperfocal_distance_mm(focal, marked, coc)) / 1000, near, far, method, worst,
        rail.step_mm if method == DepthMethod.RAIL and rail else None, rail.slice_mm if method == DepthMethod.RAIL and rail else None,
        tuple(positions), blurs, apertures, best.f_number if best else None, distance, blur,
    )  # fmt: skip


def single_focus_m(facts: ShotFacts, settings: Settings, near: float, far: float) -> float:
    """Return the object distance [m] of a single frame by the school chosen.

    balanced: near and far equally blurred. hyperfocal: H, or nearer when far is nearer. third: a third of the way in, a rule of
    thumb. subject: on the named element. Schools that need a finite far limit fall back to balanced without one.
    """
    if facts.depth.focus_school == FocusSchool.HYPERFOCAL:
        hyperfocal = float(depth.hyperfocal_distance_mm(settings.focal_mm, settings.f_number, settings.coc_mm)) / 1000
        return min(max(hyperfocal, near), far)
    if facts.depth.focus_school == FocusSchool.THIRD and math.isfinite(far):
        return near + (far - near) / 3
    subject = facts.element(facts.depth.subject_element_id)
    if facts.depth.focus_school == FocusSchool.SUBJECT and subject is not None and subject.distance_m * 1000 > settings.focal_mm * 1.001:
        return subject.distance_m
    return float(depth.blur_balanced_focus_mm(near * 1000, far * 1000)) / 1000


def _position(settings: Settings, object_m: float) -> FocusPosition:
    focal, mm = settings.focal_mm, object_m * 1000
    limits = (focal, settings.f_number, settings.coc_mm, mm)
    return FocusPosition(
        object_m,
        float(conjugates.focus_distance_mm(focal, mm)) / 1000,
        float(depth.near_limit_mm(*limits)) / 1000,
        float(depth.far_limit_mm(*limits)) / 1000,
    )


def _rail_position(settings: Settings, object_m: float, rail_mm: float) -> FocusPosition:
    still = _position(settings, object_m)
    moved = rail_mm / 1000
    return FocusPosition(object_m, still.focus_distance_m, still.near_limit_m + moved, still.far_limit_m + moved, rail_mm)


def _element_blur(facts: ShotFacts, item: Element, settings: Settings, objects: NDArray[np.float64], airy: float) -> ElementBlur:
    must = item.id in facts.sharp_element_ids
    if item.distance_m * 1000 <= settings.focal_mm * 1.001:
        return ElementBlur(item.id, item.name, item.distance_m, must, math.inf, math.inf, math.inf, "closer than the lens images")
    defocus = float(np.min(depth.blur_diameter_mm(settings.focal_mm, settings.f_number, objects, item.distance_m * 1000)))
    times = defocus / settings.coc_mm
    words = "sharp" if times <= 1 + 1e-6 else f"soft by {times:.1f}×"
    return ElementBlur(item.id, item.name, item.distance_m, must, defocus, float(depth.total_blur_mm(defocus, airy)), times, words)


def _apertures(facts: ShotFacts, settings: Settings, near: float, far: float) -> tuple[ApertureChoice, ...]:
    lens = facts.lens
    assert lens is not None
    whole_stops = [mark.value for mark in APERTURE_MARKINGS if lens.takes_aperture(mark.value, settings.focal_mm)][::-1]
    stops = np.array(whole_stops[::3][::-1] if whole_stops else [settings.f_number])
    focus = single_focus_m(facts, settings, near, far) * 1000
    single = np.atleast_1d(worst_blur_mm(settings.focal_mm, stops, near * 1000, far * 1000, focus))
    scale = float(conjugates.magnification(settings.focal_mm, focus))
    airy = np.atleast_1d(depth.airy_diameter_mm(conjugates.effective_f_number(stops, scale, lens.pupil_ratio)))
    choices = []
    for index, f_number in enumerate(stops):
        try:
            if facts.close_up:
                near_scale = float(conjugates.magnification(settings.focal_mm, near * 1000))
                count = stacking.plan_rail_stack(
                    near_scale, float(f_number), settings.coc_mm, (far - near) * 1000, lens.pupil_ratio, facts.depth.overlap
                ).count
            else:
                count = stacking.plan_ring_stack(
                    settings.focal_mm, float(f_number), settings.coc_mm, near * 1000, far * 1000, facts.depth.overlap
                ).count
        except InputError:
            count = None
        choices.append(ApertureChoice(float(f_number), float(single[index]), count, float(airy[index])))
    return tuple(choices)


def _curve(settings: Settings, objects: NDArray[np.float64], near: float, far: float) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Return distances [m], even in 1/distance from infinity to nearer than near, and the least defocus there [mm]."""
    nearest = max(near * 0.72, settings.focal_mm * 1.02 / 1000)
    if math.isfinite(far) and far < near * 1.5:
        spread = max(far - near, 1e-4)
        distance = np.linspace(near - spread, far + spread, CURVE_POINTS)
        distance = np.maximum(distance, settings.focal_mm * 1.02 / 1000)
    else:
        with np.errstate(divide="ignore"):
            distance = 1 / np.linspace(1 / nearest, 0, CURVE_POINTS)
    blur = depth.blur_diameter_mm(settings.focal_mm, settings.f_number, objects[:, None], distance[None, :] * 1000)
    return distance, np.min(blur, axis=0)


def _judge(
    facts: ShotFacts, settings: Settings, method: str, positions: list[FocusPosition], worst: float, airy: float,
    blurs: tuple[ElementBlur, ...], best: ApertureChoice | None, near: float, far: float,
) -> list[Reason]:  # fmt: skip
    coc = settings.coc_mm
    found = _lens_reasons(facts, settings, positions[0].focus_distance_m) + _school_reasons(facts, method, far)
    if method == DepthMethod.SINGLE and worst > coc * (1 + 1e-6):
        soft = worst / coc
        where = format_distance(positions[0].object_distance_m)
        found.append(
            Reason(
                "depth",
                FAILS,
                f"One frame focused at {where} leaves the range soft by {soft:.1f}×: stop down or take a stack.",
                "depth_method",
            )
        )
    # Of a single frame what lies within the range is judged by the range.
    told = method == DepthMethod.SINGLE and worst > coc * (1 + 1e-6)
    for blur in blurs:
        within = near * (1 - 1e-9) <= blur.distance_m <= far * (1 + 1e-9)
        if blur.must_be_sharp and blur.times_limit > 1 + 1e-6 and not (told and within):
            where = "" if within else ", outside the limits typed"
            found.append(Reason("depth", FAILS, f"{blur.name} is soft by {blur.times_limit:.1f}×{where}: widen the range.", "near_m"))
    if airy > coc:
        better = (
            f" The best single aperture here is {format_aperture(best.f_number)}." if best and best.f_number < settings.f_number else ""
        )
        found.append(
            Reason(
                "depth",
                TIGHT,
                f"Diffraction at {format_aperture(settings.f_number)} draws points {airy * 1000:.0f} µm wide, more than the {coc * 1000:.0f} µm allowed.{better}",
                "f_number",
            )
        )
    if len(positions) > 1:
        found.append(_stack_reason(facts, settings, method, positions, worst, near, far))
    elif method == DepthMethod.SINGLE and worst <= coc:
        span = format_distance(near) if math.isclose(near, far) else f"{format_distance(near)} to {format_distance(far)}"
        found.append(
            Reason(
                "depth",
                HOLDS,
                f"One frame focused at {format_distance(positions[0].object_distance_m)} holds {span}: worst blur {worst * 1000:.0f} µm of {coc * 1000:.0f} µm.",
                "f_number",
            )
        )
    return found


def _school_reasons(facts: ShotFacts, method: str, far: float) -> list[Reason]:
    """Return what a way of focusing was chosen that has no answer here: then near and far are equally blurred instead."""
    if method != DepthMethod.SINGLE or facts.close_up:
        return []
    if facts.depth.focus_school == FocusSchool.THIRD and math.isinf(far):
        text = "A third of the way to infinity is no distance: focused so that near and far are equally blurred instead."
        return [Reason("depth", HOLDS, text, "focus_school")]
    if facts.depth.focus_school == FocusSchool.SUBJECT and facts.element(facts.depth.subject_element_id) is None:
        return [Reason("depth", UNSAID, "Name the subject to focus on; until then near and far are equally blurred.", "subject_element_id")]
    return []


def _lens_reasons(facts: ShotFacts, settings: Settings, closest: float) -> list[Reason]:
    """Return what is asked of the lens that it cannot do. closest: the nearest focus position from the sensor [m]."""
    lens = facts.lens
    assert lens is not None
    found: list[Reason] = []
    if not lens.takes_aperture(settings.f_number, settings.focal_mm):
        widest = lens.widest_f_number(settings.focal_mm)
        found.append(
            Reason(
                "depth",
                FAILS,
                f"{format_aperture(settings.f_number)} is outside the {lens.name} ({format_aperture(widest)} to {format_aperture(lens.f_number_max)}).",
                "f_number",
            )
        )
    if facts.close_up and not lens.reaches(float(facts.depth.magnification or 0)):
        found.append(
            Reason(
                "depth", FAILS, f"{lens.name} reaches {lens.max_magnification:g}:1, not {facts.depth.magnification:g}:1.", "magnification"
            )
        )
    if not facts.close_up and closest * 1000 < lens.closest_focus_mm * 0.999:
        found.append(
            Reason(
                "depth",
                FAILS,
                f"The nearest focus position, {format_distance(closest)} from the sensor, is closer than the {lens.name} focuses ({format_distance(lens.closest_focus_mm / 1000)}).",
                "near_m",
            )
        )
    return found


def _stack_reason(
    facts: ShotFacts, settings: Settings, method: str, positions: list[FocusPosition], worst: float, near: float, far: float
) -> Reason:
    count = len(positions)
    if method == DepthMethod.RAIL and positions[1].rail_mm is not None:
        step = positions[1].rail_mm
        return Reason("depth", HOLDS, f"{count} frames on the rail, {step:.2f} mm apart, travel {step * (count - 1):.1f} mm.", "overlap")
    first, last = positions[0].object_distance_m, positions[-1].object_distance_m
    breathing = float(
        conjugates.image_distance_mm(settings.focal_mm, first * 1000) / conjugates.image_distance_mm(settings.focal_mm, last * 1000) - 1
    )
    return Reason(
        "depth", HOLDS,
        f"{count} focus positions from {format_distance(first)} to {format_distance(last)} meet at {worst * 1000:.0f} µm of the {settings.coc_mm * 1000:.0f} µm allowed; "
        f"turning the ring changes the framing by {breathing:.1%}: leave that margin.",
        "overlap",
    )  # fmt: skip


def _missing(text: str, sentence: str, dial: str, settings: Settings | None) -> DepthStep:
    hyperfocal = float(depth.hyperfocal_distance_mm(settings.focal_mm, settings.f_number, settings.coc_mm)) / 1000 if settings else None
    return DepthStep(
        Verdict("depth", UNSAID, text),
        (Reason("depth", UNSAID, sentence, dial),),
        f_number=settings.f_number if settings else None,
        coc_mm=settings.coc_mm if settings else None,
        hyperfocal_m=hyperfocal,
    )
