"""Panoramas: the frames of a wider field, their pixels, parallax and light."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ...errors import InputError
from ...facts.kit import Body
from ...facts.shot import ShotFacts
from ...framing.panorama import Panorama, parallax_slip_rad, plan_panorama
from ...framing.projection import Camera, field_of_view_deg
from ..light.plan import LightStep
from ..reasons import Reason
from ..verdicts import HOLDS, TIGHT
from . import wording as say

# Slips of less than this do not show in the stitch [pixels].
_SLIP_PX = 2.0
_MOVES_AFTER_S = 60.0


@dataclass(frozen=True)
class PanoramaPlan:
    """A panorama.

    plan: None if it cannot be taken, and the reasons say why. slip_px: parallax of the nearest element; None without a
    pivot offset. brightest: index of the aim towards the sun, on which exposure is locked; None if unknown.
    """

    plan: Panorama | None
    reasons: tuple[Reason, ...]
    slip_px: float | None = None
    nearest_name: str | None = None
    brightest: int | None = None


def plan_shot_panorama(facts: ShotFacts, camera: Camera, body: Body, light: LightStep) -> PanoramaPlan | None:
    """Return the panorama of a shot; None for a single frame."""
    if facts.frame.pano_across_deg is None and facts.frame.pano_upwards_deg is None:
        return None
    fields = tuple(float(field_of_view_deg(side, camera.focal_mm)) for side in camera.frame_mm)
    across, upwards = facts.frame.pano_across_deg or fields[0], facts.frame.pano_upwards_deg or fields[1]
    focal_px = camera.focal_mm / (body.sensor_width_mm / body.pixels_wide)
    try:
        plan = plan_panorama(
            across,
            upwards,
            (fields[0], fields[1]),
            facts.frame.pano_overlap,
            camera.bearing_deg,
            facts.frame.pitch_deg,
            focal_px,
        )
    except InputError as error:
        return PanoramaPlan(None, (say.not_possible(message=error.message).fails(error.field),))
    count = plan.rows * plan.columns
    wide, high = plan.flat_px or plan.cylindrical_px
    kind = "flat" if plan.flat_px else "cylindrical"
    words = say.size(
        across_deg=plan.across_deg,
        upwards_deg=plan.upwards_deg,
        columns=plan.columns,
        rows=plan.rows,
        pixels=(wide, high),
        projection=kind,
    )
    reasons = [words.holds("pano_across_deg")]
    if count == 1:
        reasons.append(say.one_frame_enough().holds("pano_across_deg"))
    if not plan.flat_px:
        reasons.append(say.cylinder().holds("pano_across_deg"))
    if abs(facts.frame.roll_deg) > 0.05:
        reasons.append(say.head_not_level().tight("roll_deg"))
    slip, nearest = _slip(facts, plan, focal_px)
    if slip is not None and nearest is not None:
        shows = slip > _SLIP_PX
        slipped = say.slip(element=nearest, slip_px=slip, pivot_mm=facts.frame.pano_pivot_mm, shows=shows)
        reasons.append(slipped.reason(TIGHT if shows else HOLDS, "pano_pivot_mm"))
    brightest = _brightest(plan, light)
    if count > 1:
        lock = say.lock_exposure(sunward_frame=brightest + 1 if brightest is not None else None)
        reasons.append(lock.holds("pano_across_deg"))
        if any((item.moves_mps or 0) > 0 for item in facts.elements):
            reasons.append(say.things_move().caution("settle_s"))
    return PanoramaPlan(plan, tuple(reasons), slip, nearest, brightest)


def _slip(facts: ShotFacts, plan: Panorama, focal_px: float) -> tuple[float | None, str | None]:
    if facts.frame.pano_pivot_mm == 0 or len(plan.aims) < 2 or not facts.elements:
        return None, None
    seen = [item for item in facts.seen_from_camera.elements if item.shape != "water"] or list(
        facts.seen_from_camera.elements
    )
    nearest = min(seen, key=lambda item: item.distance_m)
    far = max((item.distance_m for item in seen if item is not nearest), default=math.inf)
    turn = max(
        abs((plan.aims[1].bearing_deg - plan.aims[0].bearing_deg + 180) % 360 - 180),
        abs(plan.aims[-1].pitch_deg - plan.aims[0].pitch_deg) / max(1, plan.rows - 1),
    )
    return parallax_slip_rad(facts.frame.pano_pivot_mm / 1000, turn, nearest.distance_m, far) * focal_px, nearest.name


def _brightest(plan: Panorama, light: LightStep) -> int | None:
    if light.sun_azimuth_deg is None or light.sun_altitude_deg is None or light.sun_altitude_deg < -12:
        return None
    off = [abs((aim.bearing_deg - light.sun_azimuth_deg + 180) % 360 - 180) for aim in plan.aims]
    return off.index(min(off))
