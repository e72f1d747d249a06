"""Merges rows of another notebook into one with rows of its own: each gets a new id, and all references follow."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from graphlib import TopologicalSorter
from typing import Any

from sqlalchemy import Column, ColumnElement, Table, insert, select, update
from sqlalchemy.dialects.postgresql import insert as insert_where_free
from sqlalchemy.orm import Session

from ...store.notebook import Notebook
from ...store.origins import Origin
from ...store.ownership import owned_tables
from ...store.references import followed, named_by
from ...store.rows import Row

ORIGINS = Origin.__tablename__
# Rows that exist once in a notebook whatever their id, and the columns that identify them; of the kit, all columns.
_ALIKE = {"calibration": ("kind", "subject"), "log_entry": ("run_id",), "log_frame": ("sha256",)}
_KIT = ("body", "lens", "filter", "support", "accessory")
_AT_ONCE = 1000


@dataclass
class MergedRows:
    """Result of a merge.

    ids: the id of each row here, by table and original id. added: the new ones among them, by table. known: number of
    rows that were here already.
    """

    ids: dict[str, dict[int, int]] = field(default_factory=dict)
    added: dict[str, set[int]] = field(default_factory=dict)
    known: int = 0
    rows: int = 0

    def move(self, table: str, their_id: int) -> int | None:
        """Return the id of a row here; None for one that was not merged."""
        return self.ids.get(table, {}).get(their_id)


def merge_rows(session: Session, owner_id: int, notebook: str, read: Callable[[str], Sequence[Row]]) -> MergedRows:
    """Add rows to an owner's notebook. Rows merged before are recognised, and kept as they are here.

    notebook: the token of the notebook they come from. read: returns the rows of a table, with values as the columns
    take them; called once per table. Raises ValueError for rows without an id, DBAPIError for values that a column
    refuses.
    """
    made, own = MergedRows(), str(session.scalar(select(Notebook.token)))
    origins = read(ORIGINS)
    tables = owned_tables(owner_id)
    for name in _named_first(table for table, _ in tables.values()):
        table, owned = tables[name]
        rows = read(name) if name != ORIGINS else ()
        if rows:
            known = (
                _known(session, owner_id, (own, notebook), (table, owned), rows, origins) if is_numbered(table) else {}
            )
            _graft_table(session, owner_id, (table, owned), rows, known, made)
    remember(session, owner_id, notebook, origins, made)
    return made


def _named_first(tables: Iterable[Table]) -> list[str]:
    """Return the names of tables in an order in which referenced tables come first."""
    graph = {
        table.name: {key.column.table.name for key in table.foreign_keys if key.column.table is not table}
        | named_by(table.name)
        for table in tables
    }
    return [name for name in TopologicalSorter(graph).static_order() if name in graph]


def is_numbered(table: Table) -> bool:
    """Return whether the rows of a table have a numeric id."""
    return "id" in table.columns and table.columns.id.type.python_type is int


def _graft_table(
    session: Session,
    owner_id: int,
    owned: tuple[Table, ColumnElement[bool]],
    rows: Sequence[Row],
    known: Mapping[int, int],
    made: MergedRows,
) -> None:
    table, mine = owned
    ids = made.ids.setdefault(table.name, {})
    added = made.added.setdefault(table.name, set())
    later: list[tuple[int, str, int]] = []
    for said in rows:
        their_id: int | None = said["id"] if is_numbered(table) else None
        if their_id is not None and their_id in known:
            ids[their_id] = known[their_id]
            made.known += 1
            continue
        row = _placed(table, owner_id, said, made, later)
        if row is None:
            continue
        if their_id is None:
            statement = (
                insert_where_free(table).values(row).on_conflict_do_nothing().returning(*table.primary_key.columns)
            )
            made.rows += len(session.execute(statement).all())
            continue
        here = _there_alike(session, table, mine, row)
        if here is not None:
            ids[their_id] = here
            made.known += 1
            continue
        row.pop("id")
        ids[their_id] = session.execute(insert(table).values(row).returning(table.columns.id)).scalar_one()
        added.add(their_id)
        made.rows += 1
    # A reference to a row of the same table may come before that row.
    for their_id, column, other in later:
        if their_id in added and other in ids:
            session.execute(update(table).where(table.columns.id == ids[their_id]).values({column: ids[other]}))


def _placed(table: Table, owner_id: int, said: Row, made: MergedRows, later: list[tuple[int, str, int]]) -> Row | None:
    """Return a row with references to rows here, and its original id; None if its parent was not merged, or already
    has its own such row.
    """
    row = dict(said)
    for key in table.foreign_keys:
        column, target = key.parent, key.column.table.name
        if target == "photographer":
            row[column.name] = owner_id
        elif row.get(column.name) is None:
            continue
        elif target == table.name:
            later.append((row["id"], column.name, row[column.name]))
            row[column.name] = None
        else:
            if _is_part(table, column, row) and row[column.name] not in made.added.get(target, ()):
                return None
            row[column.name] = made.move(target, row[column.name])
            if row[column.name] is None and not column.nullable:
                return None
    row = followed(table.name, row, made.move)
    # Values about a row that was not merged are dropped.
    emptied = (column.name for column in table.columns if not column.nullable and said.get(column.name) is not None)
    return None if any(row[name] is None for name in emptied) else row


def _is_part(table: Table, column: Column[Any], row: Row) -> bool:
    """Return whether a row is part of the row this column refers to and stays with it: rows without an id, and frames
    that were only ticked.
    """
    if table.name == "log_frame":
        return row.get("sha256") is None
    return not is_numbered(table) and column is next(iter(table.primary_key.columns))


def _known(
    session: Session,
    owner_id: int,
    tokens: tuple[str, str],
    owned: tuple[Table, ColumnElement[bool]],
    rows: Sequence[Row],
    origins: Sequence[Row],
) -> dict[int, int]:
    """Return which of the rows are here already, and their ids: from their notebook, from this one, or from a third
    that both received them from.
    """
    (own, notebook), (table, mine) = tokens, owned
    if not all(isinstance(row.get("id"), int) for row in rows):
        raise ValueError("a row has no id")
    names = {(notebook, row["id"]): row["id"] for row in rows}
    names |= {
        (origin["notebook"], origin["their_id"]): origin["our_id"] for origin in origins if origin["what"] == table.name
    }
    there = set(session.scalars(select(table.columns.id).where(mine)))
    remembered = select(Origin.notebook, Origin.their_id, Origin.our_id).where(
        Origin.owner_id == owner_id, Origin.what == table.name, Origin.notebook.in_({token for token, _ in names})
    )
    here = {(token, theirs): ours for token, theirs, ours in session.execute(remembered) if ours in there}
    here |= {(own, number): number for token, number in names if token == own and number in there}
    return {theirs: here[name] for name, theirs in names.items() if name in here}


def _there_alike(session: Session, table: Table, mine: ColumnElement[bool], row: Row) -> int | None:
    """Return the id of the row here that is identical in its identifying columns."""
    if table.name in _KIT:
        names = tuple(name for name in row if name not in ("id", "owner_id"))
    else:
        names = _ALIKE.get(table.name, ())
        if not names or any(row.get(name) is None for name in names):
            return None
    alike = [table.columns[name].is_not_distinct_from(row[name]) for name in names]
    return session.scalars(select(table.columns.id).where(mine, *alike).order_by(table.columns.id).limit(1)).first()


def remember(session: Session, owner_id: int, notebook: str, origins: Sequence[Row], made: MergedRows) -> None:
    """Record where rows came from, and where they had come from before. notebook: the token of the notebook."""
    own = session.scalar(select(Notebook.token))
    came = [(notebook, what, theirs, ours) for what, ids in made.ids.items() for theirs, ours in ids.items()]
    came += [
        (origin["notebook"], origin["what"], origin["their_id"], ours)
        for origin in origins
        if (ours := made.move(origin["what"], origin["our_id"])) is not None
    ]
    told = {
        (token, what, theirs): {
            "owner_id": owner_id,
            "notebook": token,
            "what": what,
            "their_id": theirs,
            "our_id": ours,
        }
        for token, what, theirs, ours in came
        if token != own or theirs != ours
    }
    rows = list(told.values())
    for at in range(0, len(rows), _AT_ONCE):
        statement = insert_where_free(Origin).values(rows[at : at + _AT_ONCE])
        newest = {"our_id": statement.excluded.our_id}
        session.execute(
            statement.on_conflict_do_update(index_elements=["owner_id", "notebook", "what", "their_id"], set_=newest)
        )
