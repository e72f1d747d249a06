"""Calibrations: what the log taught, and whether the plan uses it."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from ..labels import NamedEnum


class CalibrationKind(NamedEnum):
    """filter cost: of one filter [stops], of a polariser also by its angle to the sun.

    light offset: by how much the light of a place is brighter than predicted [stops]. look band: by how much the
    streaks that please are longer than the trade's [stops]. hand held: by how much longer than the rule a hand holds
    still [stops]. water speed: by how much faster one water is than is written of it [stops, one being twice as fast].
    set-up time, walking time, filter change: how many times as long as planned. series by hand: the share that comes
    out whole. battery: the share of its count that is left of a battery, in the cold or out of it.
    """

    FILTER_COST = "filter_cost"
    LIGHT_OFFSET = "light_offset"
    LOOK_BAND = "look_band"
    HAND_HELD = "hand_held"
    WATER_SPEED = "water_speed"
    SET_UP = "set_up_time"
    WALKING = "walking_time"
    FILTER_CHANGE = "filter_change"
    SERIES = "hand_series"
    BATTERY = "battery"


class CalibrationState(StrEnum):
    """State of a calibration.

    Only those switched on count in a plan; refused ones are not proposed again for the same evidence.
    """

    PROPOSED = "proposed"
    ON = "on"
    OFF = "off"
    REFUSED = "refused"


class Side(StrEnum):
    """What a lesson is about where a thing has two: a polariser across or along the sun's direction, a hand on firm
    ground or on a boat, a battery in the cold or not, a place under a clear or a clouded sky.
    """

    WHOLE = ""
    ACROSS = "across"
    ALONG = "along"
    BOAT = "boat"
    COLD = "cold"
    MILD = "mild"
    CLEAR = "clear"
    CLOUDED = "clouded"


@dataclass(frozen=True)
class Calibrated:
    """A calibration that is switched on. told: the value used without it."""

    kind: CalibrationKind
    subject: str
    told: float
    value: float
    low: float
    high: float
    frames: int


@dataclass(frozen=True)
class Taught:
    """What the log taught and the photographer has switched on, as far as it belongs to no single thing; None:
    nothing.

    light_*: of the place, under any sky, under a clear and under a clouded one.
    """

    light_offset: Calibrated | None = None
    light_clear: Calibrated | None = None
    light_clouded: Calibrated | None = None
    look_shift: Calibrated | None = None
    hand_shift: Calibrated | None = None
    boat_shift: Calibrated | None = None
    filter_change: Calibrated | None = None
    series: Calibrated | None = None
    cold_battery: Calibrated | None = None
    mild_battery: Calibrated | None = None


def times_as_long(taught: Calibrated | None) -> float:
    """Return how many times as long as planned something takes; once where nothing was taught."""
    return taught.value if taught is not None else 1.0
