"""Signing in, invitations and the account."""

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
    """How one signs in here, and whether this browser is signed in. name: of the account."""

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
    """What a link is for.

    name: of the account whose password it resets, null if it creates one. password_words: the rule for passwords.
    """

    name: str | None
    password_words: str


class JoinIn(In):
    """The name is used only to create an account."""

    token: Secret
    name: Said = ""
    password: Secret


class PasswordIn(In):
    old: Secret
    new: Secret


class SignedInOut(Out):
    """A browser that is signed in. here: the one asking."""

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
    """An account. password_words: the rule for passwords."""

    name: str
    password_words: str
    sign_ins: list[SignedInOut]
    events: list[SignInEventOut]
