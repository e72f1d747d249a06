"""What the log taught of a place's light, under the sky that is forecast."""

from __future__ import annotations

from ...facts.calibrations import Calibrated, Side
from ...facts.shot import ShotFacts

# From this share of the sky on it counts as clouded.
CLOUDED_FROM = 0.5


def sky_side(cover: float | None) -> Side:
    """Return whether a sky of which such a share is covered is clear or clouded; WHOLE where nobody knows."""
    if cover is None:
        return Side.WHOLE
    return Side.CLOUDED if cover >= CLOUDED_FROM else Side.CLEAR


def light_taught(facts: ShotFacts) -> Calibrated | None:
    """Return the log's correction of the predicted light at this place: for the sky in question if it has one of its
    own, else for any sky.
    """
    side = sky_side(facts.hour.cover if facts.hour is not None else None)
    under = {Side.CLEAR: facts.taught.light_clear, Side.CLOUDED: facts.taught.light_clouded}.get(side)
    return under or facts.taught.light_offset
