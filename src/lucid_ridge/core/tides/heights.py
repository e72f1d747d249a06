"""High and low water, slack, and the spans in which the water stands as wanted."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime
from typing import Any, Protocol

import numpy as np

from ..spans.instants import from_unix, unix_seconds
from ..spans.intervals import Interval
from ..spans.searching import positive_spans, samples, zero_passages
from .table import TideTable

HIGH_WATER, LOW_WATER = "high water", "low water"
# Source shown with an invented tide.
SIMULATED = "simulated"
# While the tide changes by less than this the stream is called slack here; the real stream may turn earlier or later.
SLACK_M_PER_H = 0.25
_SAMPLE_S = 600.0
_ALL = 1e9


class Tide(Protocol):
    """What a tide must give: heights above a zero of its own [m] and their change [m an hour] at unix seconds; NaN
    where not known.
    """

    @property
    def name(self) -> str: ...
    @property
    def told(self) -> str:
        """Where the heights come from, in words that can stand in brackets: "simulated"."""
        ...

    def covers(self, start_utc: datetime, end_utc: datetime) -> bool:
        """Whether the heights are known all through a span."""
        ...

    def height_m(self, seconds: Any) -> Any: ...
    def rate_m_per_h(self, seconds: Any) -> Any: ...


@dataclass(frozen=True)
class TideEvent:
    """High or low water: when, and how high above the zero."""

    kind: str
    time_utc: datetime
    height_m: float


def tide_events(tide: Tide, start_utc: datetime, end_utc: datetime) -> list[TideEvent]:
    """Return high and low waters from start_utc to end_utc, in order of time."""
    if isinstance(tide, TideTable):
        return [
            TideEvent(HIGH_WATER if high else LOW_WATER, moment, height)
            for moment, height, high in tide.events(start_utc, end_utc)
        ]
    moments, rising, _, _ = zero_passages(tide.rate_m_per_h, _times(start_utc, end_utc), 0.0)
    return [
        TideEvent(LOW_WATER if up else HIGH_WATER, from_unix(moment), float(tide.height_m(moment)))
        for moment, up in zip(moments, rising, strict=True)
    ]


def water_spans(
    tide: Tide, start_utc: datetime, end_utc: datetime, low_m: float | None, high_m: float | None
) -> list[Interval]:
    """Return the spans in which the tide stands from low_m to high_m above its zero; None leaves a side open."""
    low, high = (-_ALL if low_m is None else low_m), (_ALL if high_m is None else high_m)

    def inside(seconds: Any) -> Any:
        height = np.asarray(tide.height_m(seconds))
        return np.minimum(height - low, high - height)

    return _spans(inside, start_utc, end_utc, graze=0.5)


def unknown_spans(tide: Tide, start_utc: datetime, end_utc: datetime) -> list[Interval]:
    """Return the spans from start_utc to end_utc in which the tide is not known: outside a table's dates and in its
    gaps.
    """
    if not isinstance(tide, TideTable):
        return []
    first, last = (float(unix_seconds(moment)) for moment in (start_utc, end_utc))
    return [
        Interval(from_unix(low), from_unix(high), low == first, high == last) for low, high in tide.unknown(first, last)
    ]


def slack_spans(
    tide: Tide, start_utc: datetime, end_utc: datetime, rate_m_per_h: float = SLACK_M_PER_H
) -> list[Interval]:
    """Return the spans around high and low water in which the tide changes by less than rate_m_per_h."""
    return _spans(
        lambda seconds: rate_m_per_h - np.abs(np.asarray(tide.rate_m_per_h(seconds))), start_utc, end_utc, graze=_ALL
    )


def _spans(value: Callable[[Any], Any], start_utc: datetime, end_utc: datetime, graze: float) -> list[Interval]:
    times = _times(start_utc, end_utc)
    return [
        Interval(from_unix(start), from_unix(end), start == times[0], end == times[-1])
        for start, end in positive_spans(value, times, graze)
    ]


def _times(start_utc: datetime, end_utc: datetime) -> Any:
    return samples(float(unix_seconds(start_utc)), float(unix_seconds(end_utc)), _SAMPLE_S)
