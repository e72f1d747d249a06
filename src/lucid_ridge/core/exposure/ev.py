"""Exposure value, metering and shutter time.

Sources: [1] ISO 2720:1974 (K = 12.5 for reflected, C = 250 for incident meters); [2] APEX as in the Exif specification,
CIPA DC-008.
"""

from __future__ import annotations

from typing import Any

import numpy as np

from ..units.quantities import Quantity, as_floats, in_callers_shape, positive

REFLECTED_METER_K = 12.5
INCIDENT_METER_C = 250.0


def ev100(f_number: Quantity, shutter_s: Quantity, iso: Quantity) -> Any:
    """Return the scene's exposure value at ISO 100 for which these settings are right: log2(N^2/t) - log2(S/100).

    Broadcasts. Raises InputError unless all are positive and finite. Source: [2].
    """
    marked, shutter, speed = positive("f_number", f_number), positive("shutter_s", shutter_s), positive("iso", iso)
    return in_callers_shape(np.log2(marked * marked / shutter) - np.log2(speed / 100))


def shutter_for_ev_s(ev100: Quantity, f_number: Quantity, iso: Quantity) -> Any:
    """Return the shutter time [s] for a scene of this EV at ISO 100. Broadcasts; the inverse of ev100. Source: [2]."""
    marked, speed = positive("f_number", f_number), positive("iso", iso)
    return in_callers_shape(marked * marked / (np.exp2(np.asarray(ev100, dtype=np.float64)) * speed / 100))


def ev100_from_illuminance(lux: Quantity) -> Any:
    """Return EV at ISO 100 for an incident illuminance [lux]: log2(E · 100 / C) = log2(E / 2.5). Source: [1]."""
    return in_callers_shape(np.log2(positive("lux", lux) * 100 / INCIDENT_METER_C))


def ev100_from_luminance(cd_m2: Quantity) -> Any:
    """Return EV at ISO 100 for a reflected luminance [cd/m²]: log2(L · 100 / K). Source: [1]."""
    return in_callers_shape(np.log2(positive("cd_m2", cd_m2) * 100 / REFLECTED_METER_K))


def lux_of_ev100(ev100: Quantity) -> Any:
    """Return the light on level ground [lux] that an incident meter reads as an EV at ISO 100: 2.5 · 2^EV (ISO 2720).

    Broadcasts.
    """
    return in_callers_shape(2.5 * np.exp2(as_floats("ev100", ev100)))
