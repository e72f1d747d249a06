"""Sequence: frames as a card lists them. Frames that differ by one thing share a line."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from .timeline import Frame

# Steps of a rail that differ by less are the same [mm].
_SAME_STEP_MM = 0.002
_LEAST_RUN = 3


@dataclass(frozen=True)
class FrameLine:
    """Consecutive frames in one line.

    shutters_s: of each place, in order; step_mm: between the places of a rail; repeats: how often each exposure is
    taken.
    """

    first: Frame
    last: Frame
    shutters_s: tuple[float, ...]
    isos: tuple[float, ...]
    step_mm: float | None = None
    repeats: int = 1


def frame_lines(frames: Sequence[Frame]) -> tuple[FrameLine, ...]:
    """Return frames in lines: all exposures at one focus and aim in one, and places evenly apart on a rail in one."""
    return tuple(_along_the_rail(_places(frames)))


def _places(frames: Sequence[Frame]) -> list[FrameLine]:
    found: list[list[Frame]] = []
    for frame in frames:
        before = found[-1][-1] if found else None
        same = before is not None and _place_of(before) == _place_of(frame)
        found[-1].append(frame) if same else found.append([frame])
    return [_place(run) for run in found]


def _place_of(frame: Frame) -> tuple[object, ...]:
    return frame.group, frame.aim, frame.object_distance_m, frame.rail_mm, frame.filters


def _place(run: Sequence[Frame]) -> FrameLine:
    kinds = list(dict.fromkeys((frame.exposure_index, frame.shutter_s, frame.iso) for frame in run))
    repeats = len(run) // len(kinds) if len(run) % len(kinds) == 0 else 1
    shutters = (
        tuple(time for _, time, _ in kinds)
        if repeats * len(kinds) == len(run)
        else tuple(frame.shutter_s for frame in run)
    )
    return FrameLine(run[0], run[-1], shutters, tuple(dict.fromkeys(iso for *_, iso in kinds)), None, repeats)


def _along_the_rail(lines: Sequence[FrameLine]) -> list[FrameLine]:
    made: list[FrameLine] = []
    at = 0
    while at < len(lines):
        run = _run_from(lines, at)
        if len(run) < _LEAST_RUN:
            made.append(lines[at])
            at += 1
            continue
        step = (run[1].first.rail_mm or 0.0) - (run[0].first.rail_mm or 0.0)
        made.append(FrameLine(run[0].first, run[-1].last, run[0].shutters_s, run[0].isos, step, run[0].repeats))
        at += len(run)
    return made


def _run_from(lines: Sequence[FrameLine], at: int) -> list[FrameLine]:
    """Return the lines from one on that differ only by even steps of the rail."""
    run = [lines[at]]
    step: float | None = None
    for line in lines[at + 1 :]:
        before = run[-1]
        if line.first.rail_mm is None or before.first.rail_mm is None or _but_rail(line) != _but_rail(before):
            break
        moved = line.first.rail_mm - before.first.rail_mm
        if step is not None and abs(moved - step) > _SAME_STEP_MM:
            break
        step = moved
        run.append(line)
    return run


def _but_rail(line: FrameLine) -> tuple[object, ...]:
    return line.first.group, line.first.aim, line.first.filters, line.shutters_s, line.isos, line.repeats
