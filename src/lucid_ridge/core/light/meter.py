"""Meter readings of the day against the computed light."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime


@dataclass(frozen=True)
class MeterReading:
    """A meter reading of the scene: when, and its EV at ISO 100."""

    time_utc: datetime
    ev100: float


def shift_stops(readings: Sequence[MeterReading], computed_ev100: Sequence[float]) -> float | None:
    """Return how much brighter the day is than computed [stops, negative for darker]: the mean over its readings.

    None without readings. computed_ev100: what the curve says at each reading's time.
    """
    if not readings:
        return None
    return sum(reading.ev100 - computed for reading, computed in zip(readings, computed_ev100, strict=True)) / len(
        readings
    )
