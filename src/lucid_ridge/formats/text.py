"""Decodes bytes to text, with clear errors."""

from __future__ import annotations

from .errors import FormatError

LARGEST_BYTES = 20_000_000


def as_text(content: bytes) -> str:
    """Return UTF-8 text without a byte-order mark. Raises FormatError for empty, huge or otherwise encoded content."""
    check_size(content)
    try:
        text = content.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise FormatError(f"The file is not UTF-8 text (byte {error.start} does not fit). Save it as UTF-8.") from None
    if not text.strip("\ufeff \t\r\n\u00a0\u200b\u2028\u2029") or not text.strip():
        raise FormatError("The file is empty.")
    if "\0" in text:
        raise FormatError("The file holds NUL characters: it is not a text file.")
    return text


def check_size(content: bytes) -> None:
    """Raise FormatError for an empty or huge file."""
    if not content.strip():
        raise FormatError("The file is empty.")
    if len(content) > LARGEST_BYTES:
        raise FormatError(f"The file has {len(content) / 1e6:.0f} MB; at most {LARGEST_BYTES / 1e6:.0f} MB are read.")
