"""How the light of a clear sky divides into the sun's beam and the light of the sky.

Sources: [1] P. Ineichen and R. Perez, A new airmass independent formulation for the Linke turbidity coefficient, Solar
Energy 73 (2002) 151: the beam through clear air; [2] F. Kasten and A. T. Young, Revised optical air mass tables and
approximation formula, Applied Optics 28 (1989) 4735; [3] R. Perez and others, Modeling daylight availability and
irradiance components, Solar Energy 44 (1990) 271: lumens per watt of beam and sky (from memory). The whole light on
level ground is that of illuminance.py.
"""

from __future__ import annotations

from typing import Any

import numpy as np

from ..units.quantities import Quantity, as_floats, in_callers_shape
from .ephemeris import apparent_altitude_deg
from .illuminance import sun_illuminance_lux

# Clean mid-latitude air. Source: [1].
LINKE_TURBIDITY = 3.0
_OUTSIDE_W_M2 = 1367.0
# Of the formulas for sea level. Source: [1].
_GLOBAL, _GLOBAL_DECAY, _BEAM = 0.868, 0.0387, 0.664 + 0.163
# Of a clear sky [lm/W]. Source: [3].
_SKY_EFFICACY = 130.0
# From here up beam and sky together make the whole light; lower down the models of the sky fail, and what the beam
# leaves of the whole light is the sky's.
_MODELLED_FROM_DEG = 8.0


def beam_irradiance_w_m2(apparent_altitude: Quantity) -> Any:
    """Return the sun's irradiance square to its rays at sea level through clear air [W/m²]; 0 below the horizon.

    Broadcasts. apparent_altitude: of the sun's centre, refraction included [degrees]. Within 1 W/m² of pvlib's
    clearsky.ineichen at a Linke turbidity of 3. Source: [1], [2].
    """
    altitude = as_floats("apparent_altitude", apparent_altitude)
    air = _air_mass(altitude)
    beam = _BEAM * np.exp(-0.09 * air * (LINKE_TURBIDITY - 1))
    limit = _global_share(air) * (1 - (0.1 - 0.2 * np.exp(-LINKE_TURBIDITY)) / (0.1 + 0.882))
    return in_callers_shape(np.where(altitude >= 0, _OUTSIDE_W_M2 * np.minimum(beam, limit), 0.0))


def beam_efficacy_lm_w(altitude_deg: Quantity) -> Any:
    """Return the lumens per watt of the sun's beam: 95 at 5 degrees, 105 high up, less as it reddens. Source: [3]."""
    return in_callers_shape(105.0 - 10.0 * np.exp((5.0 - as_floats("altitude_deg", altitude_deg)) / 10.0))


def beam_share(altitude_deg: Quantity) -> Any:
    """Return the share of the light on level ground that comes straight from the sun, 0 to 1, under a clear sky.

    Broadcasts. altitude_deg: airless, of the centre; the whole disc is taken to stand free. NaN gives NaN.
    """
    altitude = as_floats("altitude_deg", altitude_deg)
    whole = np.asarray(sun_illuminance_lux(altitude))
    beam, sky = _modelled_lux(np.maximum(altitude, _MODELLED_FROM_DEG))
    scale = np.asarray(sun_illuminance_lux(np.maximum(altitude, _MODELLED_FROM_DEG))) / (beam + sky)
    return in_callers_shape(_modelled_lux(altitude)[0] * scale / whole)


def _modelled_lux(altitude: Any) -> tuple[Any, Any]:
    """Return the level light of beam and sky as the models have them [lux]."""
    apparent = np.asarray(apparent_altitude_deg(altitude))
    sine = np.sin(np.radians(np.maximum(apparent, 0.0)))
    watts = np.asarray(beam_irradiance_w_m2(apparent)) * sine
    whole = _OUTSIDE_W_M2 * sine * _global_share(_air_mass(apparent))
    return watts * np.asarray(beam_efficacy_lm_w(altitude)), (whole - watts) * _SKY_EFFICACY


def _global_share(air_mass: Any) -> Any:
    """Return the share of the light outside the air that reaches level ground, beam and sky together. Source: [1]."""
    return _GLOBAL * np.exp(-_GLOBAL_DECAY * LINKE_TURBIDITY * air_mass)


def _air_mass(apparent: Any) -> Any:
    """Source: [2]."""
    up = np.maximum(apparent, 0.0)
    return 1 / (np.sin(np.radians(up)) + 0.50572 * (up + 6.07995) ** -1.6364)
