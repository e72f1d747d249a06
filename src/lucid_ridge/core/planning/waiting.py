"""Step 5, how the light goes on: when it has fallen or risen so far that what is wanted needs no neutral density."""

from __future__ import annotations

import math
from datetime import timedelta

import numpy as np

from ..facts.kit import FilterKind
from ..facts.shot import ShotFacts
from ..light.illuminance import sun_illuminance_lux
from .falling_light import falling_light
from .marks import HOLDS, Reason
from .water import WantedTime

_LONGEST_MIN = 120


def waiting_reasons(facts: ShotFacts, wanted: WantedTime | None, shutter_s: float) -> list[Reason]:
    """Return after how many minutes the time wanted needs no neutral density, where it does now. shutter_s: as planned, with what is on the lens."""
    light = falling_light(facts)
    dark = sum(item.stops for item in facts.filters if item.on_lens and item.kind == FilterKind.NEUTRAL_DENSITY)
    if wanted is None or light is None or facts.light.time_utc is None or dark <= 0:
        return []
    bare = shutter_s * 2.0**-dark
    if wanted.from_s <= bare:
        return []
    minutes = np.arange(_LONGEST_MIN + 1)
    at = light.start_s + 60.0 * minutes
    lux = np.asarray(sun_illuminance_lux(light.track.altitude_deg(at[at <= light.track.end_s])))
    fallen = np.log2(lux[0] / lux)
    enough = np.flatnonzero(fallen >= math.log2(max(wanted.from_s, 1e-9) / bare))
    if not len(enough):
        return []
    when = facts.light.time_utc + timedelta(minutes=int(enough[0]))
    text = f"In {int(enough[0])} min, at {facts.clock(when)}, the light has fallen so far that this needs no neutral density."
    return [Reason("exposure", HOLDS, text, "time_utc")]
