"""Order of questions: a wrong answer brings a question back, and each right one lengthens its pause.

Source: [1] spaced repetition with growing pauses (Leitner 1972); the pauses are our own choice.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

RIGHT_FROM = 100.0
# Pause of a question by its number of right answers in a row; after the last pause it counts as known.
PAUSES = (timedelta(minutes=10), timedelta(days=1), timedelta(days=3), timedelta(days=8))
# A question answered wrongly also returns after this many others, before its pause is over.
_OTHERS_BETWEEN = 3


@dataclass(frozen=True)
class Answered:
    """An answer to the question that a seed stands for. score: 0 to 100."""

    seed: int
    score: float
    at_utc: datetime


@dataclass(frozen=True)
class Next:
    """The question to ask. wrong_utc: when it was answered wrongly last; None of a new one."""

    seed: int
    wrong_utc: datetime | None = None


def next_question(history: Sequence[Answered], now_utc: datetime, new_seed: int) -> Next:
    """Return the question whose pause is over for the longest time, else a new one. history: in order of time."""
    due = []
    for seed in {item.seed for item in history if item.score < RIGHT_FROM}:
        own = [item for item in history if item.seed == seed]
        wrong = max(at for at, item in enumerate(own) if item.score < RIGHT_FROM)
        right_since = len(own) - 1 - wrong
        if right_since >= len(PAUSES):
            continue
        over = now_utc - own[-1].at_utc - PAUSES[right_since]
        others = sum(item.at_utc > own[-1].at_utc for item in history)
        if over >= timedelta(0) or (right_since == 0 and others >= _OTHERS_BETWEEN):
            due.append((over, seed, own[wrong].at_utc))
    if not due:
        return Next(new_seed)
    _, seed, wrong_utc = max(due)
    return Next(seed, wrong_utc)
