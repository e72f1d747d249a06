"""A figure from repeated measurements, with its interval, and the rule by which it is proposed.

Sources: [1] Student 1908, the t distribution: mean ± t·s/√n; [2] Welch 1947, Satterthwaite 1946: degrees of freedom of
a sum of variances.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from scipy.special import stdtrit

# A calibration is proposed from so many measurements on, where its interval at this confidence excludes what counts
# without it, and the difference is worth a mark: with clean data and twenty things measured this speaks up wrongly in
# fewer than one season of a hundred.
LEAST_MEASURED, PROPOSE_AT = 4, 0.9998
# A measurement is left out as another thing going wrong where it lies farther from the median, in robust standard
# deviations (1.4826 times the median deviation), than the farthest of this many normal ones does in 998 of 1,000
# samples: so good data lose next to nothing. From 400,000 samples of each size. Closer than this to the median nothing
# is another thing, however alike the rest are.
_ALIKE = 1e-4
_COUNTS = (4, 5, 6, 7, 8, 9, 10, 12, 14, 16, 20, 25, 30, 40, 60, 100)
_OUTLIERS = (36.77, 42.64, 17.66, 19.09, 12.29, 12.96, 9.97, 8.61, 7.82, 7.28, 6.66, 6.2, 5.74, 5.4, 5.0, 4.86)


@dataclass(frozen=True)
class Estimate:
    """value: mean of what was measured, outliers left out; low, high: at 95 %; spread: standard deviation; kept: which
    of the measurements count.

    shared: standard error of what all measurements were compared with, and was itself measured, from shared_count
    measurements.
    """

    value: float
    low: float
    high: float
    spread: float
    count: int
    kept: tuple[int, ...]
    shared: float = 0.0
    shared_count: int = 0

    def interval(self, confidence: float) -> tuple[float, float]:
        """Return the interval at a confidence. Source: [1]; with a shared error [2]."""
        if self.count < 2 or (self.shared and self.shared_count < 2):
            return -math.inf, math.inf
        own = self.spread**2 / self.count
        both = own + self.shared**2
        freedom = self.count - 1.0
        if self.shared and math.isfinite(both) and both > 0:
            freedom = both**2 / (own**2 / (self.count - 1) + self.shared**4 / (self.shared_count - 1))
        half = float(stdtrit(freedom, 0.5 + confidence / 2)) * math.sqrt(both)
        return self.value - half, self.value + half


def estimate(measured: Sequence[float], shared: float = 0.0, shared_count: int = 0) -> Estimate | None:
    """Return the figure that measurements come to; None without any.

    Those that are not finite are left out. shared: see Estimate. Sources: [1], [2].
    """
    values = np.asarray(measured, dtype=np.float64)
    index = np.flatnonzero(np.isfinite(values))
    if not len(index):
        return None
    finite = values[index]
    middle = float(np.median(finite))
    scale = 1.4826 * float(np.median(np.abs(finite - middle)))
    farthest = float(np.interp(len(finite), _COUNTS, _OUTLIERS)) * scale
    keep = (
        np.abs(finite - middle) <= max(farthest, _ALIKE * max(1.0, abs(middle)))
        if len(finite) >= _COUNTS[0]
        else np.ones(len(finite), dtype=bool)
    )
    kept = finite[keep]
    spread = float(kept.std(ddof=1)) if len(kept) > 1 else math.inf
    if len(kept) < len(finite):
        # What is left of trimmed data looks closer together than it is.
        spread = max(spread, scale)
    made = Estimate(
        value=float(kept.mean()),
        low=-math.inf,
        high=math.inf,
        spread=spread,
        count=len(kept),
        kept=tuple(int(item) for item in index[keep]),
        shared=shared,
        shared_count=shared_count,
    )
    low, high = made.interval(0.95)
    return replace(made, low=low, high=high)


def worth_proposing(found: Estimate, told: float, least: float) -> bool:
    """Return whether to propose a measured value instead of the current one: enough measurements, an interval that
    excludes the current value, and a difference of at least least.
    """
    if found.count < LEAST_MEASURED or abs(found.value - told) < least:
        return False
    low, high = found.interval(PROPOSE_AT)
    return not low <= told <= high
