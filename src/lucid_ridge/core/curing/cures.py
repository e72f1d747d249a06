"""Cures of what fails or is tight: the nearest change with which the plan no longer says it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ..facts.shot import ShotFacts
from ..planning.plan.shot_plan import plan_shot
from ..planning.reasons import Reason, plain
from ..planning.verdicts import FAILS, TIGHT
from .moves import Move, moves_for

# So many reasons are cured, and so many changes tried for each.
MOST_REASONS, MOST_TRIES = 6, 24
# So many more are tried once one cures.
_FARTHER = 8
_OUGHT = (FAILS, TIGHT)


@dataclass(frozen=True)
class Cure:
    """reason: that goes. move: with which it goes, and with which nothing else begins to fail."""

    reason: Reason
    move: Move


def cures(facts: ShotFacts) -> tuple[Cure, ...]:
    """Return the cures of the worst reasons of a shot, in their order; none for a reason that no single change cures.

    Each is found by planning the shot with the change.
    """
    plan = plan_shot(facts)
    ought = [reason for reason in plan.because if reason.severity in _OUGHT and reason.dial is not None]
    found = []
    for reason in ought[:MOST_REASONS]:
        move = _nearest(facts, reason, plan.because)
        if move is not None:
            found.append(Cure(reason, move))
    return tuple(found)


def identity(reason: Reason) -> tuple[str, str, tuple[str, ...]]:
    """Return the identity of a reason: its step, its code, and the things that it names, whatever their figures."""
    names = tuple(
        str(plain(value)) for name, value in sorted(reason.figures.items()) if name in ("element", "elements", "other")
    )
    return reason.step, reason.code, names


def _nearest(facts: ShotFacts, reason: Reason, before: Sequence[Reason]) -> Move | None:
    """Return a change with which a reason is gone and nothing fails that did not fail before: the first, unless one a
    little farther on leaves less to be said.
    """
    about = identity(reason)
    failed = {identity(item) for item in before if item.severity == FAILS}
    troubled = sum(item.severity in _OUGHT for item in before)
    best: tuple[int, Move] | None = None
    left = MOST_TRIES
    for move in moves_for(facts, reason.dial or ""):
        left -= 1
        if left < 0:
            break
        after = plan_shot(move.applied_to(facts)).because
        ought = [item for item in after if item.severity in _OUGHT]
        if any(identity(item) == about for item in ought) or len(ought) > troubled:
            continue
        if any(identity(item) not in failed for item in ought if item.severity == FAILS):
            continue
        if best is None:
            left = min(left, _FARTHER)
        if best is None or len(ought) < best[0]:
            best = len(ought), move
    return None if best is None else best[1]
