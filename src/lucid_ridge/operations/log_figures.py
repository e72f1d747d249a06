"""What the log comes to in figures: when things were taken, which looks pleased, what held still, what filters cost, and how good the predictions were."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass

from sqlalchemy import select
from sqlalchemy.orm import Session

from ..core.learning.figures import ErrorPoint, HeldClass, held_classes, prediction_errors
from ..core.learning.lessons import Lesson
from ..core.learning.rates import Interval, wilson_interval
from ..core.spans.instants import zone_info
from ..store.log import LogEntry
from .lessons import all_lessons, taken_frames

# Drawings show so many of the newest points: more lie on top of each other.
MOST_POINTS = 2000


@dataclass(frozen=True)
class WhenTaken:
    """day: of the year, from 1; hour: of the place's clock."""

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
class Promised:
    """Entries with stars of light, by what the forecast promised, and how many frames were sharp of those that were to be."""

    said: int
    kept: int
    interval: Interval


@dataclass(frozen=True)
class LogFigures:
    taken: tuple[WhenTaken, ...]
    looks: tuple[LookPoint, ...]
    held: tuple[HeldClass, ...]
    lessons: tuple[Lesson, ...]
    errors: tuple[ErrorPoint, ...]
    sharp: Promised
    outcomes: dict[str, int]


def log_figures(session: Session, owner_id: int) -> LogFigures:
    """Return the figures of a whole log."""
    frames = taken_frames(session, owner_id)
    columns = (LogEntry.id, LogEntry.taken_at_utc, LogEntry.zone, LogEntry.outcome, LogEntry.name)
    entries = session.execute(
        select(*columns).where(LogEntry.owner_id == owner_id, LogEntry.archived.is_(False)).order_by(LogEntry.taken_at_utc)
    ).all()
    taken = []
    for entry_id, at, zone, outcome, name in entries:
        local = at.astimezone(zone_info(zone))
        taken.append(WhenTaken(entry_id, local.timetuple().tm_yday, local.hour + local.minute / 60, str(outcome), name))
    looks = tuple(
        LookPoint(frame.id, frame.streak_share, frame.stars, frame.wanted_look)
        for frame in frames
        if frame.stars is not None and frame.streak_share
    )
    judged = [frame for frame in frames if frame.sharp is not None and not frame.by_hand]
    sharp = sum(bool(frame.sharp) for frame in judged)
    return LogFigures(
        tuple(taken[-MOST_POINTS:]), looks, held_classes(frames), all_lessons(session, owner_id, frames), prediction_errors(frames)[-MOST_POINTS:], Promised(len(judged), sharp, wilson_interval(sharp, len(judged))),
        dict(Counter(item.outcome for item in taken)),
    )  # fmt: skip
