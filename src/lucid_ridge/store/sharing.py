"""Share links to a card, an outing's cards, or a location, valid until a date."""

from __future__ import annotations

from datetime import datetime
from enum import StrEnum
from typing import Any

from sqlalchemy import DateTime, ForeignKey, Text
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from .base import Base
from .checks import one_of
from .declared import Choice


class Where(StrEnum):
    """What a link shows of the place: names and position; roughly where, without a name; or nothing."""

    EXACT = "exact"
    ROUGH = "rough"
    HIDDEN = "hidden"


class Share(Base):
    """A link. token: its secret; anyone with it can read what the link shows, and nothing else.

    outing_id, location_id: its subject; neither for a single card. given: the rows that may be copied, by table, as of
    its creation; for a location these are shown.
    """

    __tablename__ = "share"
    __table_args__ = (one_of("where_told", tuple(Where)),)

    id: Mapped[int] = mapped_column(primary_key=True)
    owner_id: Mapped[int] = mapped_column(ForeignKey("photographer.id", ondelete="CASCADE"), index=True)
    outing_id: Mapped[int | None] = mapped_column(ForeignKey("outing.id", ondelete="CASCADE"), index=True)
    location_id: Mapped[int | None] = mapped_column(ForeignKey("location.id", ondelete="CASCADE"), index=True)
    token: Mapped[str] = mapped_column(Text, unique=True)
    where_told: Mapped[Where] = mapped_column(Choice(Where))
    made_at_utc: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    until_utc: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    given: Mapped[dict[str, list[dict[str, Any]]] | None] = mapped_column(JSONB(none_as_null=True))


class ShareCard(Base):
    """A shared card, as of the link's creation. place: its position in the list."""

    __tablename__ = "share_card"

    share_id: Mapped[int] = mapped_column(ForeignKey("share.id", ondelete="CASCADE"), primary_key=True)
    card_id: Mapped[int] = mapped_column(ForeignKey("field_card.id", ondelete="CASCADE"), primary_key=True, index=True)
    place: Mapped[int]
