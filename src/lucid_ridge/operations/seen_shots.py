"""A shot as it stands, with all that follows from it."""

from __future__ import annotations

from dataclasses import dataclass

from sqlalchemy.orm import Session

from ..core.facts.shot import ShotFacts
from ..core.planning.dials import Dials, dials_of
from ..core.planning.plan import ShotPlan, plan_shot
from ..store.shots import Backdrop, Shot
from .facts import facts_and_card
from .journal import UndoState, undo_state
from .places import location_scope
from .shots import shot_scope
from .usage import Use, around


@dataclass(frozen=True)
class SeenShot:
    """row: the shot's own. card_id: of its newest field card. namesake: another shot has the same name. neighbours: the shots from its viewpoint."""

    row: Shot
    facts: ShotFacts
    plan: ShotPlan
    dials: Dials
    card_id: int | None
    undo: UndoState
    backdrop: Backdrop | None
    namesake: bool
    neighbours: tuple[Use, ...]


def see_shot(session: Session, owner_id: int, row: Shot) -> SeenShot:
    """Return a shot with its plan, its dials, and what undo would take back."""
    facts, card_id = facts_and_card(session, row)
    point = row.viewpoint
    scopes = [shot_scope(row.id)] + ([location_scope(point.location_id)] if point else [])
    neighbours, namesake = around(session, row)
    return SeenShot(
        row, facts, plan_shot(facts), dials_of(facts), card_id, undo_state(session, owner_id, scopes), session.get(Backdrop, row.id),
        namesake, neighbours,
    )  # fmt: skip
