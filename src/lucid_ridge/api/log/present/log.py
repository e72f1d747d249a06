"""The log as response bodies."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import replace
from datetime import datetime
from typing import Any

from sqlalchemy.orm import Session

from ....core.exposure.motion import LOOKS
from ....core.facts.calibrations import CalibrationState
from ....core.facts.declaring import facts_of
from ....core.facts.log import LogWords, WentWrong
from ....core.field.recorded import RecordedPlan
from ....core.field.strip import Spell, Strip
from ....core.learning.figures import WINDOW, Counted
from ....core.learning.lessons import Lesson
from ....core.learning.wording import between_words, figure_words, lesson_words
from ....core.planning.reasons import Reason
from ....core.spans.instants import zone_info
from ....core.taken.judged import CameraSettings
from ....core.taken.setting_findings import differing, settings_words
from ....core.units.markings import format_aperture, format_shutter
from ....core.units.spelling import format_clock, format_day, format_moment, percent
from ....operations.log import lessons as lesson_operations
from ....operations.log.entries import SCOPE, Listed, entry_scope
from ....operations.log.figures import LogFigures
from ....operations.log.judging import taken_settings, worst_clipped
from ....operations.log.pictures import entry_pictures, strip_of, with_plan_picture
from ....store.log import Calibration, LogEntry, LogFrame
from ....store.recorded_plans import plan_of_entry
from ...platform.undo import present_undo
from ..schemas import log as out


def present_log(
    session: Session, owner_id: int, listed: Listed, kinds: dict[str, list[str]], waiting: int
) -> out.LogOut:
    """Return a page of the log."""
    pictures = entry_pictures(session, [row for row, _, _ in listed.entries])
    return out.LogOut(
        entries=[
            out.LogLineOut(
                id=row.id,
                name=row.name,
                place=row.place,
                taken_words=_when(row),
                subject=row.subject,
                look=row.look,
                light_kind=row.light_kind,
                outcome=row.outcome,
                joy_stars=row.joy_stars,
                frames=frames,
                files=files,
                best_frame_id=pictures[row.id].best_frame_id,
                stars=pictures[row.id].stars,
                plan_picture=pictures[row.id].planned,
                told=_finding(pictures[row.id].told),
            )
            for row, frames, files in listed.entries
        ],
        total=listed.total,
        kinds=out.LogKindsOut(**kinds),
        waiting=waiting,
        went_wrong=list(WentWrong),
        undo=present_undo(session, owner_id, [SCOPE]),
    )


def present_entry(
    session: Session, owner_id: int, row: LogEntry, found: Sequence[Reason], photos: Sequence[str] = ()
) -> out.LogEntryOut:
    """Return an entry with its frames and findings."""
    plan = plan_of_entry(row)
    words = {}
    for key, number in plan.numbers.items():
        frame = plan.frames[key]
        words[key] = f"{number}: {format_shutter(frame.shutter_s)}{_with(frame.filters)}"
    zone = zone_info(row.zone)
    said: dict[str, Any] = {name: getattr(row, name) for name in facts_of(LogWords)}
    return out.LogEntryOut(
        **said,
        id=row.id,
        shot_id=row.shot_id,
        location_id=row.location_id,
        place=row.place,
        subject=row.subject,
        lens=row.lens,
        light_kind=row.light_kind,
        look=row.look,
        taken_words=_when(row),
        went_wrong=[WentWrong(item) for item in row.went_wrong],
        frames=[_frame(item, words, zone, row, plan) for item in row.frames],
        planned=[out.PlannedFrameOut(key=key, words=text) for key, text in words.items()],
        findings=[out.FindingOut.model_validate(item) for item in found],
        photos=list(photos),
        plan_picture=bool(with_plan_picture(session, [row])),
        strip=_strip(strip_of(session, row), zone),
        undo=present_undo(session, owner_id, [entry_scope(row.id)]),
    )


def _finding(found: Reason | None) -> out.FindingOut | None:
    return out.FindingOut.model_validate(found) if found is not None else None


def _strip(found: Strip | None, zone: Any) -> out.SessionStripOut | None:
    if found is None:
        return None

    def spells(items: Sequence[Spell]) -> list[out.SpellOut]:
        return [
            out.SpellOut(
                kind=item.kind,
                from_share=found.share(item.begins_utc),
                to_share=found.share(item.ends_utc),
                number=item.number,
                words=f"{item.label}, {format_clock(item.begins_utc.astimezone(zone))}",
            )
            for item in items
        ]

    ticks = [
        out.ClockTickOut(share=found.share(item), clock=format_clock(item.astimezone(zone))) for item in found.ticks
    ]
    return out.SessionStripOut(ticks=ticks, planned=spells(found.planned), taken=spells(found.taken))


def _when(row: LogEntry) -> str:
    local = row.taken_at_utc.astimezone(zone_info(row.zone))
    return f"{format_day(local.date())} {format_moment(local, local.date())}"


def _with(filters: Sequence[str]) -> str:
    return f" with {' + '.join(filters)}" if filters else ""


def _frame(row: LogFrame, words: Mapping[str, str], zone: Any, entry: LogEntry, plan: RecordedPlan) -> out.LogFrameOut:
    local: datetime = row.taken_at_utc.astimezone(zone)
    day = entry.taken_at_utc.astimezone(zone).date()
    return out.LogFrameOut(
        id=row.id,
        planned_key=row.planned_key,
        planned=words.get(row.planned_key or "", ""),
        matched=row.matched,
        taken_clock=format_moment(local, day),
        aperture=format_aperture(row.f_number) if row.f_number else "",
        shutter=format_shutter(row.shutter_s) if row.shutter_s else "",
        iso=f"{row.iso:g}" if row.iso else "",
        **_beside_the_plan(row, plan),
        camera=row.camera,
        filters=row.filters,
        look=row.look,
        streak_share=row.streak_share,
        file_name=row.file_name,
        error_words=_error(row.exposure_error_ev),
        clipped_words=_clipped(row),
        blur_words=_blur(row),
        group_kind=row.group_kind,
        group_number=row.group_number,
        stars=row.stars,
        curation=row.curation,
        preview=row.sha256 is not None,
        streak_line=row.streak_line,
        seen_share=row.seen_share,
        streak_words=_streak(row),
        measurable=row.sha256 is not None and row.streak_share is not None,
    )


def _beside_the_plan(row: LogFrame, plan: RecordedPlan) -> dict[str, str]:
    """Return the planned settings of a frame, and which of those taken differ.

    shift: by how much the photographer's own looks are longer, if switched on [stops].
    """
    if row.planned_key is None or row.planned_key not in plan.frames:
        return {"planned_settings": "", "differs": ""}
    planned = plan.settings_of(row.planned_key)
    return {
        "planned_settings": settings_words(replace(planned, focal_mm=None)),
        "differs": ", ".join(differing(planned, taken_settings(row))) if row.sha256 else "",
    }


def _streak(row: LogFrame) -> str:
    if row.seen_share is None or not row.streak_share:
        return ""
    return (
        f"streak {percent(row.seen_share)} of the short side, {row.seen_share / row.streak_share:.2g} times as planned"
    )


def _error(error: float | None) -> str:
    if error is None:
        return ""
    return "as planned" if abs(error) < 0.1 else f"{abs(error):.1f} stops {'brighter' if error > 0 else 'darker'}"


def _clipped(row: LogFrame) -> str:
    share, channel = worst_clipped(row)
    return f"{channel} clips in {percent(share, 1)}" if share >= 0.0005 else ""


def _blur(row: LogFrame) -> str:
    words = {"sharp": "sharp", "defocus": "out of focus", "motion": "moved"}
    return words.get(row.blur_kind, "")


def present_figures(figures: LogFigures, names: Mapping[str, str], shift: float) -> out.LogFiguresOut:
    """Return the log's figures.

    shift: how much longer the photographer's own looks are, where that calibration is on [stops].
    """
    return out.LogFiguresOut(
        taken=[out.TakenPointOut.model_validate(item) for item in figures.taken],
        looks=[out.LogLookOut.model_validate(item) for item in figures.looks],
        bands=[
            out.LogBandOut(
                name=look.name,
                low_share=look.low_share,
                high_share=look.high_share,
                own_low_share=look.low_share * 2**shift,
                own_high_share=look.high_share * 2**shift,
            )
            for look in LOOKS
        ],
        held=[
            out.HeldClassOut(
                over_stops=item.over_stops,
                label=_over(item.over_stops),
                sharp=item.sharp,
                tries=item.tries,
                low=item.interval.low,
                high=item.interval.high,
                expected=item.expected,
                corrected=item.corrected,
            )
            for item in figures.held
        ],
        errors=[out.ErrorPointOut.model_validate(item) for item in figures.errors],
        measured=[
            _measured(item, name)
            for item in figures.lessons
            if (name := names.get(lesson_operations.subject_of(item))) is not None
        ],
        middle_ev=figures.errors[-1].middle if figures.errors else None,
        window=WINDOW,
        sharp=figures.sharp.kept,
        sharp_of=figures.sharp.said,
        sharp_low=figures.sharp.interval.low,
        sharp_high=figures.sharp.interval.high,
        outcomes=figures.outcomes,
        light=[out.LightPointOut.model_validate(item) for item in figures.light],
        promising=_counted(figures.promising),
        doubtful=_counted(figures.doubtful),
        lasted=[out.LastedPointOut.model_validate(item) for item in figures.lasted],
        behind=figures.behind,
    )


def _counted(counted: Counted) -> out.CountedOut:
    return out.CountedOut(kept=counted.kept, said=counted.said, low=counted.interval.low, high=counted.interval.high)


def _over(stops: float) -> str:
    if stops == 0:
        return "at the rule"
    return f"{abs(stops):g} stop{'s' if abs(stops) != 1 else ''} {'longer' if stops > 0 else 'shorter'}"


def _measured(item: Lesson, name: str) -> out.MeasuredOut:
    found = item.found
    return out.MeasuredOut(
        kind=item.kind,
        name=name,
        told=item.told,
        value=found.value,
        low=_finite(found.low),
        high=_finite(found.high),
        frames=found.count,
        worth=item.worth,
        figure=figure_words(item.kind, found.value),
        told_figure=figure_words(item.kind, item.told),
        between=between_words(item.kind, found.low, found.high),
    )


def _finite(value: float) -> float | None:
    return value if math.isfinite(value) else None


def present_calibrations(
    session: Session, owner_id: int, rows: Sequence[Calibration], behind: int = 0
) -> out.CalibrationsOut:
    """Return the lessons of the log, each with a sentence."""
    return out.CalibrationsOut(
        behind=behind,
        calibrations=[
            out.CalibrationOut(
                id=row.id,
                kind=row.kind,
                name=row.name,
                told=row.told,
                value=row.value,
                low=_finite(row.low),
                high=_finite(row.high),
                frames=row.frames,
                state=row.state,
                words=_words(row),
                evidence=row.evidence,
                figure=figure_words(row.kind, row.value),
            )
            for row in rows
        ],
        undo=present_undo(session, owner_id, [lesson_operations.SCOPE]),
    )


def _words(row: Calibration) -> str:
    used = {
        CalibrationState.ON: "Plans use it.",
        CalibrationState.PROPOSED: "Plans do not use it yet.",
        CalibrationState.OFF: "Plans do not use it.",
        CalibrationState.REFUSED: "You refused it.",
    }
    return f"{lesson_words(row)} {used[row.state]}"


def present_waiting(session: Session, owner_id: int, rows: Sequence[LogFrame]) -> out.WaitingOut:
    """Return the waiting files, each with what it waits for."""
    return out.WaitingOut(
        files=[
            out.WaitingFileOut(
                id=row.id,
                file_name=row.file_name,
                clock=row.clock.isoformat(timespec="minutes") if row.clock is not None else None,
                camera=row.camera,
                settings=settings_words(CameraSettings(row.f_number, row.shutter_s, row.iso, row.focal_mm)),
                why="waits to be sorted"
                if row.clock is not None
                else "says no time: type when it was taken, or choose its entry",
            )
            for row in rows
        ],
        undo=present_undo(session, owner_id, [SCOPE]),
    )
