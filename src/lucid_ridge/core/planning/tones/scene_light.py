"""What a shot's scene and its light are, as all luminances follow from them."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property, lru_cache
from hashlib import blake2b

from ...exposure.ev import lux_of_ev100
from ...facts.materials import material_of, reflectance_of
from ...facts.shot import ShotFacts
from ...framing.footing import Ground
from ...framing.projection import Camera
from ...framing.solids import Shape, Solid
from ...light.daylight import Daylight, daylight
from ...light.ephemeris import apparent_altitude_deg
from ...light.materials import REFLECTANCES, Material
from ...light.skyline import Skyline
from ...tones.lit import Air
from ..frame.finder import STILL_BELOW_MPS
from ..light.plan import LightStep

_FOG_M = 300.0
_WET = (Material.WATER, Material.PEAT_WATER)


@dataclass(frozen=True)
class Thing:
    """An element as it is lit. reflectance: 0 to 1; wet: it mirrors, moves at speed_mps and has no matt surface."""

    id: int
    solid: Solid
    reflectance: float
    wet: bool
    speed_mps: float
    distance_m: float

    @property
    def still(self) -> bool:
        """Whether it is water that mirrors the scene."""
        return self.wet and self.solid.shape == Shape.WATER and self.speed_mps < STILL_BELOW_MPS


@dataclass(frozen=True, kw_only=True)
class LitScene:
    """All that luminances follow from.

    camera: its height from the mark's ground. things: from far to near. skyline: where it is drawn as land.

    calm: how much of the water's ripples the shutter leaves, 0 to 1.
    """

    camera: Camera
    things: tuple[Thing, ...]
    ground: Ground
    ground_reflectance: float
    skyline: Skyline | None
    light: Daylight
    air: Air
    calm: float

    @cached_property
    def key(self) -> str:
        """Text that is the same for the same scene."""
        return blake2b(repr(self).encode(), digest_size=12).hexdigest()


def scene_daylight(facts: ShotFacts, light: LightStep) -> Daylight | None:
    """Return the light of the shot's moment; None while no time is chosen.

    What meter readings of the day shift the curve by shifts all of it.
    """
    if light.illumination is None or light.ev100 is None:
        return None
    assert light.sun_altitude_deg is not None and light.sun_azimuth_deg is not None
    assert light.moon_altitude_deg is not None and light.moon_azimuth_deg is not None
    ground = REFLECTANCES[facts.exposure.ground_material].typical
    sun = light.sun_altitude_deg, light.sun_azimuth_deg
    moon = light.moon_altitude_deg, light.moon_azimuth_deg
    made = daylight(light.illumination, sun, moon, light.cloud_oktas or 0.0, ground)
    # The plan's own figure for the light stands: the day's meter readings and what the log teaches are in it.
    times = float(lux_of_ev100(light.ev100)) / made.level_lux
    sky = tuple(replace(part, lux=part.lux * times) for part in made.sky)
    return _shared(replace(made, beam_lux=made.beam_lux * times, sky=sky))


# What is summed over the whole sky is kept with a light: the same light is one object.
@lru_cache(maxsize=64)
def _shared(light: Daylight) -> Daylight:
    return light


def lit_scene(
    facts: ShotFacts, camera: Camera, solids: list[Solid], light: LightStep, calm: float = 1.0
) -> LitScene | None:
    """Return a shot's scene in its light, seen from a camera; None while no time is chosen."""
    day = scene_daylight(facts, light)
    if day is None:
        return None
    things = [
        Thing(
            item.id,
            solid,
            reflectance_of(item).typical,
            material_of(item) in _WET,
            item.moves_mps or 0.0,
            near.distance_m,
        )
        for item, near, solid in zip(facts.elements, facts.seen_from_camera.elements, solids, strict=True)
    ]
    things.sort(key=lambda item: -item.distance_m)
    own_land = any(item.solid.shape in (Shape.RIDGE, Shape.SKYLINE) for item in things)
    skyline = (
        None
        if own_land or facts.close_up or facts.location is None or not facts.location.skyline.bearings_deg
        else facts.location.skyline
    )
    ground = REFLECTANCES[facts.exposure.ground_material].typical
    # In eighths, so that a third of a stop leaves the scene as it is; without moving water nothing is smoothed.
    ripples = any(item.wet and not item.still for item in things)
    return LitScene(
        camera=camera,
        things=tuple(things),
        ground=facts.ground,
        ground_reflectance=ground,
        skyline=skyline,
        light=day,
        air=_air(facts),
        calm=round(8 * calm) / 8 if ripples else 1.0,
    )


def _air(facts: ShotFacts) -> Air:
    """Return how far one sees: less the more fog is forecast (our own model)."""
    fog = facts.hour.fog if facts.hour is not None else 0.0
    return Air(Air.visibility_m ** (1 - fog) * _FOG_M**fog)


def disc_seen(light: Daylight) -> tuple[float, float] | None:
    """Return apparent altitude and azimuth of the sun or moon whose disc shines on the scene; None where none does."""
    if light.beam_lux <= 0:
        return None
    return float(apparent_altitude_deg(light.altitude_deg)), light.azimuth_deg
