"""Marks what is said by simulated weather."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from ...facts.shot import ShotFacts
from ..reasons import Reason


def by_forecast(facts: ShotFacts, reasons: Sequence[Reason]) -> list[Reason]:
    """Return reasons that rest on the forecast; where that is simulated, each says so first."""
    if facts.forecast is None or not facts.forecast.simulated:
        return list(reasons)
    return [replace(item, text=f"Simulated weather: {item.text}") for item in reasons]
