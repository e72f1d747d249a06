"""The working of a figure: formula, numbers and sources, to show or to read aloud."""

from __future__ import annotations

from dataclasses import dataclass

from ..planning.wording import ended


@dataclass(frozen=True)
class Given:
    """A number that goes in. source: where it came from: "set by you", "from the kit", "metered at 16:02" …"""

    name: str
    value: str
    source: str


@dataclass(frozen=True, kw_only=True)
class Working:
    """figure: its key. name, result: as the screen shows it. formula: in letters; with_numbers: the same with the
    numbers in it. assumption, source: sentences; empty for none.
    """

    figure: str
    name: str
    result: str
    formula: str
    with_numbers: str
    given: tuple[Given, ...]
    assumption: str = ""
    source: str = ""

    @property
    def lines(self) -> tuple[str, ...]:
        """The working as sentences, for a card and a screen reader."""
        inputs = (f"{item.name} {item.value}, {item.source}." for item in self.given)
        rest = (ended(text) for text in (self.assumption, self.source) if text)
        return (f"{self.name}: {self.result} = {self.formula} = {self.with_numbers}.", *inputs, *rest)
