"""A field session, folded from its events: frames taken and skipped, and notes."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import datetime

from .events import EventKind, FieldEvent, standing


@dataclass(frozen=True)
class FrameRun:
    """What became of one planned frame.

    taken: how often, the times in order. shutter_s: as it really was the last time, where that was noted.
    """

    key: str
    taken: int = 0
    times_utc: tuple[datetime, ...] = ()
    skipped: bool = False
    notes: tuple[str, ...] = ()
    shutter_s: float | None = None

    @property
    def over(self) -> bool:
        """Whether nothing is left to do for it."""
        return self.taken > 0 or self.skipped


@dataclass(frozen=True)
class Run:
    """late_min: all delay that was noted.

    wind_mps: as it was last noted. set_out_utc: on foot; arrived_utc: there; ready_utc: set up; each as it was first
    noted. battery: what it showed [%], and when.
    """

    run_id: str
    frames: dict[str, FrameRun]
    late_min: float
    wind_mps: float | None
    notes: tuple[str, ...]
    ratings: dict[str, float]
    set_out_utc: datetime | None = None
    arrived_utc: datetime | None = None
    ready_utc: datetime | None = None
    battery: tuple[tuple[datetime, float], ...] = ()

    def next_of(self, keys: Sequence[str]) -> str | None:
        """Return the first planned frame that is not over; None when all are."""
        return next((key for key in keys if key not in self.frames or not self.frames[key].over), None)


def run_of(run_id: str, events: Iterable[FieldEvent]) -> Run:
    """Return a field session from its events, in any order, duplicates included; events of other sessions are
    ignored.
    """
    told = [event for event in standing(events) if event.run_id == run_id]
    frames: dict[str, FrameRun] = {}
    for event in told:
        if event.frame is not None:
            frames[event.frame] = _next(frames.get(event.frame, FrameRun(event.frame)), event)
    wind = [event.value for event in told if event.kind == EventKind.WIND]
    return Run(
        run_id=run_id,
        frames=frames,
        late_min=sum(event.value or 0.0 for event in told if event.kind == EventKind.LATE),
        wind_mps=wind[-1] if wind else None,
        notes=tuple(event.text for event in told if event.kind == EventKind.NOTE and event.frame is None),
        ratings={
            event.text: event.value for event in told if event.kind == EventKind.RATING and event.value is not None
        },
        set_out_utc=_first(told, EventKind.SET_OUT),
        arrived_utc=_first(told, EventKind.ARRIVED),
        ready_utc=_first(told, EventKind.READY),
        battery=tuple(
            (event.at_utc, event.value)
            for event in told
            if event.kind == EventKind.BATTERY and event.value is not None and 0 <= event.value <= 100
        ),
    )


def _first(events: Iterable[FieldEvent], kind: EventKind) -> datetime | None:
    return next((event.at_utc for event in events if event.kind == kind), None)


def _next(frame: FrameRun, event: FieldEvent) -> FrameRun:
    if event.kind == EventKind.TAKEN:
        times = (*frame.times_utc, event.at_utc)
        return replace(
            frame,
            taken=frame.taken + event.count,
            times_utc=times,
            skipped=False,
            shutter_s=event.shutter_s or frame.shutter_s,
        )
    if event.kind == EventKind.SKIPPED:
        return replace(frame, skipped=True)
    if event.kind == EventKind.AGAIN:
        # What was taken stays in the log of events; the frame itself is open once more.
        return replace(frame, taken=0, times_utc=(), skipped=False, shutter_s=None)
    if event.kind == EventKind.NOTE:
        return replace(frame, notes=(*frame.notes, event.text))
    return frame
