"""Preferences of a photographer."""

from __future__ import annotations

from collections.abc import Mapping

from sqlalchemy.orm import Session

from ...store.photographer import Photographer
from ..places.forecasts import drop_simulated
from ..platform.invalidation import touch_all
from ..platform.rows import assign
from ..platform.write_lock import writer_of
from .promise_weights import set_weights

# The preferences that plans depend on.
_PLANNED_WITH = {"set_up_min", "reserve_min", "lengths", "hours", "day_order", "polariser_from_mm", "simulated_weather"}


def edit_photographer(
    session: Session, owner_id: int, changes: Mapping[str, object], promise_weights: Mapping[str, float] | None = None
) -> Photographer:
    """Change theme, spelling, preparation times and the weights of the promise."""
    owner = session.get_one(Photographer, owner_id)
    if promise_weights:
        set_weights(session, owner_id, promise_weights)
    assign(owner, changes)
    session.flush()
    if changes.get("simulated_weather") is False:
        drop_simulated(session, owner_id)
    if changes.keys() & _PLANNED_WITH:
        touch_all(session, writer_of(session, owner_id).revision, owner_id)
    return owner
