"""Cures of a shot's reasons."""

from __future__ import annotations

from dataclasses import dataclass

from sqlalchemy.orm import Session

from ...core.curing.cures import Cure, cures
from ...core.facts.shot import ShotFacts
from .facts import shot_facts
from .shots import get_shot


@dataclass(frozen=True)
class CuredShot:
    """The facts of a shot, and the cures of its worst reasons."""

    facts: ShotFacts
    cures: tuple[Cure, ...]


def cures_for(session: Session, owner_id: int, shot_id: int) -> CuredShot:
    """Return the cures of a shot's reasons. Changes nothing. Raises NotFound."""
    facts = shot_facts(session, get_shot(session, owner_id, shot_id))
    return CuredShot(facts, cures(facts))
