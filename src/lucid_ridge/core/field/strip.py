"""A session on one clock: planned frames above, taken frames below."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Literal

SpellKind = Literal["way", "set up", "frame"]
# Plan and session are shown on one clock only when they are of one day.
_SAME_DAY = timedelta(hours=14)
_MINUTE_STEPS = (1, 2, 5, 10, 15, 30, 60, 120, 180, 360)
_MOST_TICKS = 9
# What is left free at both ends, as a share of the whole.
_MARGIN = 0.03


@dataclass(frozen=True)
class Spell:
    """Something that lasted. number: of a planned frame, 0 otherwise."""

    kind: SpellKind
    begins_utc: datetime
    ends_utc: datetime
    label: str
    number: int = 0


@dataclass(frozen=True)
class Strip:
    """begins_utc, ends_utc: of the clock. ticks: full minutes to be written at it."""

    begins_utc: datetime
    ends_utc: datetime
    ticks: tuple[datetime, ...]
    planned: tuple[Spell, ...]
    taken: tuple[Spell, ...]

    def share(self, moment: datetime) -> float:
        """Return where a moment lies on the strip, 0 at its beginning and 1 at its end."""
        return (moment - self.begins_utc) / (self.ends_utc - self.begins_utc)


def strip(planned: Sequence[Spell], taken: Sequence[Spell]) -> Strip | None:
    """Return plan and session on one clock; the taken frames alone if the plan is for another day; None if nothing was
    taken.
    """
    if not taken:
        return None
    first = min(item.begins_utc for item in taken)
    if any(abs(item.begins_utc - first) > _SAME_DAY for item in planned):
        planned = ()
    both = (*planned, *taken)
    begins, ends = min(item.begins_utc for item in both), max(item.ends_utc for item in both)
    margin = max((ends - begins) * _MARGIN, timedelta(seconds=20))
    begins, ends = begins - margin, ends + margin
    return Strip(begins, ends, _ticks(begins, ends), tuple(planned), tuple(taken))


def _ticks(begins: datetime, ends: datetime) -> tuple[datetime, ...]:
    minutes = (ends - begins).total_seconds() / 60
    step = next((item for item in _MINUTE_STEPS if minutes / item <= _MOST_TICKS), _MINUTE_STEPS[-1])
    midnight = begins.replace(hour=0, minute=0, second=0, microsecond=0)
    after = math.ceil((begins - midnight).total_seconds() / 60 / step)
    found: list[datetime] = []
    while (moment := midnight + timedelta(minutes=step * after)) <= ends and len(found) < 4 * _MOST_TICKS:
        found.append(moment)
        after += 1
    return tuple(found)
