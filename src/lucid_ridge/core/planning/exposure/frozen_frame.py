"""A second, short frame beside the long one that freezes subjects which must be sharp."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ...exposure.exposure_sets import marked_time_s
from ...exposure.film import corrected_time_s
from ...facts.settings import Settings
from ...facts.shot import ShotFacts
from ...units.markings import ISO_MARKINGS
from ..reasons import Reason
from . import wording as say
from .movers import Mover, must_be_frozen
from .tonal_range import Exposure


@dataclass(frozen=True)
class FrozenFrame:
    """The short frame, None if there is none to take, with its reasons. ids: of the elements it freezes."""

    exposure: Exposure | None
    reasons: tuple[Reason, ...]
    ids: frozenset[int | None] = frozenset()


def frozen_frame(facts: ShotFacts, settings: Settings, movers: tuple[Mover, ...], long: Exposure) -> FrozenFrame:
    """Return the frame that freezes moving subjects which must be sharp, as bright as the long one: without neutral
    density, at a higher ISO if needed.
    """
    body = facts.body
    assert body is not None
    moving = must_be_frozen(facts, movers)
    if not moving:
        return FrozenFrame(None, (say.nothing_to_freeze().unsaid("sharp_element_ids"),))
    longest = min(time for _, time in moving)
    dark = facts.dark_stops
    time, iso = long.metered_s * 2.0**-dark, settings.iso
    film = body.film_exponent is not None
    # The shutter stands open longer than metered where a film loses speed, and a film's ISO cannot be raised.
    if float(corrected_time_s(time, body.film_exponent)) <= longest * (1 + 1e-6):
        pass
    elif film:
        iso = math.nan
    else:
        needed = settings.iso * time / longest
        iso = min(
            (mark.value for mark in ISO_MARKINGS if needed * (1 - 1e-6) <= mark.value <= body.max_iso), default=math.nan
        )
    names = tuple(item.name for item, _ in moving)
    if math.isnan(iso):
        return FrozenFrame(
            None,
            (
                say.cannot_freeze(
                    elements=names, freezes_s=longest, max_iso=settings.iso if film else body.max_iso, film=film
                ).fails("f_number"),
            ),
        )
    shutter = marked_time_s(time * settings.iso / iso, body.slowest_shutter_s, -1)
    # A marking that is a little shorter holds a little more of the highlights.
    lift = math.log2(time * settings.iso / iso / shutter)
    opened = float(corrected_time_s(shutter, body.film_exponent))
    words = say.frozen_frame(elements=names, shutter_s=opened, iso=iso, without_nd=dark > 0, long_s=long.shutter_s)
    made = Exposure(
        opened,
        0.0,
        long.brightest_ev + lift - body.held_stops(iso),
        long.brightest_ev + lift,
        iso=iso,
        bare=dark > 0,
        metered_s=shutter,
    )
    return FrozenFrame(made, (words.holds("bracket"),), frozenset(item.id for item, _ in moving))
