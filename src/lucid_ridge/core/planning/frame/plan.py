"""Step 3: what the sensor sees."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ...facts.settings import Settings, crop_of, settings_of, sides_mm, standing_on
from ...facts.shot import ShotFacts
from ...framing.composition import Composition
from ...framing.crop import Crop
from ...framing.outlines import Outline, in_window, outline
from ...framing.projection import Camera, field_of_view_deg, project
from ...framing.solids import BROAD
from ...framing.vignetting import Vignetting
from ..focus.camera import focused_camera, scene_solids
from ..focus.close_up import LIES_ON, CloseUpStep, plan_close_up
from ..focus.plan import DepthStep
from ..light.plan import LightStep
from ..reasons import Reason, worst_first, worst_mark
from ..verdicts import FAILS, HOLDS, TIGHT, UNSAID, Verdict
from . import wording as say
from .composition import FrameReading, composition_readings
from .filter_vignetting import shot_vignetting, vignetting_reasons
from .finder import Disc, Drawn, draw_scene
from .night_sky import galactic_reasons
from .panorama import PanoramaPlan, plan_shot_panorama
from .standing import standing_reasons

_CUT_BELOW_SHARE = 0.995
# Under a quarter of the pixels a crop is called tight.
_SMALL_CROP = 0.25
# Blurred by more than this share of the width a thing has no outline to collide with.
_MELTED_SHARE = 0.05


@dataclass(frozen=True)
class SeenElement:
    """An element in the finder: its outline, and its place in words.

    cover: share of the crop that it takes as one sees it.

    blur_mm: on the sensor, diffraction included where planned; None where nothing is focused yet.
    """

    id: int
    name: str
    shape: str
    distance_m: float
    outline: Outline
    cover: float
    blur_mm: float | None


@dataclass(frozen=True, kw_only=True)
class FrameStep:
    verdict: Verdict
    reasons: tuple[Reason, ...]
    focal_mm: float | None = None
    bearing_deg: float | None = None
    camera_height_m: float | None = None
    width_mm: float | None = None
    height_mm: float | None = None
    horizontal_fov_deg: float | None = None
    vertical_fov_deg: float | None = None
    horizon: NDArray[np.float64] | None = None
    elements: tuple[SeenElement, ...] = ()
    drawn: Drawn | None = None
    readings: tuple[FrameReading, ...] = ()
    reading: Composition | None = None
    crop: Crop | None = None
    panorama: PanoramaPlan | None = None
    close_up: CloseUpStep | None = None
    vignetting: Vignetting | None = None

    @property
    def sun(self) -> Disc | None:
        return self.drawn.sun if self.drawn else None


def plan_frame(facts: ShotFacts, depth: DepthStep, light: LightStep) -> FrameStep:
    """Return the finder: outlines of all elements, the horizon and the sun, and what the frame cuts or misses."""
    settings = settings_of(facts)
    if settings is None or facts.body is None or facts.lens is None:
        lacking = "body" if facts.body is None else "lens"
        reason = say.no_body_or_lens(lacking=lacking).unsaid(f"{lacking}_id")
        return FrameStep(verdict=Verdict("frame", UNSAID, f"no {lacking} yet"), reasons=(reason,))
    reasons = kit_reasons(facts, settings.focal_mm)
    above_ground = focused_camera(facts, settings, depth.imaging)
    camera = standing_on(above_ground, facts.ground)
    solids = scene_solids(facts)
    outlines = [outline(camera, solid, facts.ground) for solid in solids]
    crop = crop_of(facts, facts.body, settings.focal_mm)
    blurs = {item.id: item.blur_mm for item in depth.elements}
    melted = frozenset(
        index
        for index, item in enumerate(facts.elements)
        if blurs.get(item.id, 0.0) > _MELTED_SHARE * camera.frame_mm[0]
    )
    readings, reading = composition_readings(
        facts, above_ground, solids, crop.window, melted | _lain_upon(facts, depth)
    )
    seen = tuple(
        SeenElement(
            item.id,
            item.name,
            item.shape,
            near.distance_m,
            drawn,
            reading.coverage.shares[index] if reading else 0.0,
            blurs.get(item.id),
        )
        for index, (item, near, drawn) in enumerate(
            zip(facts.elements, facts.seen_from_camera.elements, outlines, strict=True)
        )
    )
    readings = (*_cuts(facts, seen, melted, reading, crop), *readings)
    reasons += [item.reason for item in readings if item.reason and not item.muted]
    reasons += standing_reasons(facts, settings)
    drawn = draw_scene(facts, camera, solids, light)
    reasons += _sun_reasons(drawn.sun) + galactic_reasons(facts, camera, light)
    width, height = camera.frame_mm
    horizontal, vertical = (float(field_of_view_deg(side, camera.focal_mm)) for side in (width, height))
    words = say.view(
        focal_mm=settings.focal_mm,
        orientation=facts.frame.orientation,
        across_deg=horizontal,
        upwards_deg=vertical,
        bearing_deg=settings.bearing_deg % 360,
    )
    reasons.append(words.holds("focal_mm"))
    reasons += _crop_reasons(facts, crop)
    panorama = plan_shot_panorama(facts, camera, facts.body, light)
    close = plan_close_up(facts, settings, above_ground, depth, light)
    cuts = shot_vignetting(facts, settings, facts.body)
    reasons += [
        *(panorama.reasons if panorama else ()),
        *(close.reasons if close else ()),
        *vignetting_reasons(facts, cuts),
    ]
    return FrameStep(
        verdict=Verdict(
            "frame", worst_mark(reasons), _verdict_text(facts, settings, horizontal, crop, panorama, reasons)
        ),
        reasons=tuple(reasons),
        focal_mm=settings.focal_mm,
        bearing_deg=settings.bearing_deg % 360,
        camera_height_m=settings.camera_height_m,
        width_mm=width,
        height_mm=height,
        horizontal_fov_deg=horizontal,
        vertical_fov_deg=vertical,
        horizon=_horizon(camera),
        elements=seen,
        drawn=drawn,
        readings=readings,
        reading=reading,
        crop=crop,
        panorama=panorama,
        close_up=close,
        vignetting=cuts,
    )


def _cuts(
    facts: ShotFacts, seen: tuple[SeenElement, ...], melted: frozenset[int], reading: Composition | None, crop: Crop
) -> list[FrameReading]:
    """Return the elements that the cropped frame cuts or leaves out; broad ones may run out of it, as may the
    background of a close-up.
    """
    touching = {edge.element for edge in reading.edges} if reading else set()
    found = []
    for index, item in enumerate(seen):
        behind = facts.close_up and item.id not in facts.sharp_element_ids and item is not _nearest(seen)
        kept = in_window(item.outline, crop.window)
        runs_out = item.shape in BROAD and kept.in_view
        if kept.share >= _CUT_BELOW_SHARE or runs_out or behind or index in melted or index in touching:
            continue
        reason = _cut_reason(item.name, kept, item.id in facts.sharp_element_ids)
        key = f"cut:{item.id}"
        found.append(FrameReading(key, reason.severity, reason.text, key in facts.frame.muted_readings, reason))
    return found


def _lain_upon(facts: ShotFacts, depth: DepthStep) -> frozenset[int]:
    """Return the elements that a close-up's subject sits or grows on, which it always touches."""
    if not facts.close_up or depth.along is None or depth.imaging is None:
        return frozenset()
    spans = [depth.along.spans[item.id] for item in facts.elements]
    near = depth.imaging.object_mm / 1000
    return frozenset(
        index
        for index, (item, span) in enumerate(zip(facts.elements, spans, strict=True))
        if item is not facts.subject and span is not None and near / LIES_ON < span.near_m < near * LIES_ON
    )


def _nearest(seen: tuple[SeenElement, ...]) -> SeenElement:
    return min(seen, key=lambda item: item.distance_m)


def _verdict_text(
    facts: ShotFacts,
    settings: Settings,
    horizontal_deg: float,
    crop: Crop,
    panorama: PanoramaPlan | None,
    reasons: list[Reason],
) -> str:
    worst = worst_first(reasons)[0]
    if worst.severity in (FAILS, TIGHT):
        return f"{settings.focal_mm:g} mm; {_first_clause(worst.text)}"
    if panorama is not None and panorama.plan is not None:
        plan = panorama.plan
        return (
            f"{settings.focal_mm:g} mm {facts.frame.orientation}, panorama of {len(plan.aims)}, "
            f"{plan.across_deg:.0f}° wide"
        )
    text = f"{settings.focal_mm:g} mm {facts.frame.orientation}, {horizontal_deg:.0f}° wide"
    return f"{text}, cropped" if crop.pixel_share < 0.999 else text


def _sun_reasons(sun: Disc | None) -> list[Reason]:
    if sun is None or not (0 <= sun.x <= 1 and 0 <= sun.y <= 1):
        return []
    return [say.sun_in_frame().caution("bearing_deg")]


def _crop_reasons(facts: ShotFacts, crop: Crop) -> list[Reason]:
    if crop.pixel_share > 0.999:
        return []
    wide, high = crop.print_cm(300)
    aspect = (
        f"{facts.frame.crop_ratio:.2f}:1"
        if facts.frame.crop_aspect == "free" and facts.frame.crop_ratio
        else facts.frame.crop_aspect or ""
    )
    scale, field_mm = facts.depth.magnification, None
    if scale is not None and facts.body is not None:
        field_mm = sides_mm(facts.body, facts.frame.orientation)[0] * crop.width_share / scale
    words = say.crop(
        aspect=aspect,
        as_focal_mm=crop.as_focal_mm if facts.frame.crop_focal_mm else None,
        pixels_wide=crop.pixels_wide,
        pixels_high=crop.pixels_high,
        pixel_share=crop.pixel_share,
        print_cm=(wide, high),
        field_mm=field_mm,
    )
    return [words.reason(TIGHT if crop.pixel_share < _SMALL_CROP else HOLDS, "crop_focal_mm")]


def _first_clause(sentence: str) -> str:
    words = sentence.split(". ")[0].split(": ")[0].split(", ")[0].split(" (")[0].rstrip(".")
    return words[0].lower() + words[1:]


def kit_reasons(facts: ShotFacts, focal_mm: float) -> list[Reason]:
    """Return the reasons why the lens, with its accessories, cannot meet the request."""
    lens = facts.lens
    assert lens is not None
    if lens.focal_min_mm <= focal_mm <= lens.focal_max_mm:
        return []
    words = say.no_such_focal_length(
        focal_mm=focal_mm, lens=lens.name, shortest_mm=lens.focal_min_mm, longest_mm=lens.focal_max_mm
    )
    return [words.fails("focal_mm")]


def _cut_reason(name: str, kept: Outline, must_be_sharp: bool) -> Reason:
    if not kept.in_view:
        return say.out_of_frame(element=name).reason(FAILS if must_be_sharp else TIGHT, "bearing_deg")
    edges = tuple(
        side for side, over in zip(("left", "right", "top", "bottom"), _overhang(kept), strict=True) if over > 0.002
    )
    dial = "pitch_deg" if set(edges) & {"top", "bottom"} else "bearing_deg"
    return say.cut(element=name, edges=edges, share=kept.share).tight(dial)


def _overhang(shape: Outline) -> tuple[float, float, float, float]:
    return -shape.left, shape.right - 1, -shape.top, shape.bottom - 1


def _horizon(camera: Camera) -> NDArray[np.float64]:
    """Return the horizon as points (x, y) across the frame and a little beyond; empty when looking straight up or
    down.
    """
    angles = np.radians(camera.bearing_deg + np.linspace(-80, 80, 81))
    far = 1e7
    points = np.stack((far * np.sin(angles), far * np.cos(angles), np.full_like(angles, camera.height_m)), axis=-1)
    points[:, 0] += camera.east_m
    points[:, 1] += camera.north_m
    seen = project(camera, points)
    keep = seen.in_front & (np.abs(np.nan_to_num(seen.x, nan=9.0) - 0.5) < 1.5)
    return np.stack((seen.x[keep], seen.y[keep]), axis=-1)
