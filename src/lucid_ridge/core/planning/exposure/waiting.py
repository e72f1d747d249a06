"""When the light has fallen so far that the wanted time needs no neutral density."""

from __future__ import annotations

import math
from datetime import timedelta

import numpy as np

from ...exposure.film import metered_time_s
from ...facts.shot import ShotFacts
from ..light.changing_light import changing_light
from ..reasons import Reason
from . import wording as say
from .water import WantedTime

_LONGEST_MIN = 120


def waiting_reasons(facts: ShotFacts, wanted: WantedTime | None, metered_s: float) -> list[Reason]:
    """Return after how many minutes the wanted time needs no neutral density, if it needs some now.

    metered_s: the metered time as planned, with the filters on the lens.
    """
    light = changing_light(facts)
    dark = facts.dark_stops
    if wanted is None or light is None or facts.light.time_utc is None or dark <= 0:
        return []
    bare = metered_s * 2.0**-dark
    if wanted.from_s <= light.needed_s(bare):
        return []
    lux = light.lux(np.arange(0.0, 60.0 * _LONGEST_MIN + 1, 60.0))
    by_meter = float(metered_time_s(max(wanted.from_s, 1e-9), light.film_exponent))
    enough = np.flatnonzero(np.log2(lux[0] / lux) >= math.log2(by_meter / bare))
    if not len(enough):
        return []
    when = facts.light.time_utc + timedelta(minutes=int(enough[0]))
    return [say.wait_for_it(minutes=int(enough[0]), at=facts.at(when)).holds("time_utc")]
