"""The notebook itself: a token by which a page knows that it still writes into the one it was opened on."""

from __future__ import annotations

from sqlalchemy import Text, text
from sqlalchemy.orm import Mapped, mapped_column

from .base import Base


class Notebook(Base):
    """The one row of this table is made with it."""

    __tablename__ = "notebook"

    id: Mapped[int] = mapped_column(primary_key=True)
    token: Mapped[str] = mapped_column(Text, server_default=text("gen_random_uuid()::text"))
