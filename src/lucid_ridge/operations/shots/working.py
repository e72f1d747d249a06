"""Workings of a shot's figures."""

from __future__ import annotations

from sqlalchemy.orm import Session

from ...core.planning.exposure.reading_in_force import reading_in_force
from ...core.planning.plan.shot_plan import plan_shot
from ...core.working.catalogue import workings
from ...core.working.working import Working
from .facts import shot_facts
from .shots import get_shot


def workings_for(session: Session, owner_id: int, shot_id: int) -> tuple[Working, ...]:
    """Return how the figures of a shot's plan come about. Raises NotFound."""
    facts = reading_in_force(shot_facts(session, get_shot(session, owner_id, shot_id)))
    return workings(facts, plan_shot(facts))
