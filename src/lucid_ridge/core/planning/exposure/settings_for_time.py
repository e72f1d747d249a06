"""Step 5, settings from the bag that give the time that is wanted."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import replace

from ...exposure.film import corrected_time_s, metered_time_s
from ...exposure.proposals import BagFilter, Proposal, propose_settings
from ...facts.filters import Filter
from ...facts.kit import Body
from ...facts.settings import Settings
from ...facts.shot import ShotFacts
from ...units.markings import APERTURE_MARKINGS, ISO_MARKINGS
from ..light.changing_light import changing_light
from .exposures import ledger_filter
from .water import WantedTime


def settings_for(
    facts: ShotFacts, settings: Settings, scene: float, wanted: WantedTime | None, extension: float
) -> tuple[Proposal, ...]:
    """Return settings that give a wanted time; an aperture or ISO that was set is kept unless nothing comes near with
    it.
    """
    body, lens = facts.body, facts.lens
    if wanted is None or body is None or lens is None:
        return ()
    # A polariser is on for its effect and stays; a graduated filter holds the sky, not the shutter.
    bag = [_in_bag(item) for item in facts.filters if item.on_lens or item.kind.lengthens_exposure]
    apertures = [mark.value for mark in APERTURE_MARKINGS if lens.takes_aperture(mark.value, settings.focal_mm)] or [
        settings.f_number
    ]
    isos = [mark.value for mark in ISO_MARKINGS if body.reads_iso(mark.value)] or [settings.iso]
    pinned = [("aperture", facts.depth.f_number), ("ISO", facts.exposure.iso)]
    kept = ([settings.f_number] if facts.depth.f_number else apertures, [settings.iso] if facts.exposure.iso else isos)
    rest = (settings.f_number, settings.iso, extension + facts.exposure.compensation_ev)
    # Settings are found for the times that the meter gives; film and changing light then need those that are wanted.
    metered_s, open_s = _times_of_meter(facts, body)
    times = (metered_s(wanted.from_s) if wanted.from_s > 0 else 0.0, metered_s(wanted.to_s))

    def propose(f_numbers: Sequence[float], speeds: Sequence[float]) -> tuple[Proposal, ...]:
        made = propose_settings(scene, times, bag, f_numbers, speeds, *rest)
        opened = (replace(item, shutter_s=open_s(item.shutter_s)) for item in made)
        return tuple(
            replace(item, error_stops=wanted.error_stops(item.shutter_s))
            for item in opened
            if math.isfinite(item.shutter_s)
        )

    found = propose(*kept)
    if found or not any(value for _, value in pinned):
        return found
    changed = propose(apertures, isos)
    now = {"aperture": lambda item: item.f_number, "ISO": lambda item: item.iso}
    return tuple(
        replace(
            item,
            changes=tuple(
                name for name, value in pinned if value and not math.isclose(now[name](item), value, rel_tol=0.01)
            ),
        )
        for item in changed
    )


def _times_of_meter(facts: ShotFacts, body: Body) -> tuple[Callable[[float], float], Callable[[float], float]]:
    """Return two functions: the metered time for which a shutter stands open so long [s], and its inverse."""
    light = changing_light(facts) if facts.exposure.follow_fading else None
    if light is not None:
        return light.metered_s, light.needed_s
    film = body.film_exponent
    return lambda open_s: float(metered_time_s(open_s, film)), lambda time: float(corrected_time_s(time, film))


def _in_bag(item: Filter) -> BagFilter:
    kept = item.on_lens and not item.kind.lengthens_exposure
    if item.stops_max is None or item.stops_min is None:
        return BagFilter(item.id, item.name, ledger_filter(item).stops, kept)
    return BagFilter(item.id, item.name, item.stops_min, kept, item.stops_max)
