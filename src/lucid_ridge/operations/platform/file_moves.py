"""Moves large files out of the database and back, and deletes files that no row refers to."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import datetime, timedelta
from typing import Any

from sqlalchemy import Column, Engine, LargeBinary, Table, and_, func, select, type_coerce, update

from ...store.file_store import LARGE_BYTES, OUTSIDE, FileStore, KeptFile, name_of
from ...store.tables import Base

# A file is written before its row, so a young file may belong to a transaction under way.
_YOUNG = timedelta(days=1)
_AT_ONCE = 100


def move_files(engine: Engine, outwards: bool) -> int:
    """Move every large file to where the engine's store keeps files, each in its own transaction. Returns how many.

    Raises FilesAway. Moved files stay moved, and a second call continues.
    """
    moved = 0
    for table, column in _file_columns():
        held = type_coerce(column, LargeBinary)
        outside = func.substr(held, 1, len(OUTSIDE)) == OUTSIDE
        wanted = and_(~outside, func.length(held) >= LARGE_BYTES) if outwards else outside
        keys = list(table.primary_key.columns)
        with engine.connect() as connection:
            rows = [tuple(row) for row in connection.execute(select(*keys).where(wanted).order_by(*keys))]
        for row in rows:
            moved += _move(
                engine, table, column, wanted & and_(*(key == value for key, value in zip(keys, row, strict=True)))
            )
    return moved


def _move(engine: Engine, table: Table, column: Column[Any], one: Any) -> int:
    """Move one row's file. A file changed by another transaction in the meantime is left alone."""
    with engine.begin() as connection:
        content = connection.execute(select(column).where(one).with_for_update()).scalar_one_or_none()
        return 0 if content is None else connection.execute(update(table).where(one).values({column: content})).rowcount


def sweep_files(engine: Engine, files: FileStore, now_utc: datetime) -> int:
    """Delete files that no row refers to, except young ones. Returns how many. Raises FilesAway."""
    old = [name for name, written in files.names() if now_utc - written > _YOUNG]
    named = _named(engine)
    idle = [name for name in old if name not in named]
    for first in range(0, len(idle), _AT_ONCE):
        files.remove(idle[first : first + _AT_ONCE])
    return len(idle)


def _named(engine: Engine) -> frozenset[str]:
    found = set()
    with engine.connect() as connection:
        for _, column in _file_columns():
            held = type_coerce(column, LargeBinary)
            for (value,) in connection.execute(select(held).where(func.substr(held, 1, len(OUTSIDE)) == OUTSIDE)):
                name = name_of(bytes(value))
                if name is not None:
                    found.add(name)
    return frozenset(found)


def _file_columns() -> Iterator[tuple[Table, Column[Any]]]:
    for table in Base.metadata.sorted_tables:
        yield from ((table, column) for column in table.columns if isinstance(column.type, KeptFile))
