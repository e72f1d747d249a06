"""Reciprocity failure of film.

Source: [1] K. Schwarzschild, On the deviations from the law of reciprocity for bromide of silver gelatine,
Astrophysical Journal 11 (1900) 89: the time needed grows as a power of the metered time.
"""

from __future__ import annotations

from typing import Any

import numpy as np

from ..errors import InputError
from ..units.quantities import Quantity, in_callers_shape, positive

LONGEST_EXPONENT = 2.0


def corrected_time_s(time_s: Quantity, exponent: Quantity | None) -> Any:
    """Return the time [s] that a film needs for a metered time: t^q over 1 s, t itself up to there.

    Broadcasts. Source: [1].

    exponent: q, 1 (no failure) to 2; 1.31 makes 86 s of 30 s. None: a sensor, which needs no longer.
    """
    if exponent is None:
        return in_callers_shape(positive("time_s", time_s))
    time, power = positive("time_s", time_s), positive("exponent", exponent)
    if ((power < 1) | (power > LONGEST_EXPONENT)).any():
        raise InputError("exponent", f"The exponent of a film lies from 1 to {LONGEST_EXPONENT:g}.")
    return in_callers_shape(np.where(time > 1, time**power, time))


def metered_time_s(corrected_s: Quantity, exponent: Quantity | None) -> Any:
    """Return the metered time [s] for which a film needs corrected_s: the inverse of corrected_time_s.

    Broadcasts. Source: [1].
    """
    if exponent is None:
        return in_callers_shape(positive("corrected_s", corrected_s))
    time, power = positive("corrected_s", corrected_s), positive("exponent", exponent)
    return in_callers_shape(np.where(time > 1, time ** (1 / power), time))


def reciprocity_stops(time_s: Quantity, exponent: Quantity) -> Any:
    """Return the reciprocity failure of a film at a metered time [stops, 0 or more]. Broadcasts. Source: [1]."""
    return in_callers_shape(np.log2(np.asarray(corrected_time_s(time_s, exponent)) / positive("time_s", time_s)))
