"""The journal: every edit as rows before and after, for undo and redo."""

from __future__ import annotations

from datetime import datetime
from typing import TypedDict

from sqlalchemy import BigInteger, DateTime, ForeignKey, Index, Text
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from .base import Base
from .rows import Row


class Change(TypedDict):
    """A row before and after an edit; None: it did not exist. An altered row has only its changed columns, and those
    that say what it belongs to.
    """

    table: str
    key: Row
    before: Row | None
    after: Row | None


class JournalEntry(Base):
    """One edit.

    scope: what it belongs to (shot:3, location:2, kit). changes: [{table, key, before, after}]. client_id: the page
    that wrote it. revision: of the notebook when it was last written, undone or redone. passed_over: undo or redo
    found nothing left to apply; it is skipped from then on.
    """

    __tablename__ = "journal_entry"
    __table_args__ = (
        Index("ix_journal_entry_owner_scope", "owner_id", "scope", "undone"),
        Index("ix_journal_entry_owner_revision", "owner_id", "revision"),
    )

    id: Mapped[int] = mapped_column(primary_key=True)
    owner_id: Mapped[int] = mapped_column(ForeignKey("photographer.id", ondelete="CASCADE"))
    made_at_utc: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    scope: Mapped[str] = mapped_column(Text)
    label: Mapped[str] = mapped_column(Text)
    changes: Mapped[list[Change]] = mapped_column(JSONB)
    undone: Mapped[bool] = mapped_column(default=False)
    client_id: Mapped[str] = mapped_column(Text, default="", server_default="")
    revision: Mapped[int] = mapped_column(BigInteger, default=0, server_default="0")
    passed_over: Mapped[bool] = mapped_column(default=False, server_default="false")
