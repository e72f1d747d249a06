"""Finely divided things in the light of a moment, in EV at ISO 100.

Sources: [1] Lambert's law; [2] H. Koschmieder, Theorie der horizontalen Sichtweite, 1924: what is black fades into the
horizon by exp(-3.912 d/V); [3] A. Fresnel 1823 for water; [4] Cox and Munk 1954 for its roughness.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..exposure.ev import ev100_from_luminance
from ..exposure.polariser import CLEAR_SKY_MAXIMUM, beyond_cost_by_cosine, degree_by_cosine
from ..framing.fine_mesh import FineMesh
from ..framing.skin import rough
from ..light.daylight import Daylight
from ..light.direction import lengths
from ..light.materials import REFLECTANCES, Material
from ..light.surfaces import mirrored_by_cosine, slope_variance_cox1954

Floats = NDArray[np.float64]
_CONTRAST = 3.912
_DARKEST_CD_M2 = 1e-5
# Leaves let through about this share of what they would give back (our own model).
_THROUGH = 0.6
_HORIZON_UP = 0.02
# A mirror turns the way light swings: so much of what a polariser does to the sky is left in it (our own model).
MIRRORED_SHARE = 0.5
# Slopes of facets in parts of their spread, and how many have each.
_STEPS, _WEIGHTS = np.array([-1.6, -0.8, 0.0, 0.8, 1.6]), np.array([0.09, 0.24, 0.34, 0.24, 0.09])
_FOAM = REFLECTANCES[Material.FOAM].typical


@dataclass(frozen=True)
class Air:
    """How far one sees [m]. Source: [2]."""

    visibility_m: float = 40_000.0

    def left(self, distance_m: Any) -> Floats:
        """Return the share of its own light that reaches the eye from a distance."""
        return np.asarray(np.exp(-_CONTRAST * np.asarray(distance_m) / self.visibility_m))


def luminance_of(mesh: FineMesh, light: Daylight, reflectance: float, in_shade: bool = False) -> Floats:
    """Return the luminance [cd/m²] of a mesh's points. in_shade: the beam does not reach it. Source: [1]."""
    lux = light.irradiance_lux(mesh.normals) * mesh.open_sky
    if light.beam_lux > 0 and not in_shade:
        facing = mesh.normals @ light.beam_from
        lit = np.where(facing >= 0, facing, -_THROUGH * facing) if mesh.thin else np.maximum(0.0, facing)
        lux = lux + light.beam_lux * lit * np.minimum(1.0, 0.3 + 0.7 * mesh.open_sky)
    return np.minimum(1.0, reflectance * mesh.albedo) * lux / math.pi


@dataclass(frozen=True)
class Veil:
    """The air before points: left: what share of their own light reaches the eye; added_cd_m2: what the air adds to
    it.

    Source: [2].
    """

    left: Floats
    added_cd_m2: Floats

    def over(self, luminance: Floats) -> Floats:
        """Return the points' luminances as they reach the eye."""
        return np.asarray(luminance * self.left + self.added_cd_m2)


def veil_before(points: Floats, eye: Floats, light: Daylight, air: Air) -> Veil:
    """Return the air between an eye and points. Source: [2]."""
    away = points - eye
    distance = lengths(away)
    left = air.left(distance)
    level = away / np.maximum(distance, 1e-9)[..., None]
    level[..., 2] = np.maximum(level[..., 2], _HORIZON_UP)
    return Veil(left, np.asarray(light.sky_cd_m2(level) * (1 - left)))


def ev_of(luminance: Floats) -> Floats:
    """Return EV at ISO 100 of luminances [cd/m²]; the darkest that can be distinguished stands for none."""
    return np.asarray(ev100_from_luminance(np.maximum(luminance, _DARKEST_CD_M2)))


@dataclass(frozen=True)
class StillWater:
    """Still water.

    level_m: its height; own_reflectance: light returned from within; upright_share: share of perpendicularly polarised
    light that a polariser on the lens passes as it is turned (1: set against the glare of level water).
    """

    level_m: float
    own_reflectance: float
    upright_share: float = 1.0

    def mirrors(
        self, luminance: Floats, shares: tuple[Floats, Floats], eye: Floats, light: Daylight
    ) -> tuple[Floats, Floats]:
        """Return the luminance of points as mirrored, with the water's own light, and the effect of a polariser on it
        [stops].

        Source: [3].

        shares: as from shares_of. If the eye is under water nothing is mirrored: only the water's own light remains.
        """
        level, upright = shares
        shown = (
            (level + upright) / 2 * luminance + self._own(light)
            if eye[2] > self.level_m
            else np.full_like(luminance, self._own(light))
        )
        return shown, self._polarised(level, upright)

    def polariser_stops(self, points: Floats, eye: Floats) -> Floats:
        """Return the effect of a polariser on the reflection beyond its own cost [stops], where points are mirrored.

        Source: [3].
        """
        return self._polarised(*self.shares_of(points, eye))

    def mirrors_sky(self, upwards: Floats, light: Daylight, axis: Floats) -> tuple[Floats, Floats]:
        """Return the mirrored sky by direction (…, 3), and the effect of a polariser on it [stops]."""
        level, upright = mirrored_by_cosine(np.clip(upwards[..., 2], 0.0, 1.0))
        luminance = (level + upright) / 2 * light.sky_cd_m2(upwards) + self._own(light)
        return np.asarray(luminance), self._polarised(level, upright) + MIRRORED_SHARE * sky_polariser_stops(
            upwards, light, axis
        )

    def _own(self, light: Daylight) -> float:
        return self.own_reflectance * light.level_lux / math.pi

    def shares_of(self, points: Floats, eye: Floats) -> tuple[Floats, Floats]:
        """Return the reflectances for both polarisations, by the angle at which the eye sees the mirrored points."""
        drop = eye[2] - self.level_m + np.abs(points[..., 2] - self.level_m)
        run = np.hypot(points[..., 0] - eye[0], points[..., 1] - eye[1])
        level, upright = mirrored_by_cosine(np.clip(drop / np.maximum(np.hypot(run, drop), 1e-12), 0.0, 1.0))
        return level, upright

    def _polarised(self, level: Floats, upright: Floats) -> Floats:
        through = self.upright_share * upright + (1 - self.upright_share) * level
        return np.asarray(np.log2(np.maximum(through / np.maximum((level + upright) / 2, 1e-12), 2.0**-12)))


def sky_polariser_stops(directions: Floats, light: Daylight, axis: Floats) -> Floats:
    """Return the effect of a polariser on the sky beyond its own cost [stops].

    axis: the filter's, a unit vector across the view.

    Skylight is polarised across the plane of sun and view; cloud is not polarised. Source: exposure/polariser.py.
    """
    sun = light.polarised_about
    cosine = directions @ sun
    degree = degree_by_cosine(cosine, CLEAR_SKY_MAXIMUM * light.polarised_share)
    # |d × s| of unit vectors, and (d × s)·a as d·(s × a).
    length = np.sqrt(np.maximum(0.0, 1 - cosine * cosine))
    across = np.minimum(1.0, np.abs(directions @ np.cross(sun, axis)) / np.maximum(length, 1e-9))
    return np.asarray(beyond_cost_by_cosine(np.where(length < 1e-6, 0.0, degree), across))


def moving_water(
    points: Floats, eye: Floats, light: Daylight, own_reflectance: float, wind_mps: float, foam: float, calm: float
) -> Floats:
    """Return the luminance of rippled water: the sky mirrored by facets of every slope that its roughness has, its own
    light and its foam.

    wind_mps: that would roughen the sea as much. foam: share of it that is white. calm: how much of the ripples a long
    exposure leaves, 0 to 1. Source: [3], [4].
    """
    view = eye - points
    distance = np.maximum(lengths(view), 1e-9)
    rise, flat = view[:, 2] / distance, np.hypot(view[:, 0], view[:, 1]) / distance
    along = view[:, :2] / np.maximum(flat * distance, 1e-9)[:, None]
    spread = math.sqrt(float(slope_variance_cox1954(wind_mps)) / 2)
    # Far ripples lie within one point of the picture.
    seen = calm * np.exp(-distance / 60.0)
    slope = _STEPS[:, None] * spread + 1.6 * spread * rough(points * np.array([1.0, 1.0, 0.0]), 1.6, 21) * seen
    # A facet leans towards the eye or from it: all that happens lies in the upright plane of the view.
    up = 1 / np.sqrt(1 + slope * slope)
    cosine = np.clip(up * (rise - slope * flat), 0.02, 1.0)
    back_up, back_along = 2 * cosine * up - rise, -2 * cosine * slope * up - flat
    length = np.hypot(back_up, back_along)
    sky = light.sky_by_cosines(
        back_up / length, lambda body: (back_along * (along @ body[:2]) + back_up * body[2]) / length
    )
    level, upright = mirrored_by_cosine(cosine)
    total = _WEIGHTS @ ((level + upright) / 2 * sky)
    white = np.clip(foam * (1 + 1.4 * rough(points, 1.1, 22) * (0.25 + 0.75 * calm)), 0.0, 1.0)
    body = own_reflectance * light.level_lux / math.pi
    return np.asarray((total + body) * (1 - white) + white * _FOAM * light.level_lux / math.pi)
