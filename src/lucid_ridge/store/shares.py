"""Links by which a field card is read by others, until a date."""

from __future__ import annotations

from datetime import datetime
from enum import StrEnum

from sqlalchemy import DateTime, ForeignKey, Text
from sqlalchemy.orm import Mapped, mapped_column

from .base import Base
from .checks import one_of
from .declared import Choice


class Where(StrEnum):
    """What a link says of the place: its names and position; only roughly where, without a name; or nothing."""

    EXACT = "exact"
    ROUGH = "rough"
    HIDDEN = "hidden"


class Share(Base):
    """token: what the link holds; who has it reads the card, and nothing else."""

    __tablename__ = "share"
    __table_args__ = (one_of("where_told", tuple(Where)),)

    id: Mapped[int] = mapped_column(primary_key=True)
    card_id: Mapped[int] = mapped_column(ForeignKey("field_card.id", ondelete="CASCADE"), index=True)
    token: Mapped[str] = mapped_column(Text, unique=True)
    where_told: Mapped[Where] = mapped_column(Choice(Where))
    made_at_utc: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    until_utc: Mapped[datetime] = mapped_column(DateTime(timezone=True))
