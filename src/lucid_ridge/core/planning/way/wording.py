"""Sentences about the way in and out, what closes it, and what is dangerous."""

from __future__ import annotations

from datetime import date

from ...facts.place import HazardKind
from ...units.lengths import format_height
from ...units.spelling import LocalTime, format_day
from ..verdicts import StepName
from ..wording import Catalogue, ended, joined, plural

sentence = Catalogue("way", StepName.PLACE)

HAZARDS = {
    HazardKind.EDGE: "An edge with a drop is near: stay back from it, and never step backwards with your eye "
    "at the finder.",
    HazardKind.SWELL: "Swell reaches higher than the waves you have watched: look for ten minutes, stay above "
    "wet rock, never turn your back.",
    HazardKind.SLIPPERY_ROCK: "The rock is slippery: wear soles that grip, keep your hands free, use the "
    "tripod as a third leg.",
    HazardKind.LOOSE_ROCK: "The rock is loose: test every hold, stay out from under it, set the tripod well back.",
    HazardKind.RIVER: "The river can rise quickly: do not stand where the way back floods.",
    HazardKind.BOG: "The ground is soft: keep to boards and paths.",
    HazardKind.AVALANCHE: "The slopes can avalanche: read the bulletin of the day and keep off steep lee slopes.",
    HazardKind.REMOTENESS: "Help is far away and the signal poor: tell someone your route and when you will be back.",
    HazardKind.HEAT: "It can be hot: take water, look for shade, start early.",
    HazardKind.COLD: "It can be cold: take layers, gloves you can work in, and carry batteries warm.",
}


def _then(text: str, note: str) -> str:
    return f"{text} {ended(note)}".rstrip()


@sentence
def hazard(*, kind: HazardKind, dark: bool, note: str) -> str:
    parts = [HAZARDS[kind], "It will be dark by then." if dark else "", ended(note)]
    return " ".join(part for part in parts if part)


@sentence
def tide_without_figures(*, height_known: bool, note: str) -> str:
    more = "give the place its tide" if height_known else "enter the height above which it does"
    return _then(f"The tide can cut this place off: read a tide table for the day, and {more}.", note)


@sentence
def tide_above(*, cut_off_m: float, note: str) -> str:
    return _then(f"The tide cuts this place off above {format_height(cut_off_m)}.", note)


@sentence
def low_pressure(*, rise_m: float) -> str:
    return f"Swell, wind and low pressure raise the water: 30 hPa by {format_height(rise_m)}."


@sentence
def not_known(*, closure: str, note: str) -> str:
    return _then(closure, note)


@sentence
def closed(*, closure: str, legs: tuple[tuple[str, LocalTime, LocalTime], ...], note: str) -> str:
    caught = joined([f"the {name}, {start} to {end}" for name, start, end in legs])
    return _then(f"{closure} It closes {caught}.", note)


@sentence
def no_way_back(*, closure: str, note: str) -> str:
    return _then(f"{closure} Until it ends there is no way back.", note)


@sentence
def closes_later(*, closure: str, leave_by: LocalTime, note: str) -> str:
    return _then(f"{closure} Start back by {leave_by}.", note)


@sentence
def open_again(*, closure: str, walk_in_at: LocalTime, note: str) -> str:
    return _then(f"{closure} The way is open again when you walk in at {walk_in_at}.", note)


@sentence
def times(
    *, leave_home: LocalTime | None, leave_car: LocalTime, set_up: LocalTime, back: LocalTime, walk_min: float | None
) -> str:
    end = f" Back at the car about {back}." if walk_min else ""
    walk = f", {walk_min:.0f} min on foot" if walk_min else ""
    if leave_home is None and walk_min is None:
        return f"Set up by {set_up}; neither the drive nor the walk is known."
    if leave_home is None:
        return f"Set up by {set_up}{walk}: start walking at {leave_car}.{end}"
    return f"Leave home by {leave_home}, the car by {leave_car}{walk}; set up from {set_up}.{end}"


@sentence
def own_pace(*, times_the_rule: float, sessions: int) -> str:
    return (
        f"You take {times_the_rule:.2f} times as long on foot as the rule says (from "
        f"{plural(sessions, 'session')}); the times count with that."
    )


@sentence
def own_set_up(*, own_min: float, entered_min: float, sessions: int) -> str:
    return (
        f"You take {own_min:.0f} min to set up (from {plural(sessions, 'session')}), not the "
        f"{entered_min:g} min entered."
    )


@sentence
def dark(*, legs: tuple[tuple[str, LocalTime, LocalTime], ...], walk_known: bool, scouted_on: date | None) -> str:
    walks = [
        f"the walk {name} ({start} to {end})" if walk_known else f"the way {name} at {end}" for name, start, end in legs
    ]
    known = (
        f"; you were there by day on {format_day(scouted_on)}"
        if scouted_on
        else ", and do not rely on paths you have not walked in daylight"
    )
    return f"It is dark on {joined(walks)}: carry a head torch{known}."
