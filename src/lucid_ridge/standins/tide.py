"""The simulated tide: invented reference places with five harmonic constants each. Never for navigation or safety."""

from __future__ import annotations

from dataclasses import dataclass

from ..core.ground.geodesy import distance_m
from ..core.tides.harmonics import HarmonicConstants, HarmonicTide
from ..core.tides.heights import SIMULATED, Tide

# Further from a reference place, the tide differs.
REACH_M = 100_000.0


@dataclass(frozen=True)
class ReferencePlace:
    """A place with a simulated tide."""

    latitude_deg: float
    longitude_deg: float
    tide: HarmonicTide


_PLACES = (
    ReferencePlace(
        54.49,
        -3.27,
        HarmonicTide(
            "Sallow Bar",
            HarmonicConstants(
                2.4,
                (("M2", 1.42, 327.0), ("S2", 0.45, 12.0), ("N2", 0.27, 303.0), ("K1", 0.09, 188.0), ("O1", 0.07, 42.0)),
                nodal=False,
            ),
            SIMULATED,
        ),
    ),
    ReferencePlace(
        68.17,
        13.61,
        HarmonicTide(
            "Isfold Roads",
            HarmonicConstants(
                1.9,
                (
                    ("M2", 0.93, 352.0),
                    ("S2", 0.33, 28.0),
                    ("N2", 0.19, 330.0),
                    ("K1", 0.10, 150.0),
                    ("O1", 0.04, 350.0),
                ),
                nodal=False,
            ),
            SIMULATED,
        ),
    ),
)


def tide_places() -> list[str]:
    """Return the names of the reference places."""
    return [place.tide.name for place in _PLACES]


def tide_at(name: str | None) -> Tide | None:
    """Return the tide of a reference place; None for an unknown or no name."""
    return next((place.tide for place in _PLACES if place.tide.name == name), None)


def distance_to_place_m(name: str, latitude_deg: float, longitude_deg: float) -> float:
    """Return the distance of a position from a reference place [m]. Raises StopIteration for an unknown name."""
    place = next(item for item in _PLACES if item.tide.name == name)
    return float(distance_m(place.latitude_deg, place.longitude_deg, latitude_deg, longitude_deg))
