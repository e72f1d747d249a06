"""What a taken-along plan knows beforehand, so that it can be changed where no server is in reach: exposures over
readings and filters, and times over delays.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import timedelta

from ..facts.shot import ShotFacts
from ..planning.exposure.plan import ExposureStep, plan_exposure
from ..planning.exposure.reading_in_force import reading_in_force
from ..planning.focus.plan import plan_depth
from ..planning.frame.plan import plan_frame
from ..planning.light.plan import plan_light
from ..planning.plan.shot_plan import ShotPlan, plan_shot
from ..planning.reasons import Reason
from ..planning.sequence.plan import SequenceStep, plan_sequence
from ..planning.sequence.timeline import Frame
from ..planning.verdicts import FAILS, TIGHT
from ..units.markings import Marking, format_shutter, markings_by
from ..units.spelling import DialSteps
from .changes import Difference, as_found, reading_at, with_reading, without_filters
from .run_sheet import frame_key

# How far a reading may lie from the plan's [stops], and how late one may be [min].
READING_STOPS, STEPS_PER_STOP = 5, 3
DELAYS_MIN = (*range(5, 60, 5), *range(60, 130, 10))
_COARSE_DELAYS_MIN = (10, 20, 30, 40, 50, 60, 90, 120)
# Longer sequences carry coarser tables, so that a card is made in a moment.
_FINE_FRAMES = 60


@dataclass(frozen=True)
class SetTo:
    """A frame's settings: shutter as it is set and in seconds, ISO, and how long the body's dark frame then takes
    [s].
    """

    shutter: str
    shutter_s: float
    iso: str
    dark_s: float


@dataclass(frozen=True)
class Changed:
    """The frames of another plan by their keys, with their settings. more: frames that the current plan lacks.

    mark, words: remarks on it; words are empty if it is as good as planned.
    """

    frames: dict[str, SetTo]
    more: int
    mark: str
    words: str


@dataclass(frozen=True)
class ReadingRow:
    """The plan for a scene of this EV at ISO 100, read with no filter on."""

    ev100: float
    plan: Changed


@dataclass(frozen=True)
class DelayRow:
    """apart_stops: by how much shutter times change at most from the row before, or from the plan to the first row;
    None where no frame is in both.
    """

    minutes: float
    ends: str
    plan: Changed
    apart_stops: float | None


@dataclass(frozen=True)
class Tables:
    """readings: for the filters that are missing (none first), in order of EV. ends: where they end, as a sentence."""

    planned_ev100: float | None
    readings: tuple[tuple[frozenset[int], tuple[ReadingRow, ...]], ...]
    delays: tuple[DelayRow, ...]
    ends: str


@dataclass(frozen=True)
class MeterMark:
    """A setting of a meter, and what it adds to the EV at ISO 100."""

    label: str
    ev: float


@dataclass(frozen=True)
class Meter:
    """A meter's settings: what three of them add together is the reading."""

    apertures: tuple[MeterMark, ...]
    shutters: tuple[MeterMark, ...]
    isos: tuple[MeterMark, ...]


def meter() -> Meter:
    """Return the trade's markings with what each adds to the EV: log2 N², log2 1/t, and log2 100/S."""
    apertures, shutters, isos = markings_by(DialSteps.THIRDS)

    def listed(marks: Sequence[Marking], share: float, over: float) -> tuple[MeterMark, ...]:
        return tuple(MeterMark(mark.label, share * math.log2(mark.value / over)) for mark in marks)

    return Meter(listed(apertures, 2.0, 1.0), listed(shutters, -1.0, 1.0), listed(isos, -1.0, 100.0))


def tables_of(facts: ShotFacts, plan: ShotPlan) -> Tables:
    """Return the tables beside a shot's plan; empty without frames.

    Tables of readings are empty while no light is known.
    """
    keys = [frame_key(frame) for frame in plan.sequence.frames]
    planned = reading_in_force(facts)
    scene = plan.exposure.scene_ev100
    steps = STEPS_PER_STOP if len(keys) <= _FINE_FRAMES else 1
    rows = (
        tuple(
            (missing, _reading_rows(without_filters(planned, missing), scene, keys, steps))
            for missing in _missing_sets(planned)
        )
        if scene is not None and keys
        else ()
    )
    delays = (
        _delay_rows(facts, plan, DELAYS_MIN if steps > 1 else _COARSE_DELAYS_MIN)
        if facts.light.time_utc is not None and keys
        else ()
    )
    ends = (
        f"The tables taken along reach {READING_STOPS} stops either way of EV {scene:.1f} and "
        f"{DELAYS_MIN[-1]:.0f} min of delay; beyond that the server is needed."
        if scene is not None
        else "The light is not known: the tables are empty, and the server is needed."
    )
    return Tables(scene, rows, delays, ends)


def _missing_sets(facts: ShotFacts) -> tuple[frozenset[int], ...]:
    """Return which filters may turn out to be missing: none, each alone, all."""
    grouped = {filter_id for group in facts.frame_groups for filter_id in group.filter_ids}
    used = [item.id for item in facts.filters if item.on_lens or item.id in grouped]
    return tuple(dict.fromkeys((frozenset(), *(frozenset({item}) for item in used), frozenset(used))))


def _reading_rows(facts: ShotFacts, scene: float, keys: Sequence[str], steps: int) -> tuple[ReadingRow, ...]:
    light, depth = plan_light(facts), plan_depth(facts)
    frame = plan_frame(facts, depth, light)
    aims = frame.panorama.plan.aims if frame.panorama and frame.panorama.plan else ()
    rows = []
    for step in range(-READING_STOPS * steps, READING_STOPS * steps + 1):
        ev = scene + step / steps
        reading = reading_at(facts, ev)
        if reading is None:
            continue
        read = with_reading(facts, reading).seen_from_camera
        exposure = plan_exposure(read, light, depth)
        rows.append(ReadingRow(ev, _changed(exposure, plan_sequence(read, light, depth, exposure, aims), keys)))
    return tuple(rows)


def _delay_rows(facts: ShotFacts, planned: ShotPlan, delays_min: Sequence[float]) -> tuple[DelayRow, ...]:
    before = {frame_key(frame): frame.shutter_s for frame in planned.sequence.frames}
    keys = list(before)
    rows = []
    for minutes in delays_min:
        later = as_found(facts, Difference(later_min=minutes))
        plan = plan_shot(later)
        ends = (
            later.clock(later.light.time_utc + timedelta(seconds=plan.sequence.total_s or 0.0))
            if later.light.time_utc
            else ""
        )
        changed = _changed(plan.exposure, plan.sequence, keys, plan.light.reasons)
        now = {key: item.shutter_s for key, item in changed.frames.items()}
        apart = max((abs(math.log2(now[key] / before[key])) for key in now if key in before), default=None)
        rows.append(DelayRow(minutes, ends, changed, apart))
        before = now
    return tuple(rows)


def _changed(
    exposure: ExposureStep, sequence: SequenceStep, keys: Sequence[str], light: Sequence[Reason] = ()
) -> Changed:
    found = {frame_key(frame): frame for frame in sequence.frames}
    said = [*exposure.reasons, *sequence.reasons, *light]
    fails = [reason for reason in said if reason.severity == FAILS]
    tight = [reason for reason in said if reason.severity == TIGHT]
    worst = fails[0] if fails else tight[0] if tight else None
    frames = {key: _set(found[key]) for key in keys if key in found}
    return Changed(
        frames,
        sum(key not in keys for key in found),
        worst.severity if worst is not None else "holds",
        worst.text if worst is not None else "",
    )


def _set(frame: Frame) -> SetTo:
    return SetTo(format_shutter(frame.shutter_s), frame.shutter_s, f"{frame.iso:g}", frame.around.dark_s)
