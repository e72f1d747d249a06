"""When in a year does a shot work: light, water, alignment and season together."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime

from ..spans.intervals import Interval


def intersect(one: Sequence[Interval], other: Sequence[Interval]) -> list[Interval]:
    """Return the spans that lie in both lists; each list is in order of time and without overlaps."""
    result: list[Interval] = []
    left = right = 0
    while left < len(one) and right < len(other):
        a, b = one[left], other[right]
        start, end = max(a.start_utc, b.start_utc), min(a.end_utc, b.end_utc)
        if start < end:
            result.append(Interval(start, end, a.starts_before and b.starts_before, a.ends_after and b.ends_after))
        if a.end_utc <= b.end_utc:
            left += 1
        else:
            right += 1
    return result


def lasting(spans: Sequence[Interval], least_s: float) -> list[Interval]:
    """Return the spans that last at least so long [s]."""
    return [span for span in spans if (span.end_utc - span.start_utc).total_seconds() >= least_s]


def in_season(moment: datetime, from_month: int, from_day: int, to_month: int, to_day: int) -> bool:
    """Whether a local date lies in a season given by its first and last day; a season may run over New Year."""
    here, first, last = (moment.month, moment.day), (from_month, from_day), (to_month, to_day)
    return first <= here <= last if first <= last else here >= first or here <= last
