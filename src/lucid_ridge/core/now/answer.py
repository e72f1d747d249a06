"""An answer as it is shown and printed: its figure, what that is, and what else there is to say."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field


@dataclass(frozen=True)
class Answer:
    """figure: with its unit, to be read from afar. words: what it is. notes: sentences, the most important first.

    choices: of a shot that would be planned so, by name.
    """

    figure: str
    words: str
    notes: tuple[str, ...] = ()
    choices: Mapping[str, object] = field(default_factory=dict)

    @property
    def lines(self) -> tuple[str, ...]:
        """The answer as sentences, the figure first."""
        return (f"{self.figure} {self.words}.", *self.notes)
