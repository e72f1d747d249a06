"""Reasons: why a step is judged as it is."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import date
from enum import StrEnum
from typing import TypeAlias

from ..units.spelling import LocalTime
from .verdicts import STEPS, Severity, rank, worst_of

# What a sentence may be about: numbers, names, local times, and tuples of them.
Figure = object
Plain: TypeAlias = "str | float | int | bool | list[Plain] | None"


@dataclass(frozen=True, kw_only=True)
class Reason:
    """Why a step is judged as it is.

    code: stable name of the reason, "focus.range_soft". figures: what it is about, by names with units. text: the
    sentence that the step's catalogue (wording.py) makes from them. dial: the field that would change it, in step.
    """

    step: str
    code: str
    severity: Severity
    text: str
    figures: Mapping[str, Figure] = field(default_factory=dict, hash=False)
    dial: str | None = None


def plain(figure: Figure) -> Plain:
    """Return a figure of a reason as plain JSON: times as ISO 8601, sequences as lists, infinity and NaN as None."""
    if isinstance(figure, StrEnum):
        return figure.value
    if figure is None or isinstance(figure, str | bool | int):
        return figure
    if isinstance(figure, float):
        return figure if math.isfinite(figure) else None
    if isinstance(figure, LocalTime):
        return figure.local.isoformat()
    if isinstance(figure, date):
        return figure.isoformat()
    if isinstance(figure, tuple | list):
        return [plain(part) for part in figure]
    raise TypeError(f"{type(figure).__name__} is no figure of a reason.")


def plain_figures(figures: Mapping[str, Figure]) -> dict[str, Plain]:
    """Return the figures of a reason as plain JSON."""
    return {name: plain(figure) for name, figure in figures.items()}


def worst_first(reasons: list[Reason]) -> tuple[Reason, ...]:
    """Return reasons by severity, worst first, and by step within one severity."""
    return tuple(sorted(reasons, key=lambda reason: (rank(reason.severity), STEPS.index(reason.step))))


def worst_mark(reasons: list[Reason]) -> Severity:
    """Return the worst mark among reasons; holds if there are none. Cautions do not count."""
    return worst_of([reason.severity for reason in reasons])
