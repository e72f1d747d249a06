"""Step 3, panorama: the frames of a wider field and what they cost in pixels, slip, time and light."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ...errors import InputError
from ...facts.kit import Body
from ...facts.shot import ShotFacts
from ...framing.panorama import Panorama, parallax_slip_rad, plan_panorama
from ...framing.projection import Camera, field_of_view_deg
from ..light.plan import LightStep
from ..verdicts import CAUTION, FAILS, HOLDS, TIGHT, Reason

# Slips of less than this do not show in the stitch [pixels].
_SLIP_PX = 2.0
_MOVES_AFTER_S = 60.0


@dataclass(frozen=True)
class PanoramaPlan:
    """plan None: what is asked for cannot be taken, and the reasons say why. slip_px: of the nearest element against the far; None: no pivot offset.

    brightest: index of the aim whose exposure all are locked on, where the sun's side is known.
    """

    plan: Panorama | None
    reasons: tuple[Reason, ...]
    slip_px: float | None = None
    nearest_name: str | None = None
    brightest: int | None = None


def plan_shot_panorama(facts: ShotFacts, camera: Camera, body: Body, light: LightStep) -> PanoramaPlan | None:
    """Return the panorama asked for; None for a single frame."""
    if facts.frame.pano_across_deg is None and facts.frame.pano_upwards_deg is None:
        return None
    fields = tuple(float(field_of_view_deg(side, camera.focal_mm)) for side in camera.frame_mm)
    across, upwards = facts.frame.pano_across_deg or fields[0], facts.frame.pano_upwards_deg or fields[1]
    focal_px = camera.focal_mm / (body.sensor_width_mm / body.pixels_wide)
    try:
        plan = plan_panorama(
            across, upwards, (fields[0], fields[1]), facts.frame.pano_overlap, camera.bearing_deg, facts.frame.pitch_deg, focal_px
        )
    except InputError as error:
        return PanoramaPlan(None, (Reason("frame", FAILS, error.message, error.field),))
    count = plan.rows * plan.columns
    wide, high = plan.flat_px or plan.cylindrical_px
    kind = "flat" if plan.flat_px else "cylindrical"
    shape = f"{plan.columns} frame{'s' if plan.columns > 1 else ''}" + (f" in {plan.rows} rows" if plan.rows > 1 else "")
    reasons = [
        Reason("frame", HOLDS, f"A panorama of {plan.across_deg:.0f}° by {plan.upwards_deg:.0f}°: {shape}, {wide} × {high} pixels stitched {kind}.", "pano_across_deg")
    ]  # fmt: skip
    if count == 1:
        reasons.append(Reason("frame", HOLDS, "One frame holds the whole field: no panorama is needed.", "pano_across_deg"))
    if not plan.flat_px:
        reasons.append(Reason("frame", HOLDS, "Wider than 120° a flat projection stretches its sides: stitch on a cylinder, where straight level lines bow.", "pano_across_deg"))  # fmt: skip
    if abs(facts.frame.roll_deg) > 0.05:
        reasons.append(Reason("frame", TIGHT, "The frames are counted for a levelled head: set the lean to 0.", "roll_deg"))
    slip, nearest = _slip(facts, plan, focal_px)
    if slip is not None and nearest is not None:
        weight = TIGHT if slip > _SLIP_PX else HOLDS
        advice = ": move the pivot under it" if slip > _SLIP_PX else ""
        reasons.append(Reason("frame", weight, f"{nearest} slips by {slip:.1f} pixels between frames with the pivot {facts.frame.pano_pivot_mm:g} mm off the entrance pupil{advice}.", "pano_pivot_mm"))  # fmt: skip
    brightest = _brightest(plan, light)
    if count > 1:
        where = f" on frame {brightest + 1}, towards the sun" if brightest is not None else ""
        reasons.append(Reason("frame", HOLDS, f"Meter the brightest part{where}, and lock exposure, white balance and focus: with several planes of focus, one whole pass for each.", "pano_across_deg"))  # fmt: skip
        if any((item.moves_mps or 0) > 0 for item in facts.elements):
            reasons.append(Reason("frame", CAUTION, "Clouds, water and light move on between the frames: take them swiftly, the moving part within one frame.", "settle_s"))  # fmt: skip
    return PanoramaPlan(plan, tuple(reasons), slip, nearest, brightest)


def _slip(facts: ShotFacts, plan: Panorama, focal_px: float) -> tuple[float | None, str | None]:
    if facts.frame.pano_pivot_mm == 0 or len(plan.aims) < 2 or not facts.elements:
        return None, None
    seen = [item for item in facts.seen_from_camera.elements if item.shape != "water"] or list(facts.seen_from_camera.elements)
    nearest = min(seen, key=lambda item: item.distance_m)
    far = max((item.distance_m for item in seen if item is not nearest), default=math.inf)
    turn = max(abs((plan.aims[1].bearing_deg - plan.aims[0].bearing_deg + 180) % 360 - 180), abs(plan.aims[-1].pitch_deg - plan.aims[0].pitch_deg) / max(1, plan.rows - 1))  # fmt: skip
    return parallax_slip_rad(facts.frame.pano_pivot_mm / 1000, turn, nearest.distance_m, far) * focal_px, nearest.name


def _brightest(plan: Panorama, light: LightStep) -> int | None:
    if light.sun_azimuth_deg is None or light.sun_altitude_deg is None or light.sun_altitude_deg < -12:
        return None
    off = [abs((aim.bearing_deg - light.sun_azimuth_deg + 180) % 360 - 180) for aim in plan.aims]
    return off.index(min(off))
