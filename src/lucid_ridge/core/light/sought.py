"""What sun, moon, land and water do at one viewpoint, asked at many instants at once."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from functools import cached_property
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..tides.heights import Tide
from .bands import ASTRONOMICAL_DEG, NAUTICAL_DEG
from .eclipses import sun_bite_deg, umbral_magnitude
from .moon import moon_phase
from .skyline import LEVEL, Skyline, clearance_at_deg
from .stars import GALACTIC_CENTRE
from .track import Track, body_track

Floats = NDArray[np.float64]
# Nights that never get astronomically dark count as dark while the sun is so near to its lowest [degrees].
_NEAR_LOWEST_DEG = 1.0


@dataclass(frozen=True)
class Scene:
    """A viewpoint over a span of time.

    bearing_deg: where the camera looks. subject_skyline: of what must be lit.

    water_low_m, water_high_m: heights of the tide that the picture wants, above the tide's zero; None leaves a side
    open.
    """

    latitude_deg: float
    longitude_deg: float
    elevation_m: float
    start_utc: datetime
    end_utc: datetime
    bearing_deg: float | None = None
    skyline: Skyline = LEVEL
    subject_skyline: Skyline = LEVEL
    tide: Tide | None = None
    water_low_m: float | None = None
    water_high_m: float | None = None

    @property
    def wants_water(self) -> bool:
        return self.tide is not None and (self.water_low_m is not None or self.water_high_m is not None)

    @cached_property
    def sun(self) -> Track:
        return self._track("sun")

    @cached_property
    def moon(self) -> Track:
        return self._track("moon")

    @cached_property
    def galactic_centre(self) -> Track:
        return self._track(GALACTIC_CENTRE)

    def _track(self, body: str) -> Track:
        return body_track(body, self.latitude_deg, self.longitude_deg, self.elevation_m, self.start_utc, self.end_utc)


class Sky:
    """The scene at some instants [unix seconds]; each quantity is computed when first asked for."""

    def __init__(self, scene: Scene, seconds: Any) -> None:
        self.scene, self.seconds = scene, np.asarray(seconds, dtype=np.float64)

    def seen_along(self, scene: Scene) -> Sky:
        """Return the same instants of a scene that differs in its bearing and subject only; sun and moon are not
        followed again.
        """
        other = Sky(scene, self.seconds)
        for name in ("_sun", "_moon", "sun_clearance_deg", "moon_clearance_deg", "moon_fraction"):
            other.__dict__[name] = getattr(self, name)
        return other

    @cached_property
    def _sun(self) -> tuple[Floats, Floats, Floats]:
        return self.scene.sun.horizontal(self.seconds)

    @property
    def sun_altitude_deg(self) -> Floats:
        return self._sun[0]

    @property
    def dip_deg(self) -> float:
        """By how much the horizon lies lower than eye level."""
        return self.scene.skyline.dip_deg

    @property
    def sun_azimuth_deg(self) -> Floats:
        return self._sun[1]

    @cached_property
    def angle_from_view_deg(self) -> Floats:
        assert self.scene.bearing_deg is not None
        return np.asarray(np.abs((self._sun[1] - self.scene.bearing_deg + 180) % 360 - 180))

    @cached_property
    def sun_clearance_deg(self) -> Floats:
        return clearance_at_deg(self.scene.sun, self.scene.skyline, self._sun)

    @cached_property
    def subject_clearance_deg(self) -> Floats:
        if self.scene.subject_skyline == self.scene.skyline:
            return self.sun_clearance_deg
        return clearance_at_deg(self.scene.sun, self.scene.subject_skyline, self._sun)

    @cached_property
    def dark_below_deg(self) -> Floats:
        """The sun's altitude below which the sky counts as dark: -18 degrees, or near the night's lowest where it does
        not go so far, at most -12.

        The lowest is that of the sun's declination at the instant.
        """
        x, y, z = np.moveaxis(self.scene.sun.position_km(self.seconds), -1, 0)
        lowest = np.abs(self.scene.latitude_deg + np.degrees(np.arctan2(z, np.hypot(x, y)))) - 90
        return np.asarray(np.clip(lowest + _NEAR_LOWEST_DEG, ASTRONOMICAL_DEG, NAUTICAL_DEG))

    @cached_property
    def sun_bite_deg(self) -> Floats:
        """How far the moon reaches over the sun's edge: positive during an eclipse of the sun."""
        return sun_bite_deg(self.scene.sun, self._sun, self.scene.moon, self._moon)

    @cached_property
    def umbral_magnitude(self) -> Floats:
        """How deep the moon stands in the Earth's umbra: positive during an eclipse of the moon."""
        return umbral_magnitude(self.seconds)

    @cached_property
    def galactic_centre(self) -> tuple[Floats, Floats, Floats]:
        return self.scene.galactic_centre.horizontal(self.seconds)

    @cached_property
    def galactic_clearance_deg(self) -> Floats:
        """How far the galactic centre stands above skyline and level horizon, whichever is higher."""
        over_land = clearance_at_deg(self.scene.galactic_centre, self.scene.skyline, self.galactic_centre)
        return np.minimum(over_land, self.galactic_centre[0])

    @cached_property
    def _moon(self) -> tuple[Floats, Floats, Floats]:
        return self.scene.moon.horizontal(self.seconds)

    @property
    def moon_altitude_deg(self) -> Floats:
        return self._moon[0]

    @property
    def moon_azimuth_deg(self) -> Floats:
        return self._moon[1]

    @cached_property
    def moon_clearance_deg(self) -> Floats:
        return clearance_at_deg(self.scene.moon, self.scene.skyline, self._moon)

    @cached_property
    def moon_fraction(self) -> Floats:
        return np.asarray(moon_phase(self.seconds).fraction)

    @cached_property
    def water_m(self) -> Floats:
        assert self.scene.tide is not None
        return np.asarray(self.scene.tide.height_m(self.seconds))
