"""Which place on a day: every shot, and every location without one, held against light, tide, way and the forecasts that are kept."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta

from sqlalchemy import select
from sqlalchemy.orm import Session

from ..core.facts.choices import LightChoices
from ..core.facts.shot import ShotFacts
from ..core.light.kinds import LightKind
from ..core.light.windows import DateHours
from ..core.planning.closures import LOOKED_FOR, Closure, closures
from ..core.planning.light import day_of_light
from ..core.planning.outlook import Chance, outlook
from ..core.weather.forecast import Forecast
from ..store.photographer import Photographer
from ..store.places import Location
from ..store.shots import Shot
from ..store.summaries import ShotSummary
from .facts import light_facts, location_facts
from .forecasts import forecast_around, state_of
from .light import weights_of
from .notebooks import VERSION, whole_shots
from .places import all_locations


@dataclass(frozen=True)
class Prospect:
    """A shot (or a location without shots, shot_id None) on a date: its chance, or why there is none."""

    shot_id: int | None
    location_id: int
    name: str
    facts: ShotFacts
    day: date
    chance: Chance | None
    why_not: str
    access_checked: bool


@dataclass(frozen=True)
class Outlook:
    """best: a prospect a shot, ranked. fallen: those without a chance on any of the days. without_forecast: locations that no forecast reaches, (id, name)."""

    best: tuple[Prospect, ...]
    fallen: tuple[Prospect, ...]
    without_place: int
    without_forecast: tuple[tuple[int, str], ...]


def which_place(session: Session, owner_id: int, first: date, days: int, now_utc: datetime) -> Outlook:
    """Return what could be taken in so many days from a local date on, best first. Asks no forecast service."""
    weights = weights_of(session.get_one(Photographer, owner_id))
    shots = whole_shots(session, owner_id, session.scalars(select(Shot.id).where(Shot.owner_id == owner_id)).all())
    lasting = _sequences(session, owner_id)
    known: dict[tuple[object, ...], tuple[Closure, ...]] = {}
    dates = [first + timedelta(days=number) for number in range(days)]

    def see(shot_id: int | None, location: Location, name: str, facts: ShotFacts, lasts_s: float) -> list[Prospect]:
        return [
            _prospect(shot_id, location, name, replace(facts, light=replace(facts.light, date_local=day)), day, lasts_s) for day in dates
        ]

    def _prospect(shot_id: int | None, location: Location, name: str, facts: ShotFacts, day: date, lasts_s: float) -> Prospect:
        assert facts.location is not None
        light = day_of_light(facts.location, day)
        key = (location.id, day)
        if key not in known:
            start, end = DateHours(light.noon_utc).around()
            known[key] = tuple(closures(facts, start - LOOKED_FOR, end + LOOKED_FOR))
        forecast = _forecast(location, day)
        found = outlook(facts, light, lasts_s, list(known[key]), forecast, now_utc, weights)
        checked = not location.access_notes or location.access_checked_on is not None
        if isinstance(found, str):
            return Prospect(shot_id, location.id, name, facts, day, None, found, checked)
        return Prospect(shot_id, location.id, name, facts, day, found, "", checked)

    groups = [
        see(shot.id, shot.viewpoint.location, shot.name, light_facts(session, shot, first), lasting.get(shot.id, 0.0))
        for shot in shots if shot.viewpoint is not None
    ]  # fmt: skip
    used = {shot.viewpoint.location_id for shot in shots if shot.viewpoint is not None}
    places = [location for location in all_locations(session, owner_id) if location.id not in used and location.viewpoints]
    for location in places:
        facts = replace(location_facts(session, location, owner_id), light=LightChoices(wanted_light=LightKind.GLOW))
        groups.append(see(None, location, location.name, facts, 0.0))
    best = [min(group, key=_rank) for group in groups]
    everywhere = {shot.viewpoint.location.id: shot.viewpoint.location for shot in shots if shot.viewpoint is not None}
    bare = sorted((item.name, item.id) for item in [*everywhere.values(), *places] if not _reaches(item, dates))
    return Outlook(
        tuple(sorted((item for item in best if item.chance), key=_rank)),
        tuple(sorted((item for item in best if not item.chance), key=lambda item: item.name)),
        sum(1 for shot in shots if shot.viewpoint is None),
        tuple((number, name) for name, number in bare),
    )


def _rank(item: Prospect) -> tuple[float, float, datetime]:
    if item.chance is None:
        return (1e9, 0.0, datetime.max)
    return item.chance.rank


def _forecast(location: Location, day: date) -> Forecast | None:
    return forecast_around(location.forecast, day)


def _reaches(location: Location, days: Sequence[date]) -> bool:
    forecast = state_of(location.forecast).forecast
    return forecast is not None and bool(forecast.hours) and forecast.hours[-1].time_utc.date() >= days[-1]


def _sequences(session: Session, owner_id: int) -> dict[int, float]:
    """Return how long the frames of each shot take [s], as the notebook keeps it."""
    query = select(ShotSummary.shot_id, ShotSummary.sequence_s).join(Shot, Shot.id == ShotSummary.shot_id)
    found = session.execute(query.where(Shot.owner_id == owner_id, ShotSummary.version == VERSION)).all()
    return {row.shot_id: row.sequence_s for row in found if row.sequence_s is not None}
