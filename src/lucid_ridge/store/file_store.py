"""Storage of large files: in the database, in a folder, or in S3-compatible storage, behind one column type.

A file outside is named by the SHA-256 of its content and a random word, and its row holds that name. It is written
before its row is committed, so that a row never refers to a missing file, and is never changed. Files that no row
refers to are deleted a day later (operations/platform/file_moves.py).
"""

from __future__ import annotations

import errno
import hashlib
import os
import re
import secrets
from collections.abc import Iterable, Iterator
from datetime import datetime
from pathlib import Path
from typing import Any
from urllib.parse import urlsplit
from weakref import WeakKeyDictionary

from obstore.exceptions import BaseError
from obstore.store import LocalStore, ObjectStore, S3Store
from sqlalchemy import Dialect, LargeBinary
from sqlalchemy.exc import DontWrapMixin
from sqlalchemy.types import TypeDecorator

# Smaller files stay in their rows: fetching them elsewhere would take longer.
LARGE_BYTES = 8_000
# Prefixes of a row's bytes. Rows of earlier versions have none: their bytes are the content.
OUTSIDE, _PLAIN = b"lucid-ridge:outside:", b"lucid-ridge:plain:"
_NAME = re.compile(r"[0-9a-f]{64}-[0-9a-f]{8}")
_WAIT: Any = {"connect_timeout": "5s", "timeout": "30s"}
_AGAIN: Any = {"max_retries": 2}
# Each engine has its own dialect.
_FILES: WeakKeyDictionary[Dialect, FileStore] = WeakKeyDictionary()


class FilesAway(DontWrapMixin, Exception):
    """The external files cannot be reached, or one does not match its digest."""


class NoRoom(DontWrapMixin, OSError):
    """The disk on which files are kept is full."""


def refuse_address(address: str) -> None:
    """Raise ValueError unless an address is a folder's or a bucket's."""
    told = urlsplit(address)
    if not (
        (told.scheme == "file" and not told.netloc and told.path.startswith("/"))
        or (told.scheme == "s3" and told.netloc)
    ):
        raise ValueError(f"Files are kept in file:///a/folder or s3://bucket/prefix, not in {address}.")


class FileStore:
    """Files in a folder (file:///srv/files) or in S3-compatible storage (s3://bucket/prefix), under names of its
    choice.

    S3 address and keys come from the usual variables (AWS_ENDPOINT_URL, AWS_ACCESS_KEY_ID, AWS_SECRET_ACCESS_KEY,
    AWS_REGION). Raises ValueError for any other address. writes: False only reads, so that new files stay in the
    database.
    """

    def __init__(self, address: str, writes: bool = True) -> None:
        refuse_address(address)
        self.writes = writes
        told = urlsplit(address)
        self._folder = Path(told.path) if told.scheme == "file" else None
        self._store: ObjectStore
        if self._folder is not None:
            self._store = LocalStore(self._folder, mkdir=True)
        else:
            options: Any = _WAIT | {"allow_http": os.environ.get("AWS_ENDPOINT_URL", "").startswith("http:")}
            self._store = S3Store(
                told.netloc, prefix=told.path.strip("/") or None, client_options=options, retry_config=_AGAIN
            )

    def put(self, content: bytes) -> str:
        """Store a file and return its name. Raises FilesAway, NoRoom."""
        # Equal files are not shared: one could be deleted while another row is about to refer to it.
        name = f"{hashlib.sha256(content).hexdigest()}-{secrets.token_hex(4)}"
        try:
            self._store.put(_path(name), content)
        except (BaseError, OSError) as error:
            raise _away(error) from error
        if self._folder is not None:
            _settle(self._folder / _path(name))
        return name

    def get(self, name: str) -> bytes:
        """Return a file by its name. Raises FilesAway, also if it does not match its digest."""
        try:
            content = bytes(self._store.get(_path(name)).bytes())
        except (BaseError, OSError) as error:
            raise _away(error) from error
        if hashlib.sha256(content).hexdigest() != name[:64]:
            raise FilesAway(f"The file {name} is not what it was.")
        return content

    def names(self) -> Iterator[tuple[str, datetime]]:
        """Yield the name of every file, and when it was last written. Raises FilesAway."""
        try:
            for batch in self._store.list():
                for item in batch:
                    folder, _, name = str(item["path"]).rpartition("/")
                    if _NAME.fullmatch(name) and _path(name) == f"{folder}/{name}":
                        yield name, item["last_modified"]
        except (BaseError, OSError) as error:
            raise _away(error) from error

    def remove(self, names: Iterable[str]) -> None:
        """Delete files. Raises FilesAway."""
        paths = [_path(name) for name in names]
        try:
            if paths:
                self._store.delete(paths)
        except (BaseError, OSError) as error:
            raise _away(error) from error


class KeptFile(TypeDecorator[bytes]):
    """A file of a row as bytes, wherever it is stored. The engine decides where (store/database.py)."""

    impl = LargeBinary
    cache_ok = True

    def process_bind_param(self, value: bytes | None, dialect: Dialect) -> bytes | None:
        if value is None:
            return None
        files = files_of(dialect)
        if files is not None and files.writes and len(value) >= LARGE_BYTES:
            return OUTSIDE + files.put(value).encode()
        return _PLAIN + value if value.startswith((OUTSIDE, _PLAIN)) else value

    def process_result_value(self, value: Any, dialect: Dialect) -> bytes | None:
        if value is None:
            return None
        held = bytes(value)
        if held.startswith(_PLAIN):
            return held[len(_PLAIN) :]
        name = name_of(held)
        if name is None:
            return held
        files = files_of(dialect)
        if files is None:
            raise FilesAway("A file lies outside the database, and LUCID_RIDGE_FILES does not say where.")
        return files.get(name)


def name_of(held: bytes | None) -> str | None:
    """Return the name of a row's external file, from the row's bytes; None if the content is in the row."""
    return held[len(OUTSIDE) :].decode() if held is not None and held.startswith(OUTSIDE) else None


def files_of(dialect: Dialect) -> FileStore | None:
    """Return the file store of an engine; None: files are in the database."""
    return _FILES.get(dialect)


def keep_files_in(dialect: Dialect, files: FileStore | None) -> None:
    """Set the file store of an engine; None: files are in the database."""
    if files is None:
        _FILES.pop(dialect, None)
    else:
        _FILES[dialect] = files


def _path(name: str) -> str:
    return f"{name[:2]}/{name}"


def _settle(path: Path) -> None:
    """Flush a file and its name to disk before its row is written."""
    for place in (path, path.parent, path.parent.parent):
        handle = os.open(place, os.O_RDONLY)
        try:
            os.fsync(handle)
        finally:
            os.close(handle)


def _away(error: Exception) -> Exception:
    """Return the error for a failure: disk full, or files out of reach."""
    if isinstance(error, FileNotFoundError):
        return FilesAway(f"A file is missing in the storage of files: {str(error).splitlines()[0][:300]}")
    # A folder's storage reports the cause only as text.
    if "No space left on device" in str(error) or "Disk quota exceeded" in str(error):
        return NoRoom(errno.ENOSPC, "No space left on device")
    return FilesAway(f"The storage of files does not answer: {str(error).splitlines()[0][:300]}")
