"""Summaries of long computations: what the notebook shows of a shot, which place, and digests of the log."""

from __future__ import annotations

from datetime import date, datetime
from typing import Any, TypedDict

from sqlalchemy import BigInteger, DateTime, ForeignKey, Text
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from .base import Base


class KeptVerdict(TypedDict):
    step: str
    mark: str
    text: str


class KeptShape(TypedDict):
    shape: str
    distance_m: float
    outline: str


class KeptMiniature(TypedDict):
    aspect: float
    shapes: list[KeptShape]
    ground: str
    picture: str | None


class ShotSummary(Base):
    """A shot's verdicts, the duration of its frames, and its miniature. Valid while made_revision is not behind
    touched_revision and version is the code's.

    touched_revision: of the notebook when something that the plan depends on was last written. made_revision: of the
    notebook when the summary was made.
    """

    __tablename__ = "shot_summary"

    shot_id: Mapped[int] = mapped_column(ForeignKey("shot.id", ondelete="CASCADE"), primary_key=True)
    touched_revision: Mapped[int] = mapped_column(BigInteger, default=0, server_default="0")
    made_revision: Mapped[int] = mapped_column(BigInteger, default=-1, server_default="-1")
    version: Mapped[str] = mapped_column(Text, default="", server_default="")
    verdicts: Mapped[list[KeptVerdict]] = mapped_column(JSONB, default=list, server_default="[]")
    sequence_s: Mapped[float | None]
    miniature: Mapped[KeptMiniature | None] = mapped_column("thumb", JSONB(none_as_null=True))


class KeptOutlook(Base):
    """The answer to an owner's last question "which place", as the API sends it.

    Valid while revision is the notebook's, and for a while after made_at_utc.
    """

    __tablename__ = "kept_outlook"

    owner_id: Mapped[int] = mapped_column(ForeignKey("photographer.id", ondelete="CASCADE"), primary_key=True)
    from_date: Mapped[date]
    days: Mapped[int]
    revision: Mapped[int] = mapped_column(BigInteger)
    made_at_utc: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    content: Mapped[dict[str, Any]] = mapped_column(JSONB)


class LogDigest(Base):
    """The digest of a log entry (core.learning.digests).

    stamp: names the state of the entry and its frames it was made from. errors: of its frames with predicted light,
    stored separately, as only the newest are read.
    """

    __tablename__ = "log_digest"

    entry_id: Mapped[int] = mapped_column(ForeignKey("log_entry.id", ondelete="CASCADE"), primary_key=True)
    stamp: Mapped[str] = mapped_column(Text)
    content: Mapped[dict[str, Any]] = mapped_column(JSONB)
    errors: Mapped[list[Any]] = mapped_column(JSONB)
    errors_count: Mapped[int]
