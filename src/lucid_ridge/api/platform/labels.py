"""Values with their labels."""

from __future__ import annotations

from collections.abc import Callable

from ...core.units.lengths import format_distance
from .fields import Labelled, finite_or_none


def labelled(value: float | None, label: Callable[[float], str]) -> Labelled | None:
    """Return a value with its label; infinity is null with its label, an unknown value is null."""
    return None if value is None else Labelled(value=finite_or_none(value), label=label(value))


def distance_label(value_m: float) -> Labelled:
    """Return a distance [m] with its label."""
    return Labelled(value=finite_or_none(value_m), label=format_distance(value_m))
