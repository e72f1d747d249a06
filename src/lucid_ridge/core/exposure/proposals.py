"""Which filters, aperture and ISO give a wanted shutter time?"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations

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
    found: list[tuple[float, Proposal]] = []
    room = max(0, MAX_STACKED - len(kept))
    for size in range(min(room, len(free)) + 1):
        for chosen in combinations(free, size):
            on_lens = (*kept, *chosen)
            stops = other_stops + sum(item.stops for item in on_lens)
            for f_number in f_numbers:
                for iso in isos:
                    shutter = float(shutter_for_ev_s(scene_ev100, f_number, iso)) * 2.0**stops
                    error = math.log2(shutter / wanted)
                    if abs(error) > 1:
                        continue
                    cost = (
                        _ERROR_WEIGHT * max(0.0, abs(error) - _FREE_ERROR_STOPS)
                        + abs(error)
                        + _APERTURE_WEIGHT * abs(2 * math.log2(f_number / preferred_f_number))
                        + _ISO_WEIGHT * abs(math.log2(iso / preferred_iso))
                        + _FILTER_WEIGHT * size
                    )
                    ids, names = tuple(item.id for item in on_lens), tuple(item.name for item in on_lens)
                    found.append((cost, Proposal(ids, names, f_number, iso, shutter, error)))
    found.sort(key=lambda pair: (pair[0], pair[1].filter_ids, pair[1].f_number, pair[1].iso))
    kept_sets: list[Proposal] = []
    for _, proposal in found:
        if all((p.filter_ids, p.iso) != (proposal.filter_ids, proposal.iso) for p in kept_sets):
            kept_sets.append(proposal)
        if len(kept_sets) == count:
            break
    return tuple(kept_sets)
