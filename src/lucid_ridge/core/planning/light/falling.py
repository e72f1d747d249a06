"""The predicted light after the shot's time: how long a shutter must stay open as it falls or rises."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ...exposure.fading import fading_exposure_s
from ...facts.shot import ShotFacts
from ...light.illuminance import sun_illuminance_lux
from ...light.track import Track
from ...spans.instants import unix_seconds
from .plan import day_of_light

Floats = NDArray[np.float64]
# Shorter exposures see no change while they last.
_CHANGES_FROM_S = 4.0


@dataclass(frozen=True)
class FallingLight:
    """The light of a day from an instant on. start_s: seconds since 1970."""

    track: Track
    start_s: float

    def lux(self, after_s: Floats) -> Floats:
        """Return the light of a clear sky [lux] at seconds after the start."""
        return np.asarray(
            sun_illuminance_lux(self.track.altitude_deg((self.start_s + after_s).clip(max=self.track.end_s)))
        )

    def needed_s(self, steady_s: float, after_s: float = 0.0) -> float:
        """Return the exposure time [s], opened after_s later, that gathers as much light as steady_s at the start;
        infinity if the light fades first.

        The track ends at midnight; later times see its last light.
        """

        first, then = self.lux(np.array([0.0, after_s]))
        wanted = steady_s * float(first / then)
        if wanted < _CHANGES_FROM_S:
            return wanted
        return fading_exposure_s(wanted, lambda seconds: self.lux(after_s + seconds))


def falling_light(facts: ShotFacts) -> FallingLight | None:
    """Return the light from the shot's time on; None where place, date or time are not known, or the time is of
    another day.
    """
    if facts.location is None or facts.light.date_local is None or facts.light.time_utc is None:
        return None
    track = day_of_light(facts.location, facts.light.date_local).track
    start = float(unix_seconds(facts.light.time_utc))
    return FallingLight(track, start) if track.start_s <= start <= track.end_s else None
