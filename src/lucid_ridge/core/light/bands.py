"""The sun's altitudes that light is named by: one table for bands, kinds, limits and twilights.

Altitudes are of the airless centre. Sources: US Naval Observatory (rise and set -0.8333, civil -6, nautical -12,
astronomical -18 degrees); common practice (golden hour -4 to +6, blue hour -6 to -4, low light up to 12 degrees).
"""

from __future__ import annotations

from ..labels import NamedEnum

SUNRISE_ALTITUDE_DEG = -50.0 / 60.0
CIVIL_DEG, NAUTICAL_DEG, ASTRONOMICAL_DEG = -6.0, -12.0, -18.0
BLUE_FROM_DEG, BLUE_TO_DEG = CIVIL_DEG, -4.0
GOLDEN_TO_DEG = 6.0
# Between the end of the blue hour and the sun's rise lies the glow.
GLOW_FROM_DEG, GLOW_TO_DEG = BLUE_TO_DEG, SUNRISE_ALTITUDE_DEG
LOW_BELOW_DEG = 12.0


class Band(NamedEnum):
    """A band of the sun's altitude."""

    NIGHT = "night"
    TWILIGHT = "twilight"
    BLUE_HOUR = "blue_hour"
    GOLDEN_HOUR = "golden_hour"
    DAYLIGHT = "daylight"


BANDS_DEG: dict[str, tuple[float, float]] = {
    Band.NIGHT: (-90.0, ASTRONOMICAL_DEG),
    Band.TWILIGHT: (ASTRONOMICAL_DEG, BLUE_FROM_DEG),
    Band.BLUE_HOUR: (BLUE_FROM_DEG, BLUE_TO_DEG),
    Band.GOLDEN_HOUR: (BLUE_TO_DEG, GOLDEN_TO_DEG),
    Band.DAYLIGHT: (GOLDEN_TO_DEG, 90.0),
}
