"""Spot readings: what a meter said of one part of the scene."""

from __future__ import annotations

import re
from dataclasses import dataclass
from enum import StrEnum

from ..errors import InputError
from ..exposure.ev import ev100
from ..units.markings import parse_aperture, parse_shutter
from ..units.numbers import shown
from ..units.ratios import parse_ev, parse_iso


class SpotPart(StrEnum):
    """What a spot reading was taken of."""

    SKY = "sky"
    LAND = "land"
    ELEMENT = "element"


MOST_SPOTS = 24
_LOWEST_EV, _HIGHEST_EV = -15.0, 25.0
_APERTURE = re.compile(r"[fƒ]\s*/?\s*([\d.]+)", re.IGNORECASE)
_ISO = re.compile(r"(?:iso|asa)\s*(\d+)", re.IGNORECASE)


@dataclass(frozen=True)
class SpotReading:
    """A reading of one part.

    ev100: as the meter gave it; through_stops: of the filters and the extension that it was taken through.
    """

    part: SpotPart
    ev100: float
    element_id: int | None = None
    through_stops: float = 0.0

    @property
    def bare_ev100(self) -> float:
        """The part's own EV at ISO 100, with what the reading was taken through counted back."""
        return self.ev100 + self.through_stops


def parse_reading(text: str) -> float:
    """Return the EV at ISO 100 of a reading as a meter says it: "1/20 at f/11, ISO 100" or "EV 12.3".

    ISO is 100 where it is not said.

    Raises InputError for anything else, and outside EV -15 to 25.
    """
    aperture, speed = _APERTURE.search(text), _ISO.search(text)
    if aperture is None:
        try:
            found = parse_ev(text)
        except InputError:
            raise InputError(
                "reading", f"“{shown(text)}” is not a reading. Write 1/20 at f/11, ISO 100, or EV 12."
            ) from None
    else:
        left = _ISO.sub(" ", _APERTURE.sub(" ", text))
        shutter = re.sub(r"\bat\b|[,;@]", " ", left, flags=re.IGNORECASE).strip()
        if not shutter:
            raise InputError("reading", f"“{shown(text)}” has no shutter time. Write 1/20 at f/11, ISO 100.")
        found = float(
            ev100(parse_aperture(f"f/{aperture[1]}"), parse_shutter(shutter), parse_iso(speed[1]) if speed else 100.0)
        )
    if not _LOWEST_EV <= found <= _HIGHEST_EV:
        raise InputError("reading", f"A reading lies from EV {_LOWEST_EV:g} to {_HIGHEST_EV:g}, not EV {found:.1f}.")
    return found
