"""Long exposures while the light changes: open until the light that was wanted has come in."""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

from ..units.quantities import positive
from .film import corrected_time_s

# In an hour light changes less than in a night.
_STEPS, _STEPS_OF_A_NIGHT, _HOUR_S = 120, 480, 3600.0
# Light that has fallen to less than this counts as gone.
GONE_BELOW = 0.25
LONGEST_S = 6 * 3600.0


def fading_exposure_s(
    shutter_s: float,
    illuminance_lux: Callable[[NDArray[np.float64]], NDArray[np.float64]],
    longest_s: float = LONGEST_S,
    film_exponent: float | None = None,
) -> float:
    """Return the time t [s] that gathers as much light as shutter_s would in the light of its start: the integral of
    E over 0..t equals E(0) · shutter_s. Past longest_s the light is taken to stay as it is by then; if less than a
    quarter of it is left, the time is infinite.

    illuminance_lux: scene light [lux] at seconds after opening, as a vectorised function. film_exponent: of a film that
    loses speed in weak light: at each instant it develops at the rate that its light would need to the end, so that in
    constant light the time is film.corrected_time_s. Constant light gives shutter_s back without a film. Raises
    InputError unless shutter_s is positive and finite.
    """
    wanted = float(positive("shutter_s", shutter_s))
    end, looked = min(1.3 * _needed(np.ones(1), wanted, film_exponent).item(), longest_s), 0
    while True:
        times = np.linspace(0.0, end, (_STEPS if end <= _HOUR_S else _STEPS_OF_A_NIGHT) + 1)
        light = np.asarray(illuminance_lux(times), dtype=np.float64)
        rate = 1 / _needed(light / light[0], wanted, film_exponent)
        done = np.concatenate(([0.0], np.cumsum((rate[1:] + rate[:-1]) / 2) * times[1]))
        if done[-1] >= 1:
            found = float(np.interp(1.0, done, times))
            # Steps that are wide against the time found miss how the light changes in it.
            if found > end / 2 or looked > 8:
                return found
            end, looked = 1.2 * found, looked + 1
            continue
        if end >= longest_s:
            # Light that has not gone holds on: a night's exposure is long, but not because of it.
            left = _needed(light[-1:] / light[0], wanted, film_exponent).item()
            return end + (1 - float(done[-1])) * left if light[-1] >= GONE_BELOW * light[0] else math.inf
        end = min(4 * end, longest_s)


def steady_exposure_s(
    open_s: float,
    illuminance_lux: Callable[[NDArray[np.float64]], NDArray[np.float64]],
    film_exponent: float | None = None,
) -> float:
    """Return the time [s] that would gather in the light of the start what open_s gathers in changing light: the
    inverse of fading_exposure_s.

    Arguments as there. On film it is the metered time.
    """
    end = float(positive("open_s", open_s))
    steps = _STEPS if end <= _HOUR_S else _STEPS_OF_A_NIGHT
    light = np.asarray(illuminance_lux(np.linspace(0.0, end, steps + 1)), dtype=np.float64)
    light = light / light[0]
    if film_exponent is None:
        return float((light[1:] + light[:-1]).sum() / 2 * (end / steps))
    low, high = end * 2.0**-24, end * 2.0**24
    while high / low > 1 + 1e-6:
        middle = math.sqrt(low * high)
        rate = 1 / _needed(light, middle, film_exponent)
        low, high = (middle, high) if (rate[1:] + rate[:-1]).sum() / 2 * (end / steps) > 1 else (low, middle)
    return math.sqrt(low * high)


def _needed(relative: NDArray[np.float64], steady_s: float, film_exponent: float | None) -> NDArray[np.float64]:
    """Return how long an exposure takes if the light stays at a share of that of the start [s]."""
    return np.asarray(corrected_time_s(steady_s / np.maximum(relative, 1e-12), film_exponent))
