"""Finds the owner of a notebook: the local photographer, or an account's.

Commands import it too, so it imports little.
"""

from __future__ import annotations

from sqlalchemy import bindparam, func, select
from sqlalchemy.orm import Session

from ...store.notebook import Notebook
from ...store.photographer import Photographer

# Built once: every request runs it.
_TOKEN = select(Notebook.token).limit(1).scalar_subquery()
_OWNER_AND_NOTEBOOK = select(Photographer, _TOKEN).order_by(Photographer.id).limit(1)
_NAMED_AND_NOTEBOOK = select(Photographer, _TOKEN).where(Photographer.id == bindparam("owner"))

# Key of the lock under which the local photographer is made.
_MAKING = 0x4C52


def local_photographer(session: Session) -> Photographer:
    """Return the local photographer; create the row the first time."""
    first = select(Photographer).order_by(Photographer.id).limit(1)
    found = session.scalars(first).first()
    if found is None:
        # Requests that find an empty notebook at the same moment wait for the one that makes the photographer.
        session.execute(select(func.pg_advisory_xact_lock(_MAKING)))
        found = session.scalars(first).first()
    if found is None:
        found = Photographer(name="Local photographer")
        session.add(found)
        session.flush()
    return found


def owner_and_notebook(session: Session, owner_id: int | None = None) -> tuple[Photographer, str]:
    """Return an owner, or the local photographer, with the notebook's token, which is unique."""
    if owner_id is not None:
        owner, token = session.execute(_NAMED_AND_NOTEBOOK, {"owner": owner_id}).one()
        return owner, f"{token}-{owner_id}"
    found = session.execute(_OWNER_AND_NOTEBOOK).first()
    return (found[0], found[1] or "") if found else (local_photographer(session), session.scalar(select(_TOKEN)) or "")
