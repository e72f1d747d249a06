"""Light: cautions and figures of an eclipse that is under way at the shot's time."""

from __future__ import annotations

import math

from ...facts.shot import ShotFacts
from ...light.bands import SUNRISE_ALTITUDE_DEG
from ...light.day import LightDay
from ...light.eclipses import moon_lit_share, sun_covered_share, umbral_magnitude
from ...light.kinds import LightKind
from ..reasons import Reason
from . import wording as say

# A smaller part of the disc is not seen to be missing.
_SEEN_SHARE = 0.005


def eclipse_reasons(facts: ShotFacts, day: LightDay, seconds: float) -> list[Reason]:
    """Return the cautions and figures of an eclipse of sun or moon; none outside one, or below the horizon."""
    moment = facts.light.time_utc
    assert moment is not None
    sun, moon = day.track.horizontal(seconds), day.moon_track.horizontal(seconds)
    covered = float(sun_covered_share(day.track, sun, day.moon_track, moon))
    found = []
    seen = covered >= _SEEN_SHARE or facts.light.wanted_light == LightKind.SOLAR_ECLIPSE
    if seen and float(sun[0]) > SUNRISE_ALTITUDE_DEG:
        found.append(say.sun_eclipsed(at=facts.at(moment), covered_share=covered).caution("time_utc"))
    magnitude = float(umbral_magnitude(seconds))
    if magnitude > _SEEN_SHARE and float(moon[0]) > SUNRISE_ALTITUDE_DEG:
        lost = -math.log2(float(moon_lit_share(seconds)))
        words = say.moon_eclipsed(at=facts.at(moment), magnitude=min(1.0, magnitude), lost_stops=lost)
        found.append(words.holds("time_utc"))
    return found
