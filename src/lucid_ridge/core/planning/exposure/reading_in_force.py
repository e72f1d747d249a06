"""What a meter reading is worth at the shot's time: it is carried along the predicted light, or it is history."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import datetime

from ...facts.shot import ShotFacts
from ...light.bands import SUNRISE_ALTITUDE_DEG
from ..light.plan import plan_light
from ..reasons import Reason
from ..verdicts import HOLDS, TIGHT
from ..weather.simulated import by_forecast
from . import wording as say
from .exposures import metered_reading, scene_ev100

# Across sunrise or sunset a reading counts for a change of the light up to this [stops].
_MOST_ACROSS_STOPS = 2.0
# A reading that lies farther from the prediction is remarked on [stops].
_CONTRADICTS_STOPS = 1.0
# How far a carried reading may be off: a share of the predicted change, and stops an hour (our own estimate).
_OFF_SHARE, _OFF_PER_H = 0.25, 0.15
_HARDLY_STOPS, _HARDLY_MIN = 0.05, 2.0
# A carried reading that may be off by so much is to be taken again.
_TIGHT_OFF_STOPS = 1.0
_READING = {"metered_f_number": None, "metered_shutter_s": None, "metered_iso": None}


@dataclass(frozen=True)
class CarriedReading:
    """A reading taken at another time than the shot's. carried_stops: by how much the light is predicted to be brighter
    at the shot's time; None: it is history, because of another day or a sun that has risen or set.
    """

    at_utc: datetime
    carried_stops: float | None = None

    def off_stops(self, moment: datetime) -> float:
        """Return by how much a carried reading may be off [stops]."""
        hours = abs((moment - self.at_utc).total_seconds()) / 3600
        return _OFF_SHARE * abs(self.carried_stops or 0.0) + _OFF_PER_H * hours


def reading_in_force(facts: ShotFacts) -> ShotFacts:
    """Return the facts with the readings of meter, highlight, shadow and spots as they stand at the shot's time, or
    without them where they are history. The same facts again where nothing was read at another time.
    """
    carried = carried_reading(facts)
    if carried is None:
        return facts
    if carried.carried_stops is None:
        return replace(facts, spots=()).choosing(**_READING, highlight_ev=None, shadow_ev=None, metered_at_utc=None)
    change, said = carried.carried_stops, facts.exposure
    shutter = said.metered_shutter_s
    return replace(facts, spots=tuple(replace(item, ev100=item.ev100 + change) for item in facts.spots)).choosing(
        metered_shutter_s=None if shutter is None else shutter * 2.0**-change,
        highlight_ev=None if said.highlight_ev is None else said.highlight_ev + change,
        shadow_ev=None if said.shadow_ev is None else said.shadow_ev + change,
        metered_at_utc=facts.light.time_utc,
    )


def at_another_time(facts: ShotFacts, moment: datetime | None) -> ShotFacts:
    """Return the facts at another time of the shot, with the reading as it stands then."""
    read_at = facts.exposure.metered_at_utc or facts.light.time_utc
    return reading_in_force(facts.choosing(time_utc=moment, metered_at_utc=read_at))


def carried_reading(facts: ShotFacts) -> CarriedReading | None:
    """Return how a reading of another time counts; None where there is none, or where one of the times is not known."""
    at_utc, moment, said = facts.exposure.metered_at_utc, facts.light.time_utc, facts.exposure
    read = (said.metered_shutter_s, said.highlight_ev, said.shadow_ev)
    if at_utc is None or moment is None or at_utc == moment or (not facts.spots and read == (None, None, None)):
        return None
    day = at_utc.astimezone(facts.zone).date()
    if day != facts.light.date_local:
        return CarriedReading(at_utc)
    now, then = plan_light(facts), plan_light(facts.choosing(time_utc=at_utc))
    if now.ev100 is None or then.ev100 is None or now.sun_altitude_deg is None or then.sun_altitude_deg is None:
        return CarriedReading(at_utc)
    change = now.ev100 - then.ev100
    up = [step.sun_altitude_deg > SUNRISE_ALTITUDE_DEG for step in (now, then) if step.sun_altitude_deg is not None]
    crossed = up[0] != up[1]
    return CarriedReading(at_utc, None if crossed and abs(change) > _MOST_ACROSS_STOPS else change)


def reading_reasons(facts: ShotFacts) -> list[Reason]:
    """Return the age of the reading, what became of it, and whether it contradicts the prediction. facts: as said."""
    carried, moment = carried_reading(facts), facts.light.time_utc
    found = []
    if carried is not None and moment is not None:
        at = facts.at(carried.at_utc)
        if carried.carried_stops is None:
            return [say.reading_is_history(at=at).tight("metered_shutter_s")]
        if abs(carried.carried_stops) >= _HARDLY_STOPS or _minutes(carried.at_utc, moment) >= _HARDLY_MIN:
            off = carried.off_stops(moment)
            words = say.reading_carried(at=at, carried_stops=carried.carried_stops, off_stops=off)
            found.append(words.reason(TIGHT if off >= _TIGHT_OFF_STOPS else HOLDS, "metered_shutter_s"))
    return [*found, *_contradiction(facts)]


def _contradiction(facts: ShotFacts) -> list[Reason]:
    """Return the reason that the reading lies far from the light predicted for its time."""
    reading, at_utc = metered_reading(facts), facts.exposure.metered_at_utc or facts.light.time_utc
    if reading is None or at_utc is None or facts.location is None:
        return []
    then = facts.choosing(time_utc=at_utc, date_local=at_utc.astimezone(facts.zone).date())
    light = plan_light(then)
    if light.ev100 is None:
        return []
    apart = scene_ev100(facts, reading) - light.ev100
    if abs(apart) <= _CONTRADICTS_STOPS:
        return []
    words = say.reading_contradicts(apart_stops=apart, through_lens=reading.through_lens)
    found = [words.caution("metered_shutter_s")]
    return found if light.cloud_oktas is None else by_forecast(facts, found)


def _minutes(one: datetime, other: datetime) -> float:
    return abs((one - other).total_seconds()) / 60
