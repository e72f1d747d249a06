"""Sentences about the place: what is seen from it, access, scouting and season."""

from __future__ import annotations

from datetime import date

from ...units.lengths import compass_point, format_distance
from ...units.spelling import format_day
from ..verdicts import StepName
from ..wording import Catalogue, after_colon, ended

sentence = Catalogue("place", StepName.PLACE)


@sentence
def no_viewpoint() -> str:
    return "Choose a viewpoint: light and depth start from it."


@sentence
def no_elements(*, viewpoint: str) -> str:
    return f"{viewpoint} has no elements: add what stands in the scene."


@sentence
def nearest(*, location: str, viewpoint: str, element: str, distance_m: float, bearing_deg: float) -> str:
    return (
        f"{location}, {viewpoint}: nearest is {element} at {format_distance(distance_m)}, {compass_point(bearing_deg)}."
    )


@sentence
def access_not_checked(*, notes: str) -> str:
    return f"{ended(f'Access was not checked{after_colon(notes)}')} Ask before you go."


def _source(source: str) -> str:
    return f", {source}" if source else ""


@sentence
def access_checked_long_ago(*, months: int, checked_on: date, source: str, notes: str) -> str:
    text = (
        f"Access was last checked {months} months before that day, "
        f"{format_day(checked_on)}{_source(source)}: {notes or 'open'}"
    )
    return f"{ended(text)} Ask again before you go."


@sentence
def access_checked(*, checked_on: date, source: str, notes: str) -> str:
    return ended(f"Access, checked {format_day(checked_on)}{_source(source)}: {notes or 'open'}")


@sentence
def permit_needed(*, note: str) -> str:
    return ended(f"A permit is needed here{after_colon(note)}")


@sentence
def scouted(*, visited_on: date, note: str, bring: str) -> str:
    more = f" {ended(f'Bring {bring}')}" if bring else ""
    return f"{ended(f'Scouted by day on {format_day(visited_on)}{after_colon(note)}')}{more}"


@sentence
def season(*, note: str) -> str:
    return ended(f"At that time of the year, {note}")
