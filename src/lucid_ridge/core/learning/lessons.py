"""What the log teaches: from what sessions taught to calibrations that are worth proposing.

The rule for all: enough was measured, the interval excludes what counts without it, and the difference is worth a
mark. On clean data it stays silent.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

from ..exposure.motion import LOOKS
from ..facts.calibrations import CalibrationKind, Side
from .digests import Digest, StreakTaken
from .estimates import LEAST_MEASURED, Estimate, estimate, worth_proposing
from .fits import bands_shift, hold_shift

# Differences that are worth a mark [stops].
LEAST_FILTER, LEAST_LIGHT, LEAST_LOOK, LEAST_HAND, LEAST_SPEED = 0.1, 0.2, 0.2, 0.5, 0.2
_SUN_SIDES = (Side.ACROSS, Side.ALONG)
# A frame with this many stars or more counts as liked.
PLEASES_FROM = 4


@dataclass(frozen=True)
class Lesson:
    """A lesson of the log. subject: id of a filter, place or element; None for the photographer.

    told: the value used without it. evidence: ids of the frames it rests on.
    """

    kind: CalibrationKind
    subject: int | None
    told: float
    found: Estimate
    evidence: tuple[int, ...]
    worth: bool
    side: Side = Side.WHOLE


def lessons(digests: Sequence[Digest], marked_stops: Mapping[int, float]) -> tuple[Lesson, ...]:
    """Return all lessons, worth proposing or not. marked_stops: the marked density of each filter."""
    return (
        *filter_lessons(digests, marked_stops),
        *light_lessons(digests),
        *water_lessons(digests),
        *look_lessons(digests),
        *hand_lessons(digests),
    )


def filter_lessons(digests: Sequence[Digest], marked_stops: Mapping[int, float]) -> list[Lesson]:
    """Estimate the cost of each filter from pairs of frames that differ by that filter alone; also across and along
    the sun's direction, where both were measured often enough.

    A side is worth proposing where it differs from the whole, as it does for a polariser; it must have been measured
    at two places, for one place differs by what stands there.
    """
    costs: dict[int, list[tuple[float, int, Side]]] = defaultdict(list)
    seen: dict[tuple[int, Side], set[int | None]] = defaultdict(set)
    for item in digests:
        for filter_id, stops, frame_id, side in item.filters:
            costs[filter_id].append((stops, frame_id, side))
            seen[filter_id, side].add(item.location_id)
    found = []
    for filter_id, measured in sorted(costs.items()):
        if filter_id in marked_stops:
            # One place may differ by its surroundings, not only by the sun.
            sides_told = all(len(seen[filter_id, side]) > 1 for side in _SUN_SIDES)
            sided = measured if sides_told else [(*item[:2], Side.WHOLE) for item in measured]
            found += _whole_and_sides(
                CalibrationKind.FILTER_COST, filter_id, marked_stops[filter_id], sided, LEAST_FILTER, _SUN_SIDES
            )
    return found


def light_lessons(digests: Iterable[Digest]) -> list[Lesson]:
    """Return the difference of the light at each place from the prediction.

    Clear and overcast skies also give lessons of their own where both were met often enough; they are worth proposing
    where they differ from the whole.
    """
    by_place: dict[int, list[tuple[float, int, Side]]] = defaultdict(list)
    for item in digests:
        if item.light is not None and item.location_id is not None:
            by_place[item.location_id].append(item.light)
    found = []
    for place, measured in sorted(by_place.items()):
        found += _whole_and_sides(
            CalibrationKind.LIGHT_OFFSET, place, 0.0, measured, LEAST_LIGHT, (Side.CLEAR, Side.CLOUDED)
        )
    return found


def _whole_and_sides(
    kind: CalibrationKind,
    subject: int,
    told: float,
    measured: Sequence[tuple[float, int, Side]],
    least: float,
    sides: tuple[Side, Side],
) -> list[Lesson]:
    """Return the lesson of all measurements, and of each side if both have enough.

    A side is compared with the whole if that is worth proposing, else with the current value.
    """
    whole = lesson(kind, subject, told, [item[:2] for item in measured], least)
    by_side = {side: [item[:2] for item in measured if item[2] == side] for side in sides}
    if whole is None or any(len(items) < LEAST_MEASURED for items in by_side.values()):
        return [whole] if whole is not None else []
    beside = whole.found.value if whole.worth else told
    halves = [lesson(kind, subject, beside, items, least, side) for side, items in by_side.items()]
    return [whole, *(item for item in halves if item is not None)]


def water_lessons(digests: Iterable[Digest]) -> list[Lesson]:
    """Return by how much faster waters are than is written of them [stops], from streaks that were measured on
    pictures.
    """
    by_water: dict[int, list[tuple[float, int]]] = defaultdict(list)
    for item in digests:
        for streak in item.streaks:
            if streak.moving_id is not None and streak.seen_share:
                faster = math.log2(streak.seen_share / streak.streak_share) + streak.speed_used
                by_water[streak.moving_id].append((faster, streak.frame_id))
    found = [
        lesson(CalibrationKind.WATER_SPEED, water, 0.0, measured, LEAST_SPEED)
        for water, measured in sorted(by_water.items())
    ]
    return [item for item in found if item is not None]


def speeds_found(digests: Iterable[Digest]) -> dict[int, float]:
    """Return by how much faster waters are than is written of them [stops], by element, where that was measured often
    enough.
    """
    return {
        item.subject: item.found.value
        for item in water_lessons(digests)
        if item.subject is not None and item.found.count >= LEAST_MEASURED
    }


def streak_drawn(streak: StreakTaken, speeds: Mapping[int, float]) -> float:
    """Return the length of a streak as a share of the short side: measured on the picture, or else planned with the
    speed measured for its water.
    """
    faster = (
        speeds[streak.moving_id] - streak.speed_used
        if streak.moving_id is not None and streak.moving_id in speeds
        else 0.0
    )
    return streak.seen_share or streak.streak_share * 2.0**faster


def look_lessons(digests: Sequence[Digest]) -> list[Lesson]:
    """Return by how much the photographer's own looks lie beside the trade's bands, from frames with stars."""
    speeds = speeds_found(digests)
    bands = {str(look.name): (look.low_share, look.high_share) for look in LOOKS}
    rated = [
        item for entry in digests for item in entry.streaks if item.stars is not None and item.wanted_look in bands
    ]
    found = bands_shift(
        [(streak_drawn(item, speeds), *bands[item.wanted_look], (item.stars or 0) >= PLEASES_FROM) for item in rated]
    )
    if found is None:
        return []
    ids = tuple(item.frame_id for item in rated)
    return [Lesson(CalibrationKind.LOOK_BAND, None, 0.0, found, ids, worth_proposing(found, 0.0, LEAST_LOOK))]


def hand_lessons(digests: Iterable[Digest]) -> list[Lesson]:
    """Return by how much the photographer's hand holds still longer, or less long, than the rule, on firm ground and
    on a boat.
    """
    judged = [item for entry in digests for item in entry.held]
    lessons_found = []
    for side in (Side.WHOLE, Side.BOAT):
        told = [item for item in judged if item.boat == (side == Side.BOAT)]
        found = hold_shift([item.over_limit for item in told], [item.sharp for item in told])
        if found is not None:
            ids = tuple(item.frame_id for item in told)
            lessons_found.append(
                Lesson(CalibrationKind.HAND_HELD, None, 0.0, found, ids, worth_proposing(found, 0.0, LEAST_HAND), side)
            )
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
    """Return the lesson that measurements, each with the id of the frame it rests on, come to; None without any.

    least: the difference that is worth a mark. shared: standard error that all have in common, and from how many
    measurements it is known.
    """
    found = estimate([value for value, _ in measured], *shared)
    if found is None:
        return None
    return Lesson(
        kind,
        subject,
        told,
        found,
        tuple(measured[at][1] for at in found.kept),
        worth_proposing(found, told, least),
        side,
    )
