"""The notebook: a token by which a page knows that it still writes to the notebook it was opened on."""

from __future__ import annotations

from sqlalchemy import Text, select, text
from sqlalchemy.orm import Mapped, Session, mapped_column

from .base import Base


class Notebook(Base):
    """The one row of this table is made with it."""

    __tablename__ = "notebook"

    id: Mapped[int] = mapped_column(primary_key=True)
    token: Mapped[str] = mapped_column(Text, server_default=text("gen_random_uuid()::text"))


# Separates its own token from that of the notebook it was made from, until its rows record that; written by
# tools/backups.py.
WAS = " was "


def is_from_another(session: Session) -> bool:
    """Return whether a notebook replaced another one, and its rows do not record that yet."""
    return WAS in (session.scalar(select(Notebook.token)) or "")
