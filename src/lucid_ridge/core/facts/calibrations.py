"""Calibrations: what the log taught, and whether the plan uses it."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum


class CalibrationKind(StrEnum):
    """filter cost: of one filter [stops]. light offset: of the predicted light at a place, brighter positive [stops]. look band: by how much a personal look's streaks are longer
    than the trade's [stops]. hit rate: share of frames by hand that were sharp at the limit. filter change, set-up: how long they take [s]."""

    FILTER_COST = "filter cost"
    LIGHT_OFFSET = "light offset"
    LOOK_BAND = "look band"
    HIT_RATE = "hit rate"
    FILTER_CHANGE = "filter change"


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
