"""The error of all readers."""

from __future__ import annotations

from ..core.errors import InputError


class FormatError(InputError):
    """A file that cannot be read: what was wrong, and what is allowed. field is "file"."""

    def __init__(self, message: str) -> None:
        super().__init__("file", message)
