"""Accounts: who may sign in, where they are signed in, the links that let someone in, and what came of every try."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import DateTime, ForeignKey, Index, Text, func
from sqlalchemy.orm import Mapped, mapped_column, relationship

from ..core.labels import NamedEnum
from .base import Base
from .checks import not_blank, one_of
from .declared import Choice


class SignInOutcome(NamedEnum):
    """What came of a try to sign in, or what was done with an account."""

    SIGNED_IN = "signed_in"
    WRONG = "wrong"
    TOO_MANY = "too_many"
    JOINED = "joined"
    CHANGED = "password_changed"
    RECOVERED = "password_recovered"
    SIGNED_OUT = "signed_out"
    ENDED = "signed_out_elsewhere"


class Account(Base):
    """One for a photographer.

    password: as argon2 makes of it, with its own salt and cost. closed: nobody signs in with it any more.

    """

    __tablename__ = "account"
    __table_args__ = (not_blank(), Index("uq_account_lower_name", func.lower("name"), unique=True))

    id: Mapped[int] = mapped_column(primary_key=True)
    owner_id: Mapped[int] = mapped_column(ForeignKey("photographer.id", ondelete="CASCADE"), unique=True)
    name: Mapped[str] = mapped_column(Text)
    password: Mapped[str] = mapped_column(Text)
    made_at_utc: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    closed: Mapped[bool] = mapped_column(default=False, server_default="false")


class SignIn(Base):
    """A browser that is signed in. token_digest: of what its cookie holds, which is kept nowhere."""

    __tablename__ = "sign_in"

    id: Mapped[int] = mapped_column(primary_key=True)
    account_id: Mapped[int] = mapped_column(ForeignKey("account.id", ondelete="CASCADE"), index=True)
    token_digest: Mapped[str] = mapped_column(Text, unique=True)
    began_at_utc: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    seen_at_utc: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    device: Mapped[str] = mapped_column(Text, default="", server_default="")
    account: Mapped[Account] = relationship(lazy="joined")


class Pass(Base):
    """A link that lets someone in once: to make an account, or, with account_id, to set its password anew.

    notebook_of_id: whose notebook a new account is to have; None for a new one.
    """

    __tablename__ = "pass"

    id: Mapped[int] = mapped_column(primary_key=True)
    token_digest: Mapped[str] = mapped_column(Text, unique=True)
    account_id: Mapped[int | None] = mapped_column(ForeignKey("account.id", ondelete="CASCADE"), index=True)
    notebook_of_id: Mapped[int | None] = mapped_column(ForeignKey("photographer.id", ondelete="CASCADE"), index=True)
    until_utc: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    used_at_utc: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))


class SignInEvent(Base):
    """A line of the record. name: as it was typed. address: where the try came from."""

    __tablename__ = "sign_in_event"
    __table_args__ = (one_of("outcome", tuple(SignInOutcome)), Index("ix_sign_in_event_name_at", "name", "at_utc"))

    id: Mapped[int] = mapped_column(primary_key=True)
    account_id: Mapped[int | None] = mapped_column(ForeignKey("account.id", ondelete="CASCADE"), index=True)
    at_utc: Mapped[datetime] = mapped_column(DateTime(timezone=True), index=True)
    name: Mapped[str] = mapped_column(Text)
    outcome: Mapped[SignInOutcome] = mapped_column(Choice(SignInOutcome))
    address: Mapped[str] = mapped_column(Text, default="", server_default="")
    device: Mapped[str] = mapped_column(Text, default="", server_default="")
