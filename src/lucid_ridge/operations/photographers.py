"""The one local photographer."""

from __future__ import annotations

from collections.abc import Mapping

from sqlalchemy import bindparam, select
from sqlalchemy.orm import Session

from ..store.notebook import Notebook
from ..store.photographer import Photographer
from .light import set_weights
from .pen import writer_of
from .rows import assign
from .touched import touch_all

# What plans depend on; the rest is how the photographer works.
_PLANNED_WITH = {"set_up_min", "reserve_min", "lengths", "hours", "day_order", "polariser_from_mm"}

# Made once: every request asks for it.
_TOKEN = select(Notebook.token).limit(1).scalar_subquery()
_OWNER_AND_NOTEBOOK = select(Photographer, _TOKEN).order_by(Photographer.id).limit(1)
_NAMED_AND_NOTEBOOK = select(Photographer, _TOKEN).where(Photographer.id == bindparam("owner"))


def local_photographer(session: Session) -> Photographer:
    """Return the local photographer, making the row the first time."""
    found = session.scalars(select(Photographer).order_by(Photographer.id).limit(1)).first()
    if found is None:
        found = Photographer(name="Local photographer")
        session.add(found)
        session.flush()
    return found


def owner_and_notebook(session: Session, owner_id: int | None = None) -> tuple[Photographer, str]:
    """Return an owner, or the local photographer, and the token of the notebook, which no other one has."""
    if owner_id is not None:
        owner, token = session.execute(_NAMED_AND_NOTEBOOK, {"owner": owner_id}).one()
        return owner, f"{token}-{owner_id}"
    found = session.execute(_OWNER_AND_NOTEBOOK).first()
    return (found[0], found[1] or "") if found else (local_photographer(session), session.scalar(select(_TOKEN)) or "")


def edit_photographer(
    session: Session, owner_id: int, changes: Mapping[str, object], promise_weights: Mapping[str, float] | None = None
) -> Photographer:
    """Change the theme, the spelling, the times of preparation and the weights of the promise."""
    owner = session.get_one(Photographer, owner_id)
    if promise_weights:
        set_weights(session, owner_id, promise_weights)
    assign(owner, changes)
    session.flush()
    if changes.keys() & _PLANNED_WITH:
        touch_all(session, writer_of(session, owner_id).revision, owner_id)
    return owner
