"""Writes a whole notebook to an archive and reads it back: every row of the photographer with its files, except what
can be recomputed.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, time
from typing import IO, Any

from sqlalchemy import Column, Date, DateTime, Float, Table, Time, exists, insert, select, text, update
from sqlalchemy.exc import DBAPIError, StatementError
from sqlalchemy.orm import Session

from ... import __version__
from ...formats.archive import ArchiveReader, ArchiveWriter, Row
from ...formats.errors import FormatError
from ...store.file_store import KeptFile
from ...store.notebook import Notebook
from ...store.older_schema import is_earlier, upgraded_rows
from ...store.ownership import owned_tables
from ...store.photographer import Photographer
from ..platform.invalidation import touch_all
from ..platform.merge_rows import ORIGINS, MergedRows, is_numbered, merge_rows, remember
from ..platform.write_lock import writer_of
from .consistency import look_through

# The journal, jobs and summaries belong to the machine or are recomputed; accounts belong to the server.
LEFT_OUT = {
    "journal_entry",
    "job",
    "shot_summary",
    "kept_outlook",
    "log_digest",
    "account",
    "sign_in",
    "pass",
    "sign_in_event",
    "share",
    "share_card",
}
# Preferences that go along; the name and account of the photographer do not.
_PREFERENCES = (
    "theme",
    "set_up_min",
    "reserve_min",
    "thumb_mm",
    "arm_mm",
    "lengths",
    "hours",
    "day_order",
    "dial_steps",
    "polariser_from_mm",
    "simulated_weather",
    "promise_weights",
)
_AT_ONCE = 500
_ENDLESS = ("inf", "-inf")
Read = Callable[[str], list[Row]]


@dataclass(frozen=True, kw_only=True)
class Taken:
    """What was written or read: number of rows, and of shots among them. known: rows that were here already."""

    rows: int
    shots: int
    known: int = 0


def write_archive(session: Session, owner_id: int, target: IO[bytes], now_utc: datetime) -> Taken:
    """Write everything an owner has to a file."""
    writer, rows = ArchiveWriter(target), 0
    counts: dict[str, int] = {}
    for name, (table, owned) in owned_tables(owner_id).items():
        if name in LEFT_OUT:
            continue
        keys = list(table.primary_key.columns)
        found = session.execute(select(table).where(owned).order_by(*keys).execution_options(yield_per=_AT_ONCE))
        listed = [_out(table, row._mapping, writer) for row in found]
        writer.table(name, listed)
        counts[name] = len(listed)
        rows += len(listed)
    owner = session.get_one(Photographer, owner_id)
    writer.manifest(
        {
            "application": __version__,
            "schema": schema_revision(session),
            "notebook": session.scalar(select(Notebook.token)),
            "written_at_utc": now_utc,
            "preferences": {name: _said(getattr(owner, name)) for name in _PREFERENCES},
        }
    )
    return Taken(rows=rows, shots=counts.get("shot", 0))


def read_archive(session: Session, owner_id: int, source: IO[bytes]) -> Taken:
    """Read an archive into a notebook, all of it or nothing.

    A notebook with content receives what it lacks and keeps what it has. Raises FormatError.
    """
    reader = ArchiveReader(source)
    tables = {name: pair for name, pair in owned_tables(owner_id).items() if name not in LEFT_OUT}
    here, written = schema_revision(session), reader.manifest.get("schema")
    if is_earlier(written, here):
        read = _upgraded(session, owner_id, reader, tables)
    elif written == here:
        read = _as_written(owner_id, reader, tables)
    else:
        raise FormatError(
            f"This archive has schema {written!r}, written by Lucid Ridge {reader.manifest.get('application')!r};"
            f" schema {here} and earlier ones are read here. Install that version, or a later one, to read it."
        )

    if any(session.scalar(select(exists().select_from(table))) for table, _ in tables.values()):
        taken = _added(session, owner_id, str(reader.manifest.get("notebook")), read)
    else:
        taken = _as_it_is(session, tables, read)
        remember_all(session, owner_id, str(reader.manifest.get("notebook")), read(ORIGINS))
        _preferences(session, owner_id, reader.manifest.get("preferences"))
    session.flush()
    session.expire_all()
    troubles = look_through(session, owner_id).troubles
    if troubles:
        raise FormatError(f"This archive holds what cannot be used: {troubles[0]}")
    touch_all(session, writer_of(session, owner_id).revision, owner_id)
    return taken


def _as_written(owner_id: int, reader: ArchiveReader, tables: Mapping[str, tuple[Table, object]]) -> Read:
    """Return a function that reads the rows of a table from an archive of this schema."""
    unknown = set(reader.tables) - set(tables)
    if unknown:
        raise FormatError(f"This archive has tables that are not known: {', '.join(sorted(unknown))}.")

    def read(name: str) -> list[Row]:
        return [_in(tables[name][0], owner_id, row, reader) for row in reader.table(name)] if name in tables else []

    return read


def _upgraded(
    session: Session, owner_id: int, reader: ArchiveReader, tables: Mapping[str, tuple[Table, object]]
) -> Read:
    """Return a function that reads the rows of a table from an archive of an earlier schema, brought up to date."""
    said = reader.manifest.get("preferences")
    rows = {name: reader.table(name) for name in reader.tables}
    try:
        found = upgraded_rows(
            session.connection(), str(reader.manifest["schema"]), rows, said if isinstance(said, dict) else {}
        )
    except KeyError as error:
        raise FormatError(f"This archive holds what its schema does not know: {error.args[0]}.") from error
    except (DBAPIError, StatementError, TypeError, ValueError) as error:
        raise FormatError(f"This archive holds what cannot be used: {_first_line(error)}") from error

    def read(name: str) -> list[Row]:
        if name not in tables:
            return []
        table = tables[name][0]
        owned = {"owner_id": owner_id} if "owner_id" in table.columns else {}
        return [
            {key: _with_file(value, table.columns[key], reader) for key, value in row.items()} | owned
            for row in found[name]
        ]

    return read


def _with_file(value: Any, column: Column[Any], reader: ArchiveReader) -> Any:
    return reader.file(value) if value is not None and isinstance(column.type, KeptFile) else value


def _as_it_is(session: Session, tables: Mapping[str, tuple[Table, object]], read: Read) -> Taken:
    """Insert an archive into an empty notebook; every row keeps its id."""
    rows = shots = 0
    for name, (table, _) in tables.items():
        listed = read(name)
        _keep(session, table, listed)
        rows += len(listed)
        shots += len(listed) if name == "shot" else 0
    return Taken(rows=rows, shots=shots)


def remember_all(session: Session, owner_id: int, notebook: str, origins: Sequence[Row] = ()) -> None:
    """Record that every row of an owner came from another notebook, with its id there."""
    same = {
        name: {number: number for number in session.scalars(select(table.columns.id).where(owned))}
        for name, (table, owned) in owned_tables(owner_id).items()
        if name not in LEFT_OUT and is_numbered(table)
    }
    remember(session, owner_id, notebook, origins, MergedRows(same))


def _added(session: Session, owner_id: int, notebook: str, read: Read) -> Taken:
    """Insert what a notebook lacks."""
    try:
        found = merge_rows(session, owner_id, notebook, read)
    except (DBAPIError, StatementError, TypeError, ValueError, KeyError, AttributeError) as error:
        raise FormatError(f"This archive holds what cannot be used: {_first_line(error)}") from error
    return Taken(rows=found.rows, shots=len(found.added.get("shot", ())), known=found.known)


def schema_revision(session: Session) -> str:
    """Return the schema revision of the database."""
    return str(session.scalar(text("select version_num from alembic_version")))


def _out(table: Table, row: Mapping[Any, Any], writer: ArchiveWriter) -> Row:
    said = {}
    key = "-".join(str(row[column]) for column in table.primary_key.columns if column.name != "owner_id")
    for column in table.columns:
        value = row[column]
        if column.name == "owner_id":
            continue
        if isinstance(value, bytes):
            ending = "jpg" if value.startswith(b"\xff\xd8\xff") else "bin"
            said[column.name] = writer.file(f"{table.name}/{key}-{column.name}.{ending}", value)
        else:
            said[column.name] = _said(value)
    return said


def _said(value: Any) -> Any:
    """Return a value as JSON: a choice as its value, infinity as "inf"."""
    return str(value) if isinstance(value, str) or (isinstance(value, float) and not math.isfinite(value)) else value


def _in(table: Table, owner_id: int, said: Row, reader: ArchiveReader) -> Row:
    unknown = set(said) - {column.name for column in table.columns}
    if unknown or "owner_id" in said:
        raise FormatError(f"{table.name}: there is no column {', '.join(sorted(unknown)) or 'owner_id'}.")
    row = {name: _value(table.columns[name], value, reader) for name, value in said.items()}
    return row | {"owner_id": owner_id} if "owner_id" in table.columns else row


def _value(column: Column[Any], value: Any, reader: ArchiveReader) -> Any:
    if value is None:
        return None
    if isinstance(column.type, KeptFile):
        return reader.file(value)
    if isinstance(column.type, Float) and value in _ENDLESS:
        return float(value)
    kinds: dict[type, type[datetime] | type[date] | type[time]] = {DateTime: datetime, Date: date, Time: time}
    kind = kinds.get(type(column.type))
    if kind is None:
        return value
    try:
        return kind.fromisoformat(value)
    except (TypeError, ValueError) as error:
        raise FormatError(f"{column.table.name}.{column.name}: {value!r} is no {kind.__name__}.") from error


def _keep(session: Session, table: Table, rows: list[Row]) -> None:
    # A reference to a row of the same table is set once all its rows exist.
    own = [key.parent.name for key in table.foreign_keys if key.column.table is table]
    try:
        for piece in _pieces([{**row, **dict.fromkeys(set(own) & set(row))} for row in rows]):
            session.execute(insert(table), piece)
        for row in rows:
            named = {name: row[name] for name in own if row.get(name) is not None}
            if named:
                session.execute(update(table).where(table.columns.id == row["id"]).values(named))
    except (DBAPIError, StatementError, TypeError, ValueError, KeyError) as error:
        raise FormatError(f"{table.name}: {_first_line(error)}") from error
    if rows and is_numbered(table):
        session.execute(
            text(f"select setval(pg_get_serial_sequence('{table.name}', 'id'), (select max(id) from {table.name}))")
        )


def _first_line(error: Exception) -> str:
    cause = error.orig if isinstance(error, (DBAPIError, StatementError)) and error.orig is not None else error
    return (str(cause).splitlines() or [type(cause).__name__])[0][:300]


def _pieces(rows: list[Row]) -> Iterator[list[Row]]:
    """Yield rows in batches with the same columns, so that missing columns get their defaults."""
    piece: list[Row] = []
    for row in rows:
        if piece and (len(piece) >= _AT_ONCE or piece[0].keys() != row.keys()):
            yield piece
            piece = []
        piece.append(row)
    if piece:
        yield piece


def _preferences(session: Session, owner_id: int, said: object) -> None:
    owner = session.get_one(Photographer, owner_id)
    if not isinstance(said, dict) or not set(said) <= set(_PREFERENCES):
        raise FormatError("The manifest's preferences are not those of a photographer.")
    # Before it could be chosen, simulated weather was used.
    for name, value in ({"simulated_weather": True} | said).items():
        setattr(owner, name, value)
    try:
        session.flush()
    except (DBAPIError, StatementError, TypeError, ValueError) as error:
        raise FormatError("The manifest's preferences are not those of a photographer.") from error
