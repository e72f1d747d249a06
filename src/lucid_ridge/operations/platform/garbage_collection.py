"""Pauses Python's garbage collector while very many small objects are created that all stay in use."""

from __future__ import annotations

import gc
from collections.abc import Iterator
from contextlib import contextmanager
from threading import Lock

_LOCK = Lock()
_held = 0


@contextmanager
def collector_held() -> Iterator[None]:
    """Pause the collector of this process within the block, for any number of threads."""
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
