"""Ranks every shot, and every location without shots, for given days by light, tide, way and stored forecasts."""

from __future__ import annotations

import logging
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta

from sqlalchemy import select
from sqlalchemy.orm import Session

from ...core.facts.choices import LightChoices
from ...core.facts.shot import ShotFacts
from ...core.light.day import LightDay
from ...core.light.kinds import LightKind
from ...core.light.windows import DateHours
from ...core.planning.day.outlook import Chance, Travel, best_outlook, travel_of
from ...core.planning.light.plan import day_of_light
from ...core.planning.light.sought import SoughtLight, sought_light
from ...core.planning.way.closures import LOOKED_FOR, Closure, closures
from ...core.planning.way.tide_known import days_of_known_tide
from ...store.photographer import Photographer
from ...store.places import Location
from ...store.shots import Shot
from ...store.summaries import ShotSummary
from ..accounts.promise_weights import weights_of
from ..places.forecasts import forecast_of, hours_around
from ..places.locations import all_locations
from ..shots.facts import light_facts, location_facts
from .pages import VERSION, whole_shots

_log = logging.getLogger(__name__)
# Progress is reported after this many shots.
_TOLD_EVERY = 10


@dataclass(frozen=True)
class Prospect:
    """A shot (or a location without shots: shot_id None) on a date, with its chance or the reason why there is none."""

    shot_id: int | None
    location_id: int
    name: str
    facts: ShotFacts
    sought: SoughtLight
    chance: Chance | None
    why_not: str
    access_checked: bool

    @property
    def travel(self) -> Travel:
        return travel_of(self.facts.approach)


@dataclass(frozen=True)
class Outlook:
    """The ranking. best: one prospect per shot, nearer to home first among equals.

    fallen: prospects without a chance on any day. without_forecast, without_drive, without_tide: locations (id, name)
    where it is not known for all of the days; of the tide with the number of days it is known.
    """

    best: tuple[Prospect, ...]
    fallen: tuple[Prospect, ...]
    without_place: int
    without_forecast: tuple[tuple[int, str], ...]
    without_drive: tuple[tuple[int, str], ...]
    without_tide: tuple[tuple[int, str, int], ...]


@dataclass(frozen=True)
class _Asked:
    """What is ranked: a shot, or a location without one; its facts without a date, and how long its frames take."""

    shot_id: int | None
    location: Location
    name: str
    facts: ShotFacts
    sequence_s: float
    sought: SoughtLight


def which_place(
    session: Session,
    owner_id: int,
    first: date,
    days: int,
    now_utc: datetime,
    tell: Callable[[float], bool] = lambda share: True,
) -> Outlook:
    """Rank the shots for a number of days from a local date, best first.

    Calls no forecast service. tell: called with the progress; returns whether to go on.
    """
    weights = weights_of(session.get_one(Photographer, owner_id))
    shots = whole_shots(
        session, owner_id, session.scalars(select(Shot.id).where(Shot.owner_id == owner_id, ~Shot.archived)).all()
    )
    asked = _shots(session, owner_id, shots, first) + _places_without(session, owner_id, shots)
    # Shots of a place follow each other, so that they share cached values.
    asked.sort(key=lambda item: (item.location.id, item.shot_id or 0))
    dates = [first + timedelta(days=number) for number in range(days)]
    places = {item.location.id: item for item in asked}
    closed: dict[int, list[Closure]] = {}
    best = []
    for number, item in enumerate(asked):
        if number % _TOLD_EVERY == 0 and not tell(number / len(asked)):
            break
        best.append(_best(item, dates, closed, now_utc, weights))
    named = sorted(((item.location.name, number, item) for number, item in places.items()), key=lambda place: place[:2])
    return Outlook(
        tuple(sorted((item for item in best if item.chance), key=_rank)),
        tuple(sorted((item for item in best if not item.chance), key=lambda item: item.name)),
        sum(1 for shot in shots if shot.viewpoint is None),
        tuple((number, name) for name, number, item in named if not _reaches(item.location, dates[-1])),
        tuple(
            (number, name)
            for name, number, item in named
            if item.facts.approach is None or item.facts.approach.drive_min is None
        ),
        tuple(
            (number, name, known)
            for name, number, item in named
            if (known := _tide_days((other for other in asked if other.location.id == number), dates)) < len(dates)
        ),
    )


def _tide_days(items: Iterable[_Asked], dates: Sequence[date]) -> int:
    """Return on how many of the dates the tide is known for everything that needs it at a place."""
    # One shot that wants water stands for all of them.
    asking = {item.facts.wants_water: item.facts for item in items}.values()
    return min(
        (known for facts in asking if (known := days_of_known_tide(facts, dates)) is not None), default=len(dates)
    )


def _best(
    item: _Asked,
    dates: Sequence[date],
    closed: dict[int, list[Closure]],
    now_utc: datetime,
    weights: Mapping[str, float],
) -> Prospect:
    """Return a shot's best day. A shot that cannot be planned is reported as broken, with its error in the log."""
    try:
        if item.location.id not in closed:
            closed[item.location.id] = _closures(item.facts, dates)
        assert item.facts.location is not None
        days = [day_of_light(item.facts.location, day) for day in dates]
        return _prospect(item, days, dates, closed[item.location.id], now_utc, weights)
    except Exception:
        _log.exception(
            "Which place: %s %s cannot be looked at.",
            "shot" if item.shot_id else "location",
            item.shot_id or item.location.id,
        )
        return Prospect(
            shot_id=item.shot_id,
            location_id=item.location.id,
            name=item.name,
            facts=item.facts,
            sought=item.sought,
            chance=None,
            why_not="It cannot be looked at: the reason is in the server's log.",
            access_checked=True,
        )


def _shots(session: Session, owner_id: int, shots: Sequence[Shot], first: date) -> list[_Asked]:
    lasting = _sequences(session, owner_id)
    around: dict[int, ShotFacts] = {}
    found = []
    for shot in shots:
        if shot.viewpoint is None:
            continue
        facts = light_facts(session, shot, first, around)
        saved = replace(facts, light=shot.light)
        found.append(
            _Asked(shot.id, shot.viewpoint.location, shot.name, facts, lasting.get(shot.id, 0.0), sought_light(saved))
        )
    return found


def _places_without(session: Session, owner_id: int, shots: Sequence[Shot]) -> list[_Asked]:
    used = {shot.viewpoint.location_id for shot in shots if shot.viewpoint is not None}
    glow = LightChoices(wanted_light=LightKind.GLOW)
    found = []
    for location in all_locations(session, owner_id):
        if location.id not in used and location.viewpoints:
            facts = replace(location_facts(session, location, owner_id), light=glow)
            found.append(_Asked(None, location, location.name, facts, 0.0, sought_light(facts)))
    return found


def _closures(facts: ShotFacts, dates: Sequence[date]) -> list[Closure]:
    """Return the closures of a place around days, once for all its shots."""
    assert facts.location is not None
    first, last = (DateHours(day_of_light(facts.location, day).noon_utc).around() for day in (dates[0], dates[-1]))
    return closures(facts, first[0] - LOOKED_FOR, last[1] + LOOKED_FOR)


def _prospect(
    asked: _Asked,
    days: Sequence[LightDay],
    dates: Sequence[date],
    closed: Sequence[Closure],
    now_utc: datetime,
    weights: Mapping[str, float],
) -> Prospect:
    location = asked.location
    forecast = hours_around(forecast_of(location.forecast), dates[0], dates[-1])
    found = best_outlook(
        facts=asked.facts,
        days=days,
        sequence_s=asked.sequence_s,
        closed=closed,
        forecast=forecast,
        now_utc=now_utc,
        weights=weights,
        sought=asked.sought,
    )
    chance, why_not = (None, found) if isinstance(found, str) else (found, "")
    day = chance.span.start_utc.astimezone(asked.facts.zone).date() if chance is not None else dates[0]
    facts = asked.facts.choosing(date_local=day)
    checked = not location.access_notes or location.access_checked_on is not None
    return Prospect(
        shot_id=asked.shot_id,
        location_id=location.id,
        name=asked.name,
        facts=facts,
        sought=asked.sought,
        chance=chance,
        why_not=why_not,
        access_checked=checked,
    )


def _rank(item: Prospect) -> tuple[int, bool, float, float, datetime]:
    if item.chance is None:
        return (len(Travel), True, 0.0, 0.0, datetime.max)
    return (tuple(Travel).index(item.travel), *item.chance.rank)


def _reaches(location: Location, last: date) -> bool:
    forecast = forecast_of(location.forecast)
    return forecast is not None and bool(forecast.hours) and forecast.hours[-1].time_utc.date() >= last


def _sequences(session: Session, owner_id: int) -> dict[int, float]:
    """Return how long the frames of each shot take [s], from the notebook's summaries."""
    query = select(ShotSummary.shot_id, ShotSummary.sequence_s).join(Shot, Shot.id == ShotSummary.shot_id)
    found = session.execute(query.where(Shot.owner_id == owner_id, ShotSummary.version == VERSION)).all()
    return {row.shot_id: row.sequence_s for row in found if row.sequence_s is not None}
