"""Commands for accounts on a server: invite, recover, close, list."""

from __future__ import annotations

import argparse
import sys
from datetime import UTC, datetime

from sqlalchemy import select
from sqlalchemy.orm import Session, sessionmaker

from .configuration import INVITED_DAYS
from .operations.accounts import accounts as operations
from .operations.accounts.photographers import local_photographer
from .operations.platform.errors import NotFound
from .store.accounts import Account, Pass, SignIn


def run(options: argparse.Namespace, sessions: sessionmaker[Session]) -> int:
    """Run a command; links are printed without the address, which only the operator knows."""
    now = datetime.now(UTC)
    try:
        with sessions() as session, session.begin():
            return _COMMANDS[options.what](session, options, now)
    except NotFound:
        print(f"Nobody is called {options.name!r}.", file=sys.stderr)
        return 1


def _invite(session: Session, options: argparse.Namespace, now: datetime) -> int:
    mine = local_photographer(session).id if options.own else None
    if mine is not None and session.scalar(select(Account.id).where(Account.owner_id == mine)) is not None:
        print("The notebook of this machine belongs to an account already.", file=sys.stderr)
        return 1
    print(f"join#{operations.make_pass(session, now, INVITED_DAYS, notebook_of_id=mine)}")
    return 0


def _recover(session: Session, options: argparse.Namespace, now: datetime) -> int:
    print(f"join#{operations.make_pass(session, now, 1, operations.account_named(session, options.name))}")
    return 0


def _close(session: Session, options: argparse.Namespace, _now: datetime) -> int:
    account = operations.account_named(session, options.name)
    account.closed = options.what == "close"
    if account.closed:
        for row in session.scalars(select(SignIn).where(SignIn.account_id == account.id)):
            session.delete(row)
    print(f"{account.name} is {'closed' if account.closed else 'open again'}.")
    return 0


def _list(session: Session, _options: argparse.Namespace, _now: datetime) -> int:
    for row in session.scalars(select(Account).order_by(Account.name)):
        print(f"{row.name}, since {row.made_at_utc:%Y-%m-%d}{', closed' if row.closed else ''}")
    return 0


def _any(session: Session, _options: argparse.Namespace, now: datetime) -> int:
    account = session.scalar(select(Account.id).where(~Account.closed).limit(1))
    link = session.scalar(select(Pass.id).where(Pass.used_at_utc.is_(None), Pass.until_utc > now).limit(1))
    return 0 if account is not None or link is not None else 1


_COMMANDS = {"invite": _invite, "recover": _recover, "close": _close, "reopen": _close, "list": _list, "any": _any}
