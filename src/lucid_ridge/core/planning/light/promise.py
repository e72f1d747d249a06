"""What a forecast promises for the light that a plan uses."""

from __future__ import annotations

from collections.abc import Mapping

from ...facts.shot import ShotFacts
from ...weather.promise import rate_window
from ..weather.reasons import look_of
from .plan import LightStep


def promise_of_light(facts: ShotFacts, light: LightStep, weights: Mapping[str, float]) -> float | None:
    """Return how promising the light to be used is under the forecast [0 to 100]; None without a forecast of it.

    weights: of the promise, points at full effect.
    """
    if facts.forecast is None or light.band is None or light.window_start_utc is None or light.window_end_utc is None:
        return None
    found = rate_window(
        light.band,
        light.window_start_utc,
        light.window_end_utc,
        facts.forecast,
        facts.forecast.issued_utc,
        look_of(facts),
        weights,
    )
    return found.rating if found is not None else None
