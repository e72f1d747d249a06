"""Field cards of an outing: each shot as planned for its date and time in the outing."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import select
from sqlalchemy.orm import Session

from ...core.outing.plan_with_shots import AtVisit
from ...store.photographer import Photographer
from ...store.shots import FieldCard, Shot
from ..accounts.promise_weights import weights_of
from ..platform.errors import Conflict
from ..platform.journal import journaled
from ..shots.cards import OfOuting, new_card
from ..shots.facts import inputs_hash
from .outings import OutingView, outing_scope, see_outing


def cards_of_outing(session: Session, seen: OutingView) -> list[tuple[FieldCard, bool]]:
    """Return the newest card of each stop of an outing, in the order of visits, and whether the plan has changed
    since.
    """
    query = select(FieldCard).where(FieldCard.outing_id == seen.row.id).order_by(FieldCard.id)
    made = [card for card in session.scalars(query) if card.run is not None]
    found: list[tuple[FieldCard, bool]] = []
    for at, visit in _in_order(seen):
        mine = [
            card
            for card in made
            if card.shot_id == seen.stops[at].shot_id and card not in [other for other, _ in found]
        ]
        exact = [card for card in mine if _is_of(card, visit)]
        if mine:
            card = (exact or mine)[-1]
            found.append((card, not exact))
    return found


def make_cards_of_outing(session: Session, owner_id: int, outing_id: int, now_utc: datetime) -> int:
    """Make the cards that are missing or outdated. A shot without frames, or that is left out, gets none. Returns how
    many stops have one.

    Raises NotFound, Conflict if none has.
    """
    seen = see_outing(session, owner_id, outing_id, now_utc)
    kept = cards_of_outing(session, seen)
    current = {card.id for card, stale in kept if not stale}
    weights = weights_of(session.get_one(Photographer, owner_id))
    count = 0
    for at, visit in _in_order(seen):
        if not visit.plan.sequence.frames:
            continue
        count += 1
        if any(
            card.id in current and card.shot_id == seen.stops[at].shot_id and _is_of(card, visit) for card, _ in kept
        ):
            continue
        shot = session.get_one(Shot, seen.stops[at].shot_id)
        outing = OfOuting(seen.row.id, seen.row.name, visit.begins_utc, _way(seen, at, visit))
        with journaled(session, owner_id, outing_scope(seen.row.id), f"make the card of {shot.name}"):
            shot.cards.append(new_card(shot, visit.facts, visit.plan, inputs_hash(visit.facts), weights, outing))
    if not count:
        raise Conflict("None of this outing's shots has frames to take yet.")
    return count


def _way(seen: OutingView, at: int, visit: AtVisit) -> list[dict[str, object]]:
    """Return the legs to a stop and at it, from the outing's plan."""
    clock = visit.facts.clock
    return [
        {
            "name": f"{part.kind} {part.where}".strip(),
            "start": clock(part.span.start_utc),
            "end": clock(part.span.end_utc),
            "dark": part.dark,
        }
        for part in seen.plan.parts
        if part.stop == at
    ]


def _in_order(seen: OutingView) -> list[tuple[int, AtVisit]]:
    return [(at, seen.at_visits[at]) for at in seen.plan.order if at in seen.at_visits]


def _is_of(card: FieldCard, visit: AtVisit) -> bool:
    """Return whether a card matches the outing's current plan."""
    return card.begins_utc == visit.begins_utc and card.inputs_hash == inputs_hash(visit.facts)
