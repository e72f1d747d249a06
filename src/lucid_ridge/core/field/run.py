"""A time out, folded from its events: what was taken, skipped, and noted."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime

from .events import EventKind, FieldEvent, standing


@dataclass(frozen=True)
class FrameRun:
    """What became of one planned frame. taken: how often, the times in order."""

    key: str
    taken: int = 0
    times_utc: tuple[datetime, ...] = ()
    skipped: bool = False
    notes: tuple[str, ...] = ()

    @property
    def over(self) -> bool:
        """Whether nothing is left to do for it."""
        return self.taken > 0 or self.skipped


@dataclass(frozen=True)
class Run:
    """began_utc, ended_utc: None while it has not. readings: of the light, in order. differs: what was found otherwise, in order."""

    run_id: str
    frames: dict[str, FrameRun]
    began_utc: datetime | None
    ended_utc: datetime | None
    late_min: float
    readings: tuple[FieldEvent, ...]
    differs: tuple[FieldEvent, ...]
    notes: tuple[str, ...]
    checked: frozenset[str]
    ratings: dict[str, float]

    def next_of(self, keys: Sequence[str]) -> str | None:
        """Return the first planned frame that is not over; None when all are."""
        return next((key for key in keys if key not in self.frames or not self.frames[key].over), None)


_DIFFERS = (EventKind.FILTER_MISSING, EventKind.WIND, EventKind.STANDS_AT, EventKind.LATE)


def run_of(run_id: str, events: Iterable[FieldEvent]) -> Run:
    """Return a time out from events in any order, sent once or often; those of others are left out."""
    told = [event for event in standing(events) if event.run_id == run_id]
    frames: dict[str, FrameRun] = {}
    for event in told:
        if event.frame is not None:
            frames[event.frame] = _next(frames.get(event.frame, FrameRun(event.frame)), event)
    began = [event.at_utc for event in told if event.kind == EventKind.BEGAN]
    ended = [event.at_utc for event in told if event.kind == EventKind.ENDED]
    return Run(
        run_id, frames, min(began) if began else None, max(ended) if ended else None,
        sum(event.value or 0.0 for event in told if event.kind == EventKind.LATE),
        tuple(event for event in told if event.kind == EventKind.READING),
        tuple(event for event in told if event.kind in _DIFFERS),
        tuple(event.text for event in told if event.kind == EventKind.NOTE and event.frame is None),
        frozenset(event.text for event in told if event.kind in (EventKind.CHECKED, EventKind.PACKED)),
        {event.text: event.value for event in told if event.kind == EventKind.RATING and event.value is not None},
    )  # fmt: skip


def _next(frame: FrameRun, event: FieldEvent) -> FrameRun:
    if event.kind == EventKind.TAKEN:
        return FrameRun(frame.key, frame.taken + event.count, (*frame.times_utc, event.at_utc), False, frame.notes)
    if event.kind == EventKind.SKIPPED:
        return FrameRun(frame.key, frame.taken, frame.times_utc, True, frame.notes)
    if event.kind == EventKind.AGAIN:
        # What was taken stays in the log of events; the frame itself is open once more.
        return FrameRun(frame.key, 0, (), False, frame.notes)
    if event.kind == EventKind.NOTE:
        return FrameRun(frame.key, frame.taken, frame.times_utc, frame.skipped, (*frame.notes, event.text))
    return frame
