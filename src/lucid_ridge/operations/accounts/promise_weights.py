"""The weights of the factors in a forecast's promise: the model's own, or the photographer's where changed."""

from __future__ import annotations

from collections.abc import Mapping

from sqlalchemy.orm import Session

from ...core.weather.promise import DEFAULT_WEIGHTS, HEAVIEST
from ...store.photographer import Photographer
from ..platform.errors import Refused


def weights_of(owner: Photographer) -> dict[str, float]:
    """Return the weights in force: the photographer's where changed, else the model's."""
    return {**DEFAULT_WEIGHTS, **owner.promise_weights}


def set_weights(session: Session, owner_id: int, weights: Mapping[str, float]) -> Photographer:
    """Change weights. A weight equal to the model's is not stored. Raises Refused for unknown factors."""
    owner = session.get_one(Photographer, owner_id)
    for name, weight in weights.items():
        if name not in DEFAULT_WEIGHTS:
            raise Refused("promise_weights", f"There is no factor “{name}”; they are {', '.join(DEFAULT_WEIGHTS)}.")
        if not 0 <= weight <= HEAVIEST:
            raise Refused("promise_weights", f"The weight of “{name}” must lie from 0 to {HEAVIEST:g}, not {weight:g}.")
    merged = {**owner.promise_weights, **weights}
    owner.promise_weights = {name: weight for name, weight in merged.items() if weight != DEFAULT_WEIGHTS[name]}
    session.flush()
    return owner
