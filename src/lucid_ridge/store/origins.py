"""Origins of rows that were made in another notebook, so that they are recognised when they come again."""

from __future__ import annotations

from sqlalchemy import ForeignKey, Index, Text
from sqlalchemy.orm import Mapped, mapped_column

from .base import Base


class Origin(Base):
    """A row of another notebook and its row here.

    notebook: the other's token; what and their_id: its table and id there; our_id: its id here.
    """

    __tablename__ = "origin"
    __table_args__ = (Index("ix_origin_ours", "owner_id", "what", "our_id"),)

    owner_id: Mapped[int] = mapped_column(ForeignKey("photographer.id", ondelete="CASCADE"), primary_key=True)
    notebook: Mapped[str] = mapped_column(Text, primary_key=True)
    what: Mapped[str] = mapped_column(Text, primary_key=True)
    their_id: Mapped[int] = mapped_column(primary_key=True)
    our_id: Mapped[int]
