"""The journal: records every edit, undoes and redoes edits."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Any, cast

from sqlalchemy import CompoundSelect, Select, and_, bindparam, delete, event, inspect, select, union_all
from sqlalchemy.orm import Session

from ...core.facts.choices import path_of
from ...store.base import Base, Journaled
from ...store.journal import Change, JournalEntry
from ...store.rows import Row
from .errors import ChangedElsewhere, Conflict
from .invalidation import touch
from .row_changes import Step, perform, to_json
from .write_lock import Writer, writer_of

# Edits of the same values in quick succession (a dial being turned) count as one edit.
COALESCE_WITHIN = timedelta(seconds=1.5)
KEPT_PER_SCOPE = 500


@dataclass(frozen=True)
class UndoState:
    """What undo and redo would do for some scopes; None if there is nothing to do. The ids name the edits."""

    undo_label: str | None
    redo_label: str | None
    undo_id: int | None = None
    redo_id: int | None = None


@dataclass(frozen=True)
class Turned:
    """Result of an undo or redo. done False: nothing of it could be applied, and it is skipped from now on."""

    label: str
    done: bool
    words: str


@contextmanager
def journaled(session: Session, owner_id: int, scope: str, label: str) -> Iterator[None]:
    """Record all changes to journaled rows inside the block as one edit. Flushes.

    Raises ChangedElsewhere if another client changed the same values since this one read them.
    """
    writer = writer_of(session, owner_id)
    session.flush()
    changes: list[Change] = []

    def collect(flushed: Session, _context: object) -> None:
        changes.extend(_change(row, before=False) for row in flushed.new if isinstance(row, Journaled))
        altered = (_change(row) for row in flushed.dirty if isinstance(row, Journaled) and flushed.is_modified(row))
        changes.extend(change for change in altered if change["after"])
        changes.extend(_change(row, after=False) for row in flushed.deleted if isinstance(row, Journaled))

    event.listen(session, "after_flush", collect)
    try:
        yield
        session.flush()
    finally:
        event.remove(session, "after_flush", collect)
    if changes:
        _check_unseen(session, owner_id, writer, changes)
        _write(session, owner_id, writer, scope, label, changes)
        _touch(session, writer, changes)


def delete_with_references(session: Session, row: Base) -> None:
    """Delete a row as the database would: dependent rows first, other references set to NULL.

    The journal records all of it.
    """
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
    """Return the next steps of undo and redo."""
    found = {row.undone: row for row in session.execute(_BOTH_WAYS, {"owner": owner_id, "scopes": list(scopes)})}
    back, forth = found.get(False), found.get(True)
    return UndoState(
        back.label if back else None,
        forth.label if forth else None,
        back.id if back else None,
        forth.id if forth else None,
    )


def undo(session: Session, owner_id: int, scopes: Sequence[str], entry_id: int | None = None) -> Turned:
    """Undo the latest edit of these scopes. entry_id: the edit that is meant.

    Raises Conflict if there is none, ChangedElsewhere if the latest edit is another one.
    """
    return _turn(session, owner_id, scopes, entry_id, back=True)


def redo(session: Session, owner_id: int, scopes: Sequence[str], entry_id: int | None = None) -> Turned:
    """Redo the edit undone last; rows that it created come back in their last state. Raises as undo does."""
    return _turn(session, owner_id, scopes, entry_id, back=False)


def _turn(session: Session, owner_id: int, scopes: Sequence[str], entry_id: int | None, back: bool) -> Turned:
    writer = writer_of(session, owner_id)
    word, done_word = ("undo", "undone") if back else ("redo", "repeated")
    entry = session.scalars(_next(undone=not back), {"owner": owner_id, "scopes": list(scopes)}).first()
    if entry is None:
        raise Conflict(f"There is nothing to {word}.")
    if entry_id is not None and entry.id != entry_id:
        raise ChangedElsewhere(
            f"Something else was edited in the meantime. Now {word} means “{entry.label}”: press it again if "
            "you want that."
        )
    entry.revision, entry.client_id = writer.revision, writer.client_id
    try:
        made, remarks = perform(session, _steps(entry.changes, back))
    except Conflict as error:
        entry.passed_over = True
        session.flush()
        return Turned(
            entry.label, False, f"“{entry.label}” can no longer be {done_word}: {error.message} It is passed over."
        )
    # The edit records the changes that were really made: rows that it created may have changed since.
    entry.changes = [_recorded(step, back) for step in (made[::-1] if back else made)]
    entry.undone = back
    _touch(session, writer, entry.changes)
    session.flush()
    session.expire_all()
    said = f" {' '.join(remark[0].upper() + remark[1:] for remark in remarks)}" if remarks else ""
    return Turned(entry.label, True, f"“{entry.label}” is {done_word}.{said}")


def _steps(changes: Sequence[Change], back: bool) -> list[Step]:
    if back:
        return [Step(change["table"], change["key"], change["after"], change["before"]) for change in changes[::-1]]
    return [Step(change["table"], change["key"], change["before"], change["after"]) for change in changes]


def _recorded(step: Step, back: bool) -> Change:
    before, after = (step.target, step.source) if back else (step.source, step.target)
    return {"table": step.table, "key": step.key, "before": before, "after": after}


def _next(undone: bool) -> Select[JournalEntry]:
    """Return the query for the next edit of an owner's scopes: for undo the last done, for redo the first undone."""
    mine = JournalEntry.scope.in_(bindparam("scopes", expanding=True)) & (JournalEntry.owner_id == bindparam("owner"))
    turned = JournalEntry.undone if undone else ~JournalEntry.undone
    by = JournalEntry.id if undone else JournalEntry.id.desc()
    return select(JournalEntry).where(mine, turned, ~JournalEntry.passed_over).order_by(by).limit(1)


def _both_ways() -> CompoundSelect[str, int, bool]:
    """Return the query for the next edits of undo and redo, with label, id and state."""
    named = (JournalEntry.label, JournalEntry.id, JournalEntry.undone)
    one, other = (_next(undone).with_only_columns(*named).subquery() for undone in (False, True))
    return union_all(select(one.c.label, one.c.id, one.c.undone), select(other.c.label, other.c.id, other.c.undone))


# Built once: every edit of a shot runs them.
_BOTH_WAYS = _both_ways()
_IN_SCOPE = and_(JournalEntry.owner_id == bindparam("owner"), JournalEntry.scope == bindparam("scope"))
# One query for both: the latest edit, and whether a new edit discards undone ones.
_LATEST = (
    select(JournalEntry, select(JournalEntry.id).where(_IN_SCOPE, JournalEntry.undone).exists())
    .where(_IN_SCOPE, ~JournalEntry.undone, ~JournalEntry.passed_over)
    .order_by(JournalEntry.id.desc())
    .limit(1)
)


def _check_unseen(session: Session, owner_id: int, writer: Writer, changes: Sequence[Change]) -> None:
    """Raise ChangedElsewhere if another client has since changed a value that is being changed now."""
    if writer.known_revision is None:
        return
    others = session.scalars(
        select(JournalEntry.changes).where(
            JournalEntry.owner_id == owner_id,
            JournalEntry.revision > writer.known_revision,
            JournalEntry.client_id != writer.client_id,
        )
    ).all()
    theirs = {
        (change["table"], str(change["key"]), name) for entry in others for change in entry for name in _touched(change)
    }
    clashing = {
        path_of(name) if change["table"] == "shot" else name
        for change in changes
        for name in _touched(change)
        if (change["table"], str(change["key"]), name) in theirs
    }
    if clashing:
        raise ChangedElsewhere(
            "This was changed elsewhere since you read it. Nothing of yours is lost: choose which of the two "
            "is to stand.",
            dict.fromkeys(sorted(clashing), "Changed elsewhere since you read it."),
        )


def _touched(change: Change) -> set[str]:
    """Return the columns of an existing row that a change alters."""
    before, after = change["before"], change["after"]
    if before is None or after is None:
        return set()
    return {name for name in after if name in before and after[name] != before[name]}


def _write(session: Session, owner_id: int, writer: Writer, scope: str, label: str, changes: list[Change]) -> None:
    now = datetime.now(UTC)
    here = {"owner": owner_id, "scope": scope}
    found = session.execute(_LATEST, here).first()
    last, stale = found or (None, True)
    if stale:
        session.execute(delete(JournalEntry).where(_IN_SCOPE, JournalEntry.undone), here)
    if (
        last
        and last.client_id == writer.client_id
        and last.label == label
        and now - last.made_at_utc < COALESCE_WITHIN
        and _same_values(last.changes, changes)
    ):
        last.changes = [{**old, "after": new["after"]} for old, new in zip(last.changes, changes, strict=True)]
        last.made_at_utc, last.revision = now, writer.revision
    else:
        session.add(
            JournalEntry(
                owner_id=owner_id,
                made_at_utc=now,
                scope=scope,
                label=label,
                changes=changes,
                client_id=writer.client_id,
                revision=writer.revision,
            )
        )
        _forget_oldest(session, owner_id, scope)
    session.flush()


def _touch(session: Session, writer: Writer, changes: Sequence[Change]) -> None:
    """Mark the shots that depend on the written rows."""
    sides = (
        (change["table"], {**change["key"], **(change[side] or {})})
        for change in changes
        for side in ("before", "after")
    )
    touch(session, writer.revision, sides)


def _forget_oldest(session: Session, owner_id: int, scope: str) -> None:
    mine = and_(JournalEntry.owner_id == owner_id, JournalEntry.scope == scope)
    newest_first = select(JournalEntry.id).where(mine).order_by(JournalEntry.id.desc())
    oldest_kept = session.scalars(newest_first.offset(KEPT_PER_SCOPE).limit(1)).first()
    if oldest_kept is not None:
        session.execute(delete(JournalEntry).where(mine, JournalEntry.id <= oldest_kept))


def _same_values(old: list[Change], new: list[Change]) -> bool:
    """Return whether two edits change the same columns of the same existing rows."""
    return len(old) == len(new) and all(
        bool(_touched(a)) and a["table"] == b["table"] and a["key"] == b["key"] and _touched(a) == _touched(b)
        for a, b in zip(old, new, strict=True)
    )


def _change(row: Any, before: bool = True, after: bool = True) -> Change:
    state = inspect(row)
    mapper = state.mapper
    old: Row = {}
    new: Row = {}
    for column in mapper.local_table.columns:
        of_column = mapper.get_property_by_column(column)
        attribute = of_column.key
        if before and after and of_column.deferred and attribute in state.unloaded:
            # A deferred column that was not loaded has not changed.
            continue
        history = state.attrs[attribute].history
        current = getattr(row, attribute)
        new[column.name] = to_json(current)
        old[column.name] = to_json(history.deleted[0] if history.deleted else current)
    key = {column.name: new[column.name] for column in mapper.local_table.primary_key}
    if before and after:
        # For an existing row, the changed columns are enough, with those that say what it belongs to.
        altered = {name for name in new if new[name] != old[name]}
        belongs = {column.name for column in mapper.local_table.columns if column.foreign_keys} if altered else set()
        old, new = ({name: side[name] for name in side if name in altered | belongs} for side in (old, new))
    return {
        "table": mapper.local_table.name,
        "key": key,
        "before": old if before else None,
        "after": new if after else None,
    }
