"""Brings rows from one state to another, as far as later changes allow."""

from __future__ import annotations

import base64
from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime, time
from typing import Any

from sqlalchemy import ColumnElement, RowMapping, Table, and_, delete, insert, select, update
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session

from ...core.facts.labels import label_in
from ...store.base import Base, Journaled
from ...store.rows import Row
from .errors import Conflict


@dataclass(frozen=True)
class Step:
    """A change of a row of a table, from one state to another; None: the row does not exist."""

    table: str
    key: Row
    source: Row | None
    target: Row | None


def perform(session: Session, steps: Sequence[Step]) -> tuple[list[Step], list[str]]:
    """Apply the changes that are still possible, and return those made, with remarks on the others.

    A value is restored only if it still is what the edit had set; later changes stay. A reference to a row deleted
    since is set to NULL. Deleted rows take dependent rows along, which are returned in their last state. Raises
    Conflict, changing nothing, if nothing is possible.
    """
    order = {table.name: index for index, table in enumerate(Base.metadata.sorted_tables)}
    known = [step for step in steps if step.table in order]
    inserts = sorted((step for step in known if step.source is None), key=lambda step: order[step.table])
    deletes = sorted((step for step in known if step.target is None), key=lambda step: -order[step.table])
    updates = [step for step in known if step.source is not None and step.target is not None]
    made: list[Step] = []
    remarks: list[str] = []
    try:
        with session.begin_nested():
            for step in inserts:
                _insert(session, step, made, remarks)
            for step in updates:
                _update(session, step, made, remarks)
            for step in deletes:
                _delete(session, Base.metadata.tables[step.table], step.key, made)
            if not made:
                raise Conflict(" ".join(dict.fromkeys(remarks)) or "what it changed is not there any more.")
    except IntegrityError as error:
        raise Conflict("it belongs to something that has been deleted since.") from error
    return made, list(dict.fromkeys(remarks))


def row_to_json(row: RowMapping | Mapping[str, object]) -> Row:
    """Return a row's columns as the journal stores them."""
    return {name: to_json(value) for name, value in row.items()}


def to_json(value: object) -> object:
    """Return a column's value as JSON: instants in UTC, a camera's clock without a zone, bytes in base64."""
    if isinstance(value, datetime):
        return value.astimezone(UTC).isoformat() if value.tzinfo is not None else value.isoformat()
    if isinstance(value, bytes):
        return base64.b64encode(value).decode("ascii")
    if isinstance(value, frozenset):
        return sorted(value)
    return value.isoformat() if isinstance(value, (date, time)) else value


def _insert(session: Session, step: Step, made: list[Step], remarks: list[str]) -> None:
    table = Base.metadata.tables[step.table]
    values = row_from_json(table, step.target or {})
    if _present(session, table, step.key) is not None:
        remarks.append(f"The {_word(table)} is there already.")
        return
    for key in table.foreign_keys:
        name = key.parent.name
        if values.get(name) is None or _exists(session, key.column.table, key.column, values[name]):
            continue
        if key.parent.nullable:
            values[name] = None
            remarks.append(f"A {_word(key.column.table)} it used has been deleted since and is left out.")
        elif key.parent.primary_key:
            # A link between two rows, one of which is deleted.
            return
        else:
            raise Conflict(f"the {_word(key.column.table)} it belongs to has been deleted since.")
    session.execute(insert(table).values(values))
    made.append(Step(step.table, step.key, None, _present(session, table, step.key)))


def _update(session: Session, step: Step, made: list[Step], remarks: list[str]) -> None:
    table = Base.metadata.tables[step.table]
    assert step.source is not None and step.target is not None
    # Load only the edited columns: a row may hold pictures.
    names = step.target.keys() | step.key.keys()
    now = _present(session, table, step.key, names)
    if now is None:
        remarks.append(f"the {_word(table)} it changed has been deleted since.")
        return
    wanted: Row = {}
    source, target, present = (row_from_json(table, row) for row in (step.source, step.target, now))
    for name in (name for name, value in target.items() if name in source and value != source[name]):
        if present[name] != source[name]:
            remarks.append(f"the {label_in(step.table, name)} was changed again since and stays.")
        else:
            wanted[name] = target[name]
    for key in table.foreign_keys:
        name = key.parent.name
        if wanted.get(name) is not None and not _exists(session, key.column.table, key.column, wanted[name]):
            remarks.append(f"the {_word(key.column.table)} it used has been deleted since.")
            del wanted[name]
    if wanted:
        session.execute(update(table).where(is_row(table, step.key)).values(wanted))
        made.append(Step(step.table, step.key, now, _present(session, table, step.key, names)))


def _delete(session: Session, table: Table, key: Row, made: list[Step]) -> None:
    """Delete a row with its dependent rows, recording their last state."""
    now = _present(session, table, key)
    if now is None:
        return
    for other in _journaled_tables():
        for reference in other.foreign_keys:
            if reference.column.table is not table:
                continue
            name = reference.parent.name
            for row in (
                session.execute(select(other).where(other.c[name] == now[reference.column.name])).mappings().all()
            ):
                its_key = {column.name: to_json(row[column.name]) for column in other.primary_key}
                if reference.ondelete == "SET NULL":
                    before = row_to_json(row)
                    session.execute(update(other).where(is_row(other, its_key)).values({name: None}))
                    made.append(Step(other.name, its_key, before, {**before, name: None}))
                else:
                    _delete(session, other, its_key, made)
    session.execute(delete(table).where(is_row(table, key)))
    made.append(Step(table.name, key, now, None))


def _journaled_tables() -> list[Table]:
    return [mapper.local_table for mapper in Base.registry.mappers if issubclass(mapper.class_, Journaled)]  # type: ignore[misc]


def is_row(table: Table, key: Row) -> ColumnElement[bool]:
    """Return the condition that a row has this primary key."""
    return and_(*(table.c[name] == value for name, value in key.items()))


def _present(session: Session, table: Table, key: Row, names: Collection[str] | None = None) -> Row | None:
    """Return a row; only the named columns if names are given. None if it is deleted."""
    columns = [column for column in table.c if names is None or column.name in names]
    row = session.execute(select(*columns).where(is_row(table, key))).mappings().first()
    return None if row is None else row_to_json(row)


def _exists(session: Session, table: Any, column: Any, value: Any) -> bool:
    return session.execute(select(column).where(column == value)).first() is not None


def row_from_json(table: Table, row: Row) -> Row:
    """Return a row as the database takes it, without columns of older versions."""
    readers: dict[type, Callable[[str], Any]] = {
        datetime: datetime.fromisoformat, date: date.fromisoformat, time: time.fromisoformat, bytes: base64.b64decode,
    }  # fmt: skip
    result = {}
    for name, value in row.items():
        if name not in table.c:
            continue
        reader = readers.get(table.c[name].type.python_type) if isinstance(value, str) else None
        result[name] = reader(value) if reader else value
    return result


def _word(table: Table) -> str:
    return table.name.replace("_", " ")
