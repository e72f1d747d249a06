"""What the log comes to in figures: when things were taken, which looks pleased, what held still, what filters cost, and how good the predictions were."""

from __future__ import annotations

import math
from bisect import insort
from collections import Counter, defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import select
from sqlalchemy.orm import Session

from ..core.learning.lessons import Lesson, TakenFrame
from ..core.learning.rates import Interval, prior_hit_rate, wilson_interval, with_prior
from ..core.spans.instants import zone_info
from ..store.log import LogEntry
from .lessons import all_lessons, taken_frames

# Frames by hand in classes of so many stops beside the rule.
_CLASS_STOPS = 1.0
# Drawings show so many of the newest points: more lie on top of each other.
MOST_POINTS = 2000
# So many of the newest predictions are looked at together.
WINDOW = 20


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
class HeldClass:
    """Frames by hand whose times lie around so many stops over the rule. expected: by practice alone; reckoned: with what was seen."""

    over_stops: float
    sharp: int
    tries: int
    interval: Interval
    expected: float
    reckoned: float


@dataclass(frozen=True)
class ErrorPoint:
    """A frame whose light was foretold: by how much it came out brighter [EV]. number: in order of time; middle: of the absolute errors of the newest up to it."""

    frame_id: int
    number: int
    at_utc: datetime
    error_ev: float
    predicted: bool
    middle: float


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


def held_classes(frames: Sequence[TakenFrame]) -> tuple[HeldClass, ...]:
    """Return the hit rate by hand, class by class."""
    classes: dict[int, list[bool]] = defaultdict(list)
    for frame in frames:
        if frame.by_hand and frame.over_limit is not None and frame.sharp is not None:
            classes[round(frame.over_limit / _CLASS_STOPS)].append(frame.sharp)
    found = []
    for at, answers in sorted(classes.items()):
        over, hits = at * _CLASS_STOPS, sum(answers)
        expected = prior_hit_rate(2.0**over, 1.0)
        found.append(
            HeldClass(over, hits, len(answers), wilson_interval(hits, len(answers)), expected, with_prior(hits, len(answers), expected))
        )
    return tuple(found)


def prediction_errors(frames: Sequence[TakenFrame]) -> tuple[ErrorPoint, ...]:
    """Return by how much the light of frames differed from what was foretold, in order of time, with the middle of the newest."""
    told = [frame for frame in frames if frame.error_ev is not None and math.isfinite(frame.error_ev)]
    sizes = [abs(frame.error_ev or 0.0) for frame in told]
    newest: list[float] = []
    found = []
    for number, (frame, size) in enumerate(zip(told, sizes, strict=True)):
        insort(newest, size)
        if number >= WINDOW:
            newest.remove(sizes[number - WINDOW])
        found.append(ErrorPoint(frame.id, number + 1, frame.taken_at_utc, frame.error_ev or 0.0, frame.predicted, newest[len(newest) // 2]))
    return tuple(found)
