"""How many frames hold a range that was read."""

from __future__ import annotations

import math
import re
from collections.abc import Callable
from dataclasses import dataclass

from ..errors import InputError
from ..exposure.bracketing import plan_bracket
from ..facts.choices import BracketMode
from ..facts.spots import parse_reading
from ..planning.wording import plural, stops
from ..units.markings import parse_shutter
from .answer import Answer

_SHUTTER = re.compile(r"\d\s*/\s*\d|\d\s*(?:s|sec|secs|seconds?|min)\b", re.IGNORECASE)
_APERTURE = re.compile(r"[fƒ]\s*/?\s*\d", re.IGNORECASE)


@dataclass(frozen=True)
class BracketNow:
    """span_stops: from the darkest reading to the brightest; held_stops: by one frame; spare_stops: left in the
    shadows. read_ev: darkest and brightest [EV at ISO 100], where they are known.
    """

    span_stops: float
    held_stops: float
    step_ev: float
    frames: int
    spare_stops: float
    read_ev: tuple[float, float] | None = None

    @property
    def answer(self) -> Answer:
        """The frames, and how they come about."""
        one = self.frames == 1
        reason = f"{self.span_stops:.3g} stops, of which one frame holds {self.held_stops:g}"
        sum_ = "" if one else (
            f": 1 + ({self.span_stops:.3g} − {self.held_stops:g}) ÷ {self.step_ev:g}, rounded up"
        )  # fmt: skip
        spare = "Nothing" if self.spare_stops < 0.05 else stops(self.spare_stops)
        notes = (f"{reason}{sum_}.", f"{spare} to spare in the shadows.")
        choices = {"bracket": BracketMode.RANGE, "bracket_step_ev": self.step_ev}
        if self.read_ev is not None:
            choices |= {"shadow_ev": self.read_ev[0], "highlight_ev": self.read_ev[1]}
        return Answer(plural(self.frames, "frame"), "holds it" if one else f"{self.step_ev:g} EV apart", notes, choices)


def range_ends(darkest: str, brightest: str) -> tuple[float, float]:
    """Return two readings as EV: "EV 12" and "12", "1/20 at f/11", or two shutter times at one aperture and ISO, of
    which only the difference counts.

    Raises InputError for anything else, and for a shutter time beside an EV.
    """
    texts = {"darkest": darkest, "brightest": brightest}
    if not any(_SHUTTER.search(text) and not _APERTURE.search(text) for text in texts.values()):
        found = [_read(name, text, parse_reading) for name, text in texts.items()]
    else:
        found = [-math.log2(_read(name, text, _shutter_alone)) for name, text in texts.items()]
    return found[0], found[1]


def _read(name: str, text: str, parse: Callable[[str], float]) -> float:
    try:
        return parse(text)
    except InputError as error:
        raise InputError(name, error.message) from None


def _shutter_alone(text: str) -> float:
    if not _SHUTTER.search(text):
        raise InputError("reading", f"“{text}” does not go with a shutter time: write both as 1/60, or both as EV 12.")
    return parse_shutter(text)


def is_absolute(darkest: str, brightest: str) -> bool:
    """Return whether two readings say how bright the scene is, and not only its range."""
    return not any(_SHUTTER.search(text) and not _APERTURE.search(text) for text in (darkest, brightest))


def bracket_now(
    darkest_ev: float, brightest_ev: float, held_stops: float = 11.0, step_ev: float = 2.0, absolute: bool = True
) -> BracketNow:
    """Return the frames that hold a range between two readings [EV at ISO 100]. absolute: False where only
    their difference is known.

    Raises InputError as plan_bracket.
    """
    found = plan_bracket(darkest_ev, brightest_ev, held_stops, step_ev)
    read_ev = (darkest_ev, brightest_ev) if absolute else None
    return BracketNow(brightest_ev - darkest_ev, held_stops, step_ev, found.count, found.spare_stops, read_ev)
