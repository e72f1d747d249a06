"""What frames that were taken come to in figures: how well the hand held, how good the predictions of the light were,
and what became of what a forecast promised.
"""

from __future__ import annotations

from bisect import insort
from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime

from ..weather.promise import FAIR_FROM, PROMISING_FROM
from .digests import Digest, Predicted
from .lessons import PLEASES_FROM
from .rates import Interval, prior_hit_rate, wilson_interval, with_prior

# Width of a class of hand-held frames beside the rule [stops].
_CLASS_STOPS = 1.0
# So many of the newest predictions are looked at together.
WINDOW = 20


@dataclass(frozen=True)
class HeldClass:
    """Hand-held frames with shutter times around over_stops beyond the rule.

    expected: hit rate by the rule alone; corrected: with the evidence of the log.
    """

    over_stops: float
    sharp: int
    tries: int
    interval: Interval
    expected: float
    corrected: float


@dataclass(frozen=True)
class ErrorPoint:
    """A frame whose light was predicted: by how much it came out brighter [EV].

    number: in order of time; middle: of the absolute errors of the newest up to it.
    """

    frame_id: int
    number: int
    at_utc: datetime
    error_ev: float
    predicted: bool
    middle: float


@dataclass(frozen=True)
class Counted:
    """How often a promise came true."""

    said: int
    kept: int
    interval: Interval


@dataclass(frozen=True)
class LightPoint:
    """A field session whose light had a forecast promise [0 to 100] and has stars."""

    entry_id: int
    promise: float
    stars: int
    name: str


def counted(answers: Sequence[bool]) -> Counted:
    """Return how often the answer is yes, with its interval."""
    return Counted(len(answers), sum(answers), wilson_interval(sum(answers), len(answers)))


def sharp_standing(digests: Sequence[Digest]) -> Counted:
    """Return how many frames are sharp of those that stood and were judged."""
    judged, sharp = (sum(item.standing[at] for item in digests) for at in (0, 1))
    return Counted(judged, sharp, wilson_interval(sharp, judged))


def light_that_pleased(points: Sequence[LightPoint]) -> tuple[Counted, Counted]:
    """Return how often light pleased that was called promising, and that was called less than even."""
    promising = [item.stars >= PLEASES_FROM for item in points if item.promise >= PROMISING_FROM]
    return counted(promising), counted([item.stars >= PLEASES_FROM for item in points if item.promise < FAIR_FROM])


def held_classes(digests: Sequence[Digest]) -> tuple[HeldClass, ...]:
    """Return the hit rate by hand, class by class."""
    classes: dict[int, list[bool]] = defaultdict(list)
    for entry in digests:
        for frame in entry.held:
            classes[round(frame.over_limit / _CLASS_STOPS)].append(frame.sharp)
    found = []
    for at, answers in sorted(classes.items()):
        over, hits = at * _CLASS_STOPS, sum(answers)
        expected = prior_hit_rate(2.0**over, 1.0)
        found.append(
            HeldClass(
                over,
                hits,
                len(answers),
                wilson_interval(hits, len(answers)),
                expected,
                with_prior(hits, len(answers), expected),
            )
        )
    return tuple(found)


def prediction_errors(newest: Sequence[Predicted], before: int, most: int) -> tuple[ErrorPoint, ...]:
    """Return the prediction errors of the newest frames, at most most of them, in order of time, with the running
    median.

    before: number of frames before those given.
    """
    told = sorted(newest, key=lambda item: (item.at_s, item.frame_id))
    first = max(0, len(told) - most)
    window: list[float] = []
    found = []
    # The middle of the first point shown needs those before it.
    for at in range(max(0, first - WINDOW), len(told)):
        insort(window, abs(told[at].error_ev))
        if len(window) > WINDOW:
            window.remove(abs(told[at - WINDOW].error_ev))
        if at >= first:
            found.append(_point(told[at], before + at + 1, window[len(window) // 2]))
    return tuple(found)


def _point(item: Predicted, number: int, middle: float) -> ErrorPoint:
    return ErrorPoint(
        item.frame_id, number, datetime.fromtimestamp(item.at_s, UTC), item.error_ev, item.predicted, middle
    )
