"""Where the galactic band and the galactic centre stand in the frame."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ...facts.shot import ShotFacts
from ...framing.projection import Camera, project
from ...light.direction import direction
from ...light.ephemeris import apparent_altitude_deg
from ...light.kinds import LightKind
from ...light.stars import BAND_HALF_WIDTH_DEG
from ...units.lengths import compass_point
from ..day.galactic_core import band_over_land, pieces_over_land
from ..light.plan import LightStep
from ..reasons import Reason
from . import wording as say

Floats = NDArray[np.float64]
_FAR_M = 1e7


@dataclass(frozen=True)
class GalacticBand:
    """The galactic band over the land: its middle line in pieces of far points [m; east, north, up], its width as a
    share of the frame's width, and the galactic centre (None: below the land).
    """

    pieces: tuple[Floats, ...]
    width_share: float
    centre: tuple[float, float, float] | None


def galactic_band(facts: ShotFacts, camera: Camera, light: LightStep) -> GalacticBand | None:
    """Return the band at the shot's time; None while no stars show, close up, or without a place."""
    here, moment = facts.location, facts.light.time_utc
    if here is None or moment is None or facts.close_up or not light.stars_show:
        return None
    eye = np.array([camera.east_m, camera.north_m, camera.height_m])
    altitude, azimuth, clear = band_over_land(here, moment)
    points = eye + _FAR_M * np.stack([direction(a, b) for a, b in zip(altitude, azimuth, strict=True)])
    at = len(points) // 2
    middle = points[at]
    centre = (float(middle[0]), float(middle[1]), float(middle[2])) if clear[at] else None
    share = math.radians(2 * BAND_HALF_WIDTH_DEG) * camera.focal_mm / camera.frame_mm[0]
    return GalacticBand(pieces_over_land(points, clear), share, centre)


def galactic_reasons(facts: ShotFacts, camera: Camera, light: LightStep) -> list[Reason]:
    """Return where the galactic centre stands against the frame, for a shot that wants it."""
    if facts.light.wanted_light != LightKind.GALACTIC_CORE or light.galactic_centre is None:
        return []
    altitude, azimuth = light.galactic_centre
    eye = np.array([camera.east_m, camera.north_m, camera.height_m])
    seen = project(camera, eye + _FAR_M * direction(float(apparent_altitude_deg(altitude)), azimuth))
    inside = bool(seen.in_front) and 0 <= float(seen.x) <= 1 and 0 <= float(seen.y) <= 1
    turn = (azimuth - camera.bearing_deg + 180) % 360 - 180
    words = say.galactic_centre(
        inside=inside, turn_deg=turn, altitude_deg=altitude, compass=compass_point(azimuth), bearing_deg=azimuth
    )
    return [words.holds("bearing_deg") if inside else words.tight("bearing_deg")]
