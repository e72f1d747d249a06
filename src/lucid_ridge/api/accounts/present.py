"""An account as its response body."""

from __future__ import annotations

import re
from collections.abc import Sequence
from datetime import datetime

from ...core.units.spelling import format_clock, format_day
from ...operations.accounts.accounts import PASSWORD_WORDS
from ...store.accounts import Account, SignIn, SignInEvent
from . import schemas as out

# Browsers also name others for historical reasons; the first of these that matches is the browser.
_BROWSERS = ("Edg", "OPR", "Firefox", "Chrome", "Safari")
_SYSTEMS = ("Android", "iPhone", "iPad", "Windows", "Mac OS", "Linux")
_WORDS = {"Edg": "Edge", "OPR": "Opera", "Mac OS": "macOS"}


def present_account(
    account: Account, there: Sequence[SignIn], here: SignIn, events: Sequence[SignInEvent]
) -> out.AccountOut:
    """Return an account with its open sessions and recent events."""
    return out.AccountOut(
        name=account.name,
        password_words=PASSWORD_WORDS,
        sign_ins=[
            out.SignedInOut(
                id=row.id,
                device=device_words(row.device),
                began_at_utc=row.began_at_utc,
                seen_at_utc=row.seen_at_utc,
                seen_words=_moment(row.seen_at_utc),
                here=row.id == here.id,
            )
            for row in there
        ],
        events=[
            out.SignInEventOut(
                at_utc=row.at_utc,
                words=_moment(row.at_utc),
                outcome=row.outcome,
                address=row.address,
                device=device_words(row.device),
            )
            for row in events
        ],
    )


def device_words(said: str) -> str:
    """Return a browser's user agent in a few words: Firefox on Linux."""
    browser, system = (next((item for item in known if re.search(item, said)), None) for known in (_BROWSERS, _SYSTEMS))
    named = _WORDS.get(browser or "", browser) or "a browser"
    return f"{named} on {_WORDS.get(system, system)}" if system else named


def _moment(at: datetime) -> str:
    return f"{format_day(at.date())}, {format_clock(at)} UTC"
