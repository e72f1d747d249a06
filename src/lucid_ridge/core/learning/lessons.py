"""What the log teaches: from frames as they were taken to calibrations that are worth proposing.

The rule for all: enough was measured, the interval excludes what counts without it, and the difference is worth a mark. On clean data it stays silent.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime

import numpy as np

from ..exposure.motion import LOOKS
from ..facts.calibrations import CalibrationKind, Side
from ..planning.light_taught import sky_side
from ..planning.sun_side import side_of
from .estimates import LEAST_MEASURED, Estimate, estimate, worth_proposing
from .filters import cost_from_pair_stops
from .fits import bands_shift, hold_shift

# The light must not have changed too much between the two frames of a pair, and both must be exposed so that their means can be compared.
_PAIR_WITHIN_MIN = 45.0
_DARKEST, _BRIGHTEST = 0.003, 0.8
# Differences that are worth a mark [stops].
LEAST_FILTER, LEAST_LIGHT, LEAST_LOOK, LEAST_HAND, LEAST_SPEED = 0.1, 0.2, 0.2, 0.5, 0.2
_SUN_SIDES = (Side.ACROSS, Side.ALONG)
# From so many stars on a frame pleases.
PLEASES_FROM = 4


@dataclass(frozen=True)
class TakenFrame:
    """A frame of the log. means: linear light place by place, None where it clips; error_ev: brighter than expected positive. offset_used: of the light, that the plan reckoned with.

    drift_stops_per_min: of the light as predicted, falling negative. wanted_look: what the water was to look like; stars: of this frame's look. streak_share: of the frame's short side, as planned with the speed
    speed_used [stops over what is written of the element moving_id]; seen_share: as measured on the picture. from_sun_deg: of the optical axis. cover: share of the sky. boat: held on one. over_limit: by how much longer
    than the rule for a hand [stops].
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
    drift_stops_per_min: float = 0.0
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


@dataclass(frozen=True)
class Lesson:
    """subject: a filter's, place's or element's id, None for the photographer's own. told: what counts without it. evidence: ids of the frames it rests on."""

    kind: CalibrationKind
    subject: int | None
    told: float
    found: Estimate
    evidence: tuple[int, ...]
    worth: bool
    side: Side = Side.WHOLE


def lessons(frames: Sequence[TakenFrame], told_stops: dict[int, float]) -> tuple[Lesson, ...]:
    """Return all that was measured, worth proposing or not. told_stops: what is written on each filter."""
    return (
        *filter_lessons(frames, told_stops), *light_lessons(frames), *water_lessons(frames), *look_lessons(frames), *hand_lessons(frames),
    )  # fmt: skip


def filter_lessons(frames: Sequence[TakenFrame], told_stops: dict[int, float]) -> list[Lesson]:
    """Return what filters cost, from pairs of frames of one time out that differ by that filter alone; where it was measured often enough across and along the sun's direction, also that.

    A side is worth proposing where it differs from the whole, as it does for a polariser; it must have been measured at two places, for one place differs by what stands there.
    """
    costs: dict[int, list[tuple[float, int, Side]]] = defaultdict(list)
    places = {frame.id: frame.location_id for frame in frames}
    for entry in _by_entry(frames).values():
        usable = [frame for frame in entry if _usable(frame)]
        for frame in usable:
            for filter_id in frame.filter_ids or ():
                pair = _without(frame, filter_id, usable)
                cost = _cost(pair, frame) if pair is not None else None
                if cost is not None:
                    costs[filter_id].append((cost, frame.id, side_of(frame.from_sun_deg)))
    found = []
    for filter_id, measured in sorted(costs.items()):
        if filter_id in told_stops:
            # One place differs by what stands there, not by the sun alone.
            seen = {side: {places[item[1]] for item in measured if item[2] == side} for side in _SUN_SIDES}
            sided = measured if all(len(item) > 1 for item in seen.values()) else [(*item[:2], Side.WHOLE) for item in measured]
            found += _whole_and_sides(CalibrationKind.FILTER_COST, filter_id, told_stops[filter_id], sided, LEAST_FILTER, _SUN_SIDES)
    return found


def light_lessons(frames: Iterable[TakenFrame]) -> list[Lesson]:
    """Return by how much the light of places differs from what was predicted: a time out counts once, whatever was taken in it. Under a clear and a clouded sky by themselves too, where
    both were met often enough; they are worth proposing where they differ from the whole.
    """
    by_place: dict[int, list[tuple[float, int, Side]]] = defaultdict(list)
    for entry in _by_entry(frames).values():
        said = [frame for frame in entry if frame.predicted and frame.error_ev is not None and frame.location_id is not None]
        if said and said[0].location_id is not None:
            bare = [frame for frame in said if not frame.filter_ids] or said
            errors = sorted((frame.error_ev or 0.0) + frame.offset_used for frame in bare)
            by_place[said[0].location_id].append((errors[len(errors) // 2], bare[0].id, sky_side(bare[0].cover)))
    found = []
    for place, measured in sorted(by_place.items()):
        found += _whole_and_sides(CalibrationKind.LIGHT_OFFSET, place, 0.0, measured, LEAST_LIGHT, (Side.CLEAR, Side.CLOUDED))
    return found


def _whole_and_sides(
    kind: CalibrationKind, subject: int, told: float, measured: Sequence[tuple[float, int, Side]], least: float, sides: tuple[Side, Side]
) -> list[Lesson]:
    """Return the lesson of all that was measured, and of each side where both were measured often enough: beside the whole, where that is worth proposing, else beside what is told."""
    whole = lesson(kind, subject, told, [item[:2] for item in measured], least)
    by_side = {side: [item[:2] for item in measured if item[2] == side] for side in sides}
    if whole is None or any(len(items) < LEAST_MEASURED for items in by_side.values()):
        return [whole] if whole is not None else []
    beside = whole.found.value if whole.worth else told
    halves = [lesson(kind, subject, beside, items, least, side) for side, items in by_side.items()]
    return [whole, *(item for item in halves if item is not None)]


def water_lessons(frames: Iterable[TakenFrame]) -> list[Lesson]:
    """Return by how much faster waters are than is written of them [stops], from streaks that were measured on pictures."""
    by_water: dict[int, list[tuple[float, int]]] = defaultdict(list)
    for frame in frames:
        if frame.moving_id is not None and frame.seen_share and frame.streak_share:
            by_water[frame.moving_id].append((math.log2(frame.seen_share / frame.streak_share) + frame.speed_used, frame.id))
    found = [lesson(CalibrationKind.WATER_SPEED, water, 0.0, measured, LEAST_SPEED) for water, measured in sorted(by_water.items())]
    return [item for item in found if item is not None]


def streaks_drawn(frames: Sequence[TakenFrame]) -> dict[int, float]:
    """Return what moving water drew in frames, by their ids, as shares of the short side: as measured on the picture, else as planned with the speed that its water was found to have."""
    speeds = {item.subject: item.found.value for item in water_lessons(frames) if item.found.count >= LEAST_MEASURED}
    drawn = {}
    for frame in frames:
        if frame.streak_share:
            faster = speeds[frame.moving_id] - frame.speed_used if frame.moving_id in speeds else 0.0
            drawn[frame.id] = frame.seen_share or frame.streak_share * 2.0**faster
    return drawn


def look_lessons(frames: Sequence[TakenFrame]) -> list[Lesson]:
    """Return by how much the photographer's own looks lie beside the trade's bands, from frames with stars."""
    drawn = streaks_drawn(frames)
    bands = {str(look.name): (look.low_share, look.high_share) for look in LOOKS}
    told = [
        (frame.id, (drawn[frame.id], *bands[frame.wanted_look], frame.stars >= PLEASES_FROM))
        for frame in frames
        if frame.stars is not None and frame.id in drawn and frame.wanted_look in bands
    ]
    found = bands_shift([item for _, item in told])
    if found is None:
        return []
    ids = tuple(frame_id for frame_id, _ in told)
    return [Lesson(CalibrationKind.LOOK_BAND, None, 0.0, found, ids, worth_proposing(found, 0.0, LEAST_LOOK))]


def hand_lessons(frames: Iterable[TakenFrame]) -> list[Lesson]:
    """Return by how much the photographer's hand holds still longer, or less long, than the rule, on firm ground and on a boat."""
    judged = [frame for frame in frames if frame.by_hand and frame.over_limit is not None and frame.sharp is not None]
    lessons_found = []
    for side in (Side.WHOLE, Side.BOAT):
        told = [frame for frame in judged if frame.boat == (side == Side.BOAT)]
        found = hold_shift([frame.over_limit or 0.0 for frame in told], [bool(frame.sharp) for frame in told])
        if found is not None:
            ids = tuple(frame.id for frame in told)
            lessons_found.append(Lesson(CalibrationKind.HAND_HELD, None, 0.0, found, ids, worth_proposing(found, 0.0, LEAST_HAND), side))
    return lessons_found


def lesson(
    kind: CalibrationKind,
    subject: int | None,
    told: float,
    measured: Sequence[tuple[float, int]],
    least: float,
    side: Side = Side.WHOLE,
    shared: tuple[float, int] = (0.0, 0),
) -> Lesson | None:
    """Return the lesson that measurements, each with the id of the frame it rests on, come to; None without any. least: the difference that is worth a mark. shared: standard error that
    all have in common, and from how many measurements it is known.
    """
    found = estimate([value for value, _ in measured], *shared)
    if found is None:
        return None
    return Lesson(kind, subject, told, found, tuple(measured[at][1] for at in found.kept), worth_proposing(found, told, least), side)


def _by_entry(frames: Iterable[TakenFrame]) -> dict[int, list[TakenFrame]]:
    entries: dict[int, list[TakenFrame]] = defaultdict(list)
    for frame in frames:
        entries[frame.entry_id].append(frame)
    return entries


def _usable(frame: TakenFrame) -> bool:
    return None not in (frame.f_number, frame.shutter_s, frame.iso, frame.filter_ids) and any(_measurable(value) for value in frame.means)


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
    """Return what a filter cost by a pair, the mean over the places that both show; light that fell meanwhile is not the filter's doing. None where they share no place."""
    both = [(one, other) for one, other in zip(without.means, taken.means, strict=False) if _measurable(one) and _measurable(other)]
    if not both:
        return None
    bare, seen = np.array([item[0] for item in both], dtype=np.float64), np.array([item[1] for item in both], dtype=np.float64)
    costs = cost_from_pair_stops(
        without.f_number or math.nan, without.shutter_s or math.nan, without.iso or math.nan, bare, taken.f_number or math.nan, taken.shutter_s or math.nan,
        taken.iso or math.nan, seen,
    )  # fmt: skip
    # The middle of a long exposure is when its light came.
    minutes = (taken.taken_at_utc - without.taken_at_utc).total_seconds() / 60 + (
        (taken.shutter_s or 0.0) - (without.shutter_s or 0.0)
    ) / 120
    return float(np.mean(costs)) + taken.drift_stops_per_min * minutes
