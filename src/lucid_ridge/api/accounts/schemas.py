"""Signing in, invitations, one's account."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import Field

from ...configuration import Access
from ...store.accounts import SignInOutcome
from ..platform.fields import In, Out

Secret = Annotated[str, Field(max_length=400)]
Said = Annotated[str, Field(max_length=200)]


class SessionOut(Out):
    """How one is let in here, and whether this browser is. name: of the account that is signed in."""

    access: Access
    signed_in: bool
    name: str | None


class SignInIn(In):
    name: Said
    password: Secret


class KeyIn(In):
    key: Secret


class TokenIn(In):
    token: Secret


class PassOut(Out):
    """What a link is for: name is of the account whose password it sets anew, null where it makes an account.

    password_words: what a password must be.

    """

    name: str | None
    password_words: str


class JoinIn(In):
    """name counts only where an account is made."""

    token: Secret
    name: Said = ""
    password: Secret


class PasswordIn(In):
    old: Secret
    new: Secret


class SignedInOut(Out):
    """A browser that is signed in. here: the one that asks."""

    id: int
    device: str
    began_at_utc: datetime
    seen_at_utc: datetime
    seen_words: str
    here: bool


class SignInEventOut(Out):
    at_utc: datetime
    words: str
    outcome: SignInOutcome
    address: str
    device: str


class AccountOut(Out):
    """password_words: what a password must be."""

    name: str
    password_words: str
    sign_ins: list[SignedInOut]
    events: list[SignInEventOut]
