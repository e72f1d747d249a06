"""Accounts, their sessions, links for joining and recovery, and the record of sign-ins."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import DateTime, ForeignKey, Index, Text, func
from sqlalchemy.orm import Mapped, mapped_column, relationship

from ..core.labels import NamedEnum
from .base import Base
from .checks import not_blank, one_of
from .declared import Choice


class SignInOutcome(NamedEnum):
    """Result of a sign-in, or an event of an account."""

    SIGNED_IN = "signed_in"
    WRONG = "wrong"
    TOO_MANY = "too_many"
    JOINED = "joined"
    CHANGED = "password_changed"
    RECOVERED = "password_recovered"
    SIGNED_OUT = "signed_out"
    ENDED = "signed_out_elsewhere"


class Account(Base):
    """An account of a photographer.

    password: an argon2 hash with its salt and cost. closed: it can no longer sign in.
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
    """A session. token_digest: of the cookie's token, which is stored nowhere."""

    __tablename__ = "sign_in"

    id: Mapped[int] = mapped_column(primary_key=True)
    account_id: Mapped[int] = mapped_column(ForeignKey("account.id", ondelete="CASCADE"), index=True)
    token_digest: Mapped[str] = mapped_column(Text, unique=True)
    began_at_utc: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    seen_at_utc: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    device: Mapped[str] = mapped_column(Text, default="", server_default="")
    account: Mapped[Account] = relationship(lazy="joined")


class Pass(Base):
    """A link that works once: to create an account, or, with account_id, to reset its password.

    notebook_of_id: the owner of a new account's notebook; None for a new one.
    """

    __tablename__ = "pass"

    id: Mapped[int] = mapped_column(primary_key=True)
    token_digest: Mapped[str] = mapped_column(Text, unique=True)
    account_id: Mapped[int | None] = mapped_column(ForeignKey("account.id", ondelete="CASCADE"), index=True)
    notebook_of_id: Mapped[int | None] = mapped_column(ForeignKey("photographer.id", ondelete="CASCADE"), index=True)
    until_utc: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    used_at_utc: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))


class SignInEvent(Base):
    """A line of the record. name: as typed. address: of the request."""

    __tablename__ = "sign_in_event"
    __table_args__ = (one_of("outcome", tuple(SignInOutcome)), Index("ix_sign_in_event_name_at", "name", "at_utc"))

    id: Mapped[int] = mapped_column(primary_key=True)
    account_id: Mapped[int | None] = mapped_column(ForeignKey("account.id", ondelete="CASCADE"), index=True)
    at_utc: Mapped[datetime] = mapped_column(DateTime(timezone=True), index=True)
    name: Mapped[str] = mapped_column(Text)
    outcome: Mapped[SignInOutcome] = mapped_column(Choice(SignInOutcome))
    address: Mapped[str] = mapped_column(Text, default="", server_default="")
    device: Mapped[str] = mapped_column(Text, default="", server_default="")
