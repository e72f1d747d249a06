"""Where large files are kept: in the database, or beside it in a folder or in S3-compatible storage, all behind one
column type.

A file outside lies under the SHA-256 of its content and a word of its own, and the row holds that name. It is written
before its row is committed, so
that no row ever names what is not there, and never again; what no row names any more is swept away a day later
(operations/platform/file_moves.py).
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

# What is smaller stays in its row: asking for it elsewhere would take longer than reading it.
LARGE_BYTES = 8_000
# How a row says what its bytes are; what was kept before there was a choice says nothing, and is the content itself.
OUTSIDE, _PLAIN = b"lucid-ridge:outside:", b"lucid-ridge:plain:"
_NAME = re.compile(r"[0-9a-f]{64}-[0-9a-f]{8}")
_WAIT: Any = {"connect_timeout": "5s", "timeout": "30s"}
_AGAIN: Any = {"max_retries": 2}
# Every engine has a dialect of its own.
_FILES: WeakKeyDictionary[Dialect, FileStore] = WeakKeyDictionary()


class FilesAway(DontWrapMixin, Exception):
    """The files outside the database cannot be reached, or one is not what it was."""


class NoRoom(DontWrapMixin, OSError):
    """The disk on which files are kept is full."""


def refuse_address(address: str) -> None:
    """Raise ValueError for what is neither a folder's address nor a bucket's."""
    told = urlsplit(address)
    if not (
        (told.scheme == "file" and not told.netloc and told.path.startswith("/"))
        or (told.scheme == "s3" and told.netloc)
    ):
        raise ValueError(f"Files are kept in file:///a/folder or s3://bucket/prefix, not in {address}.")


class FileStore:
    """Files under names of its own choice, in a folder (file:///srv/files) or in S3-compatible storage
    (s3://bucket/prefix).

    Of S3 address and keys are told by its usual variables (AWS_ENDPOINT_URL, AWS_ACCESS_KEY_ID, AWS_SECRET_ACCESS_KEY,
    AWS_REGION).
    Raises ValueError for any other address. writes: False reads only, so that new files stay in the database.
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
        """Keep a file and return its name. Raises FilesAway, NoRoom."""
        # Were alike ones shared, one could be swept away while another row is about to name it.
        name = f"{hashlib.sha256(content).hexdigest()}-{secrets.token_hex(4)}"
        try:
            self._store.put(_path(name), content)
        except (BaseError, OSError) as error:
            raise _away(error) from error
        if self._folder is not None:
            _settle(self._folder / _path(name))
        return name

    def get(self, name: str) -> bytes:
        """Return a file by its name. Raises FilesAway, also for one that is not what it was."""
        try:
            content = bytes(self._store.get(_path(name)).bytes())
        except (BaseError, OSError) as error:
            raise _away(error) from error
        if hashlib.sha256(content).hexdigest() != name[:64]:
            raise FilesAway(f"The file {name} is not what it was.")
        return content

    def names(self) -> Iterator[tuple[str, datetime]]:
        """Yield the name of every file, and when it was written last. Raises FilesAway."""
        try:
            for batch in self._store.list():
                for item in batch:
                    folder, _, name = str(item["path"]).rpartition("/")
                    if _NAME.fullmatch(name) and _path(name) == f"{folder}/{name}":
                        yield name, item["last_modified"]
        except (BaseError, OSError) as error:
            raise _away(error) from error

    def remove(self, names: Iterable[str]) -> None:
        """Let files go. Raises FilesAway."""
        paths = [_path(name) for name in names]
        try:
            if paths:
                self._store.delete(paths)
        except (BaseError, OSError) as error:
            raise _away(error) from error


class KeptFile(TypeDecorator[bytes]):
    """A file of a row: bytes, wherever they are kept. The engine says where (store/database.py)."""

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
    """Return under which name the file of a row lies outside, by the bytes that the row holds; None where it lies in
    the row.

    """
    return held[len(OUTSIDE) :].decode() if held is not None and held.startswith(OUTSIDE) else None


def files_of(dialect: Dialect) -> FileStore | None:
    """Return where the files of an engine's database are kept outside it; None: nowhere."""
    return _FILES.get(dialect)


def keep_files_in(dialect: Dialect, files: FileStore | None) -> None:
    """Say where the files of an engine's database are kept; None: in the database."""
    if files is None:
        _FILES.pop(dialect, None)
    else:
        _FILES[dialect] = files


def _path(name: str) -> str:
    return f"{name[:2]}/{name}"


def _settle(path: Path) -> None:
    """Have a file and its name on the disk before its row is."""
    for place in (path, path.parent, path.parent.parent):
        handle = os.open(place, os.O_RDONLY)
        try:
            os.fsync(handle)
        finally:
            os.close(handle)


def _away(error: Exception) -> Exception:
    """Return what is said of a failure: that the disk is full where it is, else that the files cannot be reached."""
    if isinstance(error, FileNotFoundError):
        return FilesAway(f"A file is missing in the storage of files: {str(error).splitlines()[0][:300]}")
    # The storage of a folder tells why by words alone.
    if "No space left on device" in str(error) or "Disk quota exceeded" in str(error):
        return NoRoom(errno.ENOSPC, "No space left on device")
    return FilesAway(f"The storage of files does not answer: {str(error).splitlines()[0][:300]}")
