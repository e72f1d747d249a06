"""Errors that operations raise."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from contextlib import contextmanager


class NotFound(Exception):
    """The row does not exist, belongs to another owner, or was deleted."""

    def __init__(self, what: str) -> None:
        super().__init__(what)
        self.message = f"This {what} does not exist any more. It may have been deleted; undo brings it back."


@contextmanager
def refused_at(field: str) -> Iterator[None]:
    """Refuse a row that is not there at the field that named it."""
    try:
        yield
    except NotFound as missing:
        raise Refused(field, missing.message) from None


class Refused(Exception):
    """A value cannot be accepted; field names it."""

    def __init__(self, field: str, message: str) -> None:
        super().__init__(message)
        self.field = field
        self.message = message


class Conflict(Exception):
    """The request does not fit the present state."""

    def __init__(self, message: str) -> None:
        super().__init__(message)
        self.message = message


class ChangedElsewhere(Conflict):
    """Another client changed the same values since this one read them. fields: a sentence for each of them."""

    def __init__(self, message: str, fields: Mapping[str, str] | None = None) -> None:
        super().__init__(message)
        self.fields = dict(fields or {})
