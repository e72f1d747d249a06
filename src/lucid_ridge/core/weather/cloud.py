"""How much of the sky is forecast to be covered, and how far that may be off."""

from __future__ import annotations

import math
from datetime import datetime

from .forecast import Forecast

# Half the spread of a share, for a forecast of now, and what a day of lead time adds under the root: a model of our
# own.
SPREAD, SPREAD_PER_ROOT_DAY, WIDEST = 0.06, 0.09, 0.45


def spread_share(lead_h: float) -> float:
    """Return half the spread of a forecast share at a lead time [h, 0 and more]."""
    return min(WIDEST, SPREAD + SPREAD_PER_ROOT_DAY * math.sqrt(max(0.0, lead_h) / 24))


def cloud_share(forecast: Forecast, moment: datetime) -> tuple[float, float, float] | None:
    """Return the share of the sky covered at an instant (at least, expected, at most); None where the forecast does
    not reach.
    """
    hour = forecast.at(moment)
    if hour is None:
        return None
    half = spread_share((moment - forecast.issued_utc).total_seconds() / 3600)
    return max(0.0, hour.cover - half), hour.cover, min(1.0, hour.cover + half)
