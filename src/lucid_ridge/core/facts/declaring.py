"""Declaration of facts.

A fact is a field of a frozen dataclass. A Fact beside it states unit, bounds, spelling and display name; the
database's checks, request and response schemas, the labels of undo and the front end's tables are all derived from it.
"""

from __future__ import annotations

import types
from dataclasses import MISSING, Field, dataclass, fields
from datetime import date, datetime, time
from enum import StrEnum
from functools import cache
from typing import Any, Union, get_args, get_origin, get_type_hints

Value = bool | int | float | str | date | datetime | time | frozenset[str] | None


class Kind(StrEnum):
    """How a value is written and read; each has one reader and one writer."""

    NUMBER = "number"
    APERTURE = "aperture"
    SHUTTER = "shutter"
    DISTANCE = "distance"
    LENGTH_M = "length_m"
    LENGTH_MM = "length_mm"
    ANGLE = "angle"
    BEARING = "bearing"
    SHARE = "share"
    MAGNIFICATION = "magnification"
    MINUTES = "minutes"
    SECONDS = "seconds"
    SPEED = "speed"
    EV = "ev"
    FILTER_COST = "filter_cost"
    ISO = "iso"
    COUNT = "count"
    SWITCH = "switch"
    CHOICE = "choice"
    DATE = "date"
    CLOCK = "clock"
    INSTANT = "instant"
    NAME = "name"
    NOTE = "note"
    REFERENCE = "reference"
    KEYS = "keys"


@dataclass(frozen=True)
class Fact:
    """kind None: as the Python type says (switch, choice, date, instant, reference, keys).

    low, high: both allowed, low itself not where above is set. label: what the value is called in a sentence. framed: a
    framing keeps it. refers: the table of what its number names.
    """

    kind: Kind | None = None
    low: float | None = None
    high: float | None = None
    above: bool = False
    label: str = ""
    framed: bool = False
    refers: str = ""


@dataclass(frozen=True)
class Declared:
    """A declared fact. type: the Python type without None. default: None also where there is none, see required."""

    name: str
    kind: Kind
    type: type
    optional: bool
    required: bool
    default: Value
    fact: Fact

    @property
    def label(self) -> str:
        return self.fact.label or plain_words(self.name)

    @property
    def choices(self) -> tuple[str, ...]:
        return tuple(self.type) if issubclass(self.type, StrEnum) else ()


def plain_words(name: str) -> str:
    """Return a name without its unit, as words."""
    for ending in _ENDINGS:
        name = name.removesuffix(ending)
    return name.replace("_", " ")


def facts_of(group: type) -> dict[str, Declared]:
    """Return the facts that a dataclass declares, by name and in order; fields without a Fact are left out."""
    return _read(group)


@cache
def _read(group: type) -> dict[str, Declared]:
    hints = get_type_hints(group, include_extras=True)
    found = {}
    for item in fields(group):
        fact = next((extra for extra in getattr(hints[item.name], "__metadata__", ()) if isinstance(extra, Fact)), None)
        if fact is not None:
            found[item.name] = _declared(item, hints[item.name].__origin__, fact)
    return found


def _declared(item: Field[Any], hint: Any, fact: Fact) -> Declared:
    optional = get_origin(hint) in (Union, types.UnionType)
    plain = next(part for part in get_args(hint) if part is not type(None)) if optional else hint
    plain = get_origin(plain) or plain
    kind = fact.kind or _kind_of(plain)
    if kind in _BOUNDED and (fact.low is None or fact.high is None):
        raise TypeError(f"{item.name} is a number and needs its bounds.")
    required = item.default is MISSING
    default = None if item.default is MISSING else item.default
    return Declared(item.name, kind, plain, optional, required, default, fact)


def _kind_of(plain: type) -> Kind:
    if issubclass(plain, StrEnum):
        return Kind.CHOICE
    return _KINDS[plain]


_ENDINGS = ("_id", "_ids", "_local", "_utc", "_deg", "_mm", "_mps", "_min", "_m", "_s", "_ev")
_KINDS = {
    bool: Kind.SWITCH,
    datetime: Kind.INSTANT,
    date: Kind.DATE,
    time: Kind.CLOCK,
    frozenset: Kind.KEYS,
    int: Kind.REFERENCE,
    str: Kind.NOTE,
}
_BOUNDED = frozenset(
    {
        Kind.NUMBER,
        Kind.APERTURE,
        Kind.SHUTTER,
        Kind.DISTANCE,
        Kind.LENGTH_M,
        Kind.LENGTH_MM,
        Kind.ANGLE,
        Kind.BEARING,
        Kind.SHARE,
        Kind.MAGNIFICATION,
        Kind.MINUTES,
        Kind.SECONDS,
        Kind.SPEED,
        Kind.EV,
        Kind.FILTER_COST,
        Kind.ISO,
        Kind.COUNT,
    }
)
