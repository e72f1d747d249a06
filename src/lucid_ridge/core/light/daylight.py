"""The light of one moment as it comes from everywhere: the sun's beam, the sky by direction, and what the ground sends
back.

How much there is follows the illuminance formulas (illuminance.py, sky_light.py); where it comes from, the standard
skies. Between clear and overcast the two are mixed by the cover, our own model. Below the horizon the sun's place in
the sky is taken to be on it. Sources: [1] CIE S 011 (see sky_luminance.py); [2] R. Ramamoorthi and P. Hanrahan, An
efficient representation for irradiance environment maps, SIGGRAPH 2001: light on a surface from any direction by nine
spherical harmonics, within a few per cent.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property, lru_cache
from typing import Any

import numpy as np
from numpy.typing import NDArray

from .direction import direction
from .illuminance import cloud_factor_kasten1980, sun_illuminance_lux
from .sky_light import shade_illuminance_lux
from .sky_luminance import CLEAR, OVERCAST, luminance_by_angle, luminance_by_cosines

Floats = NDArray[np.float64]
_ROWS, _COLUMNS = 30, 60
# A_l/π of the clamped cosine for l = 0, 1, 2. Source: [2].
_COSINE = (1.0, 2 / 3, 1 / 4)
_LOWEST_UP = math.sin(math.radians(0.5))


@dataclass(frozen=True)
class Daylight:
    """sun_altitude_deg, sun_azimuth_deg: where the light comes from.

    beam_lux: of the sun, square to its rays (0: hidden, or down).

    sky_lux: of the sky alone on level ground. oktas: of cloud. ground_reflectance: of the land around.
    """

    sun_altitude_deg: float
    sun_azimuth_deg: float
    beam_lux: float
    sky_lux: float
    oktas: float = 0.0
    ground_reflectance: float = 0.2

    @cached_property
    def sun(self) -> Floats:
        """The unit vector (east, north, up) towards the sun."""
        return direction(self.sun_altitude_deg, self.sun_azimuth_deg)

    @cached_property
    def low_sun(self) -> Floats:
        """The same for the sky's luminance: a sun below the horizon stands on it."""
        return direction(max(0.0, self.sun_altitude_deg), self.sun_azimuth_deg)

    @property
    def level_lux(self) -> float:
        """All the light on level ground."""
        return self.sky_lux + self.beam_lux * max(0.0, float(self.sun[2]))

    @property
    def ground_cd_m2(self) -> float:
        """Luminance of the surrounding land, which lights objects from below."""
        return self.ground_reflectance * self.level_lux / math.pi

    def sky_cd_m2(self, directions: Any) -> Floats:
        """Return the luminance of the sky without the sun's disc towards unit vectors (…, 3); below the horizon that
        of the horizon.

        Source: [1].
        """
        towards = np.asarray(directions, dtype=np.float64)
        return self.sky_by_cosines(towards[..., 2], self._to_sun(towards))

    def sky_by_cosines(self, up: Any, to_sun: Any) -> Floats:
        """Return the same by the cosines of a direction with the vertical and with low_sun."""
        return np.asarray(self._pattern(np.maximum(up, _LOWEST_UP), to_sun) * self._scale)

    def irradiance_lux(self, normals: Any) -> Floats:
        """Return the light of sky and ground on surfaces by their unit normals (…, 3), without the beam.

        Source: [2].
        """
        return np.maximum(0.0, _harmonics(np.asarray(normals, dtype=np.float64)) @ self._harmonic_lux)

    @cached_property
    def _scale(self) -> float:
        directions, solid = _DOME
        pattern = self._pattern(directions[:, 2], self._to_sun(directions))
        return self.sky_lux / float((pattern * directions[:, 2] * solid).sum())

    @cached_property
    def _harmonic_lux(self) -> Floats:
        directions, solid = _DOME
        above = self.sky_cd_m2(directions)
        below = directions * np.array([1.0, 1.0, -1.0])
        radiance = np.concatenate((above, np.full(len(below), self.ground_cd_m2)))
        basis = _harmonics(np.concatenate((directions, below)))
        weights = np.array([_COSINE[0]] + [_COSINE[1]] * 3 + [_COSINE[2]] * 5)
        return np.asarray(math.pi * weights * ((radiance * np.tile(solid, 2)) @ basis))

    def _pattern(self, up: Any, to_sun: Any) -> Any:
        """Return the luminance of the sky by direction, to any scale.

        Both standard skies are brought to the same light on level ground first.
        """
        sun_up = math.sin(math.radians(max(0.0, self.sun_altitude_deg)))
        cover = self.oktas / 8
        from_sun = np.arccos(np.clip(to_sun, -1.0, 1.0))
        skies = [(share, sky) for share, sky in ((1 - cover, CLEAR), (cover, OVERCAST)) if share > 0]
        return sum(
            share * luminance_by_angle(sky, sun_up, up, from_sun) / _level_of(sky, round(sun_up, 4))
            for share, sky in skies
        )

    def _to_sun(self, towards: Floats) -> Floats:
        """Return the cosine of the angle to low_sun."""
        return np.asarray(towards @ self.low_sun)


def daylight(
    sun_altitude_deg: float,
    sun_azimuth_deg: float,
    hidden: bool = False,
    oktas: float = 0.0,
    more_lux: float = 0.0,
    ground_reflectance: float = 0.2,
) -> Daylight:
    """Return the light of a moment by the sun's airless altitude: a clear sky's, less what so much cloud takes, of
    which the beam has its share.

    hidden: behind the land, so that only the sky lights the place. more_lux: of the moon, as if it came from the sky.
    """
    whole, sky = float(sun_illuminance_lux(sun_altitude_deg)), float(shade_illuminance_lux(sun_altitude_deg))
    left = float(cloud_factor_kasten1980(oktas))
    beam_level = (whole - sky) * (1 - oktas / 8) * left if sun_altitude_deg > 0 else 0.0
    # Cloud scatters what it takes from the beam; behind the land one has a clear sky's share alone.
    scattered = sky * left if hidden else whole * left - beam_level
    beam = 0.0 if hidden or beam_level <= 0 else beam_level / math.sin(math.radians(max(0.3, sun_altitude_deg)))
    return Daylight(sun_altitude_deg, sun_azimuth_deg, beam, max(1e-6, scattered) + more_lux, oktas, ground_reflectance)


def _harmonics(directions: Floats) -> Floats:
    """Return the nine real spherical harmonics up to the second degree at unit vectors (…, 3). Source: [2], eq. 3."""
    x, y, z = directions[..., 0], directions[..., 1], directions[..., 2]
    return np.stack(
        (
            np.full_like(x, 0.282095), 0.488603 * y, 0.488603 * z, 0.488603 * x, 1.092548 * x * y, 1.092548 * y * z,
            0.315392 * (3 * z * z - 1), 1.092548 * x * z, 0.546274 * (x * x - y * y),
        ),
        axis=-1,
    )  # fmt: skip


def _dome() -> tuple[Floats, Floats]:
    """Return directions (n, 3) evenly over the upper half with the solid angle of each [sr]."""
    # Equal steps of sin(altitude) are equal solid angles.
    up = (np.arange(_ROWS) + 0.5) / _ROWS
    turn = (np.arange(_COLUMNS) + 0.5) / _COLUMNS * 2 * math.pi
    level = np.sqrt(1 - up * up)
    grid = np.stack(
        (level[:, None] * np.sin(turn), level[:, None] * np.cos(turn), np.broadcast_to(up[:, None], (_ROWS, _COLUMNS))),
        axis=-1,
    ).reshape(-1, 3)
    return grid, np.full(len(grid), 2 * math.pi / len(grid))


_DOME = _dome()


@lru_cache(maxsize=512)
def _level_of(sky_type: int, sun_up: float) -> float:
    """Return the light on level ground of a standard sky whose zenith has luminance 1."""
    directions, solid = _DOME
    sun = np.array([0.0, math.sqrt(1 - sun_up * sun_up), sun_up])
    relative = luminance_by_cosines(sky_type, sun_up, directions[:, 2], directions @ sun)
    return float((relative * directions[:, 2] * solid).sum())
