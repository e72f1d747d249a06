"""A figure from repeated measurements, with its interval, and the rule by which it is proposed.

Source: [1] Student 1908, the t distribution: mean ± t·s/√n.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from scipy.special import stdtrit

# A calibration is proposed from so many measurements on, where its interval at this confidence excludes what counts without it, and the difference is worth a mark: with clean
# data and twenty things measured this speaks up wrongly in about one season of fifty.
LEAST_MEASURED, PROPOSE_AT = 4, 0.999
# Measurements so far from the middle, in robust standard deviations, are another thing going wrong.
_OUTLIER = 4.0


@dataclass(frozen=True)
class Estimate:
    """value: mean of what was measured, outliers left out; low, high: at 95 %; spread: standard deviation; kept: which of the measurements count."""

    value: float
    low: float
    high: float
    spread: float
    count: int
    kept: tuple[int, ...]

    def interval(self, confidence: float) -> tuple[float, float]:
        """Return the interval at a confidence. Source: [1]."""
        if self.count < 2:
            return -math.inf, math.inf
        half = float(stdtrit(self.count - 1, 0.5 + confidence / 2)) * self.spread / math.sqrt(self.count)
        return self.value - half, self.value + half


def estimate(measured: Sequence[float]) -> Estimate | None:
    """Return the figure that measurements come to; None without any. Those that are not finite are left out. Source: [1]."""
    values = np.asarray(measured, dtype=np.float64)
    index = np.flatnonzero(np.isfinite(values))
    if not len(index):
        return None
    finite = values[index]
    middle = float(np.median(finite))
    scale = 1.4826 * float(np.median(np.abs(finite - middle)))
    keep = np.abs(finite - middle) <= max(_OUTLIER * scale, 1e-9) if len(finite) >= 4 else np.ones(len(finite), dtype=bool)
    kept = finite[keep]
    spread = float(kept.std(ddof=1)) if len(kept) > 1 else math.inf
    made = Estimate(float(kept.mean()), -math.inf, math.inf, spread, len(kept), tuple(int(item) for item in index[keep]))
    low, high = made.interval(0.95)
    return Estimate(made.value, low, high, spread, made.count, made.kept)


def worth_proposing(found: Estimate, told: float, least: float) -> bool:
    """Whether a figure is proposed instead of the one told: measured often enough, its interval excludes that, and it differs by at least so much."""
    if found.count < LEAST_MEASURED or abs(found.value - told) < least:
        return False
    low, high = found.interval(PROPOSE_AT)
    return not low <= told <= high
