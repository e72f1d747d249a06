"""Files of a camera in the log: read in, sorted to what was planned, judged. Originals are read and let go; facts and a small preview are kept."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, fields
from datetime import UTC, datetime, timedelta
from typing import Any

from sqlalchemy import func, select
from sqlalchemy.orm import Session, undefer

from ..core.facts.log import Outcome
from ..core.field.recorded import Place
from ..core.taken.cells import Cells, Seen, look_at
from ..core.taken.frames import Expected, Shown
from ..core.taken.grouping import GroupKind, groups_of
from ..core.taken.judging import SHARP_PX, Finding, JudgedFrame, error_ev, findings, means_at, moved_at
from ..core.taken.matching import LARGEST_OFFSET, Matching, match
from ..core.taken.pixels import BlurKind
from ..formats.camera_files import CameraFile, read_camera_file
from ..formats.taken_sheets import TakenFile
from ..store.log import LogEntry, LogFrame
from .errors import Refused
from .field import run as run_of_events
from .journal import journaled
from .log_entries import SCOPE, frame_of, get_entry, log_run, numbers_of, settle_planned

# A tick comes some seconds after the shutter has closed, more or less.
_TICK_AFTER_S, _TICK_WITHIN_S = 3.0, 8.0
# How far a file's clock may lie from when its frames began: what a clock is off, and how long they last.
_FARTHEST = LARGEST_OFFSET + timedelta(hours=6)
# Where nobody ticked the plan's own times count, if at all.
_PLAN_WITHIN_S = 900.0
# Frames without a plan that follow each other with longer pauses are another time out [h].
_PAUSE = timedelta(hours=3)
# A drift that was foretold holds for so long [min].
_SAME_LIGHT_MIN = 30.0
SURE, ASKED, BY_HAND = "sure", "asked", "by hand"
_CELL_FIGURES = ("mean", "clipped", "sigma_px", "moved_deg")


@dataclass(frozen=True)
class ReadIn:
    """A file that was read in. known: it was there before."""

    frame: LogFrame
    known: bool


@dataclass(frozen=True)
class Sorted:
    """What sorting came to: frames matched for sure, those to be asked about, those of no plan, and the clock's offset [s] by entry."""

    matched: int
    asked: int
    unplanned: int
    offsets_s: dict[int, float]


def known_hashes(session: Session, owner_id: int, hashes: Sequence[str]) -> list[str]:
    """Return which of these files the log has, so that they need not be sent again."""
    return list(session.scalars(select(LogFrame.sha256).where(LogFrame.owner_id == owner_id, LogFrame.sha256.in_(hashes))))


@dataclass(frozen=True)
class Examined:
    """A file, and what its pixels show."""

    file: CameraFile
    seen: Seen


def examine(name: str, content: bytes) -> Examined:
    """Read a file and look at it. Raises FormatError for what is no picture of a camera."""
    file = read_camera_file(name, content)
    return Examined(file, look_at(file.picture))


def read_in(session: Session, owner_id: int, looked: Examined) -> ReadIn:
    """Keep what a file tells; it waits to be sorted. The same file twice counts once."""
    file, seen = looked.file, looked.seen
    query = select(LogFrame).where(LogFrame.owner_id == owner_id, LogFrame.sha256 == file.sha256)
    have = session.scalars(query).first()
    if have is not None:
        return ReadIn(have, True)
    row = LogFrame(
        owner_id=owner_id, entry_id=None, file_name=file.name[:200], sha256=file.sha256, clock=file.clock,
        taken_at_utc=file.clock.replace(tzinfo=UTC) if file.clock is not None else datetime.now(UTC),
        f_number=file.f_number, shutter_s=file.shutter_s, iso=file.iso, focal_mm=file.focal_mm, pixels_wide=file.pixels_wide, pixels_high=file.pixels_high,
        linear=file.is_linear, mean_linear=seen.mean, clipped_red=seen.clipped.red, clipped_green=seen.clipped.green, clipped_blue=seen.clipped.blue,
        blocked=seen.clipped.blocked, blur_px=seen.blur.sigma_px, blur_kind=str(seen.blur.kind), sharp=_sharp(seen.blur.kind),
        cells=_kept_cells(seen.cells), preview=file.preview,
    )  # fmt: skip
    session.add(row)
    session.flush()
    return ReadIn(row, False)


def _sharp(kind: BlurKind) -> bool | None:
    return None if kind == BlurKind.UNKNOWN else kind == BlurKind.SHARP


def waiting_count(session: Session, owner_id: int) -> int:
    """Return how many files wait to be sorted."""
    query = select(func.count()).select_from(LogFrame).where(LogFrame.owner_id == owner_id, LogFrame.entry_id.is_(None))
    return session.scalar(query) or 0


def sort_in(session: Session, owner_id: int) -> Sorted:
    """Sort files that wait to the times out whose frames they are; what belongs to none becomes an entry without a plan, one for each time out."""
    waiting = _waiting(session, owner_id)
    matched = asked = 0
    offsets: dict[int, float] = {}
    entries = _entries_around(session, owner_id, [_as_utc(row.clock) for row in waiting if row.clock is not None])
    for entry in entries:
        near = [row for row in waiting if row.clock is not None and abs(_as_utc(row.clock) - entry.taken_at_utc) <= _FARTHEST]
        expected = _expected(session, owner_id, entry) if near else []
        if not expected:
            continue
        shown = [_shown(row) for row in near]
        found = match(shown, expected)
        if not _belongs(found, expected):
            continue
        offsets[entry.id] = found.offset_s
        for item in found.matches:
            row = near[item.file]
            place(session, entry, row, expected[item.frame].key, SURE if item.sure else ASKED, found.offset_s)
            matched, asked = matched + item.sure, asked + (not item.sure)
        # What lies between its frames was taken then and there, though nobody planned it.
        for at in found.extra:
            if _within(near[at], expected, found.offset_s):
                place(session, entry, near[at], None, "", found.offset_s)
        waiting = [row for row in waiting if row.entry_id is None]
    unplanned = _without_plan(session, owner_id, waiting)
    session.flush()
    return Sorted(matched, asked, unplanned, offsets)


def _entries_around(session: Session, owner_id: int, clocks: Sequence[datetime]) -> Sequence[LogEntry]:
    """Return the planned entries to which files with such clocks may belong, the earliest first: what is planned is large, and a log holds years."""
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


def place(session: Session, entry: LogEntry, row: LogFrame, key: str | None, how: str, offset_s: float | None = None) -> None:
    """Put a file into an entry, as a planned frame or as none, and judge it; a tick for the same frame gives way to it."""
    if offset_s is not None and row.clock is not None:
        row.taken_at_utc = _as_utc(row.clock) + timedelta(seconds=offset_s)
    row.entry_id, row.planned_key, row.matched = entry.id, None, how
    row.filters, row.filter_ids, row.expected_s, row.exposure_error_ev, row.over_limit_stops = [], [], None, None, None
    record = entry.planned or {}
    if key is None or key not in record.get("frames", {}):
        return
    settle_planned(row, entry, key)
    _judge(row, record, key)
    ticks = session.scalars(
        select(LogFrame).where(LogFrame.entry_id == entry.id, LogFrame.planned_key == key, LogFrame.sha256.is_(None))
    ).all()
    for tick in ticks:
        session.delete(tick)


def place_by_hand(session: Session, owner_id: int, frame_id: int, entry_id: int | None, key: str | None) -> LogFrame:
    """Say which planned frame a file is; none of the plan's with key None. entry_id None: of the entry where it is now. Raises NotFound, Refused."""
    row = frame_of(session, owner_id, frame_id)
    entry = (
        get_entry(session, owner_id, entry_id)
        if entry_id is not None
        else get_entry(session, owner_id, row.entry_id)
        if row.entry_id is not None
        else None
    )
    if entry is None:
        raise Refused("entry_id", "Say to which entry the file belongs.")
    if key is not None and key not in (entry.planned or {}).get("frames", {}):
        raise Refused("planned_key", "This entry's plan has no such frame.")
    if row.sha256 is None:
        raise Refused("frame_id", "This frame was ticked; there is no file to be placed.")
    place(session, entry, row, key, BY_HAND)
    session.flush()
    if entry.run_id is not None:
        # Where it stood before, what was ticked stands again.
        log_run(session, owner_id, entry.run_id)
    return row


def entry_findings(session: Session, entry: LogEntry) -> tuple[Finding, ...]:
    """Return what is to be said of an entry's files; nothing while there are none."""
    rows = session.scalars(
        select(LogFrame).where(LogFrame.entry_id == entry.id, LogFrame.sha256.is_not(None)).options(undefer(LogFrame.cells))
    ).all()
    record = entry.planned or {}
    planned = record.get("frames", {})
    if not rows:
        return ()
    numbers = numbers_of(entry)
    judged = [_judged(row, planned, numbers) for row in sorted(rows, key=lambda row: numbers.get(row.planned_key or "", 10_000))]
    have = {row.planned_key for row in rows}
    # A frame that was skipped in the field is not missing.
    skipped = (
        {key for key, frame in run_of_events(session, entry.owner_id, entry.run_id).frames.items() if frame.skipped}
        if entry.run_id
        else set()
    )
    lacking = [number for key, number in numbers.items() if key not in have and key not in skipped]
    missing = lacking if any(key in have for key in planned) else []
    return findings(_spots(record), [item for item in judged if item is not None], missing)


def _spots(record: Mapping[str, Any]) -> list[Place]:
    """Return where a plan looks for sharpness."""
    return [Place(item["name"], item["x"], item["y"], item["distance_m"], item["role"], item["moves"]) for item in record.get("places", [])]


def best_of(rows: Sequence[LogFrame]) -> LogFrame | None:
    """Return the frame of a group that is least blurred, of those that were not dropped; None where nobody can tell."""
    told = [row for row in rows if row.curation != Outcome.DROP and row.blur_px is not None and row.blur_kind != BlurKind.MOTION]
    return min(told, key=lambda row: row.blur_px or math.inf, default=None)


def keep_the_best(session: Session, entry: LogEntry) -> int:
    """Keep the sharpest frame of every group that is the same picture taken again and again, and drop the others that nobody has decided on. Returns how many were kept."""
    groups: dict[tuple[str, int], list[LogFrame]] = {}
    for row in entry.frames:
        if row.sha256 is not None:
            # A burst that nobody planned, or one planned frame taken more than once.
            name = (
                row.planned_key.rsplit(".", 1)[0] if row.planned_key else row.group_kind if row.group_kind == str(GroupKind.BURST) else ""
            )
            groups.setdefault((name, row.group_number if not row.planned_key else -1), []).append(row)
    kept = 0
    for (name, _), rows in groups.items():
        best = best_of(rows) if name and len(rows) > 1 else None
        if best is None:
            continue
        kept += 1
        for row in rows:
            if row.curation == Outcome.OPEN:
                row.curation = Outcome.KEEP if row is best else Outcome.DROP
    session.flush()
    return kept


def taken_sheet(entry: LogEntry) -> tuple[str | None, list[TakenFile]]:
    """Return how the picture is put together, and the files of an entry with what each is in it."""
    record = entry.planned or {}
    numbers = numbers_of(entry)
    groups = {key: group for group in record.get("groups", []) for key in group["frames"]}
    files = []
    for row in entry.frames:
        if row.sha256 is None:
            continue
        group = groups.get(row.planned_key or "")
        steps = tuple(
            f"{how} {1 + next(at for at, keys in enumerate(sets) if row.planned_key in keys)}"
            for how, sets in (group["steps"] if group else [])
            if any(row.planned_key in keys for keys in sets)
        )
        files.append(
            TakenFile(
                row.file_name, group["name"] if group else row.group_kind, group["role"] if group else "", str(numbers.get(row.planned_key or "", "")), row.shutter_s,
                row.f_number, row.iso, tuple(row.filters), steps, row.curation, row.stars,
            )
        )  # fmt: skip
    return record.get("together"), files


def _judged(row: LogFrame, planned: Mapping[str, Any], numbers: Mapping[str, int]) -> JudgedFrame | None:
    if row.cells is None:
        return None
    key = row.planned_key or ""
    shares = {"red": row.clipped_red or 0.0, "green": row.clipped_green or 0.0, "blue": row.clipped_blue or 0.0}
    worst = max(shares, key=lambda name: shares[name])
    return JudgedFrame(
        numbers.get(key, 0), int(key.split(".")[0]) if key in planned else 0, planned[key]["focus_m"] if key in planned else math.inf, _cells(row.cells),
        shares[worst], worst, row.exposure_error_ev, row.blur_kind == BlurKind.MOTION, row.sharp,
    )  # fmt: skip


def _judge(row: LogFrame, record: Mapping[str, Any], key: str) -> None:
    """Let a frame have by how much its light differs from what was foretold, and how far beyond the rule a hand held it."""
    said = record["frames"][key]
    spots = _spots(record)
    cells = _cells(row.cells) if row.cells is not None else None
    row.spot_means = list(means_at(cells, spots)) if cells is not None and spots else [row.mean_linear if not row.clipped_green else None]
    settings = (said["f_number"], said["shutter_s"], said["iso"])
    row.exposure_error_ev = error_ev(row.spot_means, said["expected"] or (), settings, (row.f_number, row.shutter_s, row.iso))
    late = _later_min(row, record, said["start_s"])
    if row.exposure_error_ev is not None and late is not None:
        # By the time it was taken the light had changed: that was not foretold wrongly.
        row.exposure_error_ev -= record["drift_stops_per_min"] * late
    if cells is not None and spots and row.blur_kind != BlurKind.UNKNOWN:
        # Water and leaves move by themselves: only what stands tells of the camera.
        moved = moved_at(cells, spots)
        sigmas = [
            cells.sigma_px[at]
            for spot in spots
            if not spot.moves
            for at in cells.around(spot.x, spot.y)
            if math.isfinite(cells.sigma_px[at])
        ]
        row.sharp = bool(sigmas) and not moved and min(sigmas) <= SHARP_PX if sigmas else None
        row.blur_kind = str(BlurKind.MOTION if moved else BlurKind.SHARP if row.sharp else BlurKind.DEFOCUS)
    limit = record.get("hand_limit_s")
    row.over_limit_stops = math.log2(row.shutter_s / limit) if limit and row.shutter_s else None


def _later_min(row: LogFrame, record: Mapping[str, Any], start_s: float) -> float | None:
    """Return by how much later than planned a frame was taken [min]; None where nobody knows, or it was another day."""
    if not record.get("start_utc"):
        return None
    minutes = (row.taken_at_utc - datetime.fromisoformat(record["start_utc"])).total_seconds() / 60 - start_s / 60
    return minutes if abs(minutes) <= _SAME_LIGHT_MIN else None


def _expected(session: Session, owner_id: int, entry: LogEntry) -> list[Expected]:
    """Return the frames of a time out that have no file yet, in the order in which they were taken: as they were ticked, else as they were planned."""
    record = entry.planned or {}
    planned: Mapping[str, Any] = record.get("frames", {})
    filed = set(session.scalars(select(LogFrame.planned_key).where(LogFrame.entry_id == entry.id, LogFrame.sha256.is_not(None))))
    run = run_of_events(session, owner_id, entry.run_id) if entry.run_id else None
    made = []
    for key, said in planned.items():
        if key in filed:
            continue
        ticked = run.frames[key].times_utc if run is not None and key in run.frames else ()
        settings = {"f_number": said["f_number"], "shutter_s": said["shutter_s"], "iso": said["iso"], "focal_mm": record.get("focal_mm")}
        made += [
            Expected(key, time - timedelta(seconds=said["shutter_s"] + _TICK_AFTER_S), _TICK_WITHIN_S, **settings, ticked=True)
            for time in ticked
        ]
        if run is None:
            made.append(Expected(key, entry.taken_at_utc + timedelta(seconds=said["start_s"]), _PLAN_WITHIN_S, **settings))
    # In the order of the ticks: a long exposure is ticked after it began, but not after the one that followed.
    return sorted(made, key=lambda item: item.at_utc + timedelta(seconds=item.shutter_s or 0.0))


def _belongs(found: Matching, expected: Sequence[Expected]) -> bool:
    """Whether files belong to a time out: at least half of its frames found one, and more than by chance."""
    return len(found.matches) >= max(1, len(expected) / 2) and (found.sure_offset or len(found.matches) >= 3)


def _within(row: LogFrame, expected: Sequence[Expected], offset_s: float) -> bool:
    if row.clock is None:
        return False
    moment = _as_utc(row.clock) + timedelta(seconds=offset_s)
    return expected[0].at_utc - timedelta(minutes=30) <= moment <= expected[-1].at_utc + timedelta(minutes=30)


def _without_plan(session: Session, owner_id: int, waiting: Sequence[LogFrame]) -> int:
    """Make entries of files that belong to no plan: one for each time out, its frames in the groups that they seem to form."""
    timed = [row for row in waiting if row.clock is not None]
    if not timed:
        return 0
    runs: list[list[LogFrame]] = []
    for row in timed:
        before = runs[-1][-1] if runs else None
        if before is not None and row.clock is not None and before.clock is not None and row.clock - before.clock <= _PAUSE:
            runs[-1].append(row)
        else:
            runs.append([row])
    with journaled(session, owner_id, SCOPE, "sort files into the log"):
        for run in runs:
            entry = LogEntry(
                owner_id=owner_id, name=f"Unplanned, {len(run)} {'frame' if len(run) == 1 else 'frames'}", taken_at_utc=run[0].taken_at_utc
            )
            session.add(entry)
            session.flush()
            for number, group in enumerate(groups_of([_shown(row) for row in run])):
                for at in group.files:
                    run[at].entry_id, run[at].group_kind, run[at].group_number = entry.id, str(group.kind), number
    return len(timed)


def _waiting(session: Session, owner_id: int) -> list[LogFrame]:
    query = select(LogFrame).where(LogFrame.owner_id == owner_id, LogFrame.entry_id.is_(None)).options(undefer(LogFrame.cells))
    return list(session.scalars(query.order_by(LogFrame.clock, LogFrame.id)))


def _shown(row: LogFrame) -> Shown:
    assert row.clock is not None
    return Shown(row.file_name, row.clock, row.f_number, row.shutter_s, row.iso, row.focal_mm)


def _as_utc(clock: datetime) -> datetime:
    return clock.replace(tzinfo=UTC)


def _kept_cells(cells: Cells) -> dict[str, Any]:
    """Return cells as JSON keeps them: four figures are enough, and it knows no NaN."""
    plain = {item.name: getattr(cells, item.name) for item in fields(cells)}
    for name in _CELL_FIGURES:
        plain[name] = [float(f"{value:.4g}") if math.isfinite(value) else None for value in plain[name]]
    return plain


def _cells(kept: Mapping[str, Any]) -> Cells:
    figures = {name: tuple(math.nan if value is None else value for value in kept[name]) for name in _CELL_FIGURES}
    return Cells(kept["across"], kept["down"], **figures)
