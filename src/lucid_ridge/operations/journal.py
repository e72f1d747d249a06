"""Writing every edit into the journal, and taking edits back."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta
from typing import Any, cast

from sqlalchemy import Table, and_, delete, event, insert, inspect, select, update
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session

from ..store.base import Base, Journaled
from ..store.journal import JournalEntry
from .errors import Conflict

# Edits of the same values in quick succession (a dial being turned) are one edit.
COALESCE_WITHIN = timedelta(seconds=1.5)
KEPT_PER_SCOPE = 500


@dataclass(frozen=True)
class UndoState:
    """What undo and redo would do for some scopes; None where there is nothing to do."""

    undo_label: str | None
    redo_label: str | None


@contextmanager
def journaled(session: Session, owner_id: int, scope: str, label: str) -> Iterator[None]:
    """Record all changes to journaled rows made inside the block as one edit. Flushes."""
    session.flush()
    changes: list[dict[str, Any]] = []

    def collect(flushed: Session, _context: object) -> None:
        changes.extend(_change(row, before=False) for row in flushed.new if isinstance(row, Journaled))
        changes.extend(_change(row) for row in flushed.dirty if isinstance(row, Journaled) and flushed.is_modified(row))
        changes.extend(_change(row, after=False) for row in flushed.deleted if isinstance(row, Journaled))

    event.listen(session, "after_flush", collect)
    try:
        yield
        session.flush()
    finally:
        event.remove(session, "after_flush", collect)
    if changes:
        _write(session, owner_id, scope, label, changes)


def delete_with_references(session: Session, row: Base) -> None:
    """Delete a row as the database would: dependents go first, other references let go. All of it is seen by the journal."""
    target = inspect(row).mapper.local_table
    for mapper in Base.registry.mappers:
        if not issubclass(mapper.class_, Journaled):
            continue
        for key in mapper.local_table.foreign_keys:
            if key.column.table is not target:
                continue
            attribute = mapper.get_property_by_column(key.parent).key
            wanted = getattr(mapper.class_, attribute) == getattr(row, key.column.name)
            for dependent in session.scalars(select(mapper.class_).where(wanted)).all():
                if key.ondelete == "SET NULL":
                    setattr(dependent, attribute, None)
                else:
                    delete_with_references(session, cast(Base, dependent))
    session.flush()
    session.delete(row)
    session.flush()
    session.expire_all()


def undo_state(session: Session, owner_id: int, scopes: Sequence[str]) -> UndoState:
    """Return what undo and redo would take back or repeat."""
    mine = select(JournalEntry.label).where(JournalEntry.owner_id == owner_id, JournalEntry.scope.in_(scopes)).limit(1)
    done = mine.where(~JournalEntry.undone).order_by(JournalEntry.id.desc()).scalar_subquery()
    undone = mine.where(JournalEntry.undone).order_by(JournalEntry.id).scalar_subquery()
    undo_label, redo_label = session.execute(select(done, undone)).one()
    return UndoState(undo_label, redo_label)


def undo(session: Session, owner_id: int, scopes: Sequence[str]) -> str:
    """Take back the latest edit of these scopes and return its label. Raises Conflict where there is none."""
    entry = _last_done(session, owner_id, scopes)
    if entry is None:
        raise Conflict("There is nothing to undo.")
    _apply(session, [(change["table"], change["key"], change["after"], change["before"]) for change in entry.changes[::-1]])
    entry.undone = True
    session.flush()
    session.expire_all()
    return entry.label


def redo(session: Session, owner_id: int, scopes: Sequence[str]) -> str:
    """Repeat the edit that was taken back last and return its label. Raises Conflict where there is none."""
    entry = _next_undone(session, owner_id, scopes)
    if entry is None:
        raise Conflict("There is nothing to redo.")
    _apply(session, [(change["table"], change["key"], change["before"], change["after"]) for change in entry.changes])
    entry.undone = False
    session.flush()
    session.expire_all()
    return entry.label


def _write(session: Session, owner_id: int, scope: str, label: str, changes: list[dict[str, Any]]) -> None:
    now = datetime.now(UTC)
    session.execute(delete(JournalEntry).where(JournalEntry.owner_id == owner_id, JournalEntry.scope == scope, JournalEntry.undone))
    last = _last_done(session, owner_id, [scope])
    if last and last.label == label and now - last.made_at_utc < COALESCE_WITHIN and _same_values(last.changes, changes):
        last.changes = [{**old, "after": new["after"]} for old, new in zip(last.changes, changes, strict=True)]
        last.made_at_utc = now
    else:
        session.add(JournalEntry(owner_id=owner_id, made_at_utc=now, scope=scope, label=label, changes=changes))
        oldest_kept = session.scalars(
            select(JournalEntry.id)
            .where(JournalEntry.owner_id == owner_id, JournalEntry.scope == scope)
            .order_by(JournalEntry.id.desc())
            .offset(KEPT_PER_SCOPE)
            .limit(1)
        ).first()
        if oldest_kept is not None:
            session.execute(
                delete(JournalEntry).where(JournalEntry.owner_id == owner_id, JournalEntry.scope == scope, JournalEntry.id <= oldest_kept)
            )
    session.flush()


def _same_values(old: list[dict[str, Any]], new: list[dict[str, Any]]) -> bool:
    """Whether two edits change the same columns of the same, already existing rows."""

    def touched(change: dict[str, Any]) -> tuple[object, ...] | None:
        before, after = change["before"], change["after"]
        if before is None or after is None:
            return None
        return change["table"], change["key"], {name for name in after if after[name] != before[name]}

    return len(old) == len(new) and all(
        touched(a) is not None and touched(b) is not None and touched(a) == touched(b) for a, b in zip(old, new, strict=True)
    )


def _last_done(session: Session, owner_id: int, scopes: Sequence[str]) -> JournalEntry | None:
    mine = and_(JournalEntry.owner_id == owner_id, JournalEntry.scope.in_(scopes), ~JournalEntry.undone)
    return session.scalars(select(JournalEntry).where(mine).order_by(JournalEntry.id.desc()).limit(1)).first()


def _next_undone(session: Session, owner_id: int, scopes: Sequence[str]) -> JournalEntry | None:
    mine = and_(JournalEntry.owner_id == owner_id, JournalEntry.scope.in_(scopes), JournalEntry.undone)
    return session.scalars(select(JournalEntry).where(mine).order_by(JournalEntry.id).limit(1)).first()


def _change(row: Any, before: bool = True, after: bool = True) -> dict[str, Any]:
    state = inspect(row)
    mapper = state.mapper
    old: dict[str, Any] = {}
    new: dict[str, Any] = {}
    for column in mapper.local_table.columns:
        attribute = mapper.get_property_by_column(column).key
        history = state.attrs[attribute].history
        current = getattr(row, attribute)
        new[column.name] = _to_json(current)
        old[column.name] = _to_json(history.deleted[0] if history.deleted else current)
    key = {column.name: new[column.name] for column in mapper.local_table.primary_key}
    return {"table": mapper.local_table.name, "key": key, "before": old if before else None, "after": new if after else None}


def _apply(session: Session, steps: list[tuple[str, dict[str, Any], dict[str, Any] | None, dict[str, Any] | None]]) -> None:
    """Bring rows from one state to another: (table, key, from, to). Inserts go parents first, deletes children first."""
    order = {table.name: index for index, table in enumerate(Base.metadata.sorted_tables)}
    inserts = sorted((step for step in steps if step[2] is None), key=lambda step: order[step[0]])
    deletes = sorted((step for step in steps if step[3] is None), key=lambda step: -order[step[0]])
    updates = [step for step in steps if step[2] is not None and step[3] is not None]
    try:
        with session.begin_nested():
            for name, _, _, target in inserts:
                table = Base.metadata.tables[name]
                session.execute(insert(table).values(_from_json(table, target or {})))
            for name, key, source, target in updates:
                table = Base.metadata.tables[name]
                assert source is not None and target is not None
                differing = {column: value for column, value in target.items() if value != source[column]}
                if differing:
                    done = session.execute(update(table).where(_is(table, key)).values(_from_json(table, differing)))
                    if done.rowcount == 0:  # type: ignore[attr-defined]
                        raise Conflict("What this edit changed has since been deleted: undo that first.")
            for name, key, _, _ in deletes:
                table = Base.metadata.tables[name]
                session.execute(delete(table).where(_is(table, key)))
    except IntegrityError as error:
        raise Conflict("This edit belongs to something that has since been deleted: undo that first.") from error


def _is(table: Table, key: dict[str, Any]) -> Any:
    return and_(*(table.c[name] == value for name, value in key.items()))


def _to_json(value: Any) -> Any:
    return value.isoformat() if isinstance(value, (date, datetime)) else value


def _from_json(table: Table, row: dict[str, Any]) -> dict[str, Any]:
    readers = {datetime: datetime.fromisoformat, date: date.fromisoformat}
    result = {}
    for name, value in row.items():
        reader = readers.get(table.c[name].type.python_type) if isinstance(value, str) else None
        result[name] = reader(value) if reader else value
    return result
