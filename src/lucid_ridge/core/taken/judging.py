"""Findings of a field session once its files are read: light and settings against the plan, clipping, sharpness and
missing frames.

Frames are judged by their role in the picture: each aim of a panorama separately, each focus position, an exposure
bracket as a set, of repeated frames the best.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence

from ..planning.reasons import Reason
from ..planning.verdicts import FAILS, HOLDS, TIGHT, UNSAID, Severity
from . import wording as say
from .cells import Cells
from .judged import JudgedFrame, JudgedGroup, named
from .places import Place
from .setting_findings import setting_findings
from .sharp_findings import sharp_findings

_LIGHT_TIGHT, _LIGHT_FAILS = 1 / 3, 1.0
_CLIPPED_TIGHT, _CLIPPED_FAILS = 0.002, 0.02
# Darker light drowns in noise; planned light brighter than the second clips [share of saturation].
_DARKEST, _BRIGHTEST = 0.002, 0.9


def findings(
    spots: Sequence[Place],
    frames: Sequence[JudgedFrame],
    groups: Mapping[int, JudgedGroup],
    missing: Sequence[int],
    circle_share: float | None = None,
) -> tuple[Reason, ...]:
    """Judge the files of a session, worst finding first.

    groups: by number; missing: numbers of planned frames without a file. circle_share: see sharp_findings.
    """
    inside = [frame for frame in frames if not groups[frame.group].beside]
    found = [
        *_missing(missing),
        *_light(frames),
        *setting_findings(frames),
        *_clipping(inside, groups),
        *_moved(inside, groups),
        *sharp_findings(spots, inside, groups, circle_share),
    ]
    rank = {FAILS: 0, TIGHT: 1, UNSAID: 2, HOLDS: 3}
    return tuple(sorted(found, key=lambda item: rank[item.severity]))


def moved_at(cells: Cells, spots: Sequence[Place]) -> bool:
    """Return whether most of the spots the plan looks at have moved in the same direction: then the camera moved."""
    directions = [
        cells.moved_deg[at]
        for spot in spots
        if not spot.moves
        for at in cells.around(spot.x, spot.y)
        if math.isfinite(cells.sigma_px[at])
    ]
    moved = [item for item in directions if math.isfinite(item)]
    if len(moved) < max(2, 0.5 * len(directions)):
        return False
    across = sum(math.cos(math.radians(2 * item)) for item in moved) / len(moved)
    down = sum(math.sin(math.radians(2 * item)) for item in moved) / len(moved)
    return math.hypot(across, down) > 0.6


def means_at(cells: Cells, spots: Sequence[Place]) -> tuple[float | None, ...]:
    """Return the light place by place, None where it clips or is too dark to be measured."""
    found = (cells.mean_at(spot.x, spot.y) for spot in spots)
    return tuple(value if value is not None and value >= _DARKEST else None for value in found)


def error_ev(
    measured: Sequence[float | None],
    expected: Sequence[float],
    planned: tuple[float, float, float],
    taken: tuple[float | None, float | None, float | None],
) -> float | None:
    """Return how much brighter a frame is than predicted [EV], the mean over its spots, referred to the settings
    really used; None if unknown.

    planned, taken: f-number, shutter time [s], ISO.
    """
    told = [
        math.log2(value / wanted)
        for value, wanted in zip(measured, expected, strict=False)
        if value is not None and 0 < wanted <= _BRIGHTEST
    ]
    if not told:
        return None
    f_number, shutter_s, iso = (said if said else plan for said, plan in zip(taken, planned, strict=True))
    change = math.log2(shutter_s / planned[1] * (iso / planned[2]) * (planned[0] / f_number) ** 2)
    return sum(told) / len(told) - change


def _missing(missing: Sequence[int]) -> list[Reason]:
    if not missing:
        return []
    return [say.missing(numbers=tuple(missing)).fails()]


def _light(frames: Sequence[JudgedFrame]) -> list[Reason]:
    """Return the difference of the light from the prediction, with the settings taken into account, and the frames in
    other light than the rest.
    """
    errors = sorted(frame.error_ev for frame in frames if frame.error_ev is not None)
    if not errors:
        return []
    middle = errors[len(errors) // 2]
    found = [_of_light(middle)]
    for frame in frames:
        if frame.error_ev is not None and abs(frame.error_ev - middle) > _LIGHT_TIGHT:
            off = frame.error_ev - middle
            words = say.other_light(more_stops=off, **named([frame]))
            found.append(words.reason(TIGHT if abs(off) <= _LIGHT_FAILS else FAILS))
    return found


def _of_light(error_ev: float) -> Reason:
    if abs(error_ev) < 0.1:
        return say.light_as_planned().holds()
    mark = HOLDS if abs(error_ev) <= _LIGHT_TIGHT else TIGHT if abs(error_ev) <= _LIGHT_FAILS else FAILS
    return say.light_differs(brighter_stops=error_ev).reason(mark)


def _clipping(frames: Sequence[JudgedFrame], groups: Mapping[int, JudgedGroup]) -> list[Reason]:
    """Return where highlights are lost that the plan does not give up: of a bracket, its darkest frame must hold
    them.
    """
    sets: dict[tuple[int, int], list[JudgedFrame]] = {}
    for frame in frames:
        sets.setdefault((frame.group, frame.place), []).append(frame)
    found: dict[tuple[Severity, str], list[tuple[JudgedFrame, bool]]] = {}
    for those in sets.values():
        held, several = min(those, key=lambda frame: frame.clipped_share), len(those) > 1
        beyond = held.clipped_share - (held.planned_clipped or 0.0)
        if beyond <= _CLIPPED_TIGHT:
            continue
        words = say.clipped_words(_channel(held), held.clipped_share, held.planned_clipped, several)
        found.setdefault((FAILS if beyond > _CLIPPED_FAILS else TIGHT, words), []).append((held, several))
    return [
        say.clips(
            channel=_channel(alike[0][0]),
            share=alike[0][0].clipped_share,
            planned_share=alike[0][0].planned_clipped,
            holds_most=alike[0][1],
            **named([frame for frame, _ in alike]),
        ).reason(severity)
        for (severity, _), alike in found.items()
    ]


def _channel(frame: JudgedFrame) -> str:
    return frame.clipped_channel or "white"


def _moved(frames: Sequence[JudgedFrame], groups: Mapping[int, JudgedGroup]) -> list[Reason]:
    """Return which frames moved; of a frame taken several times to choose from, only where all did."""

    def has_another(moved: JudgedFrame) -> bool:
        return groups[moved.group].best and any(
            not frame.moved and (frame.group, frame.place, frame.exposure) == (moved.group, moved.place, moved.exposure)
            for frame in frames
        )

    moved = [frame for frame in frames if frame.moved and not has_another(frame)]
    return [say.moved(**named(moved)).fails()] if moved else []
