"""Who writes. One hand writes into a notebook at a time: the order of all locks is the notebook first."""

from __future__ import annotations

from dataclasses import dataclass

from sqlalchemy import update
from sqlalchemy.orm import Session

from ..store.photographer import Photographer

_KEY = "writer"


@dataclass(frozen=True)
class Writer:
    """hand: the page that writes. seen: the notebook's revision that the hand had read; None where it does not say. revision: the one being written."""

    hand: str = ""
    seen: int | None = None
    revision: int = 0


def take_pen(session: Session, owner_id: int, hand: str = "", seen: int | None = None) -> Writer:
    """Wait until nobody else writes into the owner's notebook, count its revision up, and note who writes until the transaction ends."""
    # The update itself is the lock. It is no lock on the key, so that rows may be added beneath the owner.
    statement = update(Photographer).where(Photographer.id == owner_id).values(revision=Photographer.revision + 1)
    found = session.execute(statement.returning(Photographer.revision).execution_options(synchronize_session=False)).scalar_one()
    writer = session.info[_KEY] = Writer(hand, seen, found)
    return writer


def writer_of(session: Session, owner_id: int) -> Writer:
    """Return who writes in this session, taking the pen where nobody has yet."""
    found: Writer | None = session.info.get(_KEY)
    return found or take_pen(session, owner_id)


def lay_down_pen(session: Session) -> None:
    """Forget who wrote, once the transaction has ended."""
    session.info.pop(_KEY, None)
