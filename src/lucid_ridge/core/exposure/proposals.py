"""Which filters, aperture and ISO give a wanted shutter time?"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations

import numpy as np

from ..units.quantities import not_negative, positive
from .ev import shutter_for_ev_s

# Weights of the ranking, in "stops of annoyance": a wrong time is worst, then noise, then leaving the aperture
# that depth of field asked for, then every further piece of glass.
_ERROR_WEIGHT, _ISO_WEIGHT, _APERTURE_WEIGHT, _FILTER_WEIGHT = 4.0, 1.5, 1.2, 0.25
_FREE_ERROR_STOPS = 1 / 6
MAX_STACKED = 3


@dataclass(frozen=True)
class BagFilter:
    """A filter that can be put on.

    kept: it stays on whatever is proposed (a polariser chosen for its effect). stops: at its weakest where it can be
    turned to stops_max.
    """

    id: int
    name: str
    stops: float
    kept: bool = False
    stops_max: float | None = None

    @property
    def room_stops(self) -> float:
        """What turning it adds at most; 0 of one that cannot be turned."""
        return 0.0 if self.stops_max is None else self.stops_max - self.stops


@dataclass(frozen=True, kw_only=True)
class Proposal:
    """Settings that come near a wanted shutter time.

    error_stops > 0: longer than wanted. changes: settings chosen by the photographer that are not kept.
    """

    filter_ids: tuple[int, ...]
    filter_names: tuple[str, ...]
    f_number: float
    iso: float
    shutter_s: float
    error_stops: float
    changes: tuple[str, ...] = ()
    # What each filter is turned to [stops]; None of one that cannot be turned.
    set_stops: tuple[float | None, ...] = ()


def propose_settings(
    scene_ev100: float,
    wanted_s: tuple[float, float],
    bag: Sequence[BagFilter],
    f_numbers: Sequence[float],
    isos: Sequence[float],
    preferred_f_number: float,
    preferred_iso: float,
    other_stops: float = 0.0,
    count: int = 3,
) -> tuple[Proposal, ...]:
    """Return up to count settings nearest wanted_s, best first; an empty tuple where nothing comes within a stop.

    wanted_s: shortest and longest time that will do [s], alike for one time; the shortest may be 0, where any shorter
    one will do too.

    scene_ev100: the light without filters. bag: all filters at hand, at most three on the lens at once; kept ones are
    on in every proposal. other_stops: extension, compensation and fading, which cost light whatever is chosen. A lower
    ISO than the preferred one costs nothing. Deterministic. Raises InputError unless the longest time is positive and
    finite.
    """
    shortest, longest = float(not_negative("wanted_s", wanted_s[0])), float(positive("wanted_s", wanted_s[1]))
    kept = [item for item in bag if item.kept]
    free = [item for item in bag if not item.kept]
    apertures, speeds = np.asarray(f_numbers, dtype=np.float64), np.asarray(isos, dtype=np.float64)
    # One row an ISO, one column an aperture: how far the bare shutter lies from the wanted one, and what the
    # settings cost.
    bare = np.log2(shutter_for_ev_s(scene_ev100, apertures[None, :], speeds[:, None])) + other_stops
    low = math.log2(shortest) if shortest > 0 else -math.inf
    setting_cost = (
        _APERTURE_WEIGHT * np.abs(2 * np.log2(apertures / preferred_f_number))[None, :]
        + _ISO_WEIGHT * np.maximum(0.0, np.log2(speeds / preferred_iso))[:, None]
    )
    found: list[tuple[float, Proposal]] = []
    for size in range(min(max(0, MAX_STACKED - len(kept)), len(free)) + 1):
        for chosen in combinations(free, size):
            on_lens = (*kept, *chosen)
            times = bare + sum(item.stops for item in on_lens)
            # What can be turned is turned towards the middle of the times that will do, in thirds; any shorter time
            # will do without.
            room = sum(item.room_stops for item in on_lens) if shortest > 0 else 0.0
            turned = (
                np.clip(np.round(((low + math.log2(longest)) / 2 - times) * 3) / 3, 0.0, room)
                if room
                else np.zeros_like(times)
            )
            times = times + turned
            errors = np.maximum(0.0, times - math.log2(longest)) + np.minimum(0.0, times - low)
            misses = np.abs(errors)
            # Of times that all will do, those nearer the middle.
            aside = 0.05 * np.abs(times - (low + math.log2(longest)) / 2) if shortest > 0 else 0.0
            costs = (
                aside
                + _ERROR_WEIGHT * np.maximum(0.0, misses - _FREE_ERROR_STOPS)
                + misses
                + setting_cost
                + _FILTER_WEIGHT * size
            )
            costs[misses > 1] = np.inf
            ids, names = tuple(item.id for item in on_lens), tuple(item.name for item in on_lens)
            for row, column in enumerate(np.argmin(costs, axis=1)):
                if np.isfinite(costs[row, column]):
                    error = float(errors[row, column])
                    settings = _turned(on_lens, float(turned[row, column]))
                    proposal = Proposal(
                        filter_ids=ids,
                        filter_names=names,
                        f_number=float(apertures[column]),
                        iso=float(speeds[row]),
                        shutter_s=2.0 ** float(times[row, column]),
                        error_stops=error,
                        set_stops=settings,
                    )
                    found.append((float(costs[row, column]), proposal))
    found.sort(key=lambda pair: (pair[0], pair[1].filter_ids, pair[1].f_number, pair[1].iso))
    return tuple(proposal for _, proposal in found[:count])


def _turned(on_lens: Sequence[BagFilter], more: float) -> tuple[float | None, ...]:
    """Return the density each variable filter is turned to so that together they exceed their minimum by more
    [stops].
    """
    made: list[float | None] = []
    for item in on_lens:
        share = min(more, item.room_stops)
        more -= share
        made.append(None if item.stops_max is None else item.stops + share)
    return tuple(made)
