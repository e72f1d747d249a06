"""Long exposures while the light changes: open until the light that was wanted has come in."""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

from ..units.quantities import positive

_STEPS = 240
LONGEST_S = 6 * 3600.0


def fading_exposure_s(
    shutter_s: float,
    illuminance_lux: Callable[[NDArray[np.float64]], NDArray[np.float64]],
    longest_s: float = LONGEST_S,
) -> float:
    """Return the time t [s] with the integral of E over 0..t equal to E(0) · shutter_s; infinity past longest_s.

    illuminance_lux: scene light [lux] at seconds after opening, as a vectorised function. Constant light gives
    shutter_s back. Raises InputError unless shutter_s is positive and finite.
    """
    wanted = float(positive("shutter_s", shutter_s))
    end = min(4 * wanted, longest_s)
    while True:
        times = np.linspace(0.0, end, _STEPS + 1)
        light = np.asarray(illuminance_lux(times), dtype=np.float64)
        gathered = np.concatenate(([0.0], np.cumsum((light[1:] + light[:-1]) / 2) * (end / _STEPS))) / light[0]
        if gathered[-1] >= wanted:
            return float(np.interp(wanted, gathered, times))
        if end >= longest_s:
            return math.inf
        end = min(4 * end, longest_s)
