"""The light that was predicted around a plan's time, stored with the plan."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..planning.light.changing_light import ChangingLight

# Minutes from the plan's time between which the light is kept, minute by minute.
_FIRST_MIN, _LAST_MIN = -30, 150
_MINUTES = np.arange(_FIRST_MIN, _LAST_MIN + 1, dtype=np.float64)


@dataclass(frozen=True)
class RecordedLight:
    """stops: by how much the light is stronger than at the plan's time, minute by minute from half an hour before it
    on; empty in plans of early versions, which kept drift_stops_per_min alone.
    """

    stops: Sequence[float] = ()
    drift_stops_per_min: float = 0.0

    def mean_gain_stops(self, after_s: float, open_s: float) -> float:
        """Return by how much the light is stronger while a shutter is open than at the plan's time [stops].

        after_s: when it opens, from that time on [s].
        """
        minutes = (after_s + np.linspace(0.0, max(0.0, open_s), 13)) / 60
        if len(self.stops) != len(_MINUTES):
            return self.drift_stops_per_min * float(minutes.mean())
        gains = np.exp2(np.interp(minutes, _MINUTES, self.stops))
        return math.log2(float((gains[1:] + gains[:-1]).mean() / 2))


def record_light(light: ChangingLight | None) -> tuple[float, ...]:
    """Return the light around a shot's time as it is kept; empty where it is not known."""
    if light is None:
        return ()
    lux = light.lux(60 * _MINUTES)
    return tuple(round(float(item), 3) for item in np.log2(lux / lux[-_FIRST_MIN]))
