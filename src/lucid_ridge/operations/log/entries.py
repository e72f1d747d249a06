"""Log entries: created from ticks in the field or by hand, and searched."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass
from typing import Any

from sqlalchemy import Select, func, or_, select
from sqlalchemy.orm import Session, undefer

from ...core.facts.declaring import facts_of
from ...core.facts.log import ASPECT_FIELDS, LogWords, Outcome, Rated, WentWrong
from ...core.field.recorded import RecordedPlan
from ...core.field.run import Run
from ...core.learning.recipe import SHORTEST_STREAK, share_of_line
from ...core.units.spelling import percent
from ...store.log import FieldEventRow, LogEntry, LogFrame
from ...store.places import Location
from ...store.recorded_plans import plan_of_card, plan_of_entry
from ...store.rows import Row
from ...store.shots import FieldCard, Shot
from ..platform.errors import NotFound, Refused
from ..platform.journal import journaled
from ..platform.rows import LARGEST_ID, assign, owned
from .field_events import run as run_of_events

SCOPE = "log"


# Fields of a frame, with their labels in the undo bar.
_SAID_OF_FRAMES = {"stars": "stars", "curation": "keeping"}


def entry_scope(entry_id: int) -> str:
    return f"log:{entry_id}"


def _scope_of(row: LogFrame) -> str:
    return entry_scope(row.entry_id) if row.entry_id is not None else SCOPE


@dataclass(frozen=True)
class Sought:
    """A search for entries; None and empty match everything."""

    words: str = ""
    location_id: int | None = None
    subject: str = ""
    light: str = ""
    look: str = ""
    lens: str = ""
    outcome: Outcome | None = None
    archived: bool = False


@dataclass(frozen=True)
class Listed:
    """A page of entries, latest first, each with its number of frames and of frames with a file.

    total: number of all matches.
    """

    entries: tuple[tuple[LogEntry, int, int], ...]
    total: int


def list_entries(session: Session, owner_id: int, sought: Sought, offset: int, limit: int) -> Listed:
    """Return the entries that match a search."""
    query = _sought(select(LogEntry.id), owner_id, sought)
    total = session.scalar(select(func.count()).select_from(query.subquery())) or 0
    ids: Sequence[int] = session.scalars(
        query.order_by(LogEntry.taken_at_utc.desc(), LogEntry.id.desc()).offset(offset).limit(limit)
    ).all()
    counts = {
        entry_id: (frames, files)
        for entry_id, frames, files in session.execute(
            select(LogFrame.entry_id, func.count(), func.count(LogFrame.sha256))
            .where(LogFrame.entry_id.in_(ids))
            .group_by(LogFrame.entry_id)
        )
    }
    rows = {row.id: row for row in session.scalars(select(LogEntry).where(LogEntry.id.in_(ids)))}
    return Listed(tuple((rows[item], *counts.get(item, (0, 0))) for item in ids), total)


def _sought(query: Select[Any], owner_id: int, sought: Sought) -> Select[Any]:
    query = query.where(LogEntry.owner_id == owner_id, LogEntry.archived == sought.archived)
    for column, value in (
        (LogEntry.subject, sought.subject),
        (LogEntry.light_kind, sought.light),
        (LogEntry.look, sought.look),
        (LogEntry.lens, sought.lens),
    ):
        if value:
            query = query.where(column == value)
    if sought.location_id is not None:
        query = query.where(LogEntry.location_id == sought.location_id)
    if sought.outcome is not None:
        query = query.where(LogEntry.outcome == sought.outcome)
    for word in sought.words.split()[:8]:
        like = f"%{_plain(word)}%"
        query = query.where(
            or_(
                LogEntry.name.ilike(like),
                LogEntry.place.ilike(like),
                LogEntry.words.ilike(like),
                LogEntry.subject.ilike(like),
            )
        )
    return query


def _plain(word: str) -> str:
    """Return a word with the wildcards of LIKE escaped."""
    return word.replace("\\", "").replace("%", r"\%").replace("_", r"\_")


def kinds_of(session: Session, owner_id: int) -> dict[str, list[str]]:
    """Return the values entries can be filtered by: subjects, lights, looks and lenses that occur."""
    columns = {"subject": LogEntry.subject, "light": LogEntry.light_kind, "look": LogEntry.look, "lens": LogEntry.lens}
    return {
        name: [
            value
            for value in session.scalars(
                select(column).where(LogEntry.owner_id == owner_id).distinct().order_by(column)
            )
            if value
        ]
        for name, column in columns.items()
    }


def get_entry(session: Session, owner_id: int, entry_id: int) -> LogEntry:
    """Return an entry. Raises NotFound."""
    return owned(session, owner_id, LogEntry, entry_id)


def add_entry(
    session: Session,
    owner_id: int,
    values: Mapping[str, object],
    went_wrong: Sequence[str] = (),
    shot_id: int | None = None,
    location_id: int | None = None,
) -> LogEntry:
    """Create an entry by hand.

    shot_id: its shot, whose plan is stored with it if it has a field card. Raises Refused.
    """
    wrong = _known_wrongs(went_wrong)
    shot = _of_owner(session, owner_id, Shot, shot_id, "shot_id")
    location = (
        shot.viewpoint.location
        if shot is not None and shot.viewpoint is not None
        else _of_owner(session, owner_id, Location, location_id, "location_id")
    )
    with journaled(session, owner_id, SCOPE, f"new entry {values['name']}"):
        row = LogEntry(owner_id=owner_id, **values, went_wrong=wrong)
        card = max(shot.cards, key=lambda item: item.id, default=None) if shot is not None else None
        describe(row, shot, location, plan_of_card(card))
        session.add(row)
        session.flush()
    return row


def edit_entry(
    session: Session,
    owner_id: int,
    entry_id: int,
    changes: Mapping[str, object],
    went_wrong: Sequence[str] | None = None,
) -> LogEntry:
    """Change an entry."""
    row = owned(session, owner_id, LogEntry, entry_id)
    plain = dict(changes)
    if went_wrong is not None:
        plain["went_wrong"] = _known_wrongs(went_wrong)
    labels = {name: item.label for name, item in facts_of(LogWords).items()} | {"went_wrong": "what went wrong"}
    with journaled(
        session, owner_id, entry_scope(row.id), f"change {', '.join(labels[name] for name in plain) or 'nothing'}"
    ):
        assign(row, plain)
    return row


def edit_frame(session: Session, owner_id: int, frame_id: int, changes: Mapping[str, object]) -> LogFrame:
    """Change a frame: its stars and its selection. Raises NotFound."""
    row = frame_of(session, owner_id, frame_id)
    unknown = changes.keys() - _SAID_OF_FRAMES.keys()
    if unknown:
        raise TypeError(f"A frame has no {', '.join(sorted(unknown))} to be said.")
    label = " and ".join(_SAID_OF_FRAMES[name] for name in changes)
    with journaled(session, owner_id, _scope_of(row), f"{label} of {row.file_name or 'a frame'}"):
        for name, value in changes.items():
            setattr(row, name, value)
    return row


def measure_streak(
    session: Session, owner_id: int, frame_id: int, line: Sequence[float] | None, share: float | None
) -> None:
    """Store a streak measured on a frame: a line along it, or its length as a share of the short side. Neither removes
    it.

    Raises NotFound, Refused.
    """
    row = frame_of(session, owner_id, frame_id)
    if share is not None:
        _moves(row, "seen_share")
        _long_enough(share, "seen_share")
    # A length typed as a number has no line to draw.
    found = (None, share) if share is not None else (list(line) if line else None, _share_of(row, line))
    with journaled(session, owner_id, _scope_of(row), f"streak of {row.file_name or 'a frame'}"):
        row.streak_line, row.seen_share = found


def _share_of(row: LogFrame, line: Sequence[float] | None) -> float | None:
    if line is None:
        return None
    if not row.pixels_wide or not row.pixels_high:
        raise Refused("streak_line", "This frame has no picture to measure on.")
    _moves(row, "streak_line")
    share = share_of_line(line, row.pixels_wide, row.pixels_high)
    return _long_enough(share, "streak_line")


def _long_enough(share: float, field: str) -> float:
    if share < SHORTEST_STREAK:
        raise Refused(
            field,
            f"A streak shorter than {percent(SHORTEST_STREAK, 1)} of the short side cannot be measured: take it from "
            "end to end.",
        )
    return share


def _moves(row: LogFrame, field: str) -> None:
    if row.streak_share is None:
        raise Refused(field, "Nothing moves in the frame that was planned: say first which planned frame this is.")


def frame_of(session: Session, owner_id: int, frame_id: int) -> LogFrame:
    """Return a frame of the owner's log. Raises NotFound."""
    query = select(LogFrame).where(LogFrame.id == frame_id, LogFrame.owner_id == owner_id)
    row = session.scalars(query).first() if frame_id <= LARGEST_ID else None
    if row is None:
        raise NotFound("frame")
    return row


def log_run(session: Session, owner_id: int, run_id: str) -> LogEntry | None:
    """Return the entry of a field session, created or updated from its events; None if nothing was taken."""
    run = run_of_events(session, owner_id, run_id)
    taken = {key: frame for key, frame in run.frames.items() if frame.times_utc}
    if not taken:
        return None
    query = select(LogEntry).where(LogEntry.owner_id == owner_id, LogEntry.run_id == run_id)
    row = session.scalars(query).first()
    if row is None:
        card = _card_of_run(session, owner_id, run_id)
        first = min(time for frame in taken.values() for time in frame.times_utc)
        shot = session.get(Shot, card.shot_id) if card is not None else None
        row = LogEntry(
            owner_id=owner_id,
            run_id=run_id,
            name=shot.name if shot is not None else "Field session",
            taken_at_utc=first,
        )
        with journaled(session, owner_id, SCOPE, f"log {row.name}"):
            describe(
                row,
                shot,
                shot.viewpoint.location if shot is not None and shot.viewpoint is not None else None,
                plan_of_card(card),
            )
            session.add(row)
            session.flush()
    _tick_frames(session, owner_id, row, run)
    _say_what_was_noted(session, owner_id, row, run)
    return row


def _say_what_was_noted(session: Session, owner_id: int, row: LogEntry, run: Run) -> None:
    """Copy ratings and notes from the field into an entry, unless they were edited since."""
    noted = "\n".join([*run.notes, *(f"frame: {note}" for frame in run.frames.values() for note in frame.notes)])
    changes: Row = (
        {"words": noted} if noted and (not row.words or noted.startswith(row.words)) and noted != row.words else {}
    )
    for aspect, stars in run.ratings.items():
        if aspect in tuple(Rated) and getattr(row, ASPECT_FIELDS[Rated(aspect)]) is None:
            changes[ASPECT_FIELDS[Rated(aspect)]] = int(stars)
    if run.wind_mps is not None and row.wind_mps == plan_of_entry(row).wind_mps:
        # A measured value takes precedence over the forecast.
        changes["wind_mps"] = run.wind_mps
    if changes:
        with journaled(session, owner_id, entry_scope(row.id), "take over what was noted in the field"):
            assign(row, changes)


def tick_frames(session: Session, owner_id: int, row: LogEntry) -> None:
    """Create a frame for every tick without a file."""
    if row.run_id is not None:
        _tick_frames(session, owner_id, row, run_of_events(session, owner_id, row.run_id))


def _tick_frames(session: Session, owner_id: int, row: LogEntry, run: Run) -> None:
    """Create a frame for every tick without a file, and delete those whose tick was undone."""
    plan = plan_of_entry(row)
    query = select(LogFrame).where(LogFrame.entry_id == row.id, LogFrame.sha256.is_(None)).options(undefer("*"))
    filed = set(
        session.scalars(select(LogFrame.planned_key).where(LogFrame.entry_id == row.id, LogFrame.sha256.is_not(None)))
    )
    have = session.scalars(query).all()
    ticks = {frame.planned_key: frame for frame in have}
    for key, frame in run.frames.items():
        if not frame.times_utc or key in filed:
            continue
        kept = ticks.pop(key, None) or LogFrame(owner_id=owner_id, entry_id=row.id, planned_key=key, matched="tick")
        kept.taken_at_utc, kept.shutter_s = frame.times_utc[-1], frame.shutter_s
        if key in plan.frames:
            settle_planned(kept, plan, key)
        session.add(kept)
    for gone in ticks.values():
        session.delete(gone)
    session.flush()


def settle_planned(frame: LogFrame, plan: RecordedPlan, key: str) -> None:
    """Fill in a frame's settings from the plan where its file has none."""
    planned = plan.frames[key]
    frame.planned_key = key
    frame.expected_s = planned.shutter_s
    frame.f_number = frame.f_number or planned.f_number
    frame.shutter_s = frame.shutter_s or planned.shutter_s
    frame.iso = frame.iso or planned.iso
    frame.focal_mm = frame.focal_mm or plan.focal_mm
    frame.filters, frame.filter_ids = list(planned.filters), list(planned.filter_ids)
    frame.hold, frame.look = plan.hold, planned.look
    per_s = plan.streak_per_s
    frame.streak_per_s = per_s
    frame.streak_share = per_s * frame.shutter_s if per_s is not None and frame.shutter_s else None


def describe(row: LogEntry, shot: Shot | None, location: Location | None, plan: RecordedPlan | None) -> None:
    """Fill in an entry from its shot, place and plan."""
    row.shot_id = shot.id if shot is not None else None
    row.location_id = location.id if location is not None else None
    row.place, row.zone = (location.name, location.zone) if location is not None else ("", "UTC")
    row.lens = shot.lens.name if shot is not None and shot.lens is not None else ""
    if plan is None:
        return
    row.planned = asdict(plan)
    row.subject, row.light_kind, row.look, row.lens = plan.subject, plan.light_kind, plan.look, plan.lens or row.lens
    for name in ("wind_mps", "cloud_share", "temperature_c", "water_m"):
        if getattr(row, name) is None:
            setattr(row, name, getattr(plan, name))


def _card_of_run(session: Session, owner_id: int, run_id: str) -> FieldCard | None:
    query = (
        select(FieldCard).join(FieldEventRow, FieldEventRow.card_id == FieldCard.id)
        .where(FieldEventRow.owner_id == owner_id, FieldEventRow.run_id == run_id).limit(1)
    )  # fmt: skip
    return session.scalars(query).first()


def _known_wrongs(said: Sequence[str]) -> list[str]:
    return [str(WentWrong(item)) for item in dict.fromkeys(said)]


def _of_owner(session: Session, owner_id: int, kind: Any, row_id: int | None, name: str) -> Any:
    if row_id is None:
        return None
    try:
        return owned(session, owner_id, kind, row_id)
    except NotFound as error:
        raise Refused(name, error.message) from error
