"""Filter factors: stops from density or factor, and the shutter time with filters.

Source: [1] optical density is log10 of the factor by definition (ISO 5-1), so stops = density / log10 2.
"""

from __future__ import annotations

from typing import Any

import numpy as np

from ..units.quantities import Quantity, finite, in_callers_shape, positive


def stops_from_factor(factor: Quantity) -> Any:
    """Return the stops of a filter factor: "1000×" is 9.97 stops. Source: [1]."""
    return in_callers_shape(np.log2(positive("factor", factor)))


def factor_from_stops(stops: Quantity) -> Any:
    """Return the filter factor 2^stops."""
    return in_callers_shape(np.exp2(finite("stops", stops)))


def shutter_with_filters_s(shutter_s: Quantity, stops: Quantity) -> Any:
    """Return the shutter time [s] after adding stops of filters: shutter · 2^stops. Negative stops take filters off.

    1/8 s with ten stops is 128 s, called two minutes (common practice). Broadcasts.
    """
    return in_callers_shape(positive("shutter_s", shutter_s) * np.exp2(finite("stops", stops)))
