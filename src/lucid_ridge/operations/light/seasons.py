"""When in a year a shot works."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta

from sqlalchemy.orm import Session

from ...core.facts.shot import ShotFacts
from ...core.light.alignment import find_alignments
from ...core.light.kinds import kind_named
from ...core.light.season import intersect, lasting
from ...core.light.windows import wanted_spans
from ...core.planning.light.light_to_use import shot_scene
from ...core.planning.place.season_notes import notes_in_season
from ...core.planning.verdicts import FAILS, HOLDS, UNSAID, Severity
from ...core.planning.way.closures import LOOKED_FOR, closures, closures_near, usable_part
from ...core.planning.way.tide_known import days_of_known_tide
from ...core.spans.instants import local_day
from ...core.spans.intervals import Interval
from ...core.tides.heights import water_spans
from ...store.shots import Shot
from ..platform import rows
from ..platform.errors import Refused
from ..shots.facts import shot_facts
from .days import SkySearch, sequence_s, wanted_of

SEASON_DAYS = 365
_LEAST_S = 180.0


@dataclass(frozen=True)
class SeasonDay:
    """A local date with its spans. notes: the season notes that apply."""

    date_local: date
    spans: tuple[Interval, ...]
    notes: tuple[str, ...]


@dataclass(frozen=True)
class Season:
    """Days of a year on which a shot works.

    closed: days with its light, but no open way in and out. unknown: days on which a tide it needs is not known.
    tide_days: number of days with a known tide; None if no tide matters.
    """

    days: tuple[SeasonDay, ...]
    closed: tuple[SeasonDay, ...]
    unknown: tuple[SeasonDay, ...]
    tide_days: int | None


def season(session: Session, owner_id: int, shot_id: int, start_local: date, search: SkySearch | None) -> Season:
    """Return the days of the next twelve months on which a shot works: wanted light, water, way, and an alignment if
    one is searched.

    Raises Refused if the shot states nothing to look for.
    """
    shot = rows.owned(session, owner_id, Shot, shot_id)
    facts = shot_facts(session, shot)
    if facts.location is None or shot.viewpoint is None:
        raise Refused("viewpoint_id", "A season needs a place: choose a viewpoint first.")
    start, _ = local_day(start_local, facts.location.zone)
    end = start + timedelta(days=SEASON_DAYS)
    dates = [start_local + timedelta(days=number) for number in range(SEASON_DAYS)]
    lasts_s, closed = sequence_s(facts), closures(facts, start - LOOKED_FOR, end + LOOKED_FOR)
    lit = lasting(_lit_spans(facts, start, end, search), 0.0 if search else _LEAST_S)
    wet = lasting(_wet(facts, lit, start, end), 0.0 if search else _LEAST_S)
    # Sun or moon are aligned for about a minute, so only the way is checked for the rest of the frames.
    held_s = 0.0 if search else None
    usable = [
        usable_part(facts, span, lasts_s, near, held_s)
        for span, near in zip(wet, closures_near(wet, closed), strict=True)
    ]
    by_mark: dict[Severity, list[Interval]] = {HOLDS: [], UNSAID: _of_unknown_water(facts, lit), FAILS: []}
    for span, item in zip(wet, usable, strict=True):
        by_mark[item.mark].append(item.span or span)
    days = {mark: _by_day(facts, sorted(spans, key=lambda span: span.start_utc)) for mark, spans in by_mark.items()}
    works = {day.date_local for day in days[HOLDS]}
    unknown = tuple(day for day in days[UNSAID] if day.date_local not in works)
    return Season(days[HOLDS], days[FAILS], unknown, days_of_known_tide(facts, dates))


def _wet(facts: ShotFacts, lit: Sequence[Interval], start: datetime, end: datetime) -> list[Interval]:
    """Return the parts of spans of light in which the water has the wanted height."""
    here = facts.location
    if not facts.wants_water:
        return list(lit)
    if here is None or here.tide is None:
        return []
    return intersect(lit, water_spans(here.tide, start, end, *facts.water_wanted_m))


def _of_unknown_water(facts: ShotFacts, lit: Sequence[Interval]) -> list[Interval]:
    """Return the spans of light over which the height of the water is not known."""
    tide = facts.location.tide if facts.location else None
    if not facts.wants_water:
        return []
    return [span for span in lit if tide is None or not tide.covers(span.start_utc, span.end_utc)]


def _lit_spans(facts: ShotFacts, start: datetime, end: datetime, search: SkySearch | None) -> list[Interval]:
    scene = shot_scene(facts, start, end)
    assert scene is not None
    if facts.light.wanted_light is None and search is None:
        raise Refused("wanted_light", "Say which light the shot wants, or search for an alignment with it.")
    spans: list[Interval] | None = None
    if facts.light.wanted_light is not None:
        if kind_named(facts.light.wanted_light).needs_bearing and scene.bearing_deg is None:
            raise Refused("bearing_deg", "This light has a side: say where the camera looks first.")
        spans = wanted_spans(replace(scene, tide=None), facts.light.wanted_light)
    if search is not None:
        place = (scene.latitude_deg, scene.longitude_deg, scene.elevation_m)
        hits = [
            hit
            for wanted in wanted_of(facts, search)
            for hit in find_alignments(*place, start, end, wanted, scene.skyline)
        ]
        aligned = sorted(
            (Interval(hit.start_utc, hit.end_utc, False, False) for hit in hits), key=lambda span: span.start_utc
        )
        spans = aligned if spans is None else intersect(spans, aligned)
    assert spans is not None
    return spans


def _by_day(facts: ShotFacts, spans: Sequence[Interval]) -> tuple[SeasonDay, ...]:
    days: dict[date, list[Interval]] = {}
    for span in spans:
        days.setdefault(span.start_utc.astimezone(facts.zone).date(), []).append(span)
    return tuple(
        SeasonDay(day, tuple(found), notes_in_season(facts, found[0].start_utc)) for day, found in sorted(days.items())
    )
