"""A span of time."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime


@dataclass(frozen=True)
class Interval:
    """A span of time. starts_before, ends_after: the window cut it off there, it really goes on."""

    start_utc: datetime
    end_utc: datetime
    starts_before: bool
    ends_after: bool
