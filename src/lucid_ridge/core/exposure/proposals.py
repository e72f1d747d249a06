"""Which filters, aperture and ISO give a wanted shutter time?"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations

import numpy as np

from ..units.quantities import positive
from .ev import shutter_for_ev_s

# Weights of the ranking, in "stops of annoyance": a wrong time is worst, then noise, then leaving the aperture
# that depth of field asked for, then every further piece of glass.
_ERROR_WEIGHT, _ISO_WEIGHT, _APERTURE_WEIGHT, _FILTER_WEIGHT = 4.0, 1.5, 1.2, 0.25
_FREE_ERROR_STOPS = 1 / 6
MAX_STACKED = 3


@dataclass(frozen=True)
class BagFilter:
    """A filter that can be put on. kept: it stays on whatever is proposed (a polariser chosen for its effect)."""

    id: int
    name: str
    stops: float
    kept: bool = False


@dataclass(frozen=True)
class Proposal:
    """Settings that come near a wanted shutter time. error_stops > 0: longer than wanted."""

    filter_ids: tuple[int, ...]
    filter_names: tuple[str, ...]
    f_number: float
    iso: float
    shutter_s: float
    error_stops: float


def propose_settings(
    scene_ev100: float,
    wanted_s: float,
    bag: Sequence[BagFilter],
    f_numbers: Sequence[float],
    isos: Sequence[float],
    preferred_f_number: float,
    preferred_iso: float,
    other_stops: float = 0.0,
    count: int = 3,
) -> tuple[Proposal, ...]:
    """Return up to count settings nearest wanted_s [s], best first; an empty tuple where nothing comes within a stop.

    scene_ev100: the light without filters. bag: all filters at hand, at most three on the lens at once; kept ones are on in
    every proposal. other_stops: extension, compensation and fading, which cost light whatever is chosen.
    Deterministic. Raises InputError unless wanted_s is positive and finite.
    """
    wanted = float(positive("wanted_s", wanted_s))
    kept = [item for item in bag if item.kept]
    free = [item for item in bag if not item.kept]
    apertures, speeds = np.asarray(f_numbers, dtype=np.float64), np.asarray(isos, dtype=np.float64)
    # One row an ISO, one column an aperture: how far the bare shutter lies from the wanted one, and what the settings cost.
    bare_error = np.log2(shutter_for_ev_s(scene_ev100, apertures[None, :], speeds[:, None]) / wanted) + other_stops
    setting_cost = (
        _APERTURE_WEIGHT * np.abs(2 * np.log2(apertures / preferred_f_number))[None, :]
        + _ISO_WEIGHT * np.abs(np.log2(speeds / preferred_iso))[:, None]
    )
    found: list[tuple[float, Proposal]] = []
    for size in range(min(max(0, MAX_STACKED - len(kept)), len(free)) + 1):
        for chosen in combinations(free, size):
            on_lens = (*kept, *chosen)
            errors = bare_error + sum(item.stops for item in on_lens)
            misses = np.abs(errors)
            costs = _ERROR_WEIGHT * np.maximum(0.0, misses - _FREE_ERROR_STOPS) + misses + setting_cost + _FILTER_WEIGHT * size
            costs[misses > 1] = np.inf
            ids, names = tuple(item.id for item in on_lens), tuple(item.name for item in on_lens)
            for row, column in enumerate(np.argmin(costs, axis=1)):
                if np.isfinite(costs[row, column]):
                    error = float(errors[row, column])
                    proposal = Proposal(ids, names, float(apertures[column]), float(speeds[row]), wanted * 2.0**error, error)
                    found.append((float(costs[row, column]), proposal))
    found.sort(key=lambda pair: (pair[0], pair[1].filter_ids, pair[1].f_number, pair[1].iso))
    return tuple(proposal for _, proposal in found[:count])
