"""Verdicts: the mark and the few words under a summit of the ridge line."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from enum import StrEnum


class Severity(StrEnum):
    """How much a reason counts against a plan. A caution is shown beside its step and does not affect the verdict."""

    HOLDS = "holds"
    TIGHT = "tight"
    FAILS = "fails"
    UNSAID = "unsaid"
    CAUTION = "caution"


class Mark(StrEnum):
    """The mark of a step: ● holds, ◐ tight, ▲ fails, ○ not judged."""

    HOLDS = "holds"
    TIGHT = "tight"
    FAILS = "fails"
    UNSAID = "unsaid"


class StepName(StrEnum):
    PLACE = "place"
    LIGHT = "light"
    FRAME = "frame"
    DEPTH = "depth"
    EXPOSURE = "exposure"
    SEQUENCE = "sequence"
    FIELD = "field"


HOLDS, TIGHT, FAILS, UNSAID, CAUTION = Severity
STEPS: tuple[str, ...] = tuple(StepName)
_RANK = {FAILS: 0, TIGHT: 1, UNSAID: 2, CAUTION: 3, HOLDS: 4}


@dataclass(frozen=True)
class Verdict:
    """The verdict of a step: its mark, and a few words with a figure."""

    step: str
    mark: Severity
    text: str


def worst_of(marks: Iterable[Severity]) -> Severity:
    """Return the worst of marks; holds if there are none. Cautions do not count."""
    return min((mark for mark in marks if mark != CAUTION), key=rank, default=HOLDS)


def rank(mark: Severity) -> int:
    """Return the rank of a mark, from 0 (fails) to 4 (holds)."""
    return _RANK[mark]
