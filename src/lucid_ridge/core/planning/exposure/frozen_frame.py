"""Step 5, two frames where one cannot show it: long for what flows, short for what must not smear."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ...exposure.exposure_sets import marked_time_s
from ...facts.settings import Settings
from ...facts.shot import ShotFacts
from ...units.markings import ISO_MARKINGS, format_shutter, spoken_shutter
from ..verdicts import FAILS, HOLDS, UNSAID, Reason
from .movers import Mover, must_be_frozen
from .tonal_range import Exposure


@dataclass(frozen=True)
class FrozenFrame:
    """The short frame, None where there is none to take, and what is said of it. ids: of the elements that it freezes."""

    exposure: Exposure | None
    reasons: tuple[Reason, ...]
    ids: frozenset[int | None] = frozenset()


def frozen_frame(facts: ShotFacts, settings: Settings, movers: tuple[Mover, ...], long: Exposure) -> FrozenFrame:
    """Return the frame that freezes what must be sharp and moves, as bright as the long one: without its neutral density, at a higher ISO if need be."""
    body = facts.body
    assert body is not None
    moving = must_be_frozen(facts, movers)
    if not moving:
        text = (
            "Say what must be frozen: an element that must be sharp and has a speed, or one wished frozen. Until then there is one frame."
        )
        return FrozenFrame(None, (Reason("exposure", UNSAID, text, "sharp_element_ids"),))
    longest = min(time for _, time in moving)
    dark = facts.dark_stops
    time, iso = long.shutter_s * 2.0**-dark, settings.iso
    if time > longest * (1 + 1e-6):
        needed = settings.iso * time / longest
        iso = min((mark.value for mark in ISO_MARKINGS if needed * (1 - 1e-6) <= mark.value <= body.max_iso), default=math.nan)
    names = " and ".join(item.name for item, _ in moving)
    if math.isnan(iso):
        text = f"{names} stand{'s' if len(moving) == 1 else ''} still only in {format_shutter(longest)}, which no ISO up to {body.max_iso:g} gives here: open the aperture."
        return FrozenFrame(None, (Reason("exposure", FAILS, text, "f_number"),))
    shutter = marked_time_s(time * settings.iso / iso, body.slowest_shutter_s, -1)
    # Set to a marking that is a little shorter it holds a little more of the highlights.
    lift = math.log2(time * settings.iso / iso / shutter)
    without = " without the neutral density" if dark else ""
    text = f"{names} in a frame of {'its' if len(moving) == 1 else 'their'} own: {spoken_shutter(shutter)} at ISO {iso:g}{without}, blended with the one of {spoken_shutter(long.shutter_s)}."
    made = Exposure(shutter, 0.0, long.brightest_ev + lift - body.held_stops(iso), long.brightest_ev + lift, iso=iso, bare=dark > 0)
    return FrozenFrame(made, (Reason("exposure", HOLDS, text, "bracket"),), frozenset(item.id for item, _ in moving))
