"""One figure from many yes and no answers: where along a scale yes becomes no.

Source: [1] logistic regression with its slope known, and the interval of the profile likelihood: where twice the log
likelihood falls by chi-squared of one degree of freedom (Wilks 1938).
"""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray
from scipy.special import chdtri

from .estimates import Estimate

Floats = NDArray[np.float64]
_REACH, _STEP = 4.0, 0.02
# How many stops it takes for a taste, or a hand, to go from mostly yes to mostly no.
TASTE_SLOPE, HAND_SLOPE = 6.0, 1.2
# A share of answers that mean nothing: a slip of the finger, another reason.
_SLIPS = 0.05


def hold_shift(over_stops: Sequence[float], steady: Sequence[bool], offset: float = 1.0) -> Estimate | None:
    """Return how many stops longer than the rule a photographer's hands hold still, from frames over_stops beyond the
    rule that were sharp or not; None without frames.

    At a shift of 0 the share is that of rates.prior_hit_rate. Source: [1].
    """
    over, yes = np.asarray(over_stops, dtype=np.float64), np.asarray(steady, dtype=bool)
    if not len(over):
        return None
    grid = np.arange(-_REACH, _REACH + _STEP / 2, _STEP)
    kinds, weights = _counted(np.stack((over, yes), axis=1))
    share = 1 / (1 + np.exp(HAND_SLOPE * (kinds[:, 0][None, :] - grid[:, None]) - offset))
    return _profiled(grid, share, kinds[:, 1] > 0, weights)


def bands_shift(answers: Sequence[tuple[float, float, float, bool]]) -> Estimate | None:
    """Return by how many stops the bands of streak shares that please are shifted against those that were wanted; None
    without any answer.

    answers: share, low and high share of the look that was wanted, and whether it pleased. Source: [1].
    """
    told = [item for item in answers if item[0] > 0]
    if not told:
        return None
    answered = np.array(told, dtype=np.float64)
    answered[:, :3] = np.log2(answered[:, :3])
    kinds, weights = _counted(answered)
    where, low, high, yes = kinds[:, 0], kinds[:, 1], kinds[:, 2], kinds[:, 3] > 0
    grid = np.arange(-_REACH, _REACH + _STEP / 2, _STEP)[:, None]
    above = 1 / (1 + np.exp(-TASTE_SLOPE * (where - low - grid)))
    below = 1 / (1 + np.exp(TASTE_SLOPE * (where - high - grid)))
    return _profiled(grid[:, 0], above * below, yes, weights)


def _counted(rows: Floats) -> tuple[Floats, Floats]:
    """Return the different kinds of answer, and how often each was given: a long log repeats itself.

    The first figure counts to a hundredth of a stop.
    """
    rows = rows.copy()
    rows[:, 0] = np.round(rows[:, 0], 2)
    kinds, counts = np.unique(rows, axis=0, return_counts=True)
    return kinds, counts.astype(np.float64)


def _profiled(grid: Floats, share: Floats, yes: NDArray[np.bool_], weights: Floats) -> Estimate:
    share = _SLIPS / 2 + (1 - _SLIPS) * share
    likelihood = (np.where(yes, np.log(share), np.log(1 - share)) * weights).sum(axis=1)
    count = int(weights.sum())
    best = float(likelihood.max())
    # A flat top has its middle.
    value = float(grid[likelihood >= best - 1e-9].mean())
    inside = grid[2 * (best - likelihood) <= float(chdtri(1, 0.05))]
    low, high = float(inside.min()), float(inside.max())
    bounded = low > grid[0] + _STEP and high < grid[-1] - _STEP and bool(yes.any()) and not bool(yes.all())
    spread = (high - low) / 2 / 1.96 * math.sqrt(count) if bounded else math.inf
    return Estimate(
        value, low if bounded else -math.inf, high if bounded else math.inf, spread, count, tuple(range(count))
    )
