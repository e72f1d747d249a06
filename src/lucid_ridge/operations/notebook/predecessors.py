"""Settles a notebook that replaced another one, from a backup: it gets its own token, and its rows are known by the
former one too.
"""

from __future__ import annotations

from sqlalchemy import select
from sqlalchemy.orm import Session

from ...store.notebook import WAS, Notebook
from ...store.photographer import Photographer
from .archive import remember_all


def settle_token(session: Session) -> None:
    """Record the former notebooks of every row, if the token still names them."""
    notebook = session.scalars(select(Notebook)).first()
    if notebook is None or WAS not in notebook.token:
        return
    notebook.token, *before = notebook.token.split(WAS)
    session.flush()
    for owner_id in session.scalars(select(Photographer.id)).all():
        for token in before:
            remember_all(session, owner_id, token)
