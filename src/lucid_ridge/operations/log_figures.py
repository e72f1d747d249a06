"""What the log comes to in figures: when things were taken, which looks pleased, what held still, what filters cost, and how good the predictions were."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass

from sqlalchemy import select
from sqlalchemy.orm import Session

from ..core.learning.figures import (
    Counted,
    ErrorPoint,
    HeldClass,
    LightPoint,
    held_classes,
    light_that_pleased,
    prediction_errors,
    sharp_standing,
)
from ..core.learning.lessons import Lesson, streaks_drawn
from ..core.learning.times import ways
from ..core.spans.instants import zone_info
from ..store.log import LogEntry
from .lessons import all_lessons, taken_frames
from .taken_out import taken_out

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
class LastedPoint:
    """How long setting up or walking in took beside the plan [min]."""

    entry_id: int
    what: str
    planned_min: float
    took_min: float
    name: str


@dataclass(frozen=True)
class LogFigures:
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


def log_figures(session: Session, owner_id: int) -> LogFigures:
    """Return the figures of a whole log."""
    frames, outs = taken_frames(session, owner_id), taken_out(session, owner_id)
    columns = (
        LogEntry.id, LogEntry.taken_at_utc, LogEntry.zone, LogEntry.outcome, LogEntry.name, LogEntry.light_stars, LogEntry.planned["promise"].as_float(),
    )  # fmt: skip
    entries = session.execute(
        select(*columns).where(LogEntry.owner_id == owner_id, LogEntry.archived.is_(False)).order_by(LogEntry.taken_at_utc)
    ).all()
    taken = []
    light = []
    for entry_id, at, zone, outcome, name, stars, promise in entries:
        if stars is not None and promise is not None:
            light.append(LightPoint(entry_id, promise, stars, name))
        local = at.astimezone(zone_info(zone))
        taken.append(WhenTaken(entry_id, local.timetuple().tm_yday, local.hour + local.minute / 60, str(outcome), name))
    drawn = streaks_drawn(frames)
    looks = tuple(
        LookPoint(frame.id, drawn[frame.id], frame.stars, frame.wanted_look)
        for frame in frames
        if frame.stars is not None and frame.id in drawn
    )
    names = {entry.id: entry.name for entry in entries}
    lasted = tuple(LastedPoint(item.entry_id, str(item.what), item.planned_min, item.took_min, names[item.entry_id]) for item in ways(outs))
    return LogFigures(
        tuple(taken[-MOST_POINTS:]), looks, held_classes(frames), all_lessons(session, owner_id, frames, outs), prediction_errors(frames)[-MOST_POINTS:], sharp_standing(frames),
        dict(Counter(item.outcome for item in taken)), tuple(light[-MOST_POINTS:]), *light_that_pleased(light), lasted,
    )  # fmt: skip
