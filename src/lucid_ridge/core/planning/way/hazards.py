"""Where a recorded hazard meets the plan. Local rules, signs, wardens and guides come first."""

from __future__ import annotations

from ...facts.place import Hazard, HazardKind
from ...facts.shot import ShotFacts
from ...light.bands import BLUE_TO_DEG
from ...units.lengths import format_height
from ..verdicts import CAUTION, UNSAID, Reason
from ..wording import ended
from .closures import in_its_months
from .plan import Way

_WORDS = {
    "edge": "An edge with a drop is near: stay back from it, and never step backwards with the eye at the finder.",
    "swell": "Swell reaches higher than the waves one has watched: look for ten minutes, keep above wet rock, never turn your back.",
    "slippery rock": "The rock is slippery: soles that grip, hands free, tripod as a third leg.",
    "loose rock": "The rock is loose: test every hold, keep out from under it, tripod well back.",
    "river": "The river can rise quickly: do not stand where the way back floods.",
    "bog": "The ground is soft: keep to boards and paths.",
    "avalanche": "The slopes can avalanche: read the bulletin of the day and leave steep lee slopes alone.",
    "remoteness": "Help is far and signal doubtful: leave word of the way and the hour of return.",
    "heat": "It can be hot: water, shade and an early start.",
    "cold": "It can be cold: layers, gloves one can work in, batteries carried warm.",
}
# 1 hPa is 1 cm of water (common practice).
_LOW_PRESSURE_M = 0.3
_WORSE_IN_THE_DARK = ("edge", "loose rock", "slippery rock", "bog", "river")


def hazard_reasons(facts: ShotFacts, sun_altitude_deg: float | None, way: Way | None) -> list[Reason]:
    """Return what each hazard of the place says to the shot at its time; all of them while no time is chosen. way: in and out, once there is one."""
    reasons = []
    for hazard in facts.hazards:
        if facts.light.time_utc is not None and not in_its_months(facts, hazard, facts.light.time_utc):
            continue
        reasons += _tide(facts, hazard, way) if hazard.kind == HazardKind.TIDE else [_plain(hazard, sun_altitude_deg)]
    return reasons


def _plain(hazard: Hazard, sun_altitude_deg: float | None) -> Reason:
    dark = sun_altitude_deg is not None and sun_altitude_deg < BLUE_TO_DEG and hazard.kind in _WORSE_IN_THE_DARK
    parts = [_WORDS[hazard.kind], "It will be dark by then." if dark else "", ended(hazard.note)]
    return Reason("place", CAUTION, " ".join(part for part in parts if part))


def _tide(facts: ShotFacts, hazard: Hazard, way: Way | None) -> list[Reason]:
    """Return what a tide says as long as it cannot be reckoned; what it then closes is judged with all that closes the way."""
    note = f" {ended(hazard.note)}".rstrip()
    here = facts.location
    if hazard.cut_off_m is None or (way is None and (here is None or here.tide is None)):
        more = ", and say above which height it does" if hazard.cut_off_m is None else ", and give the place its tide"
        text = f"The tide can cut this place off: read a tide table for the day{more}."
        return [Reason("place", UNSAID, f"{text}{note}")]
    if way is None:
        return [Reason("place", CAUTION, f"The tide cuts this place off above {format_height(hazard.cut_off_m)}.{note}", "time_utc")]
    text = f"Swell, wind and low pressure raise the water: 30 hPa by {format_height(_LOW_PRESSURE_M)}."
    return [Reason("place", CAUTION, text)]
