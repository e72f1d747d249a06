"""Figures of the whole log: when pictures were taken, which looks pleased, what keeps still, filter costs, and the
accuracy of predictions.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass

from sqlalchemy import select
from sqlalchemy.orm import Session

from ...core.learning.digests import Digest
from ...core.learning.figures import (
    WINDOW,
    Counted,
    ErrorPoint,
    HeldClass,
    LightPoint,
    held_classes,
    light_that_pleased,
    prediction_errors,
    sharp_standing,
)
from ...core.learning.lessons import Lesson, speeds_found, streak_drawn
from ...core.learning.times import ways
from ...core.spans.instants import zone_info
from ...store.log import LogEntry
from ..platform.garbage_collection import collector_held
from .digests import newest_predicted, taught_by_log
from .field_sessions import field_sessions
from .lessons import all_lessons

# Drawings show this many of the newest points.
MOST_POINTS = 2000


@dataclass(frozen=True)
class WhenTaken:
    """When a picture was taken. day: of the year, from 1; hour: in the place's clock."""

    entry_id: int
    day: int
    hour: float
    outcome: str
    name: str


@dataclass(frozen=True)
class LookPoint:
    frame_id: int
    streak_share: float
    stars: int
    wanted_look: str


@dataclass(frozen=True)
class LastedPoint:
    """How long setting up or walking in took, beside the plan [min]."""

    entry_id: int
    what: str
    planned_min: float
    took_min: float
    name: str


@dataclass(frozen=True, kw_only=True)
class LogFigures:
    """The figures of a log. behind: entries not yet counted; see digests."""

    taken: tuple[WhenTaken, ...]
    looks: tuple[LookPoint, ...]
    held: tuple[HeldClass, ...]
    lessons: tuple[Lesson, ...]
    errors: tuple[ErrorPoint, ...]
    sharp: Counted
    outcomes: dict[str, int]
    light: tuple[LightPoint, ...]
    promising: Counted
    doubtful: Counted
    lasted: tuple[LastedPoint, ...]
    behind: int


def log_figures(session: Session, owner_id: int) -> LogFigures:
    """Return the figures of a whole log."""
    with collector_held():
        return _figures(session, owner_id)


def _figures(session: Session, owner_id: int) -> LogFigures:
    known, outs = taught_by_log(session, owner_id), field_sessions(session, owner_id)
    taught = known.digests
    newest, before = newest_predicted(session, owner_id, MOST_POINTS + WINDOW)
    columns = (LogEntry.id, LogEntry.taken_at_utc, LogEntry.zone, LogEntry.outcome, LogEntry.name)
    mine = (LogEntry.owner_id == owner_id, LogEntry.archived.is_(False))
    entries = session.execute(select(*columns).where(*mine).order_by(LogEntry.taken_at_utc)).all()
    taken = []
    for entry_id, at, zone, outcome, name in entries[-MOST_POINTS:]:
        local = at.astimezone(zone_info(zone))
        taken.append(WhenTaken(entry_id, local.timetuple().tm_yday, local.hour + local.minute / 60, str(outcome), name))
    names = {entry.id: entry.name for entry in entries}
    light = _light_points(session, owner_id)
    lasted = tuple(
        LastedPoint(item.entry_id, str(item.what), item.planned_min, item.took_min, names[item.entry_id])
        for item in ways(outs)
    )
    promising, doubtful = light_that_pleased(light)
    return LogFigures(
        taken=tuple(taken),
        looks=_looks(taught),
        held=held_classes(taught),
        lessons=all_lessons(session, owner_id, taught, outs),
        errors=prediction_errors(newest, before, MOST_POINTS),
        sharp=sharp_standing(taught),
        outcomes=dict(Counter(str(entry.outcome) for entry in entries)),
        light=tuple(light[-MOST_POINTS:]),
        promising=promising,
        doubtful=doubtful,
        lasted=lasted,
        behind=known.behind,
    )


def _light_points(session: Session, owner_id: int) -> list[LightPoint]:
    """Return sessions with a promise and a rating of their light, earliest first.

    Plans are large, so only those of rated entries are read.
    """
    promise = LogEntry.planned["promise"].as_float()
    query = select(LogEntry.id, promise, LogEntry.light_stars, LogEntry.name).where(
        LogEntry.owner_id == owner_id,
        LogEntry.archived.is_(False),
        LogEntry.light_stars.is_not(None),
        LogEntry.planned.is_not(None),
    )
    rows = session.execute(query.order_by(LogEntry.taken_at_utc))
    return [LightPoint(entry_id, share, stars, name) for entry_id, share, stars, name in rows if share is not None]


def _looks(taught: Sequence[Digest]) -> tuple[LookPoint, ...]:
    """Return the newest rated frames of moving water."""
    speeds = speeds_found(taught)
    rated = [item for entry in taught for item in entry.streaks if item.stars is not None][-MOST_POINTS:]
    return tuple(
        LookPoint(item.frame_id, streak_drawn(item, speeds), item.stars or 0, item.wanted_look) for item in rated
    )
