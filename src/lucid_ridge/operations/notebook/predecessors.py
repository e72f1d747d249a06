"""A notebook that was put in another's place, from a backup: it has a token of its own, and its rows are known by that
of the one before.

"""

from __future__ import annotations

from sqlalchemy import select
from sqlalchemy.orm import Session

from ...store.notebook import WAS, Notebook
from ...store.photographer import Photographer
from .archive import remember_all


def settle_token(session: Session) -> None:
    """Note of every row from which notebooks it came, where the token still says so."""
    notebook = session.scalars(select(Notebook)).first()
    if notebook is None or WAS not in notebook.token:
        return
    notebook.token, *before = notebook.token.split(WAS)
    session.flush()
    for owner_id in session.scalars(select(Photographer.id)).all():
        for token in before:
            remember_all(session, owner_id, token)
