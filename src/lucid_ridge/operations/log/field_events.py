"""Field events: accepted at any time, stored once, and folded into a field session."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

from sqlalchemy import func, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from ...core.field.events import FieldEvent, merged, standing
from ...core.field.run import Run, run_of
from ...store.log import FieldEventRow
from ...store.shots import FieldCard, Shot
from ..platform.errors import NotFound, Refused

MOST_EVENTS = 2000
MOST_IMAGE_BYTES = 400_000
_UUID = re.compile(r"[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}", re.ASCII)
PLAIN = (
    "id",
    "run_id",
    "device",
    "at_utc",
    "kind",
    "frame",
    "count",
    "value",
    "text",
    "refers",
    "f_number",
    "shutter_s",
    "iso",
)


@dataclass(frozen=True)
class SentEvent:
    """An event as a device sends it. card_id: the card that was worked through; image: a JPEG of the scene."""

    event: FieldEvent
    card_id: int | None = None
    image: bytes | None = None


def take_in(session: Session, owner_id: int, sent: Sequence[SentEvent]) -> list[str]:
    """Store events; known ones are unchanged. Return the ids now stored. Raises Refused for a malformed event."""
    for at, item in enumerate(sent):
        for name in ("id", "run_id", "refers"):
            value = getattr(item.event, name)
            if value is not None and not _UUID.fullmatch(value):
                raise Refused(f"events.{at}.{name}", f"“{value[:40]}” is no UUID.")
        if item.image is not None and (
            len(item.image) > MOST_IMAGE_BYTES or not item.image.startswith(b"\xff\xd8\xff")
        ):
            raise Refused(
                f"events.{at}.image", f"A photograph of the scene is a JPEG of {MOST_IMAGE_BYTES // 1000} kB at most."
            )
    if not sent:
        return []
    known = _known_cards(session, owner_id, {item.card_id for item in sent if item.card_id is not None})
    rows = {
        item.event.id: {name: getattr(item.event, name) for name in PLAIN}
        | {"owner_id": owner_id, "card_id": item.card_id if item.card_id in known else None, "image": item.image}
        for item in sent
    }
    session.execute(
        insert(FieldEventRow).on_conflict_do_nothing(index_elements=["owner_id", "id"]), list(rows.values())
    )
    return list(rows)


def _known_cards(session: Session, owner_id: int, ids: set[int]) -> set[int]:
    if not ids:
        return set()
    query = select(FieldCard.id).join(Shot).where(FieldCard.id.in_(ids), Shot.owner_id == owner_id)
    return set(session.scalars(query))


def events_of(session: Session, owner_id: int, run_id: str) -> tuple[FieldEvent, ...]:
    """Return the events of a field session in the order in which they happened."""
    rows = session.scalars(
        select(FieldEventRow).where(FieldEventRow.owner_id == owner_id, FieldEventRow.run_id == run_id)
    )
    return merged(FieldEvent(**{name: getattr(row, name) for name in PLAIN}) for row in rows)


def run(session: Session, owner_id: int, run_id: str) -> Run:
    """Return a field session, folded from its events."""
    return run_of(run_id, events_of(session, owner_id, run_id))


def photo_ids(session: Session, owner_id: int, run_id: str) -> list[str]:
    """Return the ids of events with a photograph of the scene, in order, without undone ones."""
    stand = {event.id for event in standing(events_of(session, owner_id, run_id))}
    query = select(FieldEventRow.id).where(
        FieldEventRow.owner_id == owner_id, FieldEventRow.run_id == run_id, FieldEventRow.image.is_not(None)
    )
    return [item for item in session.scalars(query.order_by(FieldEventRow.at_utc, FieldEventRow.id)) if item in stand]


def image_of(session: Session, owner_id: int, event_id: str) -> bytes:
    """Return the photograph of an event as JPEG. Raises NotFound."""
    query = select(FieldEventRow.image).where(FieldEventRow.owner_id == owner_id, FieldEventRow.id == event_id)
    found = session.scalars(query).first()
    if found is None:
        raise NotFound("photograph")
    return found


def run_ids_of_card(session: Session, owner_id: int, card_id: int) -> list[str]:
    """Return the field sessions with a card, latest first."""
    query = (
        select(FieldEventRow.run_id)
        .where(FieldEventRow.owner_id == owner_id, FieldEventRow.card_id == card_id)
        .group_by(FieldEventRow.run_id)
        .order_by(func.max(FieldEventRow.at_utc).desc())
    )
    return list(session.scalars(query))
