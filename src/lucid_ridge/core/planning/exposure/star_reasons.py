"""Exposure: how long stars in the frame stay points."""

from __future__ import annotations

import numpy as np

from ...exposure.star_trails import (
    declination_deg,
    star_trail_mm,
    trail_arc_deg,
    untrailed_by_500_s,
    untrailed_by_pixel_s,
    untrailed_by_trail_s,
)
from ...facts.settings import Settings, camera_of
from ...facts.shot import ShotFacts
from ...framing.projection import camera_axes
from ...optics.circle_of_confusion import crop_factor
from ..light.plan import LightStep
from ..reasons import Reason
from . import wording as say

# Stars are there for the camera from nautical dusk on (common practice).
_STARS_BELOW_DEG = -12.0
_POINTS = 9


def star_reasons(facts: ShotFacts, settings: Settings, light: LightStep, shutter_s: float) -> list[Reason]:
    """Return how long the stars in the frame stay points by three rules, and how far they move in this exposure; none
    by day, close up, under a closed sky, or where the frame sees no sky.
    """
    body, here = facts.body, facts.location
    dark = light.sun_altitude_deg is not None and light.sun_altitude_deg < _STARS_BELOW_DEG
    if body is None or here is None or facts.close_up or not dark or (light.cloud_oktas or 0.0) >= 7.5:
        return []
    seen = _declinations(facts, settings)
    if seen is None:
        return []
    # The fastest star is the one nearest to the celestial equator.
    fastest = 0.0 if seen[0] <= 0 <= seen[1] else float(min(np.abs(seen)))
    by_trail = float(untrailed_by_trail_s(settings.focal_mm, settings.coc_mm, fastest))
    crop = crop_factor(body.sensor_width_mm, body.sensor_height_mm)
    pixel_um = 1000 * body.sensor_width_mm / body.pixels_wide
    words = say.stars(
        shutter_s=shutter_s,
        trail_mm=float(star_trail_mm(settings.focal_mm, shutter_s, fastest)),
        arc_deg=float(trail_arc_deg(shutter_s)),
        by_trail_s=by_trail,
        by_500_s=float(untrailed_by_500_s(settings.focal_mm, crop)),
        by_pixel_s=float(untrailed_by_pixel_s(settings.focal_mm, settings.f_number, pixel_um)),
        declinations_deg=(float(seen[0]), float(seen[1])),
    )
    return [words.holds("wanted_shutter_s") if shutter_s <= by_trail else words.caution("wanted_shutter_s")]


def _declinations(facts: ShotFacts, settings: Settings) -> tuple[float, float] | None:
    """Return the least and greatest declination of the sky in the frame, over the land [degrees]; None without sky."""
    assert facts.body is not None and facts.location is not None
    camera = camera_of(facts, settings, facts.body)
    right, up, forward = camera_axes(camera.bearing_deg, camera.pitch_deg, camera.roll_deg)
    wide, high = camera.frame_mm
    x, y = (np.linspace(-side / 2, side / 2, _POINTS) for side in (wide, high))
    towards = camera.focal_mm * forward + x[:, None, None] * right + y[None, :, None] * up
    towards = towards / np.linalg.norm(towards, axis=-1, keepdims=True)
    altitude = np.degrees(np.arcsin(towards[..., 2]))
    azimuth = np.degrees(np.arctan2(towards[..., 0], towards[..., 1])) % 360
    sky = altitude > np.asarray(facts.location.skyline.altitude_deg(azimuth))
    if not sky.any():
        return None
    seen = np.asarray(declination_deg(altitude[sky], azimuth[sky], facts.location.latitude_deg))
    return float(seen.min()), float(seen.max())
