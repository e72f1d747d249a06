"""Step 3: what the sensor sees."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..framing.crop import Crop
from ..framing.outlines import Outline, outline
from ..framing.projection import Camera, field_of_view_deg, project
from .depth import DepthStep
from .facts import ShotFacts, crop_of, settings_of
from .frame_reading import FrameReading, frame_readings, scene_solids
from .light import LightStep
from .marks import CAUTION, FAILS, HOLDS, TIGHT, UNSAID, Reason, Verdict, worst_first, worst_mark

_CUT_BELOW_SHARE = 0.995
_SUN_DIAMETER_DEG = 0.53
# Under a quarter of the pixels a crop is called tight.
_SMALL_CROP = 0.25


@dataclass(frozen=True)
class SeenElement:
    """An element in the finder: its outline, and its place in words."""

    id: int
    name: str
    shape: str
    distance_m: float
    outline: Outline


@dataclass(frozen=True)
class SunInFrame:
    """The sun's disc in the finder: centre in 0..1, diameter as share of the frame's width."""

    x: float
    y: float
    diameter_share: float


@dataclass(frozen=True)
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
    sun: SunInFrame | None = None
    readings: tuple[FrameReading, ...] = ()
    crop: Crop | None = None


def plan_frame(facts: ShotFacts, depth: DepthStep, light: LightStep) -> FrameStep:
    """Return the finder: outlines of all elements, the horizon and the sun, and what the frame cuts or misses."""
    settings = settings_of(facts)
    if settings is None or facts.body is None or facts.lens is None:
        lacking = "body" if facts.body is None else "lens"
        reason = Reason("frame", UNSAID, f"Choose a {lacking}: the frame is drawn from it.", f"{lacking}_id")
        return FrameStep(Verdict("frame", UNSAID, f"no {lacking} yet"), (reason,))
    reasons = kit_reasons(facts, settings.focal_mm)
    camera = Camera(
        bearing_deg=settings.bearing_deg,
        pitch_deg=facts.pitch_deg,
        focal_mm=settings.focal_mm * (1 + depth.magnification),
        sensor_width_mm=facts.body.sensor_width_mm,
        sensor_height_mm=facts.body.sensor_height_mm,
        orientation=facts.orientation,
        height_m=settings.camera_height_m,
        east_m=facts.camera_east_m,
        north_m=facts.camera_north_m,
    )
    solids = scene_solids(facts)
    seen = tuple(
        SeenElement(item.id, item.name, item.shape, near.distance_m, outline(camera, solid))
        for item, near, solid in zip(facts.elements, facts.seen_from_camera.elements, solids, strict=True)
    )
    readings = frame_readings(facts, camera, solids)
    reasons += [reading.reason for reading in readings if reading.reason and not reading.muted]
    for item in seen:
        # Broad things (a ridge, water) are expected to run out of the frame.
        runs_out = item.shape in ("ridge", "water") and item.outline.in_view
        if item.outline.share < _CUT_BELOW_SHARE and not runs_out:
            reasons.append(_cut_reason(item, item.id in facts.sharp_element_ids))
    sun = _sun(camera, light)
    if sun is not None and 0 <= sun.x <= 1 and 0 <= sun.y <= 1:
        reasons.append(
            Reason("frame", CAUTION, "The sun stands in the frame: never look at it through an optical finder or a long lens; a neutral density filter is not a solar filter.", "bearing_deg")
        )  # fmt: skip
    width, height = camera.frame_mm
    horizontal, vertical = (float(field_of_view_deg(side, camera.focal_mm)) for side in (width, height))
    reasons.append(
        Reason("frame", HOLDS, f"{settings.focal_mm:g} mm {facts.orientation} sees {horizontal:.1f}° by {vertical:.1f}°, centred on {settings.bearing_deg % 360:.0f}°.", "focal_mm")
    )  # fmt: skip
    crop = crop_of(facts, facts.body, settings.focal_mm)
    reasons += _crop_reasons(facts, crop)
    text = f"{settings.focal_mm:g} mm {facts.orientation}, {horizontal:.0f}° wide{', cropped' if crop.pixel_share < 0.999 else ''}"
    worst = worst_first(reasons)[0]
    if worst.weight in (FAILS, TIGHT):
        text = f"{settings.focal_mm:g} mm; {_first_clause(worst.text)}"
    return FrameStep(
        Verdict("frame", worst_mark(reasons), text), tuple(reasons), settings.focal_mm, settings.bearing_deg % 360,
        settings.camera_height_m, width, height, horizontal, vertical, _horizon(camera), seen, sun, readings, crop,
    )  # fmt: skip


def _crop_reasons(facts: ShotFacts, crop: Crop) -> list[Reason]:
    if crop.pixel_share > 0.999:
        return []
    wide, high = crop.print_cm(300)
    what = [facts.crop_aspect or "", f"the view of {crop.as_focal_mm:g} mm" if facts.crop_focal_mm else ""]
    text = (
        f"Cropped to {' and '.join(part for part in what if part)}: {crop.pixels_wide} × {crop.pixels_high} pixels are left, "
        f"{crop.pixel_share:.0%}, a print of {wide:.0f} × {high:.0f} cm at 300 ppi."
    )
    return [Reason("frame", TIGHT if crop.pixel_share < _SMALL_CROP else HOLDS, text, "crop_focal_mm")]


def _first_clause(sentence: str) -> str:
    words = sentence.split(". ")[0].split(", ")[0].rstrip(".")
    return words[0].lower() + words[1:]


def kit_reasons(facts: ShotFacts, focal_mm: float) -> list[Reason]:
    """Return what the lens cannot do of what is asked."""
    lens = facts.lens
    assert lens is not None
    if lens.focal_min_mm <= focal_mm <= lens.focal_max_mm:
        return []
    return [
        Reason("frame", FAILS, f"{focal_mm:g} mm is outside the {lens.name} ({lens.focal_min_mm:g} to {lens.focal_max_mm:g} mm).", "focal_mm")
    ]  # fmt: skip


def _cut_reason(item: SeenElement, must_be_sharp: bool) -> Reason:
    if not item.outline.in_view:
        weight = FAILS if must_be_sharp else TIGHT
        return Reason("frame", weight, f"Out of the frame: {item.name}. Turn the camera or take a wider lens.", "bearing_deg")
    edges = [name for name, over in zip(("left", "right", "top", "bottom"), _overhang(item.outline), strict=True) if over > 0.002]
    where = " and ".join(edges) or "edge"
    dial = "pitch_deg" if set(edges) & {"top", "bottom"} else "bearing_deg"
    return Reason("frame", TIGHT, f"Cut at the {where}: {item.name}, {item.outline.share:.0%} in the frame.", dial)


def _overhang(shape: Outline) -> tuple[float, float, float, float]:
    return -shape.left, shape.right - 1, -shape.top, shape.bottom - 1


def _horizon(camera: Camera) -> NDArray[np.float64]:
    """Return the horizon as points (x, y) across the frame and a little beyond; empty when looking straight up or down."""
    angles = np.radians(camera.bearing_deg + np.linspace(-80, 80, 81))
    far = 1e7
    points = np.stack((far * np.sin(angles), far * np.cos(angles), np.full_like(angles, camera.height_m)), axis=-1)
    points[:, 0] += camera.east_m
    points[:, 1] += camera.north_m
    seen = project(camera, points)
    keep = seen.in_front & (np.abs(np.nan_to_num(seen.x, nan=9.0) - 0.5) < 1.5)
    return np.stack((seen.x[keep], seen.y[keep]), axis=-1)


def _sun(camera: Camera, light: LightStep) -> SunInFrame | None:
    if light.sun_altitude_deg is None or light.sun_azimuth_deg is None or light.sun_altitude_deg < -0.9:
        return None
    altitude, azimuth = math.radians(light.sun_altitude_deg), math.radians(light.sun_azimuth_deg)
    direction = np.array([math.cos(altitude) * math.sin(azimuth), math.cos(altitude) * math.cos(azimuth), math.sin(altitude)])
    here = np.array([camera.east_m, camera.north_m, camera.height_m])
    seen = project(camera, here + 1e7 * direction)
    if not bool(seen.in_front):
        return None
    share = math.radians(_SUN_DIAMETER_DEG) * camera.focal_mm / camera.frame_mm[0]
    return SunInFrame(float(seen.x), float(seen.y), share)
