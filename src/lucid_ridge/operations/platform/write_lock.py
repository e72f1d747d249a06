"""Who writes. One hand writes into a notebook at a time: the order of all locks is the notebook first."""

from __future__ import annotations

from dataclasses import dataclass

from sqlalchemy import Text, bindparam, cast, func, update
from sqlalchemy.orm import Session

from ...store.photographer import Photographer
from .shot_context import surroundings_are, surroundings_change

_KEY = "writer"


@dataclass(frozen=True)
class Writer:
    """hand: the page that writes.

    seen: the notebook's revision that the hand had read; None where it does not say. revision: the one being written.

    """

    hand: str = ""
    seen: int | None = None
    revision: int = 0


# The update itself is the lock. It is no lock on the key, so that rows may be added beneath the owner.
_COUNTED = update(Photographer).where(Photographer.id == bindparam("owner")).values(revision=Photographer.revision + 1)
_NEW_TOKEN = cast(func.gen_random_uuid(), Text)
_TOLD = (Photographer.revision, Photographer.surroundings)
_CHOOSES = _COUNTED.returning(*_TOLD).execution_options(synchronize_session=False)
_WRITES = _COUNTED.values(surroundings=_NEW_TOKEN).returning(*_TOLD).execution_options(synchronize_session=False)


def take_pen(
    session: Session, owner_id: int, hand: str = "", seen: int | None = None, only_chooses: bool = False
) -> Writer:
    """Wait until nobody else writes into the owner's notebook, count its revision up, and note who writes until the
    transaction ends.

    only_chooses: nothing will be written but the choices of one shot, so that what surrounds shots stays as it was
    read.
    """
    found = session.execute(_CHOOSES if only_chooses else _WRITES, {"owner": owner_id}).one()
    if only_chooses:
        surroundings_are(session, found.surroundings)
    else:
        surroundings_change(session)
    writer = session.info[_KEY] = Writer(hand, seen, found.revision)
    return writer


def change_surroundings(session: Session, owner_id: int) -> None:
    """Let everything that surrounds the owner's shots be read anew from now on: for what is written without the pen."""
    changed = update(Photographer).where(Photographer.id == owner_id).values(surroundings=_NEW_TOKEN)
    session.execute(changed.execution_options(synchronize_session=False))
    surroundings_change(session)


def writer_of(session: Session, owner_id: int) -> Writer:
    """Return who writes in this session, taking the pen where nobody has yet."""
    found: Writer | None = session.info.get(_KEY)
    return found or take_pen(session, owner_id)


def lay_down_pen(session: Session) -> None:
    """Forget who wrote, once the transaction has ended."""
    session.info.pop(_KEY, None)
