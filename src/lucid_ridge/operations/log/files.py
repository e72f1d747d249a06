"""Camera files in the log: read, waiting to be sorted, removed.

Only facts and a small preview are kept of an original.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from threading import Lock

from sqlalchemy import ColumnElement, and_, delete, func, select
from sqlalchemy.orm import Session

from ...core.taken.cells import Seen, look_at
from ...core.taken.pixels import BlurKind
from ...formats.camera_files import CameraFile, read_camera_file
from ...formats.taken_sheets import TakenFile
from ...store.log import LogEntry, LogFrame
from ...store.recorded_plans import plan_of_entry
from ..platform.errors import Refused
from ..platform.journal import journaled
from .entries import SCOPE, entry_scope, frame_of, tick_frames
from .judging import SETTINGS, kept_cells

# A removed file can be restored for this long.
_KEPT_AWAY = timedelta(days=30)
# A large picture takes some hundred megabytes while it is decoded, so one is decoded at a time.
_ONE_AT_A_TIME = Lock()


@dataclass(frozen=True)
class ReadIn:
    """A file that was read. known: the log had it already."""

    frame: LogFrame
    known: bool


@dataclass(frozen=True)
class Examined:
    """A file with the measurements on its pixels."""

    file: CameraFile
    seen: Seen


def known_hashes(session: Session, owner_id: int, hashes: Sequence[str]) -> list[str]:
    """Return which of these files the log has, so that they need not be sent again."""
    query = select(LogFrame.sha256).where(
        LogFrame.owner_id == owner_id, LogFrame.sha256.in_(hashes), LogFrame.removed_at_utc.is_(None)
    )
    return [item for item in session.scalars(query) if item is not None]


def examine(name: str, content: bytes) -> Examined:
    """Read and measure a file, one at a time in a process. Raises FormatError if it is no picture of a camera."""
    with _ONE_AT_A_TIME:
        file = read_camera_file(name, content)
        return Examined(file, look_at(file.picture, file.fine))


def read_in(session: Session, owner_id: int, looked: Examined) -> ReadIn:
    """Store a file's facts; it then waits to be sorted. The same file counts once; a removed one is restored."""
    file, seen = looked.file, looked.seen
    query = select(LogFrame).where(LogFrame.owner_id == owner_id, LogFrame.sha256 == file.sha256)
    have = session.scalars(query).first()
    if have is not None:
        known = have.removed_at_utc is None
        have.removed_at_utc = None
        return ReadIn(have, known)
    row = LogFrame(
        owner_id=owner_id,
        entry_id=None,
        file_name=file.name[:200],
        sha256=file.sha256,
        clock=file.clock,
        utc_offset_min=file.utc_offset_min,
        camera=f"{file.model} {file.serial}".strip()[:200],
        focus_m=file.focus_m,
        f_number=file.f_number,
        shutter_s=file.shutter_s,
        iso=file.iso,
        focal_mm=file.focal_mm,
        pixels_wide=file.pixels_wide,
        pixels_high=file.pixels_high,
        linear=file.is_linear,
        mean_linear=seen.mean,
        clipped_red=seen.clipped.red,
        clipped_green=seen.clipped.green,
        clipped_blue=seen.clipped.blue,
        blocked=seen.clipped.blocked,
        blur_px=seen.blur.sigma_px,
        blur_kind=str(seen.blur.kind),
        sharp=_sharp(seen.blur.kind),
        cells=kept_cells(seen, [name for name in SETTINGS if getattr(file, name) is None]),
        preview=file.preview,
    )
    row.taken_at_utc = by_own_clock(row) or datetime.now(UTC)
    session.add(row)
    session.flush()
    return ReadIn(row, False)


def _sharp(kind: BlurKind) -> bool | None:
    return None if kind == BlurKind.UNKNOWN else kind == BlurKind.SHARP


def by_own_clock(row: LogFrame) -> datetime | None:
    """Return when a file was taken by its camera's clock, as UTC if its offset is unknown; None without a time."""
    return (
        (row.clock - timedelta(minutes=row.utc_offset_min or 0)).replace(tzinfo=UTC) if row.clock is not None else None
    )


def _is_waiting(owner_id: int) -> ColumnElement[bool]:
    return and_(LogFrame.owner_id == owner_id, LogFrame.entry_id.is_(None), LogFrame.removed_at_utc.is_(None))


def waiting_count(session: Session, owner_id: int) -> int:
    """Return the number of files waiting to be sorted."""
    return session.scalar(select(func.count()).select_from(LogFrame).where(_is_waiting(owner_id))) or 0


def waiting_files(session: Session, owner_id: int) -> list[LogFrame]:
    """Return the waiting files, ordered by clock and name; those without a time last."""
    query = select(LogFrame).where(_is_waiting(owner_id))
    return list(session.scalars(query.order_by(LogFrame.clock.nulls_last(), LogFrame.file_name, LogFrame.id)))


def say_clock(session: Session, owner_id: int, frame_id: int, clock: datetime) -> LogFrame:
    """Set the camera time of a file that has none. clock: without a zone. Raises NotFound, Refused."""
    row = frame_of(session, owner_id, frame_id)
    _is_file(row)
    if clock.tzinfo is not None:
        raise Refused("clock", "Give the time of the place, without a zone.")
    with journaled(session, owner_id, _scope_of(row), f"give {row.file_name} its time"):
        row.clock, row.utc_offset_min = clock, None
        row.taken_at_utc = clock.replace(tzinfo=UTC)
    return row


def remove_file(session: Session, owner_id: int, frame_id: int) -> None:
    """Remove a file that was read by mistake. Raises NotFound, Refused."""
    row = frame_of(session, owner_id, frame_id)
    _is_file(row)
    entry = session.get(LogEntry, row.entry_id) if row.entry_id is not None else None
    with journaled(session, owner_id, _scope_of(row), f"remove {row.file_name}"):
        row.entry_id, row.removed_at_utc = None, datetime.now(UTC)
        session.flush()
        if entry is not None:
            # The tick it stood for becomes a frame again.
            tick_frames(session, owner_id, entry)


def forget_removed(session: Session, owner_id: int) -> None:
    """Delete files removed some weeks ago."""
    long_ago = datetime.now(UTC) - _KEPT_AWAY
    session.execute(delete(LogFrame).where(LogFrame.owner_id == owner_id, LogFrame.removed_at_utc < long_ago))


def _is_file(row: LogFrame) -> None:
    if row.sha256 is None:
        raise Refused("frame_id", "This frame was ticked in the field; there is no file of it.")


def _scope_of(row: LogFrame) -> str:
    return entry_scope(row.entry_id) if row.entry_id is not None else SCOPE


def taken_sheet(entry: LogEntry) -> tuple[str | None, list[TakenFile]]:
    """Return how the picture is put together, and the files of an entry with their roles."""
    plan = plan_of_entry(entry)
    numbers = plan.numbers
    groups = {key: group for group in plan.groups for key in group.frames}
    files = []
    for row in entry.frames:
        if row.sha256 is None:
            continue
        group = groups.get(row.planned_key or "")
        steps = tuple(
            f"{how} {1 + next(at for at, keys in enumerate(sets) if row.planned_key in keys)}"
            for how, sets in (group.steps if group else ())
            if any(row.planned_key in keys for keys in sets)
        )
        files.append(
            TakenFile(
                file_name=row.file_name,
                group=group.name if group else row.group_kind,
                role=group.role if group else "",
                planned=str(numbers.get(row.planned_key or "", "")),
                shutter_s=row.shutter_s,
                f_number=row.f_number,
                iso=row.iso,
                filters=tuple(row.filters),
                steps=steps,
                curation=row.curation,
                stars=row.stars,
            )
        )
    return plan.together, files
