"""Judges files of the log against the plan: each frame's light and sharpness, and the findings of an entry."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import fields
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session, undefer

from ...core.facts.log import Outcome
from ...core.field.recorded import RecordedPlan
from ...core.planning.reasons import Reason
from ...core.taken.cells import Cells, Seen
from ...core.taken.grouping import GroupKind
from ...core.taken.judged import CameraSettings, JudgedFrame, JudgedGroup
from ...core.taken.judging import error_ev, findings, means_at, moved_at
from ...core.taken.pixels import BlurKind
from ...core.taken.places import Place
from ...core.taken.sharpness import USUAL_CIRCLE_SHARE, limit_sigma_px
from ...store.log import LogEntry, LogFrame
from ...store.recorded_plans import plan_of_entry
from ..platform.journal import journaled
from .entries import entry_scope
from .field_events import run as run_of_events

# A predicted drift is used for this long [min].
_SAME_LIGHT_MIN = 30.0
_CELL_FIGURES = ("mean", "clipped", "sigma_px", "moved_deg")
# The settings a file may hold.
SETTINGS = ("f_number", "shutter_s", "iso", "focal_mm", "focus_m")


def entry_findings(session: Session, entry: LogEntry) -> tuple[Reason, ...]:
    """Return the findings about an entry's files; empty without files."""
    query = (
        select(LogFrame)
        .where(LogFrame.entry_id == entry.id, LogFrame.sha256.is_not(None))
        .options(undefer(LogFrame.cells))
    )
    rows = session.scalars(query.order_by(LogFrame.taken_at_utc, LogFrame.id)).all()
    if not rows:
        return ()
    plan = plan_of_entry(entry)
    if not plan.frames:
        return findings((), *_unplanned(rows), ())
    numbers = plan.numbers
    planned = sorted(
        (row for row in rows if row.planned_key in numbers), key=lambda row: numbers[row.planned_key or ""]
    )
    judged = [item for row in planned if (item := _judged(row, plan, numbers)) is not None]
    have = {row.planned_key for row in planned}
    # A frame skipped in the field is not missing.
    run = run_of_events(session, entry.owner_id, entry.run_id) if entry.run_id else None
    skipped = {key for key, frame in run.frames.items() if frame.skipped} if run is not None else set()
    missing = [number for key, number in numbers.items() if key not in have and key not in skipped] if have else []
    return findings(plan.places, judged, plan.judged_groups(), missing, plan.circle_share)


def _judged(row: LogFrame, plan: RecordedPlan, numbers: Mapping[str, int]) -> JudgedFrame | None:
    if row.cells is None or row.planned_key is None:
        return None
    group, place, exposure, _ = (int(part) for part in row.planned_key.split("."))
    share, channel = worst_clipped(row)
    return JudgedFrame(
        number=numbers[row.planned_key],
        group=group,
        place=place,
        exposure=exposure,
        cells=cells_of(row),
        clipped_share=share,
        clipped_channel=channel,
        error_ev=row.exposure_error_ev,
        moved=row.blur_kind == BlurKind.MOTION,
        file_name=row.file_name,
        planned_clipped=plan.frames[row.planned_key].clipped_share,
        planned=plan.settings_of(row.planned_key),
        taken=taken_settings(row),
    )


def _unplanned(rows: Sequence[LogFrame]) -> tuple[list[JudgedFrame], dict[int, JudgedGroup]]:
    """Return frames without a plan, in the groups they seem to form: a bracket is a set; of a burst the best counts."""
    frames, groups = [], {}
    for at, row in enumerate(rows):
        if row.cells is None:
            continue
        alone = row.group_kind not in (GroupKind.BRACKET, GroupKind.BURST)
        groups[row.group_number] = JudgedGroup(best=row.group_kind == GroupKind.BURST)
        place, exposure = (at, 0) if alone else (0, at if row.group_kind == GroupKind.BRACKET else 0)
        share, channel = worst_clipped(row)
        frames.append(
            JudgedFrame(
                number=0,
                group=row.group_number,
                place=place,
                exposure=exposure,
                cells=cells_of(row),
                clipped_share=share,
                clipped_channel=channel,
                error_ev=None,
                moved=row.blur_kind == BlurKind.MOTION,
                file_name=row.file_name,
            )
        )
    return frames, groups


def taken_settings(row: LogFrame) -> CameraSettings:
    """Return the settings in a file. Those missing from it were filled in from the plan and prove nothing."""
    unsaid = (row.cells or {}).get("unsaid", ())
    return CameraSettings(**{name: None if name in unsaid else getattr(row, name) for name in SETTINGS})


def worst_clipped(row: LogFrame) -> tuple[float, str]:
    """Return the largest clipped share of the three channels, and its channel."""
    shares = {"red": row.clipped_red or 0.0, "green": row.clipped_green or 0.0, "blue": row.clipped_blue or 0.0}
    worst = max(shares, key=lambda name: shares[name])
    return shares[worst], worst


def judge(row: LogFrame, plan: RecordedPlan, key: str) -> None:
    """Judge a frame: light against the prediction, sharpness, and its time against the hand-held limit."""
    frame = plan.frames[key]
    stitched = plan.judged_groups()[int(key.split(".")[0])].stitched
    # In a panorama it is not known which frame holds an element.
    spots = () if stitched else plan.places
    cells = cells_of(row) if row.cells is not None else None
    row.spot_means = (
        list(means_at(cells, spots))
        if cells is not None and spots
        else [row.mean_linear if not row.clipped_green else None]
    )
    settings = (frame.f_number, frame.shutter_s, frame.iso)
    row.exposure_error_ev = error_ev(
        row.spot_means, frame.expected or (), settings, (row.f_number, row.shutter_s, row.iso)
    )
    late = _later_min(row, plan, frame.start_s)
    if row.exposure_error_ev is not None and late is not None:
        # The light had changed by then; that is not an error of the prediction.
        row.exposure_error_ev -= plan.light.mean_gain_stops(
            frame.start_s + 60 * late, row.shutter_s or frame.shutter_s
        ) - plan.light.mean_gain_stops(frame.start_s, frame.shutter_s)
    _judge_sharpness(row, plan, cells, spots)
    limit = plan.hand_limit_s
    row.over_limit_stops = math.log2(row.shutter_s / limit) if limit and row.shutter_s else None


def _judge_sharpness(row: LogFrame, plan: RecordedPlan, cells: Cells | None, spots: Sequence[Place]) -> None:
    kept = row.cells or {}
    whole = BlurKind(kept.get("whole_kind", row.blur_kind))
    if cells is None or whole == BlurKind.UNKNOWN:
        return
    limit_px = limit_sigma_px(plan.circle_share or USUAL_CIRCLE_SHARE, cells.long_px)
    if spots:
        # Water and leaves move by themselves, so only still elements show camera shake.
        moved = moved_at(cells, spots)
        around = [cells.sigma_px[at] for spot in spots if not spot.moves for at in cells.around(spot.x, spot.y)]
        told = [sigma for sigma in around if math.isfinite(sigma)]
        least = min(told, default=None)
    else:
        moved, least = whole == BlurKind.MOTION, cells.sharpest_px()
    row.sharp = least is not None and not moved and least <= limit_px if least is not None else None
    row.blur_kind = str(BlurKind.MOTION if moved else BlurKind.SHARP if row.sharp else BlurKind.DEFOCUS)


def _later_min(row: LogFrame, plan: RecordedPlan, start_s: float) -> float | None:
    """Return how much later than planned a frame was taken [min]; None if unknown or on another day."""
    starts_utc = plan.starts_utc
    if starts_utc is None:
        return None
    minutes = (row.taken_at_utc - starts_utc).total_seconds() / 60 - start_s / 60
    return minutes if abs(minutes) <= _SAME_LIGHT_MIN else None


def best_of(rows: Sequence[LogFrame]) -> LogFrame | None:
    """Return the sharpest frame of a group that was not dropped; None if unknown."""
    told = [
        row
        for row in rows
        if row.curation != Outcome.DROP and row.blur_px is not None and row.blur_kind != BlurKind.MOTION
    ]
    return min(told, key=lambda row: row.blur_px or math.inf, default=None)


def keep_the_best(session: Session, entry: LogEntry) -> int:
    """Keep the sharpest frame of each group of repeats, and drop the others that are not decided.

    Returns how many were kept.
    """
    groups: dict[tuple[str, int], list[LogFrame]] = {}
    for row in entry.frames:
        if row.sha256 is not None:
            # A burst without a plan, or one planned frame taken more than once.
            name = (
                row.planned_key.rsplit(".", 1)[0]
                if row.planned_key
                else row.group_kind
                if row.group_kind == str(GroupKind.BURST)
                else ""
            )
            groups.setdefault((name, row.group_number if not row.planned_key else -1), []).append(row)
    kept = 0
    with journaled(session, entry.owner_id, entry_scope(entry.id), "keep the sharpest of each"):
        for (name, _), rows in groups.items():
            best = best_of(rows) if name and len(rows) > 1 else None
            if best is None:
                continue
            kept += 1
            for row in rows:
                if row.curation == Outcome.OPEN:
                    row.curation = Outcome.KEEP if row is best else Outcome.DROP
    return kept


def kept_cells(seen: Seen, unsaid: Sequence[str]) -> dict[str, Any]:
    """Return measured cells as JSON: four digits, no NaN. unsaid: settings missing from the file."""
    cells = seen.cells
    plain = {item.name: getattr(cells, item.name) for item in fields(cells)}
    for name in _CELL_FIGURES:
        plain[name] = [float(f"{value:.4g}") if math.isfinite(value) else None for value in plain[name]]
    return {**plain, "whole_kind": str(seen.blur.kind), "unsaid": list(unsaid)}


def cells_of(row: LogFrame) -> Cells:
    """Return the cells of a file; earlier versions stored at most 2,400 points."""
    kept: Mapping[str, Any] = row.cells or {}
    figures = {name: tuple(math.nan if value is None else value for value in kept[name]) for name in _CELL_FIGURES}
    long_px = kept.get("long_px") or min(2400, max(row.pixels_wide or 2400, row.pixels_high or 2400))
    return Cells(kept["across"], kept["down"], **figures, long_px=long_px)
