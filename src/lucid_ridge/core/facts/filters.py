"""Filters: their kinds with the behaviour of each, and a filter of the bag."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated

from ..exposure.graduated import Gradation
from ..labels import NamedEnum
from .declaring import Fact, Kind


class FilterKind(NamedEnum):
    """A kind of filter. Its properties say how plan, solver and log treat it; nothing else asks which kind it is."""

    NEUTRAL_DENSITY = "neutral_density"
    POLARISER = "polariser"
    GRADUATED = "graduated"
    COLOUR = "colour"

    @property
    def lengthens_exposure(self) -> bool:
        """Whether the filter is chosen for its density, to reach a shutter time; only such a filter can be variable."""
        return self is FilterKind.NEUTRAL_DENSITY

    @property
    def polarises(self) -> bool:
        """Whether its effect and cost depend on the direction of the light."""
        return self is FilterKind.POLARISER

    @property
    def graduates(self) -> bool:
        """Whether it darkens part of the frame only, so that the shutter time does not change."""
        return self is FilterKind.GRADUATED

    @property
    def tints(self) -> bool:
        """Whether it colours the whole picture, so that it belongs before black and white only."""
        return self is FilterKind.COLOUR

    @property
    def stays_on(self) -> bool:
        """Whether a filter on the lens is there for its effect, so that proposals and solver keep it on."""
        return not (self.lengthens_exposure or self.graduates)


class Mount(StrEnum):
    SCREW = "screw"
    PLATE = "plate"


@dataclass(frozen=True)
class Filter:
    """A filter of the bag, and its use in the shot.

    stops: density as set; stops_min, stops_max: range of a variable filter, None for others. marked_stops: the marked
    density if measured_frames of the log gave another one. Raises ValueError for an unknown kind.
    """

    id: int
    name: Annotated[str, Fact(Kind.NAME)]
    kind: Annotated[FilterKind, Fact(label="kind")]
    stops: Annotated[float, Fact(Kind.FILTER_COST, 0.0, 25.0, label="cost")]
    on_lens: bool = False
    on_when_metered: bool = False
    mount: Annotated[Mount, Fact(label="mount")] = Mount.SCREW
    thickness_mm: Annotated[float, Fact(Kind.LENGTH_MM, 0.5, 40.0, label="thickness")] = 5.0
    gradation: Annotated[Gradation, Fact(label="gradation")] = Gradation.SOFT
    stops_max: Annotated[float | None, Fact(Kind.FILTER_COST, 0.0, 25.0, label="strongest setting")] = None
    stops_min: float | None = None
    marked_stops: float | None = None
    measured_frames: int = 0

    def __post_init__(self) -> None:
        object.__setattr__(self, "kind", FilterKind(self.kind))

    @property
    def set_stops(self) -> float | None:
        """Current setting of a variable filter [stops]; None for others."""
        return None if self.stops_max is None else self.stops

    @property
    def even_stops(self) -> float:
        """Density over the whole frame [stops]: what the shutter time must make up for; 0 for a graduated filter."""
        return 0.0 if self.kind.graduates else self.stops
