"""How much light reaches a place: one function of time and cloud, which everything that asks for light uses.

The sun's beam where the land lets it through, the skylight of the sun, the same two of the moon, and what the night
has without either, after cloud. Amounts on level ground are those of illuminance.py and moon.py, their division into
beam and sky that of clear_sky.py: the moon's light passes the same air. Land hides a beam and leaves the light of the
sky as it is; cloud takes its share of the beam and scatters what it lets through. Errors: docs/light.md.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache, cached_property
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..exposure.ev import ev100_from_illuminance
from ..units.quantities import Quantity, as_floats, in_callers_shape
from .clear_sky import beam_share
from .eclipses import Horizontal, moon_lit_share, sun_covered_share
from .illuminance import LOWEST_DEG, cloud_factor_kasten1980, sun_illuminance_lux
from .moon import MEAN_DISTANCE_KM, moon_illuminance_lux, moon_phase
from .skyline import Skyline, clearance_at_deg
from .track import Track

Floats = NDArray[np.float64]
# Without sun and moon: airglow and starlight [lux].
NIGHT_LUX = float(sun_illuminance_lux(LOWEST_DEG))
_PHASE_STEP_S, _AROUND_S = 1800.0, 2 * 86400.0
# Sun, moon and shadow can only meet while the phase angle is so near to 180 or 0: radii, parallax and half a step.
_ECLIPSE_WITHIN_DEG = 2.2
# In a total eclipse of the sun the air outside the moon's shadow leaves some 5 lux of 100,000 (from memory, after
# W. E. Sharp and others, Applied Optics 10 (1971) 1207).
_IN_TOTALITY = 5e-5
# A body so low gives no beam that reaches far: its level light is divided by no smaller sine [degrees].
_LOWEST_BEAM_DEG = 0.3


@dataclass(frozen=True, kw_only=True)
class Illumination:
    """Light on level ground by where it comes from [lux], arrays of one shape.

    sun_beam_lux, moon_beam_lux: the part that comes straight, 0 where land or cloud hides it. sun_sky_lux,
    moon_sky_lux: what air and cloud scatter of each. night_lux: what is left without both.
    """

    sun_beam_lux: Floats
    sun_sky_lux: Floats
    moon_beam_lux: Floats
    moon_sky_lux: Floats
    night_lux: Floats

    @property
    def level_lux(self) -> Floats:
        """All of it [lux]."""
        return self.sun_beam_lux + self.sun_sky_lux + self.moon_beam_lux + self.moon_sky_lux + self.night_lux


def illumination(
    sun_altitude_deg: Quantity,
    moon_altitude_deg: Quantity = -90.0,
    *,
    cloud_oktas: Quantity = 0.0,
    sun_free: Quantity = 1.0,
    moon_free: Quantity = 1.0,
    moon_share: Quantity = 1.0,
    sun_share: Quantity = 1.0,
) -> Illumination:
    """Return the light of sun and moon at airless altitudes [degrees] under cloud [oktas]. Broadcasts.

    sun_free, moon_free: share of the disc that no land hides, 0 to 1. moon_share: the moon's light as a share of a full
    moon's at its mean distance. sun_share: the sun's light as a share of what it has without an eclipse. Raises
    InputError for cloud outside 0 to 8.
    """
    sun, moon, oktas = (
        as_floats(name, value)
        for name, value in (
            ("sun_altitude_deg", sun_altitude_deg),
            ("moon_altitude_deg", moon_altitude_deg),
            ("cloud_oktas", cloud_oktas),
        )
    )
    left = np.asarray(cloud_factor_kasten1980(oktas))
    of_sun = np.interp(sun, _ALTITUDES_DEG, _sun_lux()) * sun_share * left
    of_moon = np.interp(moon, _ALTITUDES_DEG, _full_moon_lux()) * moon_share * left
    sun_beam, moon_beam = (
        whole * np.interp(altitude, _ALTITUDES_DEG, _beam_shares()) * (1 - oktas / 8)
        for whole, altitude in ((of_sun, sun), (of_moon, moon))
    )
    return Illumination(
        sun_beam_lux=np.asarray(sun_beam * sun_free),
        sun_sky_lux=np.asarray(of_sun - sun_beam),
        moon_beam_lux=np.asarray(moon_beam * moon_free),
        moon_sky_lux=np.asarray(of_moon - moon_beam),
        night_lux=np.asarray(NIGHT_LUX * left),
    )


@dataclass(frozen=True)
class LightAtPlace:
    """The light at a place by time. sun, moon: their tracks there. skyline: the land around."""

    sun: Track
    moon: Track
    skyline: Skyline

    def illumination(self, seconds: Quantity, cloud_oktas: Quantity = 0.0) -> Illumination:
        """Return the light by its parts at Unix seconds under cloud [oktas, 0 to 8]. Broadcasts.

        Tracks hold for two days beyond their ends. Raises InputError for cloud outside.
        """
        when = as_floats("seconds", seconds)
        oktas = as_floats("cloud_oktas", cloud_oktas)
        when, oktas = np.broadcast_arrays(when, oktas)
        sun, moon = self.sun.horizontal(when), self.moon.horizontal(when)
        return illumination(
            sun[0],
            moon[0],
            cloud_oktas=oktas,
            sun_free=self._free_share(self.sun, sun),
            moon_free=self._free_share(self.moon, moon),
            moon_share=self._moon_share(when, moon[2]) * self._out_of_shadow(when),
            sun_share=self._sun_share(when, sun, moon),
        )

    def lux(self, seconds: Quantity, cloud_oktas: Quantity = 0.0) -> Any:
        """Return the light on level ground [lux] at Unix seconds under cloud [oktas]. Broadcasts."""
        return in_callers_shape(self.illumination(seconds, cloud_oktas).level_lux)

    def ev100(self, seconds: Quantity, cloud_oktas: Quantity = 0.0) -> Any:
        """Return the EV at ISO 100 that an incident meter reads, at Unix seconds under cloud [oktas]. Broadcasts."""
        return ev100_from_illuminance(self.lux(seconds, cloud_oktas))

    def shade_ev100(self, seconds: Quantity) -> Any:
        """Return the EV at ISO 100 in open shade under a clear sky: the light of the sky alone. Broadcasts."""
        found = self.illumination(seconds)
        return ev100_from_illuminance(found.sun_sky_lux + found.moon_sky_lux + found.night_lux)

    def drift_stops_per_minute(self, seconds: float, cloud_oktas: float = 0.0) -> float:
        """Return how fast the light changes at an instant, over two minutes [stops per minute, negative falling]."""
        before, after = np.asarray(self.ev100(np.array([seconds - 60.0, seconds + 60.0]), cloud_oktas))
        return float(after - before) / 2

    def _free_share(self, track: Track, horizontal: Horizontal) -> Floats:
        """Return the share of a body's disc above the skyline, 0 to 1."""
        clear = clearance_at_deg(track, self.skyline, horizontal)
        if float(clear.min(initial=1.0)) >= 1.0:
            return np.ones(np.shape(clear))
        radius = np.asarray(track.semidiameter_at_deg(horizontal[2]))
        height = np.clip(clear / radius - 1, -1.0, 1.0)
        return np.asarray((np.arccos(-height) + height * np.sqrt(1 - height * height)) / np.pi)

    def _moon_share(self, when: Floats, distance_km: Floats) -> Floats:
        """Return the moon's light as a share of a full moon's at mean distance, by its phase and distance."""
        first, step, factors = self._phase_factors
        return np.asarray(
            np.interp((when - first) / step, np.arange(len(factors)), factors) * (MEAN_DISTANCE_KM / distance_km) ** 2
        )

    def _sun_share(self, when: Floats, sun: Horizontal, moon: Horizontal) -> Floats | float:
        """Return the sun's light as a share of what it has without an eclipse."""
        if not _meets(when, self._eclipses_near[0]):
            return 1.0
        return np.maximum(_IN_TOTALITY, 1 - sun_covered_share(self.sun, sun, self.moon, moon))

    def _out_of_shadow(self, when: Floats) -> Floats | float:
        """Return the moon's light as a share of what it has outside the Earth's shadow."""
        return moon_lit_share(when) if _meets(when, self._eclipses_near[1]) else 1.0

    @cached_property
    def _eclipses_near(self) -> tuple[tuple[float, float] | None, tuple[float, float] | None]:
        """Between which times [Unix s] the moon may cover the sun, and the Earth's shadow the moon; most days, never.

        Over the tracks and two days around, told by the phase angle.
        """
        knots = self._knots
        angle = np.asarray(moon_phase(knots).phase_angle_deg)
        near = (knots[angle > 180 - _ECLIPSE_WITHIN_DEG], knots[angle < _ECLIPSE_WITHIN_DEG])
        solar, lunar = ((float(found[0]), float(found[-1])) if found.size else None for found in near)
        return solar, lunar

    @cached_property
    def _knots(self) -> Floats:
        return np.arange(self.moon.start_s - _AROUND_S, self.moon.end_s + _AROUND_S + _PHASE_STEP_S, _PHASE_STEP_S)

    @cached_property
    def _phase_factors(self) -> tuple[float, float, Floats]:
        """The moon's light by its phase, every half hour over the tracks and two days around: first, step [s]."""
        knots = self._knots
        lux = np.asarray(moon_illuminance_lux(45.0, moon_phase(knots).phase_angle_deg))
        return float(knots[0]), _PHASE_STEP_S, lux / float(moon_illuminance_lux(45.0, 0.0))


def _meets(when: Floats, span: tuple[float, float] | None) -> bool:
    return span is not None and bool(when.size) and float(when.min()) <= span[1] and float(when.max()) >= span[0]


# What depends on the altitude alone is tabulated: a curve or a long exposure asks for hundreds of instants.
_ALTITUDES_DEG = np.linspace(-90.0, 90.0, 18_001)


@cache
def _sun_lux() -> Floats:
    return np.maximum(0.0, np.asarray(sun_illuminance_lux(_ALTITUDES_DEG)) - NIGHT_LUX)


@cache
def _full_moon_lux() -> Floats:
    return np.asarray(moon_illuminance_lux(_ALTITUDES_DEG, 0.0))


@cache
def _beam_shares() -> Floats:
    return np.asarray(beam_share(_ALTITUDES_DEG))


def beam_square_lux(level_lux: float, altitude_deg: float) -> float:
    """Return a beam square to its rays [lux] for what it gives on level ground."""
    return level_lux / float(np.sin(np.radians(max(_LOWEST_BEAM_DEG, altitude_deg))))
