"""What surrounds a shot, kept between edits of it: place, kit, bag and what the log taught are read once and planned
with until something of them is written.

Every write into a notebook gives it a new token of its surroundings (operations/platform/write_lock.py), but for those
that only choose anew for one
shot: a dial that is turned. What was read under a token is good while the notebook still has it; a token never comes
back.
"""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable
from threading import Lock
from typing import Any, TypeVar, cast

from sqlalchemy.orm import Session

Kept = TypeVar("Kept")
_KEY = "surroundings"
# A viewpoint with skylines takes about 100 kB.
_MOST_SHOTS = 200
_kept: OrderedDict[int, tuple[str, dict[str, Any]]] = OrderedDict()
_lock = Lock()


def surroundings_are(session: Session, token: str) -> None:
    """Say which token the notebook of this session has: what is kept under it may be used."""
    session.info[_KEY] = token


def surroundings_change(session: Session) -> None:
    """Read everything anew for the rest of this session: it is writing what surrounds shots."""
    session.info.pop(_KEY, None)


def kept_with(session: Session, shot_id: int | None, what: str, read: Callable[[], Kept]) -> Kept:
    """Return what was read of a shot's surroundings under the notebook's token, else read it.

    What is kept must be immutable and hold no row.

    """
    token = session.info.get(_KEY)
    if token is None or shot_id is None:
        return read()
    with _lock:
        found = _kept.get(shot_id)
        if found is None or found[0] != token:
            found = _kept[shot_id] = (token, {})
            while len(_kept) > _MOST_SHOTS:
                _kept.popitem(last=False)
        _kept.move_to_end(shot_id)
    values = found[1]
    if what not in values:
        values[what] = read()
    return cast(Kept, values[what])


def is_kept(session: Session, shot_id: int, what: str) -> bool:
    """Whether something of a shot's surroundings need not be read."""
    token = session.info.get(_KEY)
    found = _kept.get(shot_id)
    return token is not None and found is not None and found[0] == token and what in found[1]
