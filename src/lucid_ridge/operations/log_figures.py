"""What the log comes to in figures: when things were taken, which looks pleased, what held still, what filters cost, and how good the predictions were."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from sqlalchemy import select
from sqlalchemy.orm import Session

from ..core.learning.figures import ErrorPoint, HeldClass, held_classes, prediction_errors
from ..core.learning.lessons import PLEASES_FROM, Lesson, streaks_drawn
from ..core.learning.rates import Interval, wilson_interval
from ..core.learning.times import TakenOut, ways
from ..core.spans.instants import zone_info
from ..core.weather.promise import EVEN_FROM, PROMISING_FROM
from ..store.log import LogEntry, LogFrame
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
class Counted:
    """How often what was promised came about: frames that were sharp of those that were to be, light that pleased."""

    said: int
    kept: int
    interval: Interval


@dataclass(frozen=True)
class LightPoint:
    """A time out whose light was promised by a forecast [0 to 100] and has stars."""

    entry_id: int
    promise: float
    stars: int
    name: str


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
    judged = [frame for frame in frames if frame.sharp is not None and not frame.by_hand]
    sharp = sum(bool(frame.sharp) for frame in judged)
    return LogFigures(
        tuple(taken[-MOST_POINTS:]), looks, held_classes(frames), all_lessons(session, owner_id, frames, outs), prediction_errors(frames)[-MOST_POINTS:], _counted(len(judged), sharp),
        dict(Counter(item.outcome for item in taken)), tuple(light[-MOST_POINTS:]), _pleased(item for item in light if item.promise >= PROMISING_FROM), _pleased(item for item in light if item.promise < EVEN_FROM),
        _lasted(session, outs),
    )  # fmt: skip


def _counted(said: int, kept: int) -> Counted:
    return Counted(said, kept, wilson_interval(kept, said))


def _pleased(points: Iterable[LightPoint]) -> Counted:
    stars = [item.stars for item in points]
    return _counted(len(stars), sum(item >= PLEASES_FROM for item in stars))


def _lasted(session: Session, outs: Sequence[TakenOut]) -> tuple[LastedPoint, ...]:
    found = ways(outs)
    query = select(LogFrame.id, LogEntry.id, LogEntry.name).join(LogEntry, LogEntry.id == LogFrame.entry_id)
    entries = {
        frame_id: (entry_id, name)
        for frame_id, entry_id, name in session.execute(query.where(LogFrame.id.in_({item.first_id for item in found})))
    }
    return tuple(
        LastedPoint(entries[item.first_id][0], str(item.what), item.planned_min, item.took_min, entries[item.first_id][1]) for item in found
    )
