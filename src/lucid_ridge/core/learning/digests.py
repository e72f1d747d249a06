"""What one session teaches, worked out once: the log holds years, and its figures and lessons are made of these."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import NamedTuple

import numpy as np

from ..facts.calibrations import Side
from ..planning.light.calibration import sky_side
from ..planning.light.sun_side import side_of
from .filters import cost_from_pair_stops

# A digest of another version is recomputed.
DIGEST_VERSION = 2
# The light must not have changed too much between the two frames of a pair, and both must be exposed so that their
# means can be compared.
_PAIR_WITHIN_MIN = 45.0
_DARKEST, _BRIGHTEST = 0.003, 0.8


@dataclass(frozen=True, kw_only=True)
class TakenFrame:
    """A frame of the log.

    means: linear light place by place, None where it clips; error_ev: brighter than expected positive. offset_used:
    correction of the predicted light in the plan.

    light_gain_stops: by how much the light was predicted to be stronger while it was open than at the plan's time.
    wanted_look: what the water was to look like;
    stars: of this frame's look. streak_share: of the frame's short side, as planned with the speed speed_used [stops
    over what is written of the element moving_id]; seen_share: as measured on the picture. from_sun_deg: of the optical
    axis. cover: share of the sky. boat: held on one. over_limit: by how much longer than the rule for a hand [stops].
    """

    id: int
    entry_id: int
    location_id: int | None
    taken_at_utc: datetime
    f_number: float | None = None
    shutter_s: float | None = None
    iso: float | None = None
    focal_mm: float | None = None
    means: tuple[float | None, ...] = ()
    filter_ids: frozenset[int] | None = None
    error_ev: float | None = None
    predicted: bool = False
    offset_used: float = 0.0
    light_gain_stops: float = 0.0
    streak_share: float | None = None
    wanted_look: str = ""
    stars: int | None = None
    seen_share: float | None = None
    moving_id: int | None = None
    speed_used: float = 0.0
    from_sun_deg: float | None = None
    cover: float | None = None
    by_hand: bool = False
    boat: bool = False
    over_limit: float | None = None
    sharp: bool | None = None


class FilterCost(NamedTuple):
    filter_id: int
    stops: float
    frame_id: int
    side: Side


class LightError(NamedTuple):
    error_ev: float
    frame_id: int
    side: Side


class StreakTaken(NamedTuple):
    """A frame of moving water that was rated or measured; see TakenFrame."""

    frame_id: int
    streak_share: float
    seen_share: float | None
    moving_id: int | None
    speed_used: float
    wanted_look: str
    stars: int | None


class HeldTaken(NamedTuple):
    frame_id: int
    boat: bool
    over_limit: float
    sharp: bool


class Predicted(NamedTuple):
    """A frame whose light was predicted. at_s: seconds since 1970."""

    frame_id: int
    at_s: float
    error_ev: float
    predicted: bool


@dataclass(frozen=True)
class Digest:
    """What the frames of an entry teach.

    light: of the entry as a whole, a session counts once. standing: how many frames were judged that stood, and how
    many of them are sharp.
    """

    location_id: int | None = None
    filters: tuple[FilterCost, ...] = ()
    light: LightError | None = None
    streaks: tuple[StreakTaken, ...] = ()
    held: tuple[HeldTaken, ...] = ()
    standing: tuple[int, int] = (0, 0)


def digest(frames: Sequence[TakenFrame]) -> Digest:
    """Digest the frames of one entry, given in the order of their times."""
    standing = [frame.sharp for frame in frames if frame.sharp is not None and not frame.by_hand]
    return Digest(
        frames[0].location_id if frames else None,
        _filters(frames),
        _light(frames),
        tuple(
            StreakTaken(
                frame.id,
                frame.streak_share,
                frame.seen_share,
                frame.moving_id,
                frame.speed_used,
                frame.wanted_look,
                frame.stars,
            )
            for frame in frames
            if frame.streak_share and (frame.stars is not None or frame.seen_share is not None)
        ),
        tuple(
            HeldTaken(frame.id, frame.boat, frame.over_limit, frame.sharp)
            for frame in frames
            if frame.by_hand and frame.over_limit is not None and frame.sharp is not None
        ),
        (len(standing), sum(standing)),
    )


def predicted(frames: Sequence[TakenFrame]) -> tuple[Predicted, ...]:
    """Select the frames whose light was predicted."""
    return tuple(
        Predicted(frame.id, frame.taken_at_utc.timestamp(), frame.error_ev, frame.predicted)
        for frame in frames
        if frame.error_ev is not None and math.isfinite(frame.error_ev)
    )


def _filters(frames: Sequence[TakenFrame]) -> tuple[FilterCost, ...]:
    """Measure the cost of filters from pairs of frames that differ by that filter alone."""
    usable = [frame for frame in frames if _usable(frame)]
    found = []
    for frame in usable:
        for filter_id in sorted(frame.filter_ids or ()):
            pair = _without(frame, filter_id, usable)
            cost = _cost(pair, frame) if pair is not None else None
            if cost is not None:
                found.append(FilterCost(filter_id, cost, frame.id, side_of(frame.from_sun_deg)))
    return tuple(found)


def _light(frames: Sequence[TakenFrame]) -> LightError | None:
    """Return the difference of a session's light from the prediction, over all its frames."""
    said = [
        frame for frame in frames if frame.predicted and frame.error_ev is not None and frame.location_id is not None
    ]
    if not said:
        return None
    bare = [frame for frame in said if not frame.filter_ids] or said
    errors = sorted((frame.error_ev or 0.0) + frame.offset_used for frame in bare)
    return LightError(errors[len(errors) // 2], bare[0].id, sky_side(bare[0].cover))


def _usable(frame: TakenFrame) -> bool:
    return None not in (frame.f_number, frame.shutter_s, frame.iso, frame.filter_ids) and any(
        _measurable(value) for value in frame.means
    )


def _measurable(value: float | None) -> bool:
    return value is not None and _DARKEST <= value <= _BRIGHTEST


def _without(frame: TakenFrame, filter_id: int, others: Sequence[TakenFrame]) -> TakenFrame | None:
    """Return the frame nearest in time that was taken with the same filters but for one, at the same focal length."""
    bare = (frame.filter_ids or frozenset()) - {filter_id}
    fitting = [
        other
        for other in others
        if other.filter_ids == bare and other.focal_mm == frame.focal_mm and _minutes(frame, other) <= _PAIR_WITHIN_MIN
    ]
    return min(fitting, key=lambda other: _minutes(frame, other), default=None)


def _minutes(one: TakenFrame, other: TakenFrame) -> float:
    return abs((one.taken_at_utc - other.taken_at_utc).total_seconds()) / 60


def _cost(without: TakenFrame, taken: TakenFrame) -> float | None:
    """Measure the cost of a filter [stops] from a pair of frames: the mean over the places that both show, corrected
    for the change of light between them.

    None where they share no place.
    """
    both = [
        (one, other)
        for one, other in zip(without.means, taken.means, strict=False)
        if _measurable(one) and _measurable(other)
    ]
    if not both:
        return None
    bare, seen = (
        np.array([item[0] for item in both], dtype=np.float64),
        np.array([item[1] for item in both], dtype=np.float64),
    )
    costs = cost_from_pair_stops(
        f_number_without=without.f_number or math.nan,
        shutter_without_s=without.shutter_s or math.nan,
        iso_without=without.iso or math.nan,
        mean_without=bare,
        f_number_with=taken.f_number or math.nan,
        shutter_with_s=taken.shutter_s or math.nan,
        iso_with=taken.iso or math.nan,
        mean_with=seen,
    )
    return float(np.mean(costs)) + taken.light_gain_stops - without.light_gain_stops
