"""Marks, verdicts and reasons: what every step says of itself."""

from __future__ import annotations

from dataclasses import dataclass

HOLDS, TIGHT, FAILS, UNSAID = "holds", "tight", "fails", "unsaid"
# A caution is said beside the step that raises it, but does not judge the plan.
CAUTION = "caution"
STEPS = ("place", "light", "frame", "depth", "exposure", "sequence", "field")
_RANK = {FAILS: 0, TIGHT: 1, UNSAID: 2, CAUTION: 3, HOLDS: 4}


@dataclass(frozen=True)
class Reason:
    """A sentence with figures. weight: fails, tight, unsaid, caution or holds; dial: the field that would change it, in step."""

    step: str
    weight: str
    text: str
    dial: str | None = None


@dataclass(frozen=True)
class Verdict:
    """What stands under a summit of the ridge line: a mark and a few words with their figure."""

    step: str
    mark: str
    text: str


def worst_first(reasons: list[Reason]) -> tuple[Reason, ...]:
    """Return reasons by weight, worst first, and by step within a weight."""
    return tuple(sorted(reasons, key=lambda reason: (_RANK[reason.weight], STEPS.index(reason.step))))


def worst_mark(reasons: list[Reason]) -> str:
    """Return the worst mark among reasons, holds where there are none; cautions do not count."""
    judging = (reason.weight for reason in reasons if reason.weight != CAUTION)
    return min(judging, key=_RANK.__getitem__, default=HOLDS)
