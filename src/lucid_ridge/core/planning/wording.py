"""What people noted, joined to sentences of our own."""

from __future__ import annotations


def ended(text: str) -> str:
    """Return a text as a sentence that ends: with a full stop, where the one who wrote it set none; nothing stays nothing."""
    text = text.strip()
    return text if not text or text.endswith((".", "!", "?", "…")) else f"{text}."


def after_colon(text: str) -> str:
    """Return ": " and a note, to follow the words it explains; nothing for no note."""
    return f": {text.strip()}" if text.strip() else ""
