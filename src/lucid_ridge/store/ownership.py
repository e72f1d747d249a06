"""Finds the owner of rows: by their own column, or by the row they depend on."""

from __future__ import annotations

from sqlalchemy import ColumnElement, Table, select

from .base import Base


def owned_rows(table: Table, owner_id: int) -> ColumnElement[bool] | None:
    """Return the condition that a table's rows belong to an owner; None for a table without owners."""
    if "owner_id" in table.columns:
        return table.columns.owner_id == owner_id
    for key in sorted(table.foreign_keys, key=lambda item: item.parent.name):
        parent = key.column.table
        inner = owned_rows(parent, owner_id) if not key.parent.nullable and parent is not table else None
        if inner is not None:
            return key.parent.in_(select(key.column).where(inner))
    return None


def owned_tables(owner_id: int) -> dict[str, tuple[Table, ColumnElement[bool]]]:
    """Return the tables whose rows have an owner, parents first."""
    found = {}
    for table in Base.metadata.sorted_tables:
        rows = owned_rows(table, owner_id)
        if rows is not None:
            found[table.name] = (table, rows)
    return found
