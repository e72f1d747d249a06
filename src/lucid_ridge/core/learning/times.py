"""Lessons from field sessions besides their pictures: times for the walk, set-up and filter changes, the share of
hand-held series that succeed, and battery life in the cold.

Light model and lens play no part: everything is read from ticks and notes.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from statistics import fmean

from ..facts.calibrations import CalibrationKind, Side
from ..planning.sequence.supplies import battery_side, cold_factor
from .estimates import LEAST_MEASURED, PROPOSE_AT, Estimate, estimate
from .lessons import Lesson, lesson
from .rates import wilson_interval

# Differences that are worth a mark: of times as long as planned, of shares.
LEAST_LONGER, LEAST_SHARE = 0.1, 0.1
# Longer pauses between two ticks, and longer ways, are something else [s, min].
_LONGEST_PAUSE_S, _LONGEST_MIN = 1800.0, 24 * 60.0
# A battery shows whole per cents: a smaller drop is not significant.
_LEAST_DROP = 4.0


@dataclass(frozen=True)
class TickedFrame:
    """A planned frame that was ticked.

    start_s, shutter_s, change_s: of the plan; changes: how many filters come off or go on before it; waits: for a
    moment. at_utc: of its first tick.
    """

    id: int
    start_s: float
    shutter_s: float
    change_s: float
    changes: int
    waits: bool
    at_utc: datetime


@dataclass(frozen=True, kw_only=True)
class FieldSession:
    """A field session as it was ticked.

    first_id: of its first frame. frames: in the plan's order, each next to the one before it in the plan or None
    between. walk_min, set_up_min, filter_change_s, hit_rate: as planned, None if not known. tries: of a hand-held
    series, None if none was planned or nobody has said whether one is kept; whole: whether one is.

    battery: levels shown with their times, earliest first; counted: frames by the maker's count that the plan takes;
    taken_share: of the plan's frames, between the first and the last reading.
    """

    entry_id: int
    first_id: int
    at_utc: datetime
    frames: tuple[TickedFrame | None, ...] = ()
    set_out_utc: datetime | None = None
    arrived_utc: datetime | None = None
    ready_utc: datetime | None = None
    walk_min: float | None = None
    set_up_min: float | None = None
    filter_change_s: float | None = None
    tries: int | None = None
    whole: bool = False
    hit_rate: float | None = None
    battery: tuple[float, ...] = ()
    battery_frames: int | None = None
    counted: float | None = None
    taken_share: float = 0.0
    temperature_c: float | None = None


@dataclass(frozen=True)
class Lasted:
    """How long something took beside the plan [min]."""

    entry_id: int
    first_id: int
    what: CalibrationKind
    planned_min: float
    took_min: float


def lessons_of_times(outs: Sequence[FieldSession]) -> tuple[Lesson, ...]:
    """Return the lessons of field sessions, worth proposing or not."""
    lasted = ways(outs)
    found = [
        lesson(
            kind,
            None,
            1.0,
            [(item.took_min / item.planned_min, item.first_id) for item in lasted if item.what == kind],
            LEAST_LONGER,
        )
        for kind in (CalibrationKind.SET_UP, CalibrationKind.WALKING)
    ]
    changes = filter_changes(outs)
    found.append(
        lesson(
            CalibrationKind.FILTER_CHANGE,
            None,
            1.0,
            changes.measured,
            LEAST_LONGER,
            shared=(changes.shared, changes.hands_count),
        )
    )
    return tuple(item for item in (*found, series_lesson(outs), *battery_lessons(outs)) if item is not None)


def ways(outs: Sequence[FieldSession]) -> list[Lasted]:
    """Return how long walking in and setting up took, where both ends were noted and the plan knew how long."""
    found = []
    for out in outs:
        for what, planned, start, end in (
            (CalibrationKind.WALKING, out.walk_min, out.set_out_utc, out.arrived_utc),
            (CalibrationKind.SET_UP, out.set_up_min, out.arrived_utc, out.ready_utc),
        ):
            if planned and start is not None and end is not None:
                took = (end - start).total_seconds() / 60
                if 0 < took <= _LONGEST_MIN:
                    found.append(Lasted(out.entry_id, out.first_id, what, planned, took))
    return found


@dataclass(frozen=True)
class FilterChanges:
    """measured: duration of each filter change relative to the planned one, with the frame after it.

    shared: standard error of the other handling time, in the same measure; hands_count: number of pauses without a
    change it comes from.
    """

    measured: tuple[tuple[float, int], ...] = ()
    shared: float = 0.0
    hands_count: int = 0


def filter_changes(outs: Sequence[FieldSession]) -> FilterChanges:
    """Return how many times as long as planned filters took to change.

    Between two ticks pass what the plan has between them, what hands take for every frame, and the change. What hands
    take is the mean of the pauses with no change; its error is in every measurement alike.
    """
    pauses = [pause for out in outs for pause in _pauses(out)]
    hands = estimate([over for over, changes, _, _ in pauses if changes == 0])
    if hands is None or hands.count < LEAST_MEASURED:
        return FilterChanges()
    told = [(over, changes * planned, frame_id) for over, changes, planned, frame_id in pauses if changes and planned]
    if not told:
        return FilterChanges()
    shared = hands.spread / math.sqrt(hands.count) * fmean(1 / planned for _, planned, _ in told)
    return FilterChanges(
        tuple(((over - hands.value) / planned, frame_id) for over, planned, frame_id in told), shared, hands.count
    )


def _pauses(out: FieldSession) -> list[tuple[float, int, float, int]]:
    """Return for each frame that follows another at once: seconds beyond the plan without its change, number of
    filters changed, planned time of one change [s], and the frame's id.
    """
    found = []
    for before, frame in zip(out.frames, out.frames[1:], strict=False):
        if before is None or frame is None or frame.waits:
            continue
        passed = (frame.at_utc - before.at_utc).total_seconds()
        planned = (frame.start_s + frame.shutter_s) - (before.start_s + before.shutter_s) - frame.change_s
        if 0 < passed <= planned + _LONGEST_PAUSE_S:
            found.append((passed - planned, frame.changes, out.filter_change_s or 0.0, frame.id))
    return found


def series_lesson(outs: Sequence[FieldSession]) -> Lesson | None:
    """Return the share of hand-held series that came out whole; None without any.

    Worth proposing if no rate was entered, or the interval excludes it.
    """
    tried = [out for out in outs if out.tries]
    tries, whole = sum(out.tries or 0 for out in tried), sum(out.whole for out in tried)
    if not tries:
        return None
    said = [out.hit_rate for out in tried if out.hit_rate is not None]
    value, (low, high) = whole / tries, wilson_interval(whole, tries)
    found = Estimate(value, low, high, math.sqrt(value * (1 - value)), tries, tuple(range(len(tried))))
    enough = tries >= LEAST_MEASURED and whole > 0
    told = fmean(said) if said else value
    outer = wilson_interval(whole, tries, PROPOSE_AT)
    worth = enough and (not said or (abs(value - told) >= LEAST_SHARE and not outer.low <= told <= outer.high))
    return Lesson(CalibrationKind.SERIES, None, told, found, tuple(out.first_id for out in tried), worth)


def battery_lessons(outs: Sequence[FieldSession]) -> list[Lesson]:
    """Return the battery life in the cold and in mild weather as a share of the rated count, beside the usual share at
    these temperatures.
    """
    measured: dict[Side, list[tuple[float, int]]] = {Side.COLD: [], Side.MILD: []}
    expected: dict[Side, list[float]] = {Side.COLD: [], Side.MILD: []}
    for out in outs:
        if len(out.battery) < 2 or not out.battery_frames or not out.counted or out.temperature_c is None:
            continue
        drop = out.battery[0] - out.battery[-1]
        if drop >= _LEAST_DROP and out.taken_share > 0:
            side = battery_side(out.temperature_c)
            measured[side].append((out.counted * out.taken_share / (out.battery_frames * drop / 100), out.first_id))
            expected[side].append(cold_factor(out.temperature_c))
    found = [
        lesson(CalibrationKind.BATTERY, None, fmean(expected[side]), items, LEAST_SHARE, side)
        for side, items in measured.items()
        if items
    ]
    return [item for item in found if item is not None]
