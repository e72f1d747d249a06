"""A whole notebook as one file: a ZIP with a manifest, the rows of each table as JSON, and binary files beside them
(docs/archive.md).

Reading is bounded: the number of entries, the size of each and of all, whatever the file claims.
"""

from __future__ import annotations

import json
import zipfile
import zlib
from collections.abc import Mapping, Sequence
from datetime import date, datetime, time
from typing import IO, Any

from .errors import FormatError

FORMAT, VERSION = "lucid-ridge-notebook", 1
LARGEST_BYTES = 300_000_000
# Limits of unpacked sizes [bytes].
_MOST_TABLE, _MOST_FILE, _MOST_ALL, _MOST_ENTRIES = 256_000_000, 64_000_000, 4_000_000_000, 400_000
_PIECE = 1 << 20

Row = dict[str, Any]


class ArchiveWriter:
    """Writes an archive; call manifest() last."""

    def __init__(self, target: IO[bytes]) -> None:
        self._zip = zipfile.ZipFile(target, "w", zipfile.ZIP_DEFLATED)
        self._counts: dict[str, int] = {}

    def table(self, name: str, rows: Sequence[Row]) -> None:
        """Write the rows of a table; dates and times become ISO text.

        Infinite numbers must be given as text, since JSON has none.
        """
        # One line per row: indented output uses Python's own encoder, which takes several times as long as the one in
        # C.
        lines = ",\n".join(json.dumps(row, ensure_ascii=False, default=_plain, allow_nan=False) for row in rows)
        self._zip.writestr(f"tables/{name}.json", f"[\n{lines}\n]\n" if lines else "[]\n")
        self._counts[name] = len(rows)

    def file(self, name: str, content: bytes) -> Row:
        """Write a file; return its reference for a row."""
        self._zip.writestr(f"files/{name}", content)
        return {"file": f"files/{name}"}

    def manifest(self, said: Mapping[str, Any]) -> None:
        """Write the manifest, and end the archive."""
        told = {"format": FORMAT, "version": VERSION, **said, "tables": self._counts}
        self._zip.writestr("manifest.json", json.dumps(told, ensure_ascii=False, indent=1, default=_plain))
        self._zip.close()


class ArchiveReader:
    """Reads an archive. Raises FormatError if it is none, or too large."""

    def __init__(self, source: IO[bytes]) -> None:
        try:
            self._zip = zipfile.ZipFile(source)
        except (zipfile.BadZipFile, OSError, ValueError) as error:
            raise FormatError("This is no archive of a notebook: a ZIP is needed, as Lucid Ridge writes it.") from error
        self._left = _MOST_ALL
        if len(self._zip.infolist()) > _MOST_ENTRIES:
            raise FormatError(f"This archive holds more than {_MOST_ENTRIES} entries.")
        self.manifest = self._json("manifest.json", dict)
        if self.manifest.get("format") != FORMAT:
            raise FormatError("This ZIP is no archive of a notebook: its manifest does not say so.")
        if self.manifest.get("version") != VERSION:
            raise FormatError(
                f"This archive is of version {self.manifest.get('version')!r}; version {VERSION} is read here."
            )

    def table(self, name: str) -> list[Row]:
        """Return the rows of a table; empty if the archive does not have it."""
        if f"tables/{name}.json" not in self._zip.namelist():
            return []
        rows: list[Row] = self._json(f"tables/{name}.json", list)
        if not all(isinstance(row, dict) for row in rows):
            raise FormatError(f"tables/{name}.json: every row is an object.")
        return rows

    @property
    def tables(self) -> list[str]:
        """The tables that the archive holds."""
        return [
            name.removeprefix("tables/").removesuffix(".json")
            for name in self._zip.namelist()
            if name.startswith("tables/")
        ]

    def file(self, said: object) -> bytes:
        """Return the file that stands for a value."""
        name = said.get("file") if isinstance(said, dict) else None
        if not isinstance(name, str) or not name.startswith("files/"):
            raise FormatError('A file\'s value is written as {"file": "files/…"}.')
        return self._read(name, _MOST_FILE)

    def _json(self, name: str, kind: type) -> Any:
        content = self._read(name, _MOST_TABLE)
        try:
            found = json.loads(content)
        except (ValueError, RecursionError) as error:
            raise FormatError(f"{name} cannot be read as JSON.") from error
        if not isinstance(found, kind):
            raise FormatError(f"{name} holds something else than is expected there.")
        return found

    def _read(self, name: str, most: int) -> bytes:
        """Return an entry, up to a size limit, whatever its header says."""
        try:
            with self._zip.open(name) as entry:
                pieces, size = [], 0
                while piece := entry.read(_PIECE):
                    size += len(piece)
                    self._left -= len(piece)
                    if size > most or self._left < 0:
                        raise FormatError(f"{name} unpacks to more than is taken.")
                    pieces.append(piece)
        except KeyError as error:
            raise FormatError(f"This archive lacks {name}.") from error
        except (zipfile.BadZipFile, zlib.error, OSError, EOFError, RuntimeError) as error:
            raise FormatError(f"{name} in this archive is damaged or packed in a way that is not read.") from error
        return b"".join(pieces)


def _plain(value: object) -> object:
    if isinstance(value, (datetime, date, time)):
        return value.isoformat()
    if isinstance(value, frozenset):
        return sorted(value)
    raise TypeError(f"{type(value).__name__} has no place in an archive.")
