"""Converts rows of the kit to facts of the core."""

from __future__ import annotations

from ...core.facts import accessory, kit
from ...core.facts.declaring import facts_of
from ...store.kit import Accessory, Body, Lens, Support


def known_lens(row: Lens) -> kit.Lens:
    """Return a row as the core's lens."""
    return kit.Lens(id=row.id, **{name: getattr(row, name) for name in facts_of(kit.Lens)})


def known_body(row: Body) -> kit.Body:
    """Return a row as the core's body."""
    return kit.Body(id=row.id, **{name: getattr(row, name) for name in facts_of(kit.Body)})


def known_support(row: Support) -> kit.Support:
    """Return a row as the core's support."""
    return kit.Support(id=row.id, **{name: getattr(row, name) for name in facts_of(kit.Support)})


def known_accessory(row: Accessory) -> accessory.Accessory:
    """Return a row as the core's accessory."""
    return accessory.Accessory(id=row.id, **{name: getattr(row, name) for name in facts_of(accessory.Accessory)})
