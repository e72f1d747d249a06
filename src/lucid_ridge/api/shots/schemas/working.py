"""How figures of a shot's plan come about."""

from __future__ import annotations

from ...platform.fields import Out


class GivenOut(Out):
    """A number that goes in, and where it came from."""

    name: str
    value: str
    source: str


class WorkingOut(Out):
    """figure: its key. formula: in letters; with_numbers: with the numbers in it."""

    figure: str
    name: str
    result: str
    formula: str
    with_numbers: str
    given: list[GivenOut]
    assumption: str
    source: str


class WorkingsOut(Out):
    workings: list[WorkingOut]
