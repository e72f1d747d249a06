"""The moon, the eclipsed sun or the galactic centre in a window of light: where it stands, and when an eclipse is
deepest.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime

import numpy as np
from numpy.typing import NDArray

from ..spans.instants import from_unix, unix_seconds
from ..spans.intervals import Interval
from .eclipses import sun_covered_share
from .ephemeris import apparent_altitude_deg
from .kinds import LightKind
from .sought import Scene, Sky

_SAMPLES = 121
_BODIES: Mapping[str, str] = {
    LightKind.MOONLIGHT: "moon",
    LightKind.CRESCENT_MOON: "moon",
    LightKind.HALF_MOON: "moon",
    LightKind.FULL_MOON: "moon",
    LightKind.LUNAR_ECLIPSE: "moon",
    LightKind.SOLAR_ECLIPSE: "sun",
    LightKind.GALACTIC_CORE: "galactic centre",
}


@dataclass(frozen=True, kw_only=True)
class SeenBody:
    """A body through a window of light.

    altitude_deg: lowest and highest, as seen. azimuth_deg: at the window's start and end. deepest: of an eclipse in the
    window, as a share of the moon's diameter in the umbra, or of the sun's disc that is covered; None without one.
    """

    name: str
    altitude_deg: tuple[float, float]
    azimuth_deg: tuple[float, float]
    deepest: float | None = None
    deepest_utc: datetime | None = None


def seen_body(scene: Scene, kind: str, span: Interval) -> SeenBody | None:
    """Return the body that a kind of light is about, through a span; None for kinds that are about none."""
    name = _BODIES.get(kind)
    if name is None:
        return None
    start, end = float(unix_seconds(span.start_utc)), float(unix_seconds(span.end_utc))
    sky = Sky(scene, np.linspace(start, end, _SAMPLES))
    altitude, azimuth = _where(sky, name)
    apparent = np.asarray(apparent_altitude_deg(altitude))
    depth = _depth(sky, kind)
    at = int(np.argmax(depth)) if depth is not None else 0
    return SeenBody(
        name=name,
        altitude_deg=(float(apparent.min()), float(apparent.max())),
        azimuth_deg=(float(azimuth[0]), float(azimuth[-1])),
        deepest=float(depth[at]) if depth is not None else None,
        deepest_utc=from_unix(float(sky.seconds[at])) if depth is not None else None,
    )


def _where(sky: Sky, name: str) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    if name == "moon":
        return sky.moon_altitude_deg, sky.moon_azimuth_deg
    if name == "sun":
        return sky.sun_altitude_deg, sky.sun_azimuth_deg
    return sky.galactic_centre[0], sky.galactic_centre[1]


def _depth(sky: Sky, kind: str) -> NDArray[np.float64] | None:
    if kind == LightKind.LUNAR_ECLIPSE:
        return sky.umbral_magnitude
    if kind == LightKind.SOLAR_ECLIPSE:
        sun, moon = sky.scene.sun, sky.scene.moon
        return sun_covered_share(sun, sun.horizontal(sky.seconds), moon, moon.horizontal(sky.seconds))
    return None
