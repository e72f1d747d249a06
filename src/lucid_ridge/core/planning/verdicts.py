"""Marks, verdicts and reasons: what every step says of itself."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from enum import StrEnum


class Severity(StrEnum):
    """How much a reason says against a plan. A caution is said beside the step that raises it, but does not judge the plan."""

    HOLDS = "holds"
    TIGHT = "tight"
    FAILS = "fails"
    UNSAID = "unsaid"
    CAUTION = "caution"


class Mark(StrEnum):
    """What a step is judged as."""

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
class Reason:
    """A sentence with figures. dial: the field that would change it, in step."""

    step: str
    severity: Severity
    text: str
    dial: str | None = None


@dataclass(frozen=True)
class Verdict:
    """What stands under a summit of the ridge line: a mark and a few words with their figure."""

    step: str
    mark: Severity
    text: str


def worst_first(reasons: list[Reason]) -> tuple[Reason, ...]:
    """Return reasons by severity, worst first, and by step within one."""
    return tuple(sorted(reasons, key=lambda reason: (_RANK[reason.severity], STEPS.index(reason.step))))


def worst_mark(reasons: list[Reason]) -> Severity:
    """Return the worst mark among reasons, holds where there are none; cautions do not count."""
    return worst_of([reason.severity for reason in reasons])


def worst_of(marks: Iterable[Severity]) -> Severity:
    """Return the worst of marks, holds where there are none; cautions do not count."""
    return min((mark for mark in marks if mark != CAUTION), key=mark_rank, default=HOLDS)


def mark_rank(mark: Severity) -> int:
    """Return the place of a mark in the order from fails (0) to holds."""
    return _RANK[mark]
