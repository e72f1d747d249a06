"""The predicted light around the shot's time as it falls or rises: what ledger, frames, waits and proposals ask."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray
from scipy.interpolate import RegularGridInterpolator

from ...exposure.fading import GONE_BELOW, LONGEST_S, fading_exposure_s, steady_exposure_s
from ...exposure.film import corrected_time_s, metered_time_s
from ...facts.shot import ShotFacts
from ...light.light_at_place import LightAtPlace
from ...spans.instants import unix_seconds
from .plan import day_of_light, sky_oktas

Floats = NDArray[np.float64]
# Shorter exposures see no change while they last.
_CHANGES_FROM_S = 4.0
# Frames together: for which times [s] and how finely they are tabulated; a factor from which on they never end.
_LEAST_S, _MOST_S, _WAITS, _OPEN, _STEPS, _NEVER = 0.1, 3e5, 60, 400, 400, 1e6
# As far as the tracks of a day reach beyond it, less the longest exposure.
_REACH_S = 2 * 86400.0 - LONGEST_S


@dataclass(frozen=True)
class ChangingLight:
    """The light of a place from an instant on. start_s: seconds since 1970. oktas: of cloud at that instant, which is
    taken to stay. film_exponent: of the film in the body; None of a sensor.
    """

    light: LightAtPlace
    start_s: float
    oktas: float = 0.0
    film_exponent: float | None = None

    def lux(self, after_s: Floats) -> Floats:
        """Return the light [lux] at seconds after the start."""
        return np.asarray(self.light.lux(self.start_s + np.minimum(after_s, _REACH_S), self.oktas))

    def lost_stops(self, after_s: float) -> float:
        """Return by how much the light is weaker some seconds after the start [stops, negative for stronger]."""
        first, then = self.lux(np.array([0.0, after_s]))
        return math.log2(first / then)

    def needed_s(self, metered_s: float, after_s: float = 0.0) -> float:
        """Return the exposure time [s], opened after_s later, that gathers as much light as a metered time in the light
        of the start; infinity if the light fades first.

        A film's loss of speed is included.
        """
        wanted = metered_s * 2.0 ** self.lost_stops(after_s) if after_s else metered_s
        if wanted < _CHANGES_FROM_S:
            return float(corrected_time_s(wanted, self.film_exponent))
        return fading_exposure_s(wanted, lambda seconds: self.lux(after_s + seconds), LONGEST_S, self.film_exponent)

    def metered_s(self, open_s: float) -> float:
        """Return the metered time [s] in the light of the start for a shutter that stands open from it for open_s."""
        if open_s < _CHANGES_FROM_S:
            return float(metered_time_s(open_s, self.film_exponent))
        return steady_exposure_s(open_s, self.lux, self.film_exponent)

    @cached_property
    def longest_metered_s(self) -> float:
        """The longest metered time [s] for which the light lasts, as needed_s finds it; infinite where it does not go
        away.
        """
        first, then = self.lux(np.array([0.0, LONGEST_S]))
        return math.inf if then >= GONE_BELOW * first else self.metered_s(LONGEST_S)

    def lasting_s(self, waits_s: Floats, open_s: Floats) -> Floats:
        """Return how long frames take together [s] as the light changes while they are taken; infinity where it fades
        before. Broadcasts; interpolated within a few per cent.

        waits_s: all that passes besides the exposures, spread evenly over them; open_s: all exposures in the light of
        the start.
        """
        waits, opened = (np.log(np.clip(item, _LEAST_S, _MOST_S)) for item in (waits_s, open_s))
        longer = np.exp(self._longer(np.stack(np.broadcast_arrays(waits, opened), axis=-1)))
        return np.asarray(np.where(longer > _NEVER, np.inf, (waits_s + open_s) * longer))

    @cached_property
    def _longer(self) -> RegularGridInterpolator:
        """The factor by which frames take longer than in the light of the start, its logarithm over those of waits and
        open time [s].
        """
        # At dusk a little more light to gather takes much longer: open times are sampled finely.
        axes = [np.linspace(math.log(_LEAST_S), math.log(_MOST_S), count) for count in (_WAITS, _OPEN)]
        waits, opened = np.meshgrid(*(np.exp(axis) for axis in axes), indexing="ij")
        # As in a single exposure: what is left of the light after the longest stays, or has gone.
        stays = math.isinf(self.longest_metered_s)
        edges = np.concatenate(([0.0], np.geomspace(0.5, _MOST_S if stays else LONGEST_S, _STEPS)))
        light = self.lux(np.minimum((edges[1:] + edges[:-1]) / 2, LONGEST_S)) / self.lux(np.zeros(1))
        # On film the loss of speed grows with the time itself.
        slower = light ** -(self.film_exponent or 1.0)
        done, took = np.zeros(waits.shape), np.full(waits.shape, np.inf)
        for start, end, times in zip(edges[:-1], edges[1:], slower, strict=True):
            a_second = 1 / (waits + opened * times)
            after = done + (end - start) * a_second
            here = (after >= 1) & ~np.isfinite(took)
            took[here] = (start + (1 - done) / a_second)[here]
            done = after
        factor = np.where(np.isfinite(took), took / (waits + opened), 10 * _NEVER)
        return RegularGridInterpolator(axes, np.log(factor), bounds_error=False, fill_value=None)

    def mean_gain_stops(self, after_s: float, open_s: float) -> float:
        """Return by how much the light is stronger on average while a shutter is open than at the start [stops]."""
        lux = self.lux(after_s + np.linspace(0.0, open_s, 13))
        return math.log2(float((lux[1:] + lux[:-1]).mean() / 2) / float(self.lux(np.zeros(1))[0]))


def changing_light(facts: ShotFacts) -> ChangingLight | None:
    """Return the light from the shot's time on; None where place, date or time are not known, or the time is of
    another day.
    """
    if facts.location is None or facts.light.date_local is None or facts.light.time_utc is None:
        return None
    day = day_of_light(facts.location, facts.light.date_local)
    start = float(unix_seconds(facts.light.time_utc))
    if not day.track.start_s <= start <= day.track.end_s:
        return None
    film = facts.body.film_exponent if facts.body is not None else None
    return ChangingLight(day.light, start, sky_oktas(facts, day) or 0.0, film)
