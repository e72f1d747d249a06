"""The one kind of error the core raises for input it cannot work with."""

from __future__ import annotations


class InputError(ValueError):
    """A value lies outside what a rule allows.

    field: name of the argument concerned, with its unit, as the caller wrote it. message: a sentence saying what was
    wrong and what is allowed.
    """

    def __init__(self, field: str, message: str) -> None:
        super().__init__(message)
        self.field = field
        self.message = message
