"""Which file is which planned frame: the best alignment of two ordered lists that allows gaps and extras.

Source: [1] Needleman and Wunsch 1970, alignment by dynamic programming. Costs are those of independent normal errors
(half squares), each with an upper bound so that one odd figure does not decide; how large they are is our own choice.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, timedelta

import numpy as np
from numpy.typing import NDArray

from .frames import Expected, Shown

Floats = NDArray[np.float64]
# What it costs to leave a file or a planned frame without its fellow.
_GAP = 7.0
# Another alignment that is dearer by less than this could be true as well: the photographer is asked.
SURE_BY = 2.0
# Beyond this no pair is made at all: the figures contradict each other.
_NEVER = 14.0
# Shutter times as cameras write them stray by so much from those that were planned [stops].
_SHUTTER_STOPS, _APERTURE_STOPS, _ISO_STOPS, _FOCAL_LOG = 0.12, 0.2, 0.2, 0.05
# Clocks are set wrong by half a day and more, where zone and summer time are off too.
LARGEST_OFFSET = timedelta(hours=14)
_OFFSET_WINDOW_S = 45.0


@dataclass(frozen=True)
class Match:
    """file, frame: their places in the lists. margin: by how much every alignment without this pair is dearer."""

    file: int
    frame: int
    margin: float

    @property
    def sure(self) -> bool:
        return self.margin >= SURE_BY


@dataclass(frozen=True)
class Matching:
    """Result of matching. offset_s: added to the camera's clock, read as UTC, to get UTC.

    sure_offset: whether the times alone determine it.
    """

    offset_s: float
    sure_offset: bool
    matches: tuple[Match, ...]
    extra: tuple[int, ...]
    missing: tuple[int, ...]


def match(files: Sequence[Shown], frames: Sequence[Expected], offset_s: float | None = None) -> Matching:
    """Return which file is which frame.

    files in the order of the camera's clock, frames in the order in which they were to be taken.

    offset_s: where it is known; otherwise it is found, up to 14 h either way. Source: [1].
    """
    if not files or not frames:
        return Matching(offset_s or 0.0, offset_s is not None, (), tuple(range(len(files))), tuple(range(len(frames))))
    sure = True
    if offset_s is None:
        offset_s, sure = clock_offset_s(files, frames)
    settings = _settings_cost(files, frames)
    costs = settings + _time_cost(files, frames, offset_s)
    pairs = _aligned(costs)
    if pairs:
        # The middle of what the pairs say is nearer than the best bin.
        offset_s = float(np.median([_seconds_between(files[i], frames[j]) for i, j in pairs]))
        costs = settings + _time_cost(files, frames, offset_s)
    matches = _with_margins(costs)
    of_file, of_frame = {item.file for item in matches}, {item.frame for item in matches}
    return Matching(
        offset_s,
        sure,
        matches,
        tuple(i for i in range(len(files)) if i not in of_file),
        tuple(j for j in range(len(frames)) if j not in of_frame),
    )


def clock_offset_s(files: Sequence[Shown], frames: Sequence[Expected]) -> tuple[float, bool]:
    """Return the offset of the camera's clock [s] under which most frames find a file, and whether no other does
    nearly as well.
    """
    agree = _settings_cost(files, frames) < 2.0
    between = np.array([[_seconds_between(file, frame) for frame in frames] for file in files])
    weights = np.where(agree, 1.0, 0.0) * np.array([2.0 if frame.ticked else 1.0 for frame in frames])
    inside = (np.abs(between) <= LARGEST_OFFSET.total_seconds()) & (weights > 0)
    if not inside.any():
        return 0.0, False
    wide = max(_OFFSET_WINDOW_S, float(np.median([frame.within_s for frame in frames])))
    found = np.unique(np.round(between[inside]))
    scores = _scores(between, weights, found, wide)
    best = float(found[scores.argmax()])
    near = np.abs(found - best) <= 3 * wide
    others = float(scores[~near].max()) if (~near).any() else 0.0
    return best, bool(scores.max() >= 1.5 * others and scores.max() > 0)


def _scores(between: Floats, weights: Floats, offsets: Floats, wide: float) -> Floats:
    """Return how many frames find a file at each offset: of each frame only its best counts.

    Pairs that lie far from an offset say nothing of it.
    """
    file, frame = np.nonzero(weights)
    order = np.argsort(between[file, frame], kind="stable")
    file, frame = file[order], frame[order]
    pair_s, pair_weights = between[file, frame], weights[file, frame]
    first, after = (
        np.searchsorted(pair_s, offsets - 5 * wide),
        np.searchsorted(pair_s, offsets + 5 * wide, side="right"),
    )
    scores = np.zeros(len(offsets))
    for at, (offset, low, high) in enumerate(zip(offsets, first, after, strict=True)):
        best = np.zeros(between.shape[1])
        near = pair_weights[low:high] * np.exp(-0.5 * np.square((pair_s[low:high] - offset) / wide))
        np.maximum.at(best, frame[low:high], near)
        scores[at] = best.sum()
    return scores


def _seconds_between(file: Shown, frame: Expected) -> float:
    return (frame.at_utc - file.clock.replace(tzinfo=UTC)).total_seconds()


def _time_cost(files: Sequence[Shown], frames: Sequence[Expected], offset_s: float) -> Floats:
    between = np.array([[_seconds_between(file, frame) - offset_s for frame in frames] for file in files])
    within = np.array([frame.within_s for frame in frames])
    return np.asarray(np.minimum(0.5 * np.square(between / within), 0.9 * _NEVER))


def _settings_cost(files: Sequence[Shown], frames: Sequence[Expected]) -> Floats:
    cost = np.zeros((len(files), len(frames)))
    for name, by, most, share in (
        ("shutter_s", _SHUTTER_STOPS, 10.0, 1.0),
        ("f_number", _APERTURE_STOPS, 8.0, 2.0),
        ("iso", _ISO_STOPS, 8.0, 1.0),
        ("focal_mm", _FOCAL_LOG, 6.0, math.log(2)),
    ):
        said, planned = _logs(files, name), _logs(frames, name)
        with np.errstate(invalid="ignore"):
            off = np.abs(said[:, None] - planned[None, :]) * share / by
        cost += np.where(np.isnan(off), 0.0, np.minimum(0.5 * np.square(off), most))
    return cost


def _logs(items: Sequence[Shown] | Sequence[Expected], name: str) -> Floats:
    values = [getattr(item, name) for item in items]
    return np.array(
        [math.log2(value) if value is not None and value > 0 and math.isfinite(value) else math.nan for value in values]
    )


def _table(costs: Floats) -> Floats:
    """Return the cheapest cost of aligning the first i files with the first j frames."""
    high, wide = costs.shape
    table = np.empty((high + 1, wide + 1))
    table[0] = _GAP * np.arange(wide + 1)
    steps = np.arange(wide + 1) * _GAP
    for i in range(1, high + 1):
        pair = np.where(costs[i - 1] < _NEVER, costs[i - 1], np.inf)
        row = np.empty(wide + 1)
        row[0] = table[i - 1, 0] + _GAP
        row[1:] = np.minimum(table[i - 1, 1:] + _GAP, table[i - 1, :-1] + pair)
        # A gap to the left may follow any place before it: the running least, each step by one gap.
        table[i] = np.minimum.accumulate(row - steps) + steps
    return table


def _aligned(costs: Floats) -> list[tuple[int, int]]:
    table = _table(costs)
    i, j = costs.shape
    pairs = []
    while i and j:
        here = table[i, j]
        if costs[i - 1, j - 1] < _NEVER and math.isclose(here, table[i - 1, j - 1] + costs[i - 1, j - 1], abs_tol=1e-9):
            pairs.append((i - 1, j - 1))
            i, j = i - 1, j - 1
        elif math.isclose(here, table[i - 1, j] + _GAP, abs_tol=1e-9):
            i -= 1
        else:
            j -= 1
    return pairs[::-1]


def _with_margins(costs: Floats) -> tuple[Match, ...]:
    """Return the pairs of the best alignment, each with what the best alignment without it costs more."""
    pairs = _aligned(costs)
    forward, backward = _table(costs), _table(costs[::-1, ::-1])[::-1, ::-1]
    best = float(forward[-1, -1])
    through = np.where(costs < _NEVER, forward[:-1, :-1] + costs + backward[1:, 1:], np.inf)
    wide = costs.shape[1]
    made = []
    for i, j in pairs:
        # Without the pair file i goes to another frame, or to none; both are read off the two tables.
        others = np.concatenate((through[i, :j], through[i, j + 1 :]))
        alone = float(min(forward[i, k] + _GAP + backward[i + 1, k] for k in range(wide + 1)))
        made.append(Match(i, j, min(float(others.min()) if len(others) else math.inf, alone) - best))
    return tuple(made)
