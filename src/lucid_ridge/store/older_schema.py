"""Brings rows of an earlier schema up to date: they are inserted into a temporary schema, migrated, and read back."""

from __future__ import annotations

import json
from collections.abc import Iterator, Mapping, Sequence
from contextlib import contextmanager
from typing import Any

from alembic import command
from sqlalchemy import Connection, Table, select, text

from .database import alembic_config, known_revisions
from .file_store import KeptFile
from .rows import Row
from .tables import Base
from .versioned import Versioned

_SCHEMA = "earlier_notebook"
# Values for columns of the photographer that an archive does not carry, by type.
_EMPTY = {"text": "''", "integer": "0", "bigint": "0", "double precision": "0", "boolean": "false", "jsonb": "'{}'"}


def is_earlier(revision: object, current: str) -> bool:
    """Return whether a schema revision is an earlier one that can be brought up to date."""
    return isinstance(revision, str) and revision != current and revision in known_revisions()


def upgraded_rows(
    connection: Connection, revision: str, tables: Mapping[str, Sequence[Row]], preferences: Mapping[str, object]
) -> dict[str, list[Row]]:
    """Return rows by table, as the current schema has them, without their owner. Nothing of it stays in the database.

    tables: rows as an archive of that revision has them; a file is {"file": name} before and after. preferences: of the
    photographer. Raises sqlalchemy.exc.DBAPIError for rows that do not fit their schema, and KeyError for a table that
    it does not have.
    """
    with _schema_of_its_own(connection):
        config = alembic_config("")
        config.attributes["connection"] = connection
        command.upgrade(config, revision)
        _defer_references(connection)
        _add_owner(connection, preferences)
        for name, rows in tables.items():
            _insert(connection, name, rows)
        connection.execute(text("SET CONSTRAINTS ALL IMMEDIATE"))
        command.upgrade(config, "head")
        return {table.name: _read(connection, table) for table in Base.metadata.sorted_tables}


@contextmanager
def _schema_of_its_own(connection: Connection) -> Iterator[None]:
    savepoint = connection.begin_nested()
    try:
        connection.execute(text(f"CREATE SCHEMA {_SCHEMA}"))
        connection.execute(text(f"SET LOCAL search_path TO {_SCHEMA}"))
        yield
    finally:
        savepoint.rollback()


def _columns(connection: Connection, table: str) -> dict[str, Any]:
    """Return the columns of a table by name: type, and whether a value is required."""
    found = connection.execute(
        text(
            "SELECT column_name, data_type, is_nullable = 'NO' AND column_default IS NULL AS required"
            " FROM information_schema.columns WHERE table_schema = :schema AND table_name = :name"
        ),
        {"schema": _SCHEMA, "name": table},
    )
    return {row.column_name: row for row in found}


def _defer_references(connection: Connection) -> None:
    """Let rows be inserted in any order."""
    keys = connection.execute(
        text(
            "SELECT conrelid::regclass AS table_name, conname FROM pg_constraint"
            " WHERE contype = 'f' AND connamespace = CAST(:schema AS regnamespace)"
        ),
        {"schema": _SCHEMA},
    ).all()
    for key in keys:
        connection.execute(
            text(f'ALTER TABLE {key.table_name} ALTER CONSTRAINT "{key.conname}" DEFERRABLE INITIALLY DEFERRED')
        )


def _add_owner(connection: Connection, preferences: Mapping[str, object]) -> None:
    columns = _columns(connection, "photographer")
    chosen = {name: value for name, value in preferences.items() if name in columns}
    row = {"theme": "graphite", **chosen, "id": 1, "name": "One"}
    missing = {name: column for name, column in columns.items() if column.required and name not in row}
    names = [*row, *missing]
    values = [*(f"given.{name}" for name in row), *(_EMPTY[column.data_type] for column in missing.values())]
    connection.execute(
        text(
            f"INSERT INTO photographer ({', '.join(names)}) SELECT {', '.join(values)}"
            " FROM json_populate_record(NULL::photographer, CAST(:row AS json)) AS given"
        ),
        {"row": json.dumps(row)},
    )


def _insert(connection: Connection, name: str, rows: Sequence[Row]) -> None:
    columns = _columns(connection, name)
    if not columns:
        raise KeyError(name)
    if not rows:
        return
    owned = {"owner_id": 1} if "owner_id" in columns else {}
    kept = [{**{key: _raw(name, key, value, columns) for key, value in row.items()}, **owned} for row in rows]
    names = ", ".join(f'"{key}"' for key in kept[0])
    connection.execute(
        text(
            f'INSERT INTO "{name}" ({names}) SELECT {names}'
            f' FROM json_populate_recordset(NULL::"{name}", CAST(:rows AS json))'
        ),
        {"rows": json.dumps(kept)},
    )


def _raw(table: str, name: str, value: Any, columns: Mapping[str, Any]) -> Any:
    """Return a value as the column of the database holds it."""
    if name not in columns:
        raise KeyError(f"{table}.{name}")
    if value is None:
        return None
    if columns[name].data_type == "bytea":
        return "\\x" + json.dumps(value).encode().hex()
    known = Base.metadata.tables.get(table)
    kind = known.columns[name].type if known is not None and name in known.columns else None
    return {"version": kind.version, "value": value} if isinstance(kind, Versioned) else value


def _read(connection: Connection, table: Table) -> list[Row]:
    files = {column.name for column in table.columns if isinstance(column.type, KeptFile)}
    return [
        {
            name: json.loads(value) if name in files and value is not None else value
            for name, value in row.items()
            if name != "owner_id"
        }
        for row in connection.execute(select(table)).mappings()
    ]
