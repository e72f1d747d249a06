"""Columns and CHECK constraints from the facts that the core declares."""

from __future__ import annotations

from collections.abc import Sequence
from enum import StrEnum
from typing import Any

from sqlalchemy import Boolean, CheckConstraint, Date, DateTime, Double, ForeignKey, Integer, Text, Time, TypeDecorator
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import MappedColumn, mapped_column

from ..core.facts.declaring import Declared, Kind, facts_of
from .checks import above, between, not_blank, one_of


class Choice(TypeDecorator[StrEnum]):
    """A value of an enumeration, stored as text; a CHECK constraint limits it."""

    impl = Text
    cache_ok = True

    def __init__(self, choices: type[StrEnum]) -> None:
        super().__init__()
        self.choices = choices

    def process_bind_param(self, value: str | None, dialect: object) -> str | None:
        return None if value is None else str(value)

    def process_result_value(self, value: str | None, dialect: object) -> StrEnum | None:
        return None if value is None else self.choices(value)


class Keys(TypeDecorator[frozenset[str]]):
    """A set of keys, stored as a sorted list."""

    impl = JSONB
    cache_ok = True

    def process_bind_param(self, value: Sequence[str] | frozenset[str] | None, dialect: object) -> list[str] | None:
        return None if value is None else sorted(value)

    def process_result_value(self, value: list[str] | None, dialect: object) -> frozenset[str] | None:
        return None if value is None else frozenset(value)


_TYPES = {
    Kind.SWITCH: Boolean,
    Kind.COUNT: Integer,
    Kind.REFERENCE: Integer,
    Kind.DATE: Date,
    Kind.CLOCK: Time,
    Kind.NAME: Text,
    Kind.NOTE: Text,
    Kind.KEYS: Keys,
}


def columns_of(group: type) -> list[MappedColumn[Any]]:
    """Return the columns of a group of facts, in the order of its fields, for a composite of the group."""
    return [_column(item) for item in facts_of(group).values()]


def checks_of(group: type) -> list[CheckConstraint]:
    """Return the constraints that hold the bounds and choices of a group of facts."""
    return [check for item in facts_of(group).values() for check in _checks(item)]


def _column(item: Declared) -> MappedColumn[Any]:
    kept: Any
    if item.kind == Kind.CHOICE:
        kept = Choice(item.type)
    elif item.kind == Kind.INSTANT:
        kept = DateTime(timezone=True)
    else:
        kept = _TYPES.get(item.kind, Double)()
    keys = [ForeignKey(f"{item.fact.refers}.id", ondelete="SET NULL")] if item.fact.refers else []
    return mapped_column(item.name, kept, *keys, nullable=item.optional)


def _checks(item: Declared) -> list[CheckConstraint]:
    low, high = item.fact.low, item.fact.high
    if low is not None and high is not None:
        return [above(item.name, low, high) if item.fact.above else between(item.name, low, high)]
    if item.kind == Kind.CHOICE:
        return [one_of(item.name, item.choices)]
    return [not_blank(item.name)] if item.kind == Kind.NAME else []
