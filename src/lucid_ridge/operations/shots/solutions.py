"""The solver's plans for a shot."""

from __future__ import annotations

from dataclasses import dataclass

from sqlalchemy.orm import Session

from ...core.facts.shot import ShotFacts
from ...core.solving.solver import Solution, solve
from .facts import shot_facts
from .shots import get_shot


@dataclass(frozen=True)
class SolvedShot:
    """A solved shot. facts: of the shot; solution: None if nothing can be solved yet."""

    facts: ShotFacts
    solution: Solution | None


def solution_for(session: Session, owner_id: int, shot_id: int) -> SolvedShot:
    """Return plans that meet the wishes of a shot. Raises NotFound."""
    facts = shot_facts(session, get_shot(session, owner_id, shot_id))
    return SolvedShot(facts, solve(facts))
