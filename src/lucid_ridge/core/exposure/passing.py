"""What passes through the frame now and then: how likely one is in it, and how long a time makes all of them vanish.

Things are taken to come independently of each other at a steady rate (Poisson). Source of that model: any text on
queues. That one is not seen any more once things stand in front of a point for a twentieth of the time is a model of
our own, to be calibrated.
"""

from __future__ import annotations

import math

from ..units.quantities import not_negative, positive

# About a fourteenth of a stop between the place with and without them.
UNSEEN_SHARE = 1 / 20


def empty_chance(passing_per_s: float, crossing_s: float, shutter_s: float) -> float:
    """Return the chance that nothing is in the frame while the shutter is open, exp(-rate·(crossing + shutter)), 0 to
    1.

    crossing_s: how long one takes across the frame.
    """
    rate = float(not_negative("passing_per_s", passing_per_s))
    return math.exp(
        -rate * (float(not_negative("crossing_s", crossing_s)) + float(not_negative("shutter_s", shutter_s)))
    )


def frames_needed(chance: float, sure: float = 0.9) -> float:
    """Return how many frames to take so that one of them is as wished, as surely as said; each has this chance.

    Infinite for 0.
    """
    if chance >= 1:
        return 1.0
    if chance <= 0:
        return math.inf
    return float(max(1, math.ceil(math.log(1 - sure) / math.log(1 - chance) - 1e-9)))


def covered_share(passing_per_s: float, covering_s: float, shutter_s: float) -> float:
    """Return for which share of the time a point on their way is covered, at most 1: by one that surely comes, and by
    those that come at the rate.

    covering_s: how long one stands in front of a point, its length over its speed.
    """
    rate, covering = float(not_negative("passing_per_s", passing_per_s)), float(not_negative("covering_s", covering_s))
    return min(1.0, (1 + rate * float(positive("shutter_s", shutter_s))) * covering / shutter_s)


def vanishing_time_s(passing_per_s: float, covering_s: float, unseen_share: float = UNSEEN_SHARE) -> float:
    """Return the shutter time [s] from which none of them is seen any more; infinite where too many pass.

    The inverse of covered_share.
    """
    rate, covering = float(not_negative("passing_per_s", passing_per_s)), float(not_negative("covering_s", covering_s))
    left = float(positive("unseen_share", unseen_share)) - rate * covering
    return covering / left if left > 0 else math.inf
