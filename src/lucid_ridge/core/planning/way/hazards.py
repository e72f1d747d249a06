"""Where a recorded hazard meets the plan. Local rules, signs, wardens and guides come first."""

from __future__ import annotations

from ...facts.place import Hazard, HazardKind
from ...facts.shot import ShotFacts
from ...light.bands import BLUE_TO_DEG
from ..reasons import Reason
from . import wording as say
from .closures import in_its_months
from .plan import Way

# 1 hPa is 1 cm of water (common practice).
_LOW_PRESSURE_M = 0.3
_WORSE_IN_THE_DARK = (
    HazardKind.EDGE,
    HazardKind.LOOSE_ROCK,
    HazardKind.SLIPPERY_ROCK,
    HazardKind.BOG,
    HazardKind.RIVER,
)


def hazard_reasons(facts: ShotFacts, sun_altitude_deg: float | None, way: Way | None) -> list[Reason]:
    """Return a reason for each hazard that applies at the shot's time; for all of them while no time is chosen.

    way: None while unknown.
    """
    reasons = []
    for hazard in facts.hazards:
        if facts.light.time_utc is not None and not in_its_months(facts, hazard, facts.light.time_utc):
            continue
        reasons += _tide(facts, hazard, way) if hazard.kind == HazardKind.TIDE else [_plain(hazard, sun_altitude_deg)]
    return reasons


def _plain(hazard: Hazard, sun_altitude_deg: float | None) -> Reason:
    dark = sun_altitude_deg is not None and sun_altitude_deg < BLUE_TO_DEG and hazard.kind in _WORSE_IN_THE_DARK
    return say.hazard(kind=hazard.kind, dark=dark, note=hazard.note).caution()


def _tide(facts: ShotFacts, hazard: Hazard, way: Way | None) -> list[Reason]:
    """Return the reason about a tide that cannot be computed; its closures are judged with all others of the way."""
    here, note = facts.location, hazard.note
    if hazard.cut_off_m is None or (way is None and (here is None or here.tide is None)):
        return [say.tide_without_figures(height_known=hazard.cut_off_m is not None, note=note).unsaid()]
    if way is None:
        return [say.tide_above(cut_off_m=hazard.cut_off_m, note=note).caution("time_utc")]
    return [say.low_pressure(rise_m=_LOW_PRESSURE_M).caution()]
