"""The owner of everything."""

from __future__ import annotations

from sqlalchemy import Text
from sqlalchemy.orm import Mapped, mapped_column

from .base import Base
from .checks import not_blank, one_of

THEMES = ("graphite", "paper", "ember")


class Photographer(Base):
    __tablename__ = "photographer"
    __table_args__ = (not_blank(), one_of("theme", THEMES))

    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(Text)
    theme: Mapped[str] = mapped_column(Text, default="graphite")
