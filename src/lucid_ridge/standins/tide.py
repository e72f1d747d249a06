"""The simulated tide: invented reference places with five harmonic constants each. Never for navigation or safety."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from ..core.tides.harmonics import HarmonicConstants, tide_height_m, tide_rate_m_per_h
from ..core.tides.heights import Tide


@dataclass(frozen=True)
class HarmonicTide:
    """A reference place whose tide is summed from its constants."""

    name: str
    constants: HarmonicConstants

    def height_m(self, seconds: Any) -> Any:
        return tide_height_m(self.constants, seconds)

    def rate_m_per_h(self, seconds: Any) -> Any:
        return tide_rate_m_per_h(self.constants, seconds)


_PLACES = (
    HarmonicTide(
        "Sallow Bar",
        HarmonicConstants(2.4, (("M2", 1.42, 327.0), ("S2", 0.45, 12.0), ("N2", 0.27, 303.0), ("K1", 0.09, 188.0), ("O1", 0.07, 42.0))),
    ),
    HarmonicTide(
        "Isfold Roads",
        HarmonicConstants(1.9, (("M2", 0.93, 352.0), ("S2", 0.33, 28.0), ("N2", 0.19, 330.0), ("K1", 0.10, 150.0), ("O1", 0.04, 350.0))),
    ),
)


def tide_places() -> list[str]:
    """Return the names of the reference places."""
    return [place.name for place in _PLACES]


def tide_at(name: str | None) -> Tide | None:
    """Return the tide of a reference place; None for an unknown or no name."""
    return next((place for place in _PLACES if place.name == name), None)
