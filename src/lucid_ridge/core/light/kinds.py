"""The kinds of light a picture may want, each as conditions on sun, moon and land."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from enum import Enum, auto

import numpy as np

from ..labels import NamedEnum
from .bands import (
    BANDS_DEG,
    BLUE_FROM_DEG,
    BLUE_TO_DEG,
    CIVIL_DEG,
    GLOW_FROM_DEG,
    GLOW_TO_DEG,
    GOLDEN_TO_DEG,
    LOW_BELOW_DEG,
    SUNRISE_ALTITUDE_DEG,
)
from .sought import Floats, Sky


class LightKind(NamedEnum):
    LOW_SIDE_LIGHT = "low_side_light"
    LOW_BACK_LIGHT = "low_back_light"
    LOW_FRONT_LIGHT = "low_front_light"
    OPEN_SHADE = "open_shade"
    GLOW = "glow"
    BLUE_HOUR = "blue_hour"
    MOONLIGHT = "moonlight"
    DARK_SKY = "dark_sky"
    GALACTIC_CORE = "galactic_core"
    CRESCENT_MOON = "crescent_moon"
    HALF_MOON = "half_moon"
    FULL_MOON = "full_moon"
    LUNAR_ECLIPSE = "lunar_eclipse"
    SOLAR_ECLIPSE = "solar_eclipse"
    MIST = "mist"


# The sun this high has warmed the mist away (our own model).
_MIST_LIFTS_DEG = 10.0
# These belong to a night, which runs from noon to noon.
NIGHT_KINDS = (
    LightKind.MOONLIGHT,
    LightKind.DARK_SKY,
    LightKind.GALACTIC_CORE,
    LightKind.CRESCENT_MOON,
    LightKind.HALF_MOON,
    LightKind.FULL_MOON,
    LightKind.LUNAR_ECLIPSE,
)
# Parts of the disc that are lit: a crescent that is seen, about a half, and full (common practice).
_CRESCENT, _HALF, _FULL = (0.01, 0.35), (0.35, 0.65), 0.97


class Listed(Enum):
    """When the windows of a day name a kind that nobody asks for.

    ALWAYS: with the reason where it does not come. WHEN_IT_COMES: rare ones. WHEN_WANTED: variants of another kind.
    """

    ALWAYS = auto()
    WHEN_IT_COMES = auto()
    WHEN_WANTED = auto()


@dataclass(frozen=True)
class Condition:
    """words: a sentence that can follow "because"; margin: how far it holds, in degrees or their like, negative where
    it does not.
    """

    words: str
    margin: Callable[[Sky], Floats]


@dataclass(frozen=True)
class Kind:
    name: str
    conditions: tuple[Condition, ...]
    needs_bearing: bool = False
    listed: Listed = Listed.ALWAYS


def _between(value: Floats, low: float, high: float) -> Floats:
    return np.minimum(value - low, high - value)


_LOW_SUN = Condition(
    "the sun is low, up to 12° high",
    lambda sky: _between(sky.sun_altitude_deg, SUNRISE_ALTITUDE_DEG - sky.dip_deg, LOW_BELOW_DEG),
)
_LIT = Condition("it clears the land and reaches the subject", lambda sky: sky.subject_clearance_deg)

_DARK = Condition(
    "the sun is more than 18° down, or as low as it gets that night",
    lambda sky: sky.dark_below_deg - sky.sun_altitude_deg,
)
_NO_MOON = Condition(
    "the moon is down, behind land or a thin crescent",
    lambda sky: np.maximum(-sky.moon_clearance_deg, 100 * (0.1 - sky.moon_fraction)),
)
_MOON_SHOWS = Condition("the moon clears the land", lambda sky: sky.moon_clearance_deg)
_SUN_DOWN = Condition("the sun is down", lambda sky: SUNRISE_ALTITUDE_DEG - sky.dip_deg - sky.sun_altitude_deg)


def _moon_kind(kind: LightKind, words: str, low: float, high: float) -> Kind:
    lit = Condition(words, lambda sky: 100 * _between(sky.moon_fraction, low, high))
    return Kind(kind, (_SUN_DOWN, _MOON_SHOWS, lit), listed=Listed.WHEN_WANTED)


KINDS: tuple[Kind, ...] = (
    Kind(
        LightKind.LOW_SIDE_LIGHT,
        (
            _LOW_SUN,
            Condition("the sun stands to the side of the view", lambda sky: 45 - np.abs(sky.angle_from_view_deg - 90)),
            _LIT,
        ),
        needs_bearing=True,
    ),
    Kind(
        LightKind.LOW_BACK_LIGHT,
        (_LOW_SUN, Condition("the sun stands in front of the camera", lambda sky: 45 - sky.angle_from_view_deg), _LIT),
        needs_bearing=True,
    ),
    Kind(
        LightKind.LOW_FRONT_LIGHT,
        (_LOW_SUN, Condition("the sun stands behind the camera", lambda sky: sky.angle_from_view_deg - 135), _LIT),
        needs_bearing=True,
    ),
    Kind(
        LightKind.OPEN_SHADE,
        (
            Condition(
                "the sun is more than 6° high, so that the sky is bright",
                lambda sky: sky.sun_altitude_deg - GOLDEN_TO_DEG,
            ),
            Condition("the land keeps it off the subject", lambda sky: -sky.subject_clearance_deg),
        ),
    ),
    Kind(
        LightKind.GLOW,
        (
            Condition(
                "the sun is down by less than 4°",
                lambda sky: _between(sky.sun_altitude_deg, GLOW_FROM_DEG, GLOW_TO_DEG - sky.dip_deg),
            ),
        ),
    ),
    Kind(
        LightKind.BLUE_HOUR,
        (Condition("the sun is 4 to 6° down", lambda sky: _between(sky.sun_altitude_deg, BLUE_FROM_DEG, BLUE_TO_DEG)),),
    ),
    Kind(
        LightKind.MOONLIGHT,
        (
            Condition("the sun is more than 9° down", lambda sky: -9 - sky.sun_altitude_deg),
            _MOON_SHOWS,
            Condition("at least a third of its disc is lit", lambda sky: 100 * (sky.moon_fraction - 1 / 3)),
        ),
    ),
    Kind(LightKind.DARK_SKY, (_DARK, _NO_MOON)),
    Kind(
        LightKind.GALACTIC_CORE,
        (
            _DARK,
            _NO_MOON,
            Condition("the galactic centre clears the land", lambda sky: sky.galactic_clearance_deg),
        ),
        listed=Listed.WHEN_IT_COMES,
    ),
    _moon_kind(LightKind.CRESCENT_MOON, "up to a third of the moon's disc is lit", *_CRESCENT),
    _moon_kind(LightKind.HALF_MOON, "about half of the moon's disc is lit", *_HALF),
    _moon_kind(LightKind.FULL_MOON, "the moon is full", _FULL, 2.0),
    Kind(
        LightKind.LUNAR_ECLIPSE,
        (
            Condition("the moon stands in the Earth's umbra", lambda sky: sky.umbral_magnitude),
            _MOON_SHOWS,
        ),
        listed=Listed.WHEN_IT_COMES,
    ),
    Kind(
        LightKind.SOLAR_ECLIPSE,
        (
            Condition("the moon stands before the sun", lambda sky: sky.sun_bite_deg),
            Condition("the sun clears the land", lambda sky: sky.sun_clearance_deg),
        ),
        listed=Listed.WHEN_IT_COMES,
    ),
    Kind(
        LightKind.MIST,
        (
            Condition(
                "the sun is between 6° down and 10° up",
                lambda sky: _between(sky.sun_altitude_deg, CIVIL_DEG, _MIST_LIFTS_DEG),
            ),
            Condition(
                "the sun stands in the east, before noon", lambda sky: 60 * np.sin(np.radians(sky.sun_azimuth_deg))
            ),
        ),
    ),
)


NIGHT_BAND = "night"


def _of_band(name: str, low: float, high: float) -> Kind:
    words = f"the sun stands from {low:g} to {high:g}° high"
    return Kind(name, (Condition(words, lambda sky: _between(sky.sun_altitude_deg, low, high)),))


# The bands of the day, for a shot planned for a time without a light of its own.
_BAND_KINDS = tuple(
    _of_band(name, low, high) for name, (low, high) in BANDS_DEG.items() if name not in tuple(LightKind)
)


def kind_named(name: str) -> Kind:
    """Return the kind of that name, or the band of the day. Raises StopIteration for another name."""
    return next(kind for kind in (*KINDS, *_BAND_KINDS) if kind.name == name)


def water_condition() -> Condition:
    """Return the condition that the tide stands as the scene wants it."""

    def margin(sky: Sky) -> Floats:
        low = -1e9 if sky.scene.water_low_m is None else sky.scene.water_low_m
        high = 1e9 if sky.scene.water_high_m is None else sky.scene.water_high_m
        return _between(sky.water_m, low, high)

    return Condition("the water stands as wanted", margin)


def kind_label(name: str) -> str:
    """Return the label of a kind of light, or of a band of the day."""
    return name.replace("_", " ")
