"""Success rates with their uncertainty.

Sources: [1] Wilson 1927, Journal of the American Statistical Association 22, 209-212: 8 of 10 is 0.490 to 0.943 at 95
%; [2] a prior counted as imagined tries (Beta prior, any text on Bayesian statistics), which gives way as real ones
come.
"""

from __future__ import annotations

import math
from typing import NamedTuple

from scipy.special import ndtri

from ..errors import InputError

# How many tries the rule of practice counts for, before any were made (our own choice).
PRIOR_TRIES = 4.0


class Interval(NamedTuple):
    low: float
    high: float


def wilson_interval(successes: float, tries: float, confidence: float = 0.95) -> Interval:
    """Return the interval of a share [0 to 1] for a number of successes in a number of tries; 0 to 1 for no tries.

    Raises InputError outside 0 ≤ successes ≤ tries and 0 < confidence < 1.

    Source: [1].
    """
    if not (math.isfinite(tries) and 0 <= successes <= tries):
        raise InputError("successes", "There must be from 0 to as many successes as tries.")
    if not 0 < confidence < 1:
        raise InputError("confidence", "The confidence lies between 0 and 1.")
    if tries == 0:
        return Interval(0.0, 1.0)
    z = float(ndtri(0.5 + confidence / 2))
    share = successes / tries
    middle = (share + z * z / (2 * tries)) / (1 + z * z / tries)
    half = z / (1 + z * z / tries) * math.sqrt(share * (1 - share) / tries + z * z / (4 * tries * tries))
    return Interval(max(0.0, middle - half), min(1.0, middle + half))


def with_prior(successes: float, tries: float, prior: float, prior_tries: float = PRIOR_TRIES) -> float:
    """Return the expected share [0 to 1]: the prior counts as prior_tries tries and gives way to evidence.

    Source: [2].
    """
    if not (0 <= prior <= 1 and prior_tries > 0 and 0 <= successes <= tries):
        raise InputError("prior", "A prior is a share from 0 to 1.")
    return (successes + prior * prior_tries) / (tries + prior_tries)


def prior_hit_rate(shutter_s: float, limit_s: float) -> float:
    """Return the share of frames that practice expects to be sharp by hand [0 to 1]: half at the limit of 1/(focal
    length × crop), nearly all two stops under it, few two stops over it (common practice; the slope is our own
    choice).
    """
    over = math.log2(shutter_s / limit_s)
    return 1 / (1 + math.exp(1.2 * over - 1.0))
