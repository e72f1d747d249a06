"""When does a smooth quantity pass through zero, and in which spans is it positive?

Vectorised over all candidates at once.
"""

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


def zero_passages(
    value: Callable[[Any], Any], times: Floats, graze: float, to_s: float = RESOLUTION_S
) -> tuple[Floats, NDArray[np.bool_], Floats, Floats]:
    """Return (moments, rising, times, values): every passage of value through zero between the samples.

    A turning point between two samples may reach over zero and back: where a sample beside it lies within graze of
    zero, the turning point itself becomes a sample. The samples with these added come back too. to_s: how close moments
    are found.
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
    ends = (times[changes], times[changes + 1], values[changes], values[changes + 1])
    return _passages(value, *ends, to_s), rising, times, values


def positive_spans(
    value: Callable[[Any], Any], times: Floats, graze: float, to_s: float = RESOLUTION_S
) -> list[tuple[float, float]]:
    """Return the spans (start, end) in which value is not negative, cut off at the first and last sample."""
    moments, rising, times, values = zero_passages(value, times, graze, to_s)
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
    return _turning_points(
        value, np.asarray(start_s, dtype=np.float64), np.asarray(end_s, dtype=np.float64), np.ones(len(start_s))
    )


def _passages(
    value: Callable[[Any], Any], low: Floats, high: Floats, at_low: Floats, at_high: Floats, to_s: float
) -> Floats:
    """Return where value changes its sign between low and high, to to_s [s].

    Interpolate, truncate, project: never more than one step beyond halving, far fewer where the quantity is smooth.
    Source: I. Oliveira and R. Takahashi, ACM Transactions on Mathematical Software 47 (2020) 5.
    """
    near = to_s / 2
    span = np.maximum(high - low, to_s)
    slack = near * 2.0 ** (np.ceil(np.log2(span / to_s)) + 1)
    while (open_ := high - low > to_s).any():
        middle = (low + high) / 2
        steep = at_low - at_high
        straight = low + (high - low) * np.divide(at_low, steep, out=np.full_like(steep, 0.5), where=steep != 0)
        towards = np.sign(middle - straight)
        # Never so little that it is lost in a double's digits: the other end would not close in.
        cut = np.maximum(0.2 * (high - low) ** 2 / span, to_s / 4)
        there = np.where(cut <= np.abs(middle - straight), straight + towards * cut, middle)
        room = np.maximum(0.0, slack - (high - low) / 2)
        there = np.where(open_, np.where(np.abs(there - middle) <= room, there, middle - towards * room), middle)
        here = np.asarray(value(there), dtype=np.float64)
        beyond = (here >= 0) == (at_high >= 0)
        low, at_low = np.where(beyond, low, there), np.where(beyond, at_low, here)
        high, at_high = np.where(beyond, there, high), np.where(beyond, here, at_high)
        slack = slack / 2
    return np.asarray((low + high) / 2, dtype=np.float64)


def _turning_points(value: Callable[[Any], Any], low: Floats, high: Floats, sign: Floats) -> Floats:
    golden = (np.sqrt(5.0) - 1) / 2
    for _ in range(int(np.ceil(np.log(max(1.0, float(np.max(high - low))) / 0.05) / np.log(1 / golden)))):
        left, right = high - golden * (high - low), low + golden * (high - low)
        both = np.asarray(value(np.concatenate((left, right))))
        stay = sign * both[: len(left)] > sign * both[len(left) :]
        low, high = np.where(stay, low, left), np.where(stay, right, high)
    return np.asarray((low + high) / 2, dtype=np.float64)
