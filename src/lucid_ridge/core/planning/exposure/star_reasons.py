"""Exposure: how long stars in the frame stay points."""

from __future__ import annotations

import numpy as np

from ...exposure.star_trails import (
    declination_deg,
    star_trail_mm,
    trail_arc_deg,
    untrailed_times,
)
from ...facts.frame_groups import Role
from ...facts.settings import Settings, camera_of
from ...facts.shot import ShotFacts
from ...framing.projection import camera_axes
from ..light.plan import LightStep
from ..reasons import Reason
from . import wording as say
from .exposures import STAR_KINDS

_POINTS = 9


def star_reasons(facts: ShotFacts, settings: Settings, light: LightStep, shutter_s: float) -> list[Reason]:
    """Return how long the stars in the frame stay points by three rules, and how far they move in this exposure; none
    by day, close up, under a closed sky, or where the frame sees no sky.
    """
    body, here = facts.body, facts.location
    if body is None or here is None or facts.close_up or not light.stars_show or (light.cloud_oktas or 0.0) >= 7.5:
        return []
    seen = _declinations(facts, settings)
    if seen is None:
        return []
    fastest = _fastest(seen)
    trails = any(group.role == Role.TRAILS and not group.muted for group in facts.frame_groups)
    times = untrailed_times(settings.focal_mm, settings.f_number, body, settings.coc_mm, fastest)
    words = say.stars(
        shutter_s=shutter_s,
        trail_mm=float(star_trail_mm(settings.focal_mm, shutter_s, fastest)),
        arc_deg=float(trail_arc_deg(shutter_s)),
        by_trail_s=times.by_trail_s,
        by_500_s=times.by_500_s,
        by_pixel_s=times.by_pixel_s,
        declinations_deg=(float(seen[0]), float(seen[1])),
    )
    if shutter_s <= times.by_trail_s or trails:
        return [words.holds("wanted_shutter_s")]
    # Rules of thumb differ: what the most generous one forbids is soft in a picture that is about stars.
    soft = (
        facts.light.wanted_light in STAR_KINDS
        and shutter_s > max(times.by_trail_s, times.by_500_s, times.by_pixel_s) * 1.07
    )
    return [words.tight("wanted_shutter_s") if soft else words.caution("wanted_shutter_s")]


def fastest_declination_deg(facts: ShotFacts, settings: Settings) -> float | None:
    """Return the declination of the fastest star in the frame [degrees]; None where the frame sees no sky, or without
    a place.
    """
    seen = _declinations(facts, settings) if facts.body is not None and facts.location is not None else None
    return _fastest(seen) if seen is not None else None


def _fastest(seen: tuple[float, float]) -> float:
    """Return the declination nearest to the celestial equator, where stars are fastest."""
    return 0.0 if seen[0] <= 0 <= seen[1] else float(min(np.abs(seen)))


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
