"""Finds the owner of a notebook: the local photographer, or an account's.

Commands import it too, so it imports little.
"""

from __future__ import annotations

from sqlalchemy import bindparam, select
from sqlalchemy.orm import Session

from ...store.notebook import Notebook
from ...store.photographer import Photographer

# Built once: every request runs it.
_TOKEN = select(Notebook.token).limit(1).scalar_subquery()
_OWNER_AND_NOTEBOOK = select(Photographer, _TOKEN).order_by(Photographer.id).limit(1)
_NAMED_AND_NOTEBOOK = select(Photographer, _TOKEN).where(Photographer.id == bindparam("owner"))


def local_photographer(session: Session) -> Photographer:
    """Return the local photographer; create the row the first time."""
    found = session.scalars(select(Photographer).order_by(Photographer.id).limit(1)).first()
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
