"""Field sessions as they were ticked, for the lessons they hold beside their pictures."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from datetime import datetime

from sqlalchemy import select
from sqlalchemy.orm import Session

from ...core.facts.log import Outcome
from ...core.field.events import EventKind, FieldEvent, standing
from ...core.field.recorded import RecordedFrame
from ...core.field.run import Run, run_of
from ...core.learning.times import FieldSession, TickedFrame
from ...store.log import FieldEventRow, LogEntry, LogFrame
from ...store.recorded_plans import plan_of_entry
from .field_events import PLAIN

# Only the newest sessions count: a pace changes over the years, and plans are large.
NEWEST = 300


def field_sessions(session: Session, owner_id: int) -> list[FieldSession]:
    """Return the newest sessions that were planned and ticked, earliest first."""
    query = (
        select(LogEntry)
        .where(
            LogEntry.owner_id == owner_id,
            LogEntry.archived.is_(False),
            LogEntry.run_id.is_not(None),
            LogEntry.planned.is_not(None),
        )
        .order_by(LogEntry.taken_at_utc.desc())
        .limit(NEWEST)
    )
    entries = list(session.scalars(query))[::-1]
    events = _events(session, owner_id, [row.run_id for row in entries if row.run_id])
    frames = _frame_ids(session, [row.id for row in entries])
    return [
        _taken_out(row, events[row.run_id or ""], frames[row.id])
        for row in entries
        if frames[row.id] and events[row.run_id or ""]
    ]


def _events(session: Session, owner_id: int, run_ids: Sequence[str]) -> dict[str, list[FieldEvent]]:
    columns = [getattr(FieldEventRow, name) for name in PLAIN]
    query = select(*columns).where(FieldEventRow.owner_id == owner_id, FieldEventRow.run_id.in_(run_ids))
    found: dict[str, list[FieldEvent]] = defaultdict(list)
    for row in session.execute(query):
        found[row.run_id].append(FieldEvent(*row))
    return found


def _frame_ids(session: Session, entry_ids: Sequence[int]) -> dict[int, dict[str | None, int]]:
    """Return for each entry the frame of each planned frame, by its key; under None its first frame."""
    query = (
        select(LogFrame.entry_id, LogFrame.planned_key, LogFrame.id)
        .where(LogFrame.entry_id.in_(entry_ids))
        .order_by(LogFrame.taken_at_utc, LogFrame.id)
    )
    found: dict[int, dict[str | None, int]] = defaultdict(dict)
    for entry_id, key, frame_id in session.execute(query):
        if entry_id is None:
            continue
        found[entry_id].setdefault(None, frame_id)
        if key is not None:
            found[entry_id][key] = frame_id
    return found


def _taken_out(row: LogEntry, events: Sequence[FieldEvent], ids: Mapping[str | None, int]) -> FieldSession:
    plan = plan_of_entry(row)
    told = standing(events)
    run = run_of(row.run_id or "", told)
    ticks: dict[str, list[datetime]] = defaultdict(list)
    for event in told:
        if event.kind == EventKind.TAKEN and event.frame is not None:
            ticks[event.frame].append(event.at_utc)
    frames = [(key, plan.frames[key]) for key in plan.numbers]
    # Frames without a rating are left out of the success rate.
    series = _series(frames) if plan.series and row.outcome in (Outcome.KEEP, Outcome.DROP) else []
    return FieldSession(
        entry_id=row.id,
        first_id=ids[None],
        at_utc=row.taken_at_utc,
        frames=_ticked(frames, ticks, ids),
        set_out_utc=run.set_out_utc,
        arrived_utc=run.arrived_utc,
        ready_utc=run.ready_utc,
        walk_min=plan.walk_min,
        set_up_min=plan.set_up_min,
        filter_change_s=plan.filter_change_s,
        tries=max((len(ticks[key]) for key in series), default=0) or None,
        whole=row.outcome == Outcome.KEEP,
        hit_rate=plan.hit_rate,
        battery=tuple(value for _, value in run.battery),
        battery_frames=plan.battery_frames,
        counted=plan.battery_counted,
        taken_share=_share_between(run, len(frames), ticks),
        temperature_c=row.temperature_c if row.temperature_c is not None else plan.temperature_c,
    )


def _ticked(
    frames: Sequence[tuple[str, RecordedFrame]],
    ticks: Mapping[str, Sequence[datetime]],
    ids: Mapping[str | None, int],
) -> tuple[TickedFrame | None, ...]:
    """Return the planned frames in order; None for those not ticked exactly once."""
    found: list[TickedFrame | None] = []
    on_lens: set[int] | None = None
    for key, frame in frames:
        now = set(frame.filter_ids)
        times = ticks.get(key, ())
        if len(times) == 1 and key in ids and frame.change_s is not None:
            changes = len(on_lens ^ now) if on_lens is not None else 0
            found.append(
                TickedFrame(ids[key], frame.start_s, frame.shutter_s, frame.change_s, changes, frame.waits, times[0])
            )
        else:
            found.append(None)
        on_lens = now
    return tuple(found)


def _series(frames: Sequence[tuple[str, RecordedFrame]]) -> list[str]:
    """Return the keys of the largest group with several focus positions in a row; empty without one."""
    groups: dict[str, dict[str, str]] = defaultdict(dict)
    for key, _ in frames:
        group, place = key.split(".")[:2]
        groups[group].setdefault(place, key)
    largest = max(groups.values(), key=len, default={})
    return list(largest.values()) if len(largest) > 1 else []


def _share_between(run: Run, planned: int, ticks: Mapping[str, Sequence[datetime]]) -> float:
    """Return the share of the planned frames taken between the first and the last battery reading; a repeated frame
    counts again.
    """
    if len(run.battery) < 2 or not planned:
        return 0.0
    first, last = run.battery[0][0], run.battery[-1][0]
    return sum(first <= moment <= last for times in ticks.values() for moment in times) / planned
