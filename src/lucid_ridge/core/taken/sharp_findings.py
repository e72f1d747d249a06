"""Findings on sharpness: position by position over a stack, aim by aim of a panorama."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence

from ..planning.verdicts import FAILS, HOLDS, TIGHT, UNSAID
from ..units.lengths import format_distance
from .judged import Finding, JudgedFrame, JudgedGroup, names_of
from .places import Place
from .sharpness import USUAL_CIRCLE_SHARE, disc_px, limit_sigma_px


def sharp_findings(
    spots: Sequence[Place], frames: Sequence[JudgedFrame], groups: Mapping[int, JudgedGroup], circle_share: float | None
) -> list[Finding]:
    """Judge sharpness by the plan's circle of confusion.

    circle_share: its diameter as a share of the frame's long side; the usual one where the plan has none.
    """
    circle = circle_share if circle_share else USUAL_CIRCLE_SHARE
    still = [frame for frame in frames if not frame.moved]
    aimed = [frame for frame in frames if groups[frame.group].stitched]
    whole = [frame for frame in still if not groups[frame.group].stitched]
    found = _aims(aimed, groups, circle)
    if whole or not aimed:
        found += [_place(spot, whole, circle) for spot in spots if not spot.moves]
        found += _slices(whole, groups, circle)
    elif any(not spot.moves for spot in spots):
        found.append(
            Finding(
                UNSAID, "Each frame of the panorama is judged as a whole: in which of them a thing stands is not known."
            )
        )
    return found


def _place(spot: Place, frames: Sequence[JudgedFrame], circle: float) -> Finding:
    """Return whether one of the frames is sharp at a place; where none is, which comes nearest, and where that was
    focused.
    """
    told = [(frame, frame.cells.sigma_px[frame.cells.at(spot.x, spot.y)]) for frame in frames]
    told = [(frame, sigma) for frame, sigma in told if math.isfinite(sigma)]
    if not told:
        return Finding(UNSAID, f"{spot.name}: too little detail to tell whether it is sharp.")
    best, sigma = min(told, key=lambda item: item[1] / limit_sigma_px(circle, item[0].cells.long_px))
    if sigma <= limit_sigma_px(circle, best.cells.long_px):
        return Finding(HOLDS, f"{spot.name}: sharp{f' in {_inside(best)}' if len(frames) > 1 else ''}.")
    focus_m = best.planned.focus_m
    focused = f", focused at {format_distance(focus_m)}" if focus_m is not None and math.isfinite(focus_m) else ""
    return Finding(
        FAILS, f"{spot.name}: soft. The sharpest is {_inside(best)}{focused}: {_blurred(best, sigma, circle)}."
    )


def _aims(frames: Sequence[JudgedFrame], groups: Mapping[int, JudgedGroup], circle: float) -> list[Finding]:
    """Return which aims of a panorama no frame shows sharply."""
    aims: dict[tuple[int, int], list[JudgedFrame]] = {}
    for frame in frames:
        aims.setdefault((frame.group, groups[frame.group].aim_of(frame.place)), []).append(frame)
    soft, unknown = [], []
    for those in aims.values():
        told = [(frame, frame.cells.sharpest_px()) for frame in those if not frame.moved]
        known = [(frame, sigma) for frame, sigma in told if sigma is not None]
        if not known:
            # What moved is said elsewhere.
            unknown += those if told else []
            continue
        best, sigma = min(known, key=lambda item: item[1] / limit_sigma_px(circle, item[0].cells.long_px))
        if sigma > limit_sigma_px(circle, best.cells.long_px):
            soft.append(
                Finding(FAILS, f"{names_of(those)}: nothing is sharp. {_blurred(best, sigma, circle).capitalize()}.")
            )
    found = soft
    if unknown:
        found.append(
            Finding(
                UNSAID,
                f"{names_of(unknown)}: too little detail to tell whether "
                f"{'it is' if len(unknown) == 1 else 'they are'} sharp.",
            )
        )
    if aims and not soft and not unknown and not any(frame.moved for frame in frames):
        found.append(Finding(HOLDS, f"All {len(aims)} views of the panorama are sharp."))
    return found


def _slices(frames: Sequence[JudgedFrame], groups: Mapping[int, JudgedGroup], circle: float) -> list[Finding]:
    """Return the focus positions of a stack at which nothing is sharp: its depth may be missing there."""
    positions: dict[tuple[int, int], list[JudgedFrame]] = {}
    for frame in frames:
        if groups[frame.group].stacked:
            positions.setdefault((frame.group, frame.place), []).append(frame)
    found = []
    for those in positions.values():
        told = [(frame, sigma) for frame in those if (sigma := frame.cells.sharpest_px()) is not None]
        if told and all(sigma > limit_sigma_px(circle, frame.cells.long_px) for frame, sigma in told):
            focus_m = those[0].planned.focus_m
            where = (
                f", focused at {format_distance(focus_m)}," if focus_m is not None and math.isfinite(focus_m) else ""
            )
            found.append(
                Finding(TIGHT, f"{names_of(those)}{where} shows nothing sharp: the stack may have a gap there.")
            )
    return found


def _inside(frame: JudgedFrame) -> str:
    name = names_of([frame])
    return name[0].lower() + name[1:] if frame.number else name


def _blurred(frame: JudgedFrame, sigma_px: float, circle: float) -> str:
    across, allowed = disc_px(sigma_px), circle * frame.cells.long_px
    return (
        f"blurred over {across:.0f} px of the file, {allowed:.1f} allowed"
        if allowed < 10
        else f"blurred over {across:.0f} px of the file, {allowed:.0f} allowed"
    )
