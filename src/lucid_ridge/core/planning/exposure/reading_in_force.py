"""What a meter reading is worth at the shot's time: it is carried along the predicted light, or it is history."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import datetime
from typing import Any

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
    at the shot's time; None: it is history, because of another day, a sun that has risen or set, or another place,
    elsewhere.
    """

    at_utc: datetime | None
    carried_stops: float | None = None
    elsewhere: str = ""

    def off_stops(self, moment: datetime) -> float:
        """Return by how much a carried reading may be off [stops]."""
        if self.at_utc is None:
            return 0.0
        hours = abs((moment - self.at_utc).total_seconds()) / 3600
        return _OFF_SHARE * abs(self.carried_stops or 0.0) + _OFF_PER_H * hours


def reading_in_force(facts: ShotFacts) -> ShotFacts:
    """Return the facts with the readings of meter, highlight, shadow and spots as they stand at the shot's time, or
    without them where they are history. The same facts again where nothing was read at another time.
    """
    meter, span, said = carried_reading(facts), carried_range(facts), facts.exposure
    if meter is None and span is None:
        return facts
    changes: dict[str, Any] = {"metered_at_utc": facts.light.time_utc, "range_read_at_utc": facts.light.time_utc}
    spots = facts.spots
    if meter is not None and meter.carried_stops is None:
        changes |= _READING
    elif meter is not None and said.metered_shutter_s is not None:
        changes["metered_shutter_s"] = said.metered_shutter_s * 2.0 ** -(meter.carried_stops or 0.0)
    if span is not None and span.carried_stops is None:
        changes |= {"highlight_ev": None, "shadow_ev": None}
        spots = ()
    elif span is not None and span.carried_stops is not None:
        change = span.carried_stops
        ends = {"highlight_ev": said.highlight_ev, "shadow_ev": said.shadow_ev}
        changes |= {name: value + change for name, value in ends.items() if value is not None}
        spots = tuple(replace(item, ev100=item.ev100 + change) for item in spots)
    # What is history has no time left to be carried from.
    return replace(facts, spots=spots, read_elsewhere="").choosing(**changes)


def read_times(facts: ShotFacts) -> dict[str, datetime | None]:
    """Return the times of the readings by their names, said or taken to be the shot's, to keep them at another time."""
    said = facts.exposure
    meter = said.metered_at_utc or facts.light.time_utc
    return {"metered_at_utc": meter, "range_read_at_utc": said.range_read_at_utc or meter}


def at_another_time(facts: ShotFacts, moment: datetime | None) -> ShotFacts:
    """Return the facts at another time of the shot, with the reading as it stands then."""
    stamps = read_times(facts)
    return reading_in_force(facts.choosing(time_utc=moment, **stamps))


def carried_reading(facts: ShotFacts) -> CarriedReading | None:
    """Return how a meter reading of another time or place counts; None where there is none, or where one of the times
    is not known.
    """
    return _carried(facts, facts.exposure.metered_at_utc) if facts.exposure.metered_shutter_s is not None else None


def carried_range(facts: ShotFacts) -> CarriedReading | None:
    """Return the same of highlight, shadow and spots."""
    said = facts.exposure
    if not facts.spots and said.highlight_ev is None and said.shadow_ev is None:
        return None
    return _carried(facts, said.range_read_at_utc or said.metered_at_utc)


def _carried(facts: ShotFacts, at_utc: datetime | None) -> CarriedReading | None:
    moment = facts.light.time_utc
    if facts.read_elsewhere:
        return CarriedReading(at_utc or moment, elsewhere=facts.read_elsewhere)
    if at_utc is None or moment is None or at_utc == moment:
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
    """Return the age of the readings, what became of them, and whether the meter's contradicts the prediction. facts:
    as said.
    """
    meter, span = carried_reading(facts), carried_range(facts)
    found = _age_reasons(facts, meter, False)
    if span is not None and (meter is None or span.at_utc != meter.at_utc):
        found += _age_reasons(facts, span, True)
    history = meter is not None and meter.carried_stops is None
    return found if history else [*found, *_contradiction(facts)]


def _age_reasons(facts: ShotFacts, carried: CarriedReading | None, of_range: bool) -> list[Reason]:
    moment = facts.light.time_utc
    if carried is None or moment is None or carried.at_utc is None:
        return []
    at, dial = facts.at(carried.at_utc), "highlight_ev" if of_range else "metered_shutter_s"
    if carried.carried_stops is None:
        return [say.reading_is_history(at=at, elsewhere=carried.elsewhere, of_range=of_range).tight(dial)]
    if abs(carried.carried_stops) < _HARDLY_STOPS and _minutes(carried.at_utc, moment) < _HARDLY_MIN:
        return []
    off = carried.off_stops(moment)
    words = say.reading_carried(at=at, carried_stops=carried.carried_stops, off_stops=off, of_range=of_range)
    return [words.reason(TIGHT if off >= _TIGHT_OFF_STOPS else HOLDS, dial)]


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
