"""A shot with everything computed from it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import partial
from typing import Protocol, TypeVar

from sqlalchemy.orm import Session

from ...core.facts.shot import ShotFacts
from ...core.planning.plan.dials import Dials, dials_of
from ...core.planning.plan.shot_plan import ShotPlan, plan_shot
from ...store.shots import Backdrop, Shot
from ..places.locations import location_scope
from ..platform.journal import UndoState, undo_state
from ..platform.shot_context import cached_context
from ..platform.usage import Use, around
from .edits import FilterUse
from .facts import facts_and_card, shot_context_of
from .shots import shot_scope

Kept = TypeVar("Kept")


class Keep(Protocol):
    """Return a value made before under a name, else make it."""

    def __call__(self, what: str, read: Callable[[], Kept], /) -> Kept: ...


@dataclass(frozen=True)
class ShotView:
    """A shot for the page.

    row: the shot. card_id: of its newest field card. namesake: another shot has the same name. neighbours: shots from
    its viewpoint. uses: its use of filters in the bag. keep: caches what depends on its context only.
    """

    row: Shot
    facts: ShotFacts
    plan: ShotPlan
    dials: Dials
    card_id: int | None
    undo: UndoState
    backdrop: Backdrop | None
    namesake: bool
    neighbours: tuple[Use, ...]
    uses: tuple[FilterUse, ...]
    keep: Keep


def view_shot(session: Session, owner_id: int, row: Shot) -> ShotView:
    """Return a shot with its plan, its dials, and what undo would do."""
    there = shot_context_of(session, row)
    facts, card_id = facts_and_card(session, row, there)
    scopes = [shot_scope(row.id)] + ([location_scope(there.location_id)] if there.location_id is not None else [])
    neighbours, namesake = cached_context(session, row.id, "neighbours", lambda: around(session, row))
    has_backdrop = cached_context(session, row.id, "backdrop", lambda: session.get(Backdrop, row.id) is not None)
    return ShotView(
        row=row,
        facts=facts,
        plan=plan_shot(facts),
        dials=dials_of(facts),
        card_id=card_id,
        undo=undo_state(session, owner_id, scopes),
        backdrop=session.get(Backdrop, row.id) if has_backdrop else None,
        namesake=namesake,
        neighbours=neighbours,
        uses=there.uses,
        keep=partial(cached_context, session, row.id),
    )
