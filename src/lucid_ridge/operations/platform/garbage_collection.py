"""Holding the garbage collector while very many small objects are made that all stay: it would look through them again
and again and find nothing.

"""

from __future__ import annotations

import gc
from collections.abc import Iterator
from contextlib import contextmanager
from threading import Lock

_LOCK = Lock()
_held = 0


@contextmanager
def collector_held() -> Iterator[None]:
    """Hold the collector of this process within the block, however many threads are in one."""
    global _held
    with _LOCK:
        _held += 1
        gc.disable()
    try:
        yield
    finally:
        with _LOCK:
            _held -= 1
            if not _held:
                gc.enable()
