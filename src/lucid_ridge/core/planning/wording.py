"""Catalogues of sentences: each step has one, in its wording.py, that turns a reason's code and figures into a
sentence.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from functools import wraps
from typing import ParamSpec

from .reasons import Figure, Reason
from .verdicts import CAUTION, FAILS, HOLDS, TIGHT, UNSAID, Severity

P = ParamSpec("P")


@dataclass(frozen=True)
class Sentence:
    """A sentence of a catalogue, with the code and the figures it was made from."""

    step: str
    code: str
    figures: Mapping[str, Figure]
    text: str

    def reason(self, severity: Severity, dial: str | None = None) -> Reason:
        """Return the reason that says this sentence."""
        return Reason(
            step=self.step, code=self.code, severity=severity, text=self.text, figures=self.figures, dial=dial
        )

    def holds(self, dial: str | None = None) -> Reason:
        """Return the reason, which counts for the plan."""
        return self.reason(HOLDS, dial)

    def tight(self, dial: str | None = None) -> Reason:
        """Return the reason, which marks the step as tight."""
        return self.reason(TIGHT, dial)

    def fails(self, dial: str | None = None) -> Reason:
        """Return the reason, which fails the step."""
        return self.reason(FAILS, dial)

    def unsaid(self, dial: str | None = None) -> Reason:
        """Return the reason, which leaves the step not judged."""
        return self.reason(UNSAID, dial)

    def caution(self, dial: str | None = None) -> Reason:
        """Return the reason as a caution beside the verdict."""
        return self.reason(CAUTION, dial)


class Catalogue:
    """The sentences of one room of the planning package; their codes are the room's name and the function's."""

    _all: dict[str, Catalogue] = {}

    def __init__(self, room: str, step: str) -> None:
        self.room, self.step = room, step
        self.codes: list[str] = []
        self._all[f"{room}/{step}"] = self

    def __call__(self, words: Callable[P, str]) -> Callable[P, Sentence]:
        """Register a function of figures, given by keyword, that returns a sentence."""
        code = f"{self.room}.{words.__name__}"
        self.codes.append(code)

        @wraps(words)
        def sentence(*args: P.args, **figures: P.kwargs) -> Sentence:
            return Sentence(self.step, code, figures, words(*args, **figures))

        return sentence

    @classmethod
    def every(cls) -> Iterator[Catalogue]:
        """Return every catalogue that is imported."""
        return iter(cls._all.values())


def ended(text: str) -> str:
    """Return a text with a full stop at its end, unless it ends with a mark of its own or is empty."""
    text = text.strip()
    return text if not text or text.endswith((".", "!", "?", "…")) else f"{text}."


def after_colon(text: str) -> str:
    """Return ": " and a note, to follow the words it explains; empty for no note."""
    return f": {text.strip()}" if text.strip() else ""


def plural(count: float, one: str, many: str = "") -> str:
    """Return a count with its noun: "1 frame", "3 frames". many: the plural where it is not one + "s"."""
    return f"{count:g} {one if count == 1 else many or one + 's'}"


def stops(value: float, decimals: int = 1) -> str:
    """Return a number of stops with its unit, singular or plural by the figure as written: "1 stop", "0.3 stops"."""
    written = f"{value:.{decimals}f}"
    return f"{written} {'stop' if float(written) == 1 and decimals == 0 else 'stops'}"


def joined(parts: list[str]) -> str:
    """Return parts as a list in a sentence: "a", "a and b", "a, b and c"."""
    return " and ".join([", ".join(parts[:-1]), parts[-1]] if len(parts) > 1 else parts)
