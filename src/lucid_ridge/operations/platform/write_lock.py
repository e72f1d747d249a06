"""Serialises writes to a notebook.

Every writing transaction first locks the owner's row, so locks are always taken in the same order.
"""

from __future__ import annotations

from dataclasses import dataclass

from sqlalchemy import Text, bindparam, cast, func, update
from sqlalchemy.orm import Session

from ...store.photographer import Photographer
from .shot_context import invalidate_shot_context, use_context_token

_KEY = "writer"


@dataclass(frozen=True)
class Writer:
    """Who writes in a transaction.

    client_id: the page that writes. known_revision: the revision that page has read; None if it does not send one.
    revision: the revision being written.
    """

    client_id: str = ""
    known_revision: int | None = None
    revision: int = 0


# The update is the lock. It does not lock the key, so rows that refer to the owner can still be inserted.
_INCREMENT = (
    update(Photographer).where(Photographer.id == bindparam("owner")).values(revision=Photographer.revision + 1)
)
_NEW_TOKEN = cast(func.gen_random_uuid(), Text)
_RESULT = (Photographer.revision, Photographer.context_token)
_KEEP_CONTEXT = _INCREMENT.returning(*_RESULT).execution_options(synchronize_session=False)
_NEW_CONTEXT = (
    _INCREMENT.values(context_token=_NEW_TOKEN).returning(*_RESULT).execution_options(synchronize_session=False)
)


def acquire_write_lock(
    session: Session,
    owner_id: int,
    client_id: str = "",
    known_revision: int | None = None,
    keeps_context: bool = False,
) -> Writer:
    """Lock the notebook for this transaction and increment its revision.

    Block while another transaction holds the lock.

    keeps_context: only choices of one shot will be written, so the cached context of shots stays valid.
    """
    found = session.execute(_KEEP_CONTEXT if keeps_context else _NEW_CONTEXT, {"owner": owner_id}).one()
    if keeps_context:
        use_context_token(session, found.context_token)
    else:
        invalidate_shot_context(session)
    writer = session.info[_KEY] = Writer(client_id, known_revision, found.revision)
    return writer


def invalidate_owner_context(session: Session, owner_id: int) -> None:
    """Invalidate the cached context of all the owner's shots. For writes that do not take the lock."""
    changed = update(Photographer).where(Photographer.id == owner_id).values(context_token=_NEW_TOKEN)
    session.execute(changed.execution_options(synchronize_session=False))
    invalidate_shot_context(session)


def writer_of(session: Session, owner_id: int) -> Writer:
    """Return the writer of this session; acquire the lock if nothing was written yet."""
    found: Writer | None = session.info.get(_KEY)
    return found or acquire_write_lock(session, owner_id)


def release_write_lock(session: Session) -> None:
    """Clear the writer recorded for this session. Call after commit or rollback."""
    session.info.pop(_KEY, None)
