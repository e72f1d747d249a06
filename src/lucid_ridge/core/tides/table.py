"""The tide from a table of high and low waters.

Between two waters the height follows half a cosine; the rule of twelfths (1, 2, 3, 3, 2, 1 twelfths of the range in
each sixth of the time) is the old way by head. Both are common practice and neither knows the shape of an estuary:
there the flood may take a third less time than the ebb, and heights between the waters be off by a tenth of the range
and more.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from functools import cached_property
from itertools import pairwise
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..errors import InputError
from ..spans.instants import from_unix, unix_seconds
from ..units.quantities import in_callers_shape

# From one water to the next it takes 6.2 h where there are two tides a day, 12.4 h where there is one (common
# practice): a longer gap lacks a water.
_SHORTEST_S, _LONGEST_S, _LONGEST_DIURNAL_S = 2 * 3600.0, 7 * 3600.0, 16 * 3600.0
# So many waters, nearly all of them farther apart than this, show that the place has one tide a day.
_DIURNAL_FROM, _DIURNAL_GAP_S, _DIURNAL_SHARE = 6, 9 * 3600.0, 0.9
_TWELFTHS = np.array([0.0, 1.0, 3.0, 6.0, 9.0, 11.0, 12.0]) / 12


@dataclass(frozen=True)
class TideTable:
    """High and low waters as (unix seconds, height [m] above the table's zero), in order of time, high and low in
    turn.

    told: their source.

    Heights are unknown before the first water, after the last, and between two that are more than seven hours apart
    (16 h if the table shows one tide a day).
    """

    name: str
    waters: tuple[tuple[float, float], ...]
    told: str = "from a table"

    def __post_init__(self) -> None:
        if len(self.waters) < 2:
            raise InputError("waters", "A tide table needs at least a high and a low water.")
        for index in range(1, len(self.waters)):
            before, here = self.waters[index - 1], self.waters[index]
            if here[0] - before[0] < _SHORTEST_S:
                raise InputError(
                    "waters", f"Water {index + 1} of the table comes less than two hours after the one before it."
                )
            if here[1] == before[1]:
                raise InputError(
                    "waters",
                    f"Waters {index} and {index + 1} of the table have the same height: one must be high, one low.",
                )
            if (
                index > 1
                and self._follow(index - 1)
                and self._follow(index)
                and (here[1] > before[1]) == (before[1] > self.waters[index - 2][1])
            ):
                raise InputError(
                    "waters",
                    f"Water {index + 1} of the table goes on "
                    f"{'rising' if here[1] > before[1] else 'falling'}: high and low must take turns. Is one missing?",
                )

    def _follow(self, index: int) -> bool:
        return self.waters[index][0] - self.waters[index - 1][0] <= self.longest_gap_s

    @cached_property
    def longest_gap_s(self) -> float:
        """The longest time between two waters [s] over which the height is known."""
        gaps = [other[0] - one[0] for one, other in pairwise(self.waters)]
        diurnal = len(self.waters) >= _DIURNAL_FROM and sum(
            gap > _DIURNAL_GAP_S for gap in gaps
        ) >= _DIURNAL_SHARE * len(gaps)
        return _LONGEST_DIURNAL_S if diurnal else _LONGEST_S

    def unknown(self, start_s: float, end_s: float) -> list[tuple[float, float]]:
        """Return the spans from start_s to end_s [unix seconds] in which no height is known, in order of time."""
        edges = [-np.inf, self.waters[0][0]]
        for index in range(1, len(self.waters)):
            if not self._follow(index):
                edges += [self.waters[index - 1][0], self.waters[index][0]]
        edges += [self.waters[-1][0], np.inf]
        spans = [(max(start_s, low), min(end_s, high)) for low, high in zip(edges[::2], edges[1::2], strict=True)]
        return [(low, high) for low, high in spans if low < high]

    @cached_property
    def _arrays(self) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
        return np.array([water[0] for water in self.waters]), np.array([water[1] for water in self.waters])

    def covers(self, start_utc: datetime, end_utc: datetime) -> bool:
        """Whether the heights are known all through a span."""
        ends = [float(unix_seconds(moment)) for moment in (start_utc, end_utc)]
        times = self._arrays[0]
        inside = times[(times > ends[0]) & (times < ends[1])]
        return bool(np.isfinite(self.height_m(np.array([*ends, *(inside - 1.0), *(inside + 1.0)]))).all())

    def events(self, start_utc: datetime, end_utc: datetime) -> list[tuple[datetime, float, bool]]:
        """Return the waters from start_utc to end_utc as (time, height [m], whether high).

        One that no other follows or precedes closely is neither.
        """
        found = []
        for index, (seconds, height) in enumerate(self.waters):
            moment = from_unix(seconds)
            beside = [
                at for at in (index - 1, index + 1) if 0 <= at < len(self.waters) and self._follow(max(index, at))
            ]
            if start_utc <= moment <= end_utc and beside:
                found.append((moment, height, height > self.waters[beside[0]][1]))
        return found

    def height_m(self, seconds: Any) -> Any:
        """Return the height [m] at unix seconds, in their shape; NaN where the table says nothing."""
        before, range_, part, _ = self._between(seconds)
        return in_callers_shape(before + range_ * (1 - np.cos(np.pi * part)) / 2)

    def rate_m_per_h(self, seconds: Any) -> Any:
        """Return the rate [m an hour] at unix seconds, in their shape; NaN where the table says nothing."""
        _, range_, part, length = self._between(seconds)
        return in_callers_shape(range_ * np.pi / 2 * np.sin(np.pi * part) / (length / 3600))

    def twelfths_height_m(self, seconds: Any) -> Any:
        """Return the height [m] by the rule of twelfths at unix seconds, in their shape; NaN where the table says
        nothing.
        """
        before, range_, part, _ = self._between(seconds)
        return in_callers_shape(before + range_ * np.interp(part, np.arange(7) / 6, _TWELFTHS) + 0 * part)

    def _between(
        self, seconds: Any
    ) -> tuple[NDArray[np.float64], NDArray[np.float64], NDArray[np.float64], NDArray[np.float64]]:
        """Return for instants the height of the water before [m], the range to the next [m], the part of the time
        passed, its length [s].
        """
        times, heights = self._arrays
        at = np.asarray(seconds, dtype=np.float64)
        index = np.clip(np.searchsorted(times, at, side="right") - 1, 0, len(times) - 2)
        length = times[index + 1] - times[index]
        part = (at - times[index]) / length
        known = ((part >= 0) & (part <= 1) & (length <= self.longest_gap_s)) | (part == 0) | (part == 1)
        return heights[index], heights[index + 1] - heights[index], np.where(known, part, np.nan), length
