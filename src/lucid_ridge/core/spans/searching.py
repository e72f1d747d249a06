"""When does a smooth quantity pass through zero, and in which spans is it positive? Vectorised over all candidates at once."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
RESOLUTION_S = 0.005


def samples(start_s: float, end_s: float, step_s: float) -> Floats:
    """Return evenly spread instants from start_s to end_s, both included, at most step_s apart."""
    return np.linspace(start_s, end_s, max(2, int(np.ceil((end_s - start_s) / step_s)) + 1))


def zero_passages(value: Callable[[Any], Any], times: Floats, graze: float) -> tuple[Floats, NDArray[np.bool_], Floats, Floats]:
    """Return (moments, rising, times, values): every passage of value through zero between the samples.

    A turning point between two samples may reach over zero and back: where a sample beside it lies within graze of zero, the
    turning point itself becomes a sample. The samples with these added come back too.
    """
    values = np.asarray(value(times), dtype=np.float64)
    before, here, after = values[:-2], values[1:-1], values[2:]
    peak = (here < 0) & (here > -graze) & (here >= before) & (here >= after)
    dip = (here >= 0) & (here < graze) & (here <= before) & (here <= after)
    turning = np.nonzero(peak | dip)[0] + 1
    if turning.size:
        sign = np.where(peak[turning - 1], 1.0, -1.0)
        extremes = _turning_points(value, times[turning - 1], times[turning + 1], sign)
        times = np.concatenate((times, extremes))
        order = np.argsort(times, kind="stable")
        values = np.concatenate((values, np.asarray(value(extremes), dtype=np.float64)))[order]
        times = times[order]
    above = values >= 0
    changes = np.nonzero(above[1:] != above[:-1])[0]
    rising = above[changes + 1]
    if not changes.size:
        return np.empty(0), rising, times, values
    return _bisect(value, times[changes], times[changes + 1], rising), rising, times, values


def positive_spans(value: Callable[[Any], Any], times: Floats, graze: float) -> list[tuple[float, float]]:
    """Return the spans (start, end) in which value is not negative, cut off at the first and last sample."""
    moments, rising, times, values = zero_passages(value, times, graze)
    starts = list(moments[rising])
    ends = list(moments[~rising])
    if values[0] >= 0:
        starts.insert(0, times[0])
    if values[-1] >= 0:
        ends.append(times[-1])
    return [(float(start), float(end)) for start, end in zip(starts, ends, strict=True) if end > start]


def highest_within(value: Callable[[Any], Any], start_s: Floats, end_s: Floats) -> Floats:
    """Return for each span the instant at which a quantity with one summit there is highest."""
    if not len(start_s):
        return np.empty(0)
    return _turning_points(value, np.asarray(start_s, dtype=np.float64), np.asarray(end_s, dtype=np.float64), np.ones(len(start_s)))


def _bisect(value: Callable[[Any], Any], low: Floats, high: Floats, rising: NDArray[np.bool_]) -> Floats:
    for _ in range(max(1, int(np.ceil(np.log2(np.max(high - low) / RESOLUTION_S))))):
        middle = (low + high) / 2
        beyond = (np.asarray(value(middle)) >= 0) == rising
        low, high = np.where(beyond, low, middle), np.where(beyond, middle, high)
    return np.asarray((low + high) / 2, dtype=np.float64)


def _turning_points(value: Callable[[Any], Any], low: Floats, high: Floats, sign: Floats) -> Floats:
    golden = (np.sqrt(5.0) - 1) / 2
    for _ in range(int(np.ceil(np.log(max(1.0, float(np.max(high - low))) / 0.05) / np.log(1 / golden)))):
        left, right = high - golden * (high - low), low + golden * (high - low)
        stay = sign * np.asarray(value(left)) > sign * np.asarray(value(right))
        low, high = np.where(stay, low, left), np.where(stay, right, high)
    return np.asarray((low + high) / 2, dtype=np.float64)
