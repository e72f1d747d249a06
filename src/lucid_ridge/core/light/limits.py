"""Limits that a search of the year offers: the sun's height by the light it gives, and the moon's phase."""

from __future__ import annotations

from dataclasses import dataclass

from .bands import (
    BLUE_FROM_DEG,
    BLUE_TO_DEG,
    GLOW_FROM_DEG,
    GLOW_TO_DEG,
    LOW_BELOW_DEG,
    NAUTICAL_DEG,
    SUNRISE_ALTITUDE_DEG,
)


@dataclass(frozen=True)
class Limits:
    """None: no limit on that side.

    For the sun degrees of its airless altitude, for the moon the share of its disc that is lit.
    """

    key: str
    label: str
    low: float | None = None
    high: float | None = None


SUN_LIMITS = (
    Limits("any", "any light"),
    Limits("day", "sun up", low=SUNRISE_ALTITUDE_DEG),
    Limits("low", f"sun up to {LOW_BELOW_DEG:g}° high", SUNRISE_ALTITUDE_DEG, LOW_BELOW_DEG),
    Limits("glow", f"glow: sun down by less than {-GLOW_FROM_DEG:g}°", GLOW_FROM_DEG, GLOW_TO_DEG),
    Limits("blue", f"blue hour: sun {-BLUE_TO_DEG:g} to {-BLUE_FROM_DEG:g}° down", BLUE_FROM_DEG, BLUE_TO_DEG),
    Limits("dark", f"sun more than {-NAUTICAL_DEG:g}° down", high=NAUTICAL_DEG),
)
MOON_LIMITS = (
    Limits("any", "any phase"),
    Limits("full", "nearly full, 95 % and more", low=0.95),
    Limits("half", "half and more", low=0.5),
    Limits("thin", "thin crescent, under 15 %", high=0.15),
)
