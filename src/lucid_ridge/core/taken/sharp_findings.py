"""Findings on sharpness: position by position over a stack, aim by aim of a panorama."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence

from ..planning.reasons import Reason
from . import wording as say
from .judged import JudgedFrame, JudgedGroup, named
from .places import Place
from .sharpness import USUAL_CIRCLE_SHARE, disc_px, limit_sigma_px


def sharp_findings(
    spots: Sequence[Place], frames: Sequence[JudgedFrame], groups: Mapping[int, JudgedGroup], circle_share: float | None
) -> list[Reason]:
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
        found.append(say.panorama_as_a_whole().unsaid())
    return found


def _place(spot: Place, frames: Sequence[JudgedFrame], circle: float) -> Reason:
    """Return whether one of the frames is sharp at a place; where none is, which comes nearest, and where that was
    focused.
    """
    told = [(frame, frame.cells.sigma_px[frame.cells.at(spot.x, spot.y)]) for frame in frames]
    told = [(frame, sigma) for frame, sigma in told if math.isfinite(sigma)]
    if not told:
        return say.place_without_detail(element=spot.name).unsaid()
    best, sigma = min(told, key=lambda item: item[1] / limit_sigma_px(circle, item[0].cells.long_px))
    if sigma <= limit_sigma_px(circle, best.cells.long_px):
        number = best.number if len(frames) > 1 else None
        return say.place_sharp(element=spot.name, number=number, file=best.file_name).holds()
    return say.place_soft(
        element=spot.name,
        number=best.number,
        file=best.file_name,
        focus_m=_focus_m(best),
        across_px=disc_px(sigma),
        allowed_px=circle * best.cells.long_px,
    ).fails()


def _aims(frames: Sequence[JudgedFrame], groups: Mapping[int, JudgedGroup], circle: float) -> list[Reason]:
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
            words = say.view_soft(across_px=disc_px(sigma), allowed_px=circle * best.cells.long_px, **named(those))
            soft.append(words.fails())
    found = soft
    if unknown:
        found.append(say.views_without_detail(**named(unknown)).unsaid())
    if aims and not soft and not unknown and not any(frame.moved for frame in frames):
        found.append(say.views_sharp(views=len(aims)).holds())
    return found


def _slices(frames: Sequence[JudgedFrame], groups: Mapping[int, JudgedGroup], circle: float) -> list[Reason]:
    """Return the focus positions of a stack at which nothing is sharp: its depth may be missing there."""
    positions: dict[tuple[int, int], list[JudgedFrame]] = {}
    for frame in frames:
        if groups[frame.group].stacked:
            positions.setdefault((frame.group, frame.place), []).append(frame)
    found = []
    for those in positions.values():
        told = [(frame, sigma) for frame in those if (sigma := frame.cells.sharpest_px()) is not None]
        if told and all(sigma > limit_sigma_px(circle, frame.cells.long_px) for frame, sigma in told):
            found.append(say.gap_in_stack(focus_m=_focus_m(those[0]), **named(those)).tight())
    return found


def _focus_m(frame: JudgedFrame) -> float | None:
    """Return where a frame was to be focused [m]; None at infinity and where it is not known."""
    focus_m = frame.planned.focus_m
    return focus_m if focus_m is not None and math.isfinite(focus_m) else None
