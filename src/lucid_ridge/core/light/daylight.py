"""The light of one moment as it comes from everywhere: the beam of sun or moon, the sky by direction, and what the
ground sends back.

How much there is comes from light_at_place.py; where it comes from, from the standard skies: one around the sun, one
around the moon, and an even one for the night without both. Between clear and overcast two are mixed by the cover, our
own model. A body below the horizon is taken to stand on it. Sources: [1] CIE S 011 (see sky_luminance.py); [2] R.
Ramamoorthi and P. Hanrahan, An efficient representation for irradiance environment maps, SIGGRAPH 2001: light on a
surface from any direction by nine spherical harmonics, within a few per cent.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property, lru_cache
from typing import Any

import numpy as np
from numpy.typing import NDArray

from .direction import direction
from .light_at_place import Illumination, beam_square_lux
from .sky_luminance import CLEAR, OVERCAST, UNIFORM, luminance_by_angle, luminance_by_cosines

Floats = NDArray[np.float64]
_ROWS, _COLUMNS = 30, 60
# A_l/π of the clamped cosine for l = 0, 1, 2. Source: [2].
_COSINE = (1.0, 2 / 3, 1 / 4)
_LOWEST_UP = math.sin(math.radians(0.5))
# A part of the sky that gives less than this of its light is not looked at.
_HARDLY = 1e-3


@dataclass(frozen=True)
class SkyPart:
    """Light of the sky that one body gives. lux: on level ground. altitude_deg, azimuth_deg: of the body; None of the
    night without both.
    """

    lux: float
    altitude_deg: float | None = None
    azimuth_deg: float = 0.0

    @cached_property
    def towards(self) -> Floats:
        """The unit vector (east, north, up) to the body, which stands on the horizon if it is below."""
        return direction(max(0.0, self.altitude_deg or 0.0), self.azimuth_deg)

    @property
    def sine(self) -> float:
        return math.sin(math.radians(max(0.0, self.altitude_deg or 0.0)))


@dataclass(frozen=True)
class Daylight:
    """The light of sun or moon.

    altitude_deg, azimuth_deg: of the body whose beam is the stronger. beam_lux: square to its rays (0: hidden, or
    down). sky: its parts, the strongest first. oktas: of cloud. ground_reflectance: of the land around. moonlit: the
    beam is the moon's.
    """

    altitude_deg: float
    azimuth_deg: float
    beam_lux: float
    sky: tuple[SkyPart, ...]
    oktas: float = 0.0
    ground_reflectance: float = 0.2
    moonlit: bool = False

    @cached_property
    def beam_from(self) -> Floats:
        """The unit vector (east, north, up) towards the body of the beam."""
        return direction(self.altitude_deg, self.azimuth_deg)

    @cached_property
    def polarised_about(self) -> Floats:
        """The unit vector towards the body that gives most of the sky's light."""
        part = self.sky[0]
        return direction(part.altitude_deg or 0.0, part.azimuth_deg)

    @property
    def polarised_share(self) -> float:
        """The share of the sky's light that can be polarised around one body: cloud and the night's are not."""
        part = self.sky[0]
        return 0.0 if part.altitude_deg is None else part.lux / self.sky_lux * (1 - self.oktas / 8)

    @property
    def sky_lux(self) -> float:
        """The light of the sky alone on level ground."""
        return sum(part.lux for part in self.sky)

    @property
    def level_lux(self) -> float:
        """All the light on level ground."""
        return self.sky_lux + self.beam_lux * max(0.0, float(self.beam_from[2]))

    @property
    def ground_cd_m2(self) -> float:
        """Luminance of the surrounding land, which lights objects from below."""
        return self.ground_reflectance * self.level_lux / math.pi

    def sky_cd_m2(self, directions: Any) -> Floats:
        """Return the luminance of the sky without the disc of sun or moon towards unit vectors (…, 3); below the
        horizon that of the horizon.

        Source: [1].
        """
        towards = np.asarray(directions, dtype=np.float64)
        return self.sky_by_cosines(towards[..., 2], lambda body: towards @ body)

    def sky_by_cosines(self, up: Any, to_body: Callable[[Floats], Any]) -> Floats:
        """Return the same by the cosine of a direction with the vertical, and by a function that gives its cosine with
        a unit vector (3,).
        """
        raised = np.maximum(up, _LOWEST_UP)
        found = [
            _pattern(part, self.oktas, raised, to_body(part.towards)) * (part.lux * _per_lux(part, self.oktas))
            for part in self.sky
        ]
        return np.asarray(sum(found[1:], start=found[0]))

    def irradiance_lux(self, normals: Any) -> Floats:
        """Return the light of sky and ground on surfaces by their unit normals (…, 3), without the beam.

        Source: [2].
        """
        return np.maximum(0.0, _harmonics(np.asarray(normals, dtype=np.float64)) @ self._harmonic_lux)

    @cached_property
    def _harmonic_lux(self) -> Floats:
        directions, solid = _DOME
        above = self.sky_cd_m2(directions)
        below = directions * np.array([1.0, 1.0, -1.0])
        radiance = np.concatenate((above, np.full(len(below), self.ground_cd_m2)))
        basis = _harmonics(np.concatenate((directions, below)))
        weights = np.array([_COSINE[0]] + [_COSINE[1]] * 3 + [_COSINE[2]] * 5)
        return np.asarray(math.pi * weights * ((radiance * np.tile(solid, 2)) @ basis))


def daylight(
    light: Illumination,
    sun: tuple[float, float],
    moon: tuple[float, float],
    oktas: float = 0.0,
    ground_reflectance: float = 0.2,
) -> Daylight:
    """Return the light of one moment by direction.

    light: of one instant. sun, moon: altitude and azimuth, airless [degrees]. oktas: of cloud, as in the light.
    """
    beams = (float(light.sun_beam_lux), float(light.moon_beam_lux))
    moonlit = beams[1] > beams[0]
    source, level = (moon, beams[1]) if moonlit else (sun, beams[0])
    parts = [
        SkyPart(float(light.sun_sky_lux), *sun),
        SkyPart(float(light.moon_sky_lux), *moon),
        SkyPart(float(light.night_lux)),
    ]
    parts.sort(key=lambda part: -part.lux)
    least = _HARDLY * sum(part.lux for part in parts)
    beam = beam_square_lux(level, source[0]) if level > 0 else 0.0
    kept = tuple(part for part in parts if part.lux > least)
    return Daylight(*source, beam, kept, oktas, ground_reflectance, moonlit)


def _pattern(part: SkyPart, oktas: float, up: Any, to_body: Any) -> Any:
    """Return the luminance of a part of the sky by direction, to any scale.

    Both standard skies are brought to the same light on level ground first.
    """
    cover = oktas / 8
    from_body = np.arccos(np.clip(to_body, -1.0, 1.0))
    clear = UNIFORM if part.altitude_deg is None else CLEAR
    skies = [(share, sky) for share, sky in ((1 - cover, clear), (cover, OVERCAST)) if share > 0]
    return sum(
        share * luminance_by_angle(sky, part.sine, up, from_body) / _level_of(sky, round(part.sine, 4))
        for share, sky in skies
    )


@lru_cache(maxsize=256)
def _per_lux(part: SkyPart, oktas: float) -> float:
    directions, solid = _DOME
    pattern = _pattern(part, oktas, np.maximum(directions[:, 2], _LOWEST_UP), directions @ part.towards)
    return 1.0 / float((pattern * directions[:, 2] * solid).sum())


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
