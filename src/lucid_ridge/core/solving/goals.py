"""What wishes are about."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from ..facts.wishes import Stake
from ..planning.exposure.water import WantedTime


class Goal(StrEnum):
    """What a wish is about; its amount where it is missed stands beside it."""

    SHARP = "sharp"  # stops of blur over the limit
    MOTION = "motion"  # stops of shutter time
    RANGE = "range"  # stops of the scene's range
    NOISE = "noise"  # stops of ISO
    FRAMES = "frames"  # doublings
    MINUTES = "minutes"  # doublings
    LIGHT = "light"  # minutes
    STEADY = "steady"  # stops of shutter time
    CORNERS = "corners"  # share of the half diagonal
    TIMES = "times"  # what the body cannot take
    APERTURE = "aperture"  # stops
    ISO = "iso"  # stops
    FILTERS = "filters"  # pieces
    HOLD = "hold"
    START = "start"  # minutes


# What no photographer can give way on.
NEVER_RELEASED = (Goal.TIMES, Goal.STEADY)


@dataclass(frozen=True)
class Wish:
    """A wish of the photographer. stake: its weight.

    times: wanted shutter times of a mover; freezes: it must be frozen because it must be sharp. mover: which one.
    """

    goal: Goal
    stake: Stake
    name: str
    times: WantedTime | None = None
    element_id: int | None = None
    frozen: bool = False

    @property
    def must(self) -> bool:
        return self.stake == Stake.MUST
