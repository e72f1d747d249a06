"""Which light a shot looks for on another date: the light wanted, else that of the time it was saved for."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import timedelta
from enum import StrEnum

from ...facts.shot import ShotFacts
from ...labels import label_of
from ...light.kinds import LightKind
from ...light.windows import kinds_through
from .light_to_use import shot_scene
from .plan import day_of_light

# Kinds to look for where a shot says none and has no time.
ANY_LIGHT = (LightKind.LOW_SIDE_LIGHT, LightKind.LOW_BACK_LIGHT, LightKind.GLOW, LightKind.BLUE_HOUR)
# A light that is only touched is not the one that was chosen.
_HELD = timedelta(minutes=1)


class SoughtBy(StrEnum):
    WANTED = "wanted"
    SAVED = "saved"
    ANY = "any"


@dataclass(frozen=True)
class SoughtLight:
    """kinds: names of kinds of light or bands of the day, any of which will do."""

    by: SoughtBy
    kinds: tuple[str, ...]

    @property
    def words(self) -> str:
        """What is looked for, as a sentence without its full stop."""
        if self.by is SoughtBy.WANTED:
            return f"wants {label_of(self.kinds[0])}"
        if self.by is SoughtBy.SAVED:
            return f"no light chosen: shown for {label_of(self.kinds[0])}, the light at its saved time"
        return "no light chosen: shown for any low light, glow or blue hour"


def sought_light(facts: ShotFacts) -> SoughtLight:
    """Return the light that a shot looks for on other dates. facts: with the date and time that it is saved for."""
    wanted, moment = facts.light.wanted_light, facts.light.time_utc
    if wanted is not None:
        return SoughtLight(SoughtBy.WANTED, (wanted,))
    if facts.location is None or moment is None or facts.light.date_local is None:
        return SoughtLight(SoughtBy.ANY, tuple(ANY_LIGHT))
    scene = shot_scene(facts, moment - timedelta(hours=1), moment + timedelta(hours=1))
    held = kinds_through(scene, moment, moment + _HELD) if scene is not None else ()
    band = day_of_light(facts.location, moment.astimezone(facts.zone).date()).band_at(moment)
    found = held[0] if held else band.kind if band is not None else None
    return SoughtLight(SoughtBy.SAVED, (found,)) if found else SoughtLight(SoughtBy.ANY, tuple(ANY_LIGHT))
