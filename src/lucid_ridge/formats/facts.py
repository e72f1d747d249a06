"""Declared facts as plain JSON, and back."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date, time
from typing import Any

from ..core.facts.declaring import Declared, Kind, facts_of
from .errors import FormatError

_LONGEST = 20_000


def facts_to_json(group: type, source: object) -> dict[str, Any]:
    """Return an object's values of a group's facts, without defaults."""
    return {
        name: _plain(value)
        for name, item in facts_of(group).items()
        if (value := getattr(source, name)) is not None and (item.required or value != item.default)
    }


def facts_from_json(group: type, values: object, where: str) -> dict[str, Any]:
    """Return a group's values from JSON, checked against their declaration.

    Raises FormatError with the place and what is allowed.
    """
    if not isinstance(values, Mapping):
        raise FormatError(f"{where} is not an object.")
    known = facts_of(group)
    if unknown := sorted(set(values) - set(known)):
        raise FormatError(f"{where} has “{unknown[0][:40]}”, which is not known.")
    if lacking := sorted(name for name, item in known.items() if item.required and values.get(name) in (None, "")):
        raise FormatError(f"{where} lacks “{lacking[0]}”.")
    return {name: _read(known[name], value, f"{where}: {name}") for name, value in values.items()}


def _plain(value: Any) -> Any:
    return value.isoformat() if isinstance(value, (date, time)) else value


def _read(item: Declared, value: Any, where: str) -> Any:
    if value is None:
        if not item.optional:
            raise FormatError(f"{where} must not be empty.")
        return None
    low, high = item.fact.low, item.fact.high
    if low is not None and high is not None:
        if (
            isinstance(value, bool)
            or not isinstance(value, (int, float))
            or not low <= value <= high
            or (item.fact.above and value == low)
        ):
            raise FormatError(f"{where} must be a number from {low:g} to {high:g}, not “{str(value)[:40]}”.")
        return int(value) if item.kind is Kind.COUNT else float(value)
    if item.choices:
        if value not in item.choices:
            raise FormatError(f"{where} must be one of {', '.join(item.choices)}, not “{str(value)[:40]}”.")
        return item.type(value)
    if item.kind is Kind.SWITCH:
        if not isinstance(value, bool):
            raise FormatError(f"{where} must be true or false.")
        return value
    if not isinstance(value, str) or len(value) > _LONGEST or (item.kind is Kind.NAME and not value.strip()):
        raise FormatError(f"{where} must be a text of up to {_LONGEST} letters.")
    if item.kind in (Kind.DATE, Kind.CLOCK):
        try:
            return (date if item.kind is Kind.DATE else time).fromisoformat(value)
        except ValueError:
            raise FormatError(
                f"{where}: “{value[:40]}” is not a {'date' if item.kind is Kind.DATE else 'clock time'}."
            ) from None
    return "".join(letter for letter in value if letter in "\n\t" or letter.isprintable())
