"""Sorts waiting files to planned frames: those ticked in the field, else those of the day's cards and plans, else
entries without a plan.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import UTC, datetime, timedelta
from statistics import median
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session, undefer

from ...core.field.recorded import RecordedPlan
from ...core.spans.instants import zone_info
from ...core.taken.frames import Expected, Shown
from ...core.taken.grouping import groups_of
from ...core.taken.matching import LARGEST_OFFSET, Matching, match
from ...store.log import LogEntry, LogFrame
from ...store.recorded_plans import plan_of_entry
from ...store.shots import Shot
from ..platform.errors import Refused
from ..platform.journal import journaled
from ..platform.rows import owned
from .entries import SCOPE, describe, entry_scope, frame_of, get_entry, settle_planned, tick_frames
from .field_events import run as run_of_events
from .files import by_own_clock, forget_removed
from .judging import SETTINGS, judge
from .plans_of_day import PlanOfDay, plan_of, plans_between

# A tick comes a few seconds after the shutter closed.
_TICK_AFTER_S, _TICK_WITHIN_S = 3.0, 8.0
# How far a file's time may be from the session's start: the clock's error and the session's length.
_FARTHEST = LARGEST_OFFSET + timedelta(hours=6)
# Without ticks, only the plan's own times can match.
_PLAN_WITHIN_S = 900.0
_ABOUT_S = 3 * _PLAN_WITHIN_S
# Frames of an unticked plan that must be found among the files: to sort them, and to ask about them.
_FITS, _MAY_FIT = 0.6, 0.3
# Two plans that begin this close together cannot be distinguished by the clock [s].
_ALIKE_S = 900.0
# Frames without a plan that are further apart than this belong to different sessions.
_PAUSE = timedelta(hours=3)
SURE, ASKED, BY_HAND = "sure", "asked", "by hand"


@dataclass
class Sorted:
    """Result of sorting: number of files matched with certainty, to be confirmed, and without a plan."""

    matched: int = 0
    asked: int = 0
    unplanned: int = 0


@dataclass(frozen=True)
class Placed:
    """A file and its planned frame; None between planned frames."""

    row: LogFrame
    key: str | None
    sure: bool
    offset_s: float


def sort_in(session: Session, owner_id: int) -> Sorted:
    """Sort waiting files to sessions, else to plans of their day.

    The rest become entries without a plan, one for each session.
    """
    forget_removed(session, owner_id)
    done = Sorted()
    with journaled(session, owner_id, SCOPE, "sort files into the log"):
        waiting = _waiting(session, owner_id)
        for entry in _entries_around(session, owner_id, [_clock(row) for row in waiting]):
            near = [row for row in waiting if abs(_clock(row) - entry.taken_at_utc) <= _FARTHEST]
            expected = _expected(session, owner_id, entry) if near else []
            _put(session, entry, _fitting(near, expected), done)
            waiting = [row for row in waiting if row.entry_id is None]
        for run in _sessions(waiting):
            for entry, placed in _to_plans(session, owner_id, run):
                _put(session, entry, placed, done)
        _without_plan(session, owner_id, [row for row in waiting if row.entry_id is None], done)
    return done


def _put(session: Session, entry: LogEntry, placed: Sequence[Placed], done: Sorted) -> None:
    for item in placed:
        place(
            session, entry, item.row, item.key, "" if item.key is None else SURE if item.sure else ASKED, item.offset_s
        )
        done.matched += item.key is not None and item.sure
        done.asked += item.key is not None and not item.sure


def _fitting(rows: Sequence[LogFrame], expected: Sequence[Expected]) -> list[Placed]:
    """Return which files are frames of a session, with one clock offset per camera, and those taken in between; empty
    if they do not belong to it.
    """
    if not rows or not expected:
        return []
    cameras = {name: [row for row in rows if row.camera == name] for name in dict.fromkeys(row.camera for row in rows)}
    found = {name: match(_shown(those), expected) for name, those in cameras.items()}
    certain = [name for name in cameras if found[name].sure_offset]
    if len(certain) > 1:
        ordered, shown = _by_corrected_clocks(
            [(row, found[row.camera].offset_s) for row in rows if row.camera in certain]
        )
        placed = _of_matching(ordered, expected, match(shown, expected, 0.0))
    else:
        certain = certain or [max(cameras, key=lambda name: len(found[name].matches))]
        placed = _of_matching([(row, 0.0) for row in cameras[certain[0]]], expected, found[certain[0]])
    # Files of other cameras are matched to the frames that are left.
    others = [row for row in rows if row.camera not in certain]
    taken = {item.key for item in placed}
    return placed + (_fitting(others, [item for item in expected if item.key not in taken]) if placed else [])


def _by_corrected_clocks(rows: Sequence[tuple[LogFrame, float]]) -> tuple[list[tuple[LogFrame, float]], list[Shown]]:
    """Sort files by corrected time, each with its offset [s]; return them also in the form that is matched."""
    ordered = sorted(rows, key=lambda item: _clock(item[0]) + timedelta(seconds=item[1]))
    return ordered, [
        replace(_shown_of(row), clock=_plain(_clock(row) + timedelta(seconds=offset))) for row, offset in ordered
    ]


def _of_matching(rows: Sequence[tuple[LogFrame, float]], expected: Sequence[Expected], found: Matching) -> list[Placed]:
    if not _belongs(found, expected):
        return []
    made = [
        Placed(rows[item.file][0], expected[item.frame].key, item.sure, rows[item.file][1] + found.offset_s)
        for item in found.matches
    ]
    # Files between its frames belong to the session, though not to its plan.
    extra = [Placed(rows[at][0], None, True, rows[at][1] + found.offset_s) for at in found.extra]
    first, last = expected[0].at_utc - timedelta(minutes=30), expected[-1].at_utc + timedelta(minutes=30)
    return made + [item for item in extra if first <= _clock(item.row) + timedelta(seconds=item.offset_s) <= last]


def _belongs(found: Matching, expected: Sequence[Expected]) -> bool:
    """Return whether files belong to a session: at least half of its frames match, and more than by chance."""
    return len(found.matches) >= max(1, len(expected) / 2) and (found.sure_offset or len(found.matches) >= 3)


def _entries_around(session: Session, owner_id: int, clocks: Sequence[datetime]) -> Sequence[LogEntry]:
    """Return the planned entries that files with these times may belong to, earliest first.

    Plans are large, so only those are read.
    """
    if not clocks:
        return ()
    return session.scalars(
        select(LogEntry)
        .where(
            LogEntry.owner_id == owner_id,
            LogEntry.planned.is_not(None),
            LogEntry.taken_at_utc.between(min(clocks) - _FARTHEST, max(clocks) + _FARTHEST),
        )
        .order_by(LogEntry.taken_at_utc)
    ).all()


def _expected(session: Session, owner_id: int, entry: LogEntry) -> list[Expected]:
    """Return the frames of a session without a file, in the order taken: as ticked, else as planned."""
    plan = plan_of_entry(entry)
    filed = set(
        session.scalars(select(LogFrame.planned_key).where(LogFrame.entry_id == entry.id, LogFrame.sha256.is_not(None)))
    )
    if not entry.run_id:
        return [item for item in _as_planned(plan, entry.taken_at_utc) if item.key not in filed]
    run = run_of_events(session, owner_id, entry.run_id)
    made = [
        _frame_at(plan, key, time - timedelta(seconds=frame.shutter_s + _TICK_AFTER_S), ticked=True)
        for key, frame in plan.frames.items()
        if key not in filed and key in run.frames
        for time in run.frames[key].times_utc
    ]
    # In the order of ticks: a long exposure is ticked after it began, but before the next one ends.
    return sorted(made, key=lambda item: item.at_utc + timedelta(seconds=item.shutter_s or 0.0))


def _as_planned(plan: RecordedPlan, start_utc: datetime) -> list[Expected]:
    """Return the frames of an unticked plan at their planned times."""
    made = [
        _frame_at(plan, key, start_utc + timedelta(seconds=frame.start_s), ticked=False)
        for key, frame in plan.frames.items()
    ]
    return sorted(made, key=lambda item: item.at_utc)


def _frame_at(plan: RecordedPlan, key: str, at_utc: datetime, *, ticked: bool) -> Expected:
    frame = plan.frames[key]
    return Expected(
        key=key,
        at_utc=at_utc,
        within_s=_TICK_WITHIN_S if ticked else _PLAN_WITHIN_S,
        f_number=frame.f_number,
        shutter_s=frame.shutter_s,
        iso=frame.iso,
        focal_mm=plan.focal_mm,
        ticked=ticked,
    )


def _to_plans(session: Session, owner_id: int, rows: Sequence[LogFrame]) -> Iterator[tuple[LogEntry, list[Placed]]]:
    """Yield entries for plans of a day that files belong to, best first.

    Plans that fit equally well, or only with another clock offset, are to be confirmed.
    """
    plans = plans_between(session, owner_id, _clock(rows[0]) - _FARTHEST, _clock(rows[-1]) + _FARTHEST)
    left = list(rows)
    while plans and left:
        told = sorted(
            ((*_fit(session, owner_id, left, plan), plan) for plan in plans),
            key=lambda item: (item[0], len(item[1])),
            reverse=True,
        )
        fits, placed, best = told[0]
        if not placed:
            return
        alike = any(
            (other_fits, len(others)) == (fits, len(placed))
            and abs((plan.starts_utc - best.starts_utc).total_seconds()) < _ALIKE_S
            for other_fits, others, plan in told[1:]
        )
        matched = [item.row for item in placed]
        entry = LogEntry(
            owner_id=owner_id,
            name=best.shot.name,
            taken_at_utc=min(_clock(item.row) + timedelta(seconds=item.offset_s) for item in placed),
        )
        describe(entry, best.shot, _location_of(best.shot), best.record)
        session.add(entry)
        session.flush()
        yield entry, [replace(item, sure=item.sure and fits and not alike) for item in placed]
        plans.remove(best)
        left = [row for row in left if row not in matched]


def _fit(session: Session, owner_id: int, rows: Sequence[LogFrame], plan: PlanOfDay) -> tuple[bool, list[Placed]]:
    """Return whether files fit a plan by time, exposure and focal length, and which are its frames; without frames
    where they cannot.
    """
    expected = _as_planned(plan.record, plan.starts_utc)
    by_camera = {row.camera: _usual_offset_s(session, owner_id, row, plan) for row in rows}
    usual = [(row, by_camera[row.camera]) for row in rows]
    for fits, those, offset_s in ((True, usual, 0.0), (False, [(row, 0.0) for row in rows], None)):
        ordered, shown = _by_corrected_clocks(those)
        found = match(shown, expected, offset_s)
        if fits:
            # Settings alone do not make a frame of a plan: the time must be close too.
            about = [
                item
                for item in found.matches
                if abs((_clock_of(shown[item.file]) - expected[item.frame].at_utc).total_seconds()) <= _ABOUT_S
            ]
            found = replace(found, matches=tuple(about))
        share = len(found.matches) / len(expected)
        if (share >= _FITS) if fits else (share >= _MAY_FIT and found.sure_offset):
            return fits, [
                Placed(
                    ordered[item.file][0],
                    expected[item.frame].key,
                    item.sure,
                    ordered[item.file][1] + (0.0 if fits else found.offset_s),
                )
                for item in found.matches
            ]
    return False, []


def _usual_offset_s(session: Session, owner_id: int, row: LogFrame, plan: PlanOfDay) -> float:
    """Return a camera's offset to UTC [s]: from its last files, else from the file, else as if set to the place's
    time.
    """
    if row.camera:
        query = select(LogFrame).where(
            LogFrame.owner_id == owner_id,
            LogFrame.camera == row.camera,
            LogFrame.matched == SURE,
            LogFrame.clock.is_not(None),
        )
        last = session.scalars(query.order_by(LogFrame.taken_at_utc.desc()).limit(9)).all()
        near = [
            (item.taken_at_utc - _clock(item)).total_seconds()
            for item in last
            if abs(item.taken_at_utc - _clock(row)) < timedelta(days=60)
        ]
        if near:
            return median(near)
    if row.utc_offset_min is not None:
        return 0.0
    location = _location_of(plan.shot)
    ahead = plan.starts_utc.astimezone(zone_info(location.zone)).utcoffset() if location is not None else None
    return -ahead.total_seconds() if ahead is not None else 0.0


def _location_of(shot: Shot) -> Any:
    return shot.viewpoint.location if shot.viewpoint is not None else None


def place(
    session: Session, entry: LogEntry, row: LogFrame, key: str | None, how: str, offset_s: float | None = None
) -> None:
    """Assign a file to an entry, as a planned frame or without a plan, and judge it.

    A tick of the same frame gives way to it.
    """
    clock = by_own_clock(row)
    if offset_s is not None and clock is not None:
        row.taken_at_utc = clock + timedelta(seconds=offset_s)
    row.entry_id, row.planned_key, row.matched = entry.id, None, how
    row.filters, row.filter_ids, row.expected_s, row.exposure_error_ev, row.over_limit_stops = [], [], None, None, None
    for name in (row.cells or {}).get("unsaid", ()):
        # Values filled in from a plan are removed with it.
        if name in SETTINGS:
            setattr(row, name, None)
    plan = plan_of_entry(entry)
    if key is None or key not in plan.frames:
        return
    settle_planned(row, plan, key)
    judge(row, plan, key)
    # Deleted whole, so that the journal stores it.
    query = (
        select(LogFrame)
        .where(LogFrame.entry_id == entry.id, LogFrame.planned_key == key, LogFrame.sha256.is_(None))
        .options(undefer("*"))
    )
    ticks = session.scalars(query).all()
    for tick in ticks:
        session.delete(tick)


def place_by_hand(
    session: Session, owner_id: int, frame_id: int, entry_id: int | None, key: str | None, after_id: int | None = None
) -> LogFrame:
    """Set which planned frame a file is; key None: of no plan.

    entry_id None: of its current entry. after_id: the frame after which a file without a time was taken. Raises
    NotFound, Refused.
    """
    row = frame_of(session, owner_id, frame_id)
    wanted = entry_id if entry_id is not None else row.entry_id
    if wanted is None:
        raise Refused("entry_id", "Say to which entry the file belongs.")
    entry = get_entry(session, owner_id, wanted)
    if key is not None and key not in plan_of_entry(entry).frames:
        raise Refused("planned_key", "This entry's plan has no such frame.")
    if row.sha256 is None:
        raise Refused("frame_id", "This frame was ticked; there is no file to be placed.")
    before = frame_of(session, owner_id, after_id) if after_id is not None else None
    if before is not None and before.entry_id != entry.id:
        raise Refused("after_frame_id", "Choose a frame of the same entry.")
    with journaled(session, owner_id, entry_scope(entry.id), f"place {row.file_name}"):
        if before is not None:
            row.taken_at_utc = before.taken_at_utc + timedelta(seconds=1)
        elif row.clock is None and row.entry_id is None:
            row.taken_at_utc = entry.taken_at_utc
        place(session, entry, row, key, BY_HAND)
        session.flush()
        if entry.run_id is not None:
            # The tick it stood for becomes a frame again.
            tick_frames(session, owner_id, entry)
    return row


def say_shot(session: Session, owner_id: int, entry_id: int, shot_id: int) -> LogEntry:
    """Set the shot of an entry: its files are judged by the plan of that shot nearest in time.

    Raises NotFound, Refused.
    """
    entry = get_entry(session, owner_id, entry_id)
    if entry.run_id is not None:
        raise Refused("shot_id", "This session was ticked in the field: its shot is known.")
    shot = owned(session, owner_id, Shot, shot_id)
    plan = plan_of(session, owner_id, shot, entry.taken_at_utc)
    if plan is None:
        raise Refused("shot_id", "This shot has no frames planned: there is nothing to hold the files against.")
    rows = [row for row in _files_of(session, entry) if row.clock is not None]
    with journaled(session, owner_id, entry_scope(entry.id), f"say that this is {shot.name}"):
        describe(entry, shot, _location_of(shot), plan.record)
        if entry.name.startswith("Unplanned, "):
            entry.name = shot.name
        for row in rows:
            place(session, entry, row, None, "")
        expected = _as_planned(plan.record, plan.starts_utc)
        found = match(_shown(rows), expected) if rows else None
        for item in found.matches if found is not None else ():
            place(session, entry, rows[item.file], expected[item.frame].key, SURE if item.sure else ASKED)
    return entry


def _sessions(rows: Sequence[LogFrame]) -> list[list[LogFrame]]:
    """Return files in sessions without a long pause."""
    runs: list[list[LogFrame]] = []
    for row in rows:
        if runs and _clock(row) - _clock(runs[-1][-1]) <= _PAUSE:
            runs[-1].append(row)
        else:
            runs.append([row])
    return runs


def _without_plan(session: Session, owner_id: int, rows: Sequence[LogFrame], done: Sorted) -> None:
    """Create entries of files without a plan, one for each session, with frames in the groups they seem to form."""
    for run in _sessions(rows):
        name = f"Unplanned, {len(run)} {'frame' if len(run) == 1 else 'frames'}"
        entry = LogEntry(owner_id=owner_id, name=name, taken_at_utc=run[0].taken_at_utc)
        session.add(entry)
        session.flush()
        cameras = ([row for row in run if row.camera == name] for name in dict.fromkeys(row.camera for row in run))
        groups = [(group.kind, [own[at] for at in group.files]) for own in cameras for group in groups_of(_shown(own))]
        for number, (kind, rows_of_group) in enumerate(groups):
            for row in rows_of_group:
                row.entry_id, row.group_kind, row.group_number = entry.id, str(kind), number
    done.unplanned += len(rows)


def _waiting(session: Session, owner_id: int) -> list[LogFrame]:
    """Return waiting files with a time, in order."""
    query = select(LogFrame).where(
        LogFrame.owner_id == owner_id,
        LogFrame.entry_id.is_(None),
        LogFrame.removed_at_utc.is_(None),
        LogFrame.clock.is_not(None),
    )
    return sorted(session.scalars(query.options(undefer(LogFrame.cells))), key=lambda row: (_clock(row), row.id))


def _files_of(session: Session, entry: LogEntry) -> list[LogFrame]:
    query = (
        select(LogFrame)
        .where(LogFrame.entry_id == entry.id, LogFrame.sha256.is_not(None))
        .options(undefer(LogFrame.cells))
    )
    return sorted(session.scalars(query), key=lambda row: (row.taken_at_utc, row.id))


def _shown(rows: Sequence[LogFrame]) -> list[Shown]:
    return [_shown_of(row) for row in rows]


def _shown_of(row: LogFrame) -> Shown:
    said = {
        name: getattr(row, name)
        for name in ("f_number", "shutter_s", "iso", "focal_mm")
        if name not in (row.cells or {}).get("unsaid", ())
    }
    return Shown(row.file_name, _plain(_clock(row)), **said)


def _clock(row: LogFrame) -> datetime:
    clock = by_own_clock(row)
    assert clock is not None
    return clock


def _clock_of(shown: Shown) -> datetime:
    return shown.clock.replace(tzinfo=UTC)


def _plain(moment: datetime) -> datetime:
    return moment.astimezone(UTC).replace(tzinfo=None)
