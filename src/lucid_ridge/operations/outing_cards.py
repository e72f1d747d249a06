"""The field cards of an outing's shots, to be taken along together."""

from __future__ import annotations

from sqlalchemy.orm import Session

from ..store.outings import Outing
from ..store.shots import FieldCard
from .cards import get_card, make_card
from .errors import Conflict
from .outings import SeenOuting
from .rows import owned


def cards_of_outing(session: Session, owner_id: int, seen: SeenOuting) -> list[tuple[FieldCard, bool]]:
    """Return the newest card of every shot of an outing, in the order in which they are taken, and whether its plan has moved on since."""
    order = [*seen.plan.order, *(at for at in range(len(seen.row.stops)) if at not in seen.plan.order)]
    shots = list(dict.fromkeys(stop.shot for stop in (seen.row.stops[at] for at in order) if stop.shot is not None))
    newest = [max(shot.cards, key=lambda card: card.id) for shot in shots if shot.cards]
    return [get_card(session, owner_id, card.id) for card in newest if card.run is not None]


def make_cards_of_outing(session: Session, owner_id: int, outing_id: int) -> int:
    """Make the cards that are missing or have grown old; a shot without frames has none. Returns how many shots have one. Raises NotFound, Conflict where none has."""
    row = owned(session, owner_id, Outing, outing_id)
    made = 0
    for shot_id in dict.fromkeys(stop.shot_id for stop in row.stops if stop.shot_id is not None):
        try:
            make_card(session, owner_id, shot_id)
            made += 1
        except Conflict:
            # Its plan has no frames yet; the others go along without it.
            continue
    if not made:
        raise Conflict("None of this outing's shots has frames to take yet.")
    return made
