"""Calibrations: what the log taught, and whether the plan uses it."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum


class CalibrationKind(StrEnum):
    """filter cost: of one filter [stops]. light offset: by how much the light of a place is brighter than predicted [stops]. look band: by how much the streaks that please are longer
    than the trade's [stops]. hand held: by how much longer than the rule a hand holds still [stops]."""

    FILTER_COST = "filter cost"
    LIGHT_OFFSET = "light offset"
    LOOK_BAND = "look band"
    HAND_HELD = "hand held"


class CalibrationState(StrEnum):
    """Only what is on counts in a plan. refused: not proposed again for the same evidence."""

    PROPOSED = "proposed"
    ON = "on"
    OFF = "off"
    REFUSED = "refused"


@dataclass(frozen=True)
class Calibrated:
    """A calibration that is switched on. told: what counted without it."""

    kind: CalibrationKind
    subject: str
    told: float
    value: float
    low: float
    high: float
    frames: int
