"""Step 5, settings from the bag that give the time that is wanted."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace

from ...exposure.film import corrected_time_s, metered_time_s
from ...exposure.proposals import BagFilter, Proposal, propose_settings
from ...facts.filters import Filter
from ...facts.settings import Settings
from ...facts.shot import ShotFacts
from ...units.markings import APERTURE_MARKINGS, ISO_MARKINGS
from .exposures import ledger_filter
from .water import WantedTime


def settings_for(
    facts: ShotFacts, settings: Settings, scene: float, wanted: WantedTime | None, extension: float, fading: float
) -> tuple[Proposal, ...]:
    """Return settings that give a wanted time; an aperture or ISO that was set is kept unless nothing comes near with
    it.
    """
    body, lens = facts.body, facts.lens
    if wanted is None or body is None or lens is None or not math.isfinite(fading):
        return ()
    # A polariser is on for its effect and stays; a graduated filter holds the sky, not the shutter.
    bag = [_in_bag(item) for item in facts.filters if item.on_lens or item.kind.lengthens_exposure]
    apertures = [mark.value for mark in APERTURE_MARKINGS if lens.takes_aperture(mark.value, settings.focal_mm)] or [
        settings.f_number
    ]
    isos = [mark.value for mark in ISO_MARKINGS if body.base_iso <= mark.value <= body.max_iso] or [settings.iso]
    pinned = [("aperture", facts.depth.f_number), ("ISO", facts.exposure.iso)]
    kept = ([settings.f_number] if facts.depth.f_number else apertures, [settings.iso] if facts.exposure.iso else isos)
    rest = (settings.f_number, settings.iso, extension + facts.exposure.compensation_ev + fading)
    times = (wanted.from_s, wanted.to_s)
    film = body.film_exponent
    if film is not None:
        # Settings are found for the times that the meter gives; the film then needs those that are wanted.
        times = (float(metered_time_s(times[0], film)) if times[0] > 0 else 0.0, float(metered_time_s(times[1], film)))

    def propose(f_numbers: Sequence[float], speeds: Sequence[float]) -> tuple[Proposal, ...]:
        made = propose_settings(scene, times, bag, f_numbers, speeds, *rest)
        return (
            tuple(replace(item, shutter_s=float(corrected_time_s(item.shutter_s, film))) for item in made)
            if film is not None
            else made
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


def _in_bag(item: Filter) -> BagFilter:
    kept = item.on_lens and not item.kind.lengthens_exposure
    if item.stops_max is None or item.stops_min is None:
        return BagFilter(item.id, item.name, ledger_filter(item).stops, kept)
    return BagFilter(item.id, item.name, item.stops_min, kept, item.stops_max)
