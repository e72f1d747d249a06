"""Workings of exposure: the shutter from the reading down, and the look of what moves."""

from __future__ import annotations

from ..facts.settings import Settings
from ..facts.shot import ShotFacts
from ..planning.exposure.plan import ExposureStep
from ..planning.wording import stops
from ..units.markings import spoken_shutter
from . import inputs
from .working import Given, Working


def exposure_workings(facts: ShotFacts, settings: Settings, step: ExposureStep) -> list[Working]:
    """Return the workings of an exposure; none while there is no light to expose for."""
    if step.ledger is None or step.shutter_s is None:
        return []
    return [_shutter(facts, settings, step)]


def _shutter(facts: ShotFacts, settings: Settings, step: ExposureStep) -> Working:
    assert step.ledger is not None and step.shutter_s is not None
    first, *costs = step.ledger.lines
    changes = [line for line in costs if abs(line.stops) >= 0.005]
    sums = "".join(f" {'+' if line.stops >= 0 else '−'} {abs(line.stops):.2f}" for line in changes) or " + 0"
    source = "estimated from sun and forecast" if step.predicted else _metered(facts)
    return Working(
        figure="shutter",
        name="Shutter",
        result=spoken_shutter(step.shutter_s),
        formula="reading × 2^(sum of all stops)",
        with_numbers=f"{spoken_shutter(first.shutter_s)} × 2^({sums.removeprefix(' + ').strip()})",
        given=(
            Given("reading", f"{spoken_shutter(first.shutter_s)}, {first.detail}", source),
            *(Given(line.label, stops(line.stops, 2), line.detail) for line in changes),
            inputs.iso(facts, settings),
        ),
        assumption="Each line of the ledger in stops; a stop doubles or halves.",
        source="ISO 2720; ISO 12232.",
    )


def _metered(facts: ShotFacts) -> str:
    at = facts.exposure.metered_at_utc or facts.light.time_utc
    return f"metered at {facts.clock(at)}" if at is not None else "metered"
