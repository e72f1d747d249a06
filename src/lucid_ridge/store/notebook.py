"""The notebook itself: a token by which a page knows that it still writes into the one it was opened on."""

from __future__ import annotations

from sqlalchemy import Text, select, text
from sqlalchemy.orm import Mapped, Session, mapped_column

from .base import Base


class Notebook(Base):
    """The one row of this table is made with it."""

    __tablename__ = "notebook"

    id: Mapped[int] = mapped_column(primary_key=True)
    token: Mapped[str] = mapped_column(Text, server_default=text("gen_random_uuid()::text"))


# Between its own token and that of the notebook it was made of, until that is noted of its rows; tools/backups.py
# writes it so.
WAS = " was "


def is_from_another(session: Session) -> bool:
    """Whether a notebook was put in another's place, and its rows do not yet know where they came from."""
    return WAS in (session.scalar(select(Notebook.token)) or "")
