"""Accounts: joining by invitation, signing in and out, passwords, and a record of all of it.

Passwords are stored as argon2id hashes; cookies, invitations and recovery links as digests only. A wrong name takes as
long to refuse as a wrong password.
"""

from __future__ import annotations

import hashlib
import secrets
import unicodedata
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from functools import lru_cache

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerificationError
from sqlalchemy import delete, func, select, update
from sqlalchemy.orm import Session

from ...store.accounts import Account, Pass, SignIn, SignInEvent, SignInOutcome
from ...store.photographer import Photographer
from ..platform.errors import NotFound, Refused

SHORTEST_PASSWORD, LONGEST_PASSWORD = 10, 200
PASSWORD_WORDS = f"{SHORTEST_PASSWORD} to {LONGEST_PASSWORD} characters; a few words make a good one"
LONGEST_NAME = 100
# A session expires after this time without a request, and in any case after this time.
UNSEEN, LONGEST = timedelta(days=30), timedelta(days=180)
_NOTED_EVERY = timedelta(minutes=5)
# Limits of failed tries within a period: of a name from one address, from one address, of a name from any address.
WITHIN = timedelta(minutes=15)
_OF_NAME_HERE, _HERE, _OF_NAME = 8, 30, 60
_RECORDED = timedelta(days=180)
_hasher = PasswordHasher()


@dataclass(frozen=True)
class From:
    """Where a request comes from: its address, and the browser's user agent."""

    address: str = ""
    device: str = ""


@dataclass(frozen=True)
class Opened:
    """A pass that is still valid. name: of the account whose password it resets; None if it creates an account."""

    row: Pass
    name: str | None


class TooMany(Exception):
    """Too many failed attempts; further ones are refused for a while."""

    message = (
        "Too many tries went wrong. Wait a quarter of an hour; the administrator of this server can make you a "
        "link that sets a new password."
    )


def make_pass(
    session: Session, now: datetime, days: int = 7, account: Account | None = None, notebook_of_id: int | None = None
) -> str:
    """Return the token of a new link that works once: to create an account, or to reset an account's password."""
    token = secrets.token_urlsafe(24)
    session.add(
        Pass(
            token_digest=_digest(token),
            account_id=account.id if account else None,
            notebook_of_id=notebook_of_id,
            until_utc=now + timedelta(days=days),
        )
    )
    session.flush()
    return token


def open_pass(session: Session, token: str, now: datetime) -> Opened:
    """Return the purpose of a link. Raises Refused if it is used, expired or unknown."""
    row = session.scalars(select(Pass).where(Pass.token_digest == _digest(token)).with_for_update()).first()
    account = session.get(Account, row.account_id) if row is not None and row.account_id is not None else None
    if row is None or row.used_at_utc is not None or row.until_utc <= now or (account is not None and account.closed):
        raise Refused("token", "This link has expired or was already used. Ask for another.")
    return Opened(row, account.name if account else None)


def use_pass(session: Session, token: str, name: str, password: str, now: datetime, came: From) -> str:
    """Create the account of an invitation, or set the password of a recovery link; return the cookie's token of the
    new session.

    Raises Refused at the field concerned.
    """
    opened = open_pass(session, token, now)
    if opened.row.account_id is not None:
        account = session.get_one(Account, opened.row.account_id)
        account.password = _hashed(password, account.name)
        session.execute(delete(SignIn).where(SignIn.account_id == account.id))
        outcome = SignInOutcome.RECOVERED
    else:
        account = _joined(session, opened.row, name, password, now)
        outcome = SignInOutcome.JOINED
    opened.row.used_at_utc = now
    return _begin(session, account, outcome, now, came)


def _joined(session: Session, row: Pass, name: str, password: str, now: datetime) -> Account:
    said = _name(name)
    if _account_named(session, said) is not None:
        raise Refused("name", "Somebody is called so already: choose another name.")
    owner_id = row.notebook_of_id
    if owner_id is not None and session.scalar(select(Account.id).where(Account.owner_id == owner_id)) is not None:
        raise Refused("token", "The notebook that this link gives belongs to an account already. Ask for another link.")
    if owner_id is None:
        owner = Photographer(name=said)
        session.add(owner)
        session.flush()
        owner_id = owner.id
    account = Account(owner_id=owner_id, name=said, password=_hashed(password, said), made_at_utc=now)
    session.add(account)
    session.flush()
    return account


def sign_in(session: Session, name: str, password: str, now: datetime, came: From) -> str | None:
    """Return the cookie's token of a new session; None for a wrong name or password.

    The try is recorded in both cases: commit it. Raises TooMany after too many failed tries.
    """
    said = _spelled(name)[:LONGEST_NAME]
    if _too_many(session, said, now, came):
        _record(session, None, said, SignInOutcome.TOO_MANY, now, came)
        raise TooMany
    account = _account_named(session, said)
    right = _fits(account.password if account else nobodys_password(), password)
    if account is None or not right or account.closed:
        _record(session, account, said, SignInOutcome.WRONG, now, came)
        return None
    if _hasher.check_needs_rehash(account.password):
        account.password = _hasher.hash(password)
    return _begin(session, account, SignInOutcome.SIGNED_IN, now, came)


def signed_in(session: Session, token: str, now: datetime) -> SignIn | None:
    """Return the session of a cookie's token; None if it is signed out. Its last use is recorded now and then."""
    row = session.scalars(select(SignIn).where(SignIn.token_digest == _digest(token))).first()
    if row is None or row.account.closed or now - row.seen_at_utc > UNSEEN or now - row.began_at_utc > LONGEST:
        return None
    if now - row.seen_at_utc > _NOTED_EVERY:
        session.execute(update(SignIn).where(SignIn.id == row.id).values(seen_at_utc=now))
    return row


def sign_out(session: Session, row: SignIn, now: datetime, came: From) -> None:
    """End a session."""
    _record(session, row.account, row.account.name, SignInOutcome.SIGNED_OUT, now, came)
    session.delete(row)


def end_sign_in(session: Session, account: Account, sign_in_id: int, now: datetime, came: From) -> None:
    """End another session of an account. Raises NotFound."""
    row = session.scalars(select(SignIn).where(SignIn.id == sign_in_id, SignIn.account_id == account.id)).first()
    if row is None:
        raise NotFound("sign-in")
    _record(session, account, account.name, SignInOutcome.ENDED, now, came)
    session.delete(row)


def change_password(session: Session, here: SignIn, old: str, new: str, now: datetime, came: From) -> None:
    """Change a password and end every other session. Raises Refused at old or new, TooMany."""
    account = here.account
    if _too_many(session, account.name, now, came):
        raise TooMany
    if not _fits(account.password, old):
        raise Refused("old", "This is not the password as it is now.")
    account.password = _hashed(new, account.name, "new")
    session.execute(delete(SignIn).where(SignIn.account_id == account.id, SignIn.id != here.id))
    _record(session, account, account.name, SignInOutcome.CHANGED, now, came)


def note_wrong_password(session: Session, account: Account, now: datetime, came: From) -> None:
    """Record a wrong password entered to confirm an action."""
    _record(session, account, account.name, SignInOutcome.WRONG, now, came)


def sign_ins_of(session: Session, account: Account, now: datetime) -> Sequence[SignIn]:
    """Return the open sessions of an account, latest first."""
    there = SignIn.account_id == account.id, SignIn.seen_at_utc > now - UNSEEN, SignIn.began_at_utc > now - LONGEST
    return session.scalars(select(SignIn).where(*there).order_by(SignIn.seen_at_utc.desc(), SignIn.id)).all()


def events_of(session: Session, account: Account, most: int = 20) -> Sequence[SignInEvent]:
    """Return the recorded events of an account, latest first."""
    found = select(SignInEvent).where(SignInEvent.account_id == account.id)
    return session.scalars(found.order_by(SignInEvent.id.desc()).limit(most)).all()


def account_named(session: Session, name: str) -> Account:
    """Return the account of a name. Raises NotFound."""
    found = _account_named(session, _spelled(name))
    if found is None:
        raise NotFound("account")
    return found


def _begin(session: Session, account: Account, outcome: SignInOutcome, now: datetime, came: From) -> str:
    token = secrets.token_urlsafe(32)
    session.add(
        SignIn(
            account_id=account.id,
            token_digest=_digest(token),
            began_at_utc=now,
            seen_at_utc=now,
            device=came.device[:200],
        )
    )
    session.execute(delete(SignIn).where(SignIn.seen_at_utc < now - UNSEEN))
    _record(session, account, account.name, outcome, now, came)
    return token


def _record(
    session: Session, account: Account | None, name: str, outcome: SignInOutcome, now: datetime, came: From
) -> None:
    session.execute(delete(SignInEvent).where(SignInEvent.at_utc < now - _RECORDED))
    session.add(
        SignInEvent(
            account_id=account.id if account else None,
            at_utc=now,
            name=name.lower(),
            outcome=outcome,
            address=came.address[:60],
            device=came.device[:200],
        )
    )
    session.flush()


def _too_many(session: Session, name: str, now: datetime, came: From) -> bool:
    wrong = SignInEvent.outcome == SignInOutcome.WRONG, SignInEvent.at_utc > now - WITHIN
    same_name, same_place = SignInEvent.name == name.lower(), SignInEvent.address == came.address
    counts = select(
        func.count().filter(same_name & same_place), func.count().filter(same_place), func.count().filter(same_name)
    ).where(*wrong)  # fmt: skip
    both, here, named = session.execute(counts).one()
    return both >= _OF_NAME_HERE or here >= _HERE or named >= _OF_NAME


def _account_named(session: Session, name: str) -> Account | None:
    return session.scalars(select(Account).where(func.lower(Account.name) == func.lower(name))).first()


def _spelled(name: str) -> str:
    return " ".join(unicodedata.normalize("NFC", name).split())


def _name(name: str) -> str:
    said = _spelled(name)
    if not 1 <= len(said) <= LONGEST_NAME:
        raise Refused("name", f"A name has 1 to {LONGEST_NAME} characters.")
    return said


def _hashed(password: str, name: str, field: str = "password") -> str:
    if not SHORTEST_PASSWORD <= len(password) <= LONGEST_PASSWORD:
        raise Refused(field, f"A password has {PASSWORD_WORDS}.")
    if password.strip().lower() == name.lower() or len(set(password)) < 4:
        raise Refused(field, "This is too easy to guess.")
    return _hasher.hash(password)


@lru_cache(maxsize=1)
def nobodys_password() -> str:
    """Return a hash of an unknown password: compared where there is no account, so that refusing takes as long."""
    return _hasher.hash(secrets.token_urlsafe(16))


def _fits(kept: str, password: str) -> bool:
    # Longer input than a password can have is not hashed.
    if len(password) > LONGEST_PASSWORD:
        return False
    try:
        return _hasher.verify(kept, password)
    except (VerificationError, InvalidHashError):
        return False


def _digest(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()
