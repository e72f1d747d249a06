"""Cache of the context of shots: place, kit, bag and calibrations are read once and reused between edits of a shot.

Every write to a notebook gives it a new context token (write_lock.py), except writes of one shot's own choices. Cached
values are valid while the notebook has the token they were read under; a token is never used again.
"""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable
from threading import Lock
from typing import TypeVar, cast

from sqlalchemy.orm import Session

Cached = TypeVar("Cached")
_KEY = "context_token"
# A viewpoint with skylines takes about 100 kB.
_MOST_SHOTS = 200
_cache: OrderedDict[int, tuple[str, dict[str, object]]] = OrderedDict()
_lock = Lock()


def use_context_token(session: Session, token: str) -> None:
    """Set the context token of the session's notebook: values cached under it may be used."""
    session.info[_KEY] = token


def invalidate_shot_context(session: Session) -> None:
    """Use no cached values in the rest of this session, because it writes what they depend on."""
    session.info.pop(_KEY, None)


def cached_context(session: Session, shot_id: int | None, name: str, read: Callable[[], Cached]) -> Cached:
    """Return a part of a shot's context, from the cache or from read().

    name: of the part. The value must be immutable and must not hold database rows.
    """
    token = session.info.get(_KEY)
    if token is None or shot_id is None:
        return read()
    with _lock:
        found = _cache.get(shot_id)
        if found is None or found[0] != token:
            found = _cache[shot_id] = (token, {})
            while len(_cache) > _MOST_SHOTS:
                _cache.popitem(last=False)
        _cache.move_to_end(shot_id)
    values = found[1]
    if name not in values:
        values[name] = read()
    return cast(Cached, values[name])


def is_cached(session: Session, shot_id: int, name: str) -> bool:
    """Return whether a part of a shot's context is cached."""
    token = session.info.get(_KEY)
    found = _cache.get(shot_id)
    return token is not None and found is not None and found[0] == token and name in found[1]
