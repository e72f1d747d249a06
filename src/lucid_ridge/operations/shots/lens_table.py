"""Compares every lens of the bag for one shot."""

from __future__ import annotations

from sqlalchemy.orm import Session

from ...core.planning.focus.lens_comparison import LensComparison, compare_lenses
from ...store.kit import Lens
from ..kit.from_rows import known_lens
from ..kit.pieces import all_of
from .facts import shot_facts
from .shots import get_shot


def lenses_for(session: Session, owner_id: int, shot_id: int) -> LensComparison:
    """Return all of the owner's lenses for a shot's subject at its size. Raises NotFound."""
    facts = shot_facts(session, get_shot(session, owner_id, shot_id))
    return compare_lenses(facts, [known_lens(row) for row in all_of(session, owner_id, Lens)])
