"""How bright it is: open sky, shade, cloud, moon.

Sources: [1] Janiczek and DeYoung (see illuminance.py, moon.py); [2] Illuminating Engineering Society of North America,
Recommended Practice for the Calculation of Daylight Availability, RP-21, 1984: light of the clear sky without the sun,
0.8 + 15.5 √sin a klx (from memory).
"""

from __future__ import annotations

from typing import Any

import numpy as np

from ..exposure.ev import ev100_from_illuminance
from ..units.quantities import Quantity, as_floats, in_callers_shape
from .illuminance import cloud_factor_kasten1980, sun_illuminance_lux


def shade_illuminance_lux(altitude_deg: Quantity) -> Any:
    """Return the light [lux] of a clear sky in open shade at the sun's airless altitude. Broadcasts. Sources: [1], [2].

    Below the horizon all light is sky light; above it never more than in the open. NaN gives NaN.
    """
    altitude = as_floats("altitude_deg", altitude_deg)
    whole = np.asarray(sun_illuminance_lux(altitude))
    sky = 800.0 + 15_500.0 * np.sqrt(np.maximum(0.0, np.sin(np.radians(altitude))))
    return in_callers_shape(np.where(altitude > 0, np.minimum(whole, sky), whole))


def scene_ev100(
    sun_altitude_deg: Quantity,
    in_shade: Any = False,
    cloud_oktas: Quantity = 0.0,
    moon_lux: Quantity = 0.0,
    shift_stops: float = 0.0,
) -> Any:
    """Return the scene's EV at ISO 100.

    Broadcasts.

    in_shade: the sun does not reach it. cloud_oktas 0..8, see cloud_factor_kasten1980. moon_lux is added. shift_stops:
    correction from meter readings of the day, negative for darker than computed.
    """
    altitude = as_floats("sun_altitude_deg", sun_altitude_deg)
    sun = np.where(
        np.asarray(in_shade), np.asarray(shade_illuminance_lux(altitude)), np.asarray(sun_illuminance_lux(altitude))
    )
    lux = (sun + np.asarray(moon_lux, dtype=np.float64)) * np.asarray(cloud_factor_kasten1980(cloud_oktas))
    return in_callers_shape(np.asarray(ev100_from_illuminance(lux)) + shift_stops)


def lux_of_ev100(ev100: Quantity) -> Any:
    """Return the light on level ground [lux] that an incident meter reads as an EV at ISO 100: 2.5 · 2^EV (ISO 2720).

    Broadcasts.
    """
    return in_callers_shape(2.5 * np.exp2(as_floats("ev100", ev100)))
