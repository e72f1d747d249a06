"""Pictures of log entries: the best frame of each, the planned picture beside it, the main difference, and the session
on one clock.
"""

from __future__ import annotations

import base64
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta

from sqlalchemy import case, select
from sqlalchemy.dialects.postgresql import distinct_on
from sqlalchemy.orm import Session

from ...core.facts.log import Outcome
from ...core.field.recorded import RecordedPlan
from ...core.field.strip import Spell, SpellKind, Strip, strip
from ...core.planning.reasons import Reason
from ...core.planning.verdicts import FAILS, TIGHT
from ...core.spans.instants import zone_info
from ...core.units.markings import format_shutter
from ...store.log import LogEntry, LogFrame
from ...store.recorded_plans import plan_of_entry
from ...store.shots import FieldCard
from ..platform.errors import NotFound
from .entries import get_entry
from .field_events import run as run_of_events
from .judging import entry_findings


@dataclass(frozen=True)
class EntryPicture:
    """The picture of an entry.

    best_frame_id: its representative frame, with stars; None without files. told: the most important finding.
    """

    best_frame_id: int | None
    stars: int | None
    planned: bool
    told: Reason | None


def entry_pictures(session: Session, entries: Sequence[LogEntry]) -> dict[int, EntryPicture]:
    """Return the picture of each entry, by its id."""
    best, planned = _best_frames(session, [row.id for row in entries]), with_plan_picture(session, entries)
    made = {}
    for row in entries:
        frame_id, stars = best.get(row.id, (None, None))
        found = (
            next((item for item in entry_findings(session, row) if item.severity in (FAILS, TIGHT)), None)
            if frame_id is not None
            else None
        )
        made[row.id] = EntryPicture(frame_id, stars, row.id in planned, found)
    return made


def _best_frames(session: Session, entry_ids: Sequence[int]) -> dict[int, tuple[int, int | None]]:
    """Return each entry's representative frame: the kept one, else the one with most stars, else the sharpest."""
    rank = case((LogFrame.curation == Outcome.KEEP, 0), (LogFrame.curation == Outcome.DROP, 2), else_=1)
    query = (
        select(LogFrame.entry_id, LogFrame.id, LogFrame.stars)
        .where(LogFrame.entry_id.in_(entry_ids), LogFrame.sha256.is_not(None))
        .ext(distinct_on(LogFrame.entry_id))
        .order_by(
            LogFrame.entry_id,
            rank,
            LogFrame.stars.desc().nulls_last(),
            LogFrame.planned_key.is_(None),
            LogFrame.sharp.desc().nulls_last(),
            LogFrame.blur_px.nulls_last(),
            LogFrame.id,
        )
    )
    return {entry_id: (frame_id, stars) for entry_id, frame_id, stars in session.execute(query) if entry_id is not None}


def with_plan_picture(session: Session, entries: Sequence[LogEntry]) -> set[int]:
    """Return the ids of entries with a stored planned picture."""
    plans = {row.id: plan_of_entry(row) for row in entries}
    cards = _cards_of(session, entries, plans)
    return {row.id for row in entries if plans[row.id].picture or row.id in cards}


def plan_picture(session: Session, owner_id: int, entry_id: int) -> bytes:
    """Return the planned picture as PNG. Raises NotFound."""
    row = get_entry(session, owner_id, entry_id)
    plan = plan_of_entry(row)
    told = plan.picture or _cards_of(session, [row], {row.id: plan}).get(row.id)
    if not told:
        raise NotFound("picture")
    return base64.b64decode(told.partition(",")[2])


def _cards_of(session: Session, entries: Sequence[LogEntry], plans: Mapping[int, RecordedPlan]) -> dict[int, str]:
    """Return the pictures of entries' cards, by entry.

    A plan from another notebook names a card of that notebook, so only a card of the entry's own shot and time counts.
    """
    wanted = {row.id: (plans[row.id].card_id, row.shot_id, plans[row.id].start_utc) for row in entries}
    starts, picture = FieldCard.run["record"]["start_utc"].as_string(), FieldCard.content["picture"].as_string()
    query = select(FieldCard.id, FieldCard.shot_id, starts, picture).where(
        FieldCard.id.in_([card_id for card_id, _, _ in wanted.values() if card_id is not None])
    )
    found = {
        (card_id, shot_id, starts_utc): told for card_id, shot_id, starts_utc, told in session.execute(query) if told
    }
    return {entry_id: found[card] for entry_id, card in wanted.items() if card in found}


def strip_of(session: Session, row: LogEntry) -> Strip | None:
    """Return an entry's session on one clock; None if nothing was taken."""
    plan = plan_of_entry(row)
    taken = [_frame_spell(frame, plan.numbers) for frame in row.frames]
    if row.run_id is not None:
        run = run_of_events(session, row.owner_id, row.run_id)
        taken += _way(run.set_out_utc, run.arrived_utc, run.ready_utc)
    planned, taken = (
        [_local(item, row.zone) for item in items]
        for items in (_planned(plan), sorted(taken, key=lambda item: item.begins_utc))
    )
    return strip(planned, taken)


def _local(item: Spell, zone: str) -> Spell:
    """Return a span in the local time of its place, so that full hours are local."""
    here = zone_info(zone)
    return replace(item, begins_utc=item.begins_utc.astimezone(here), ends_utc=item.ends_utc.astimezone(here))


def _frame_spell(frame: LogFrame, numbers: Mapping[str, int]) -> Spell:
    lasts = timedelta(seconds=frame.shutter_s or 0.0)
    # A tick comes when the shutter closed; a file has the time it opened.
    begins = frame.taken_at_utc if frame.sha256 is not None else frame.taken_at_utc - lasts
    label = f"{frame.file_name or 'ticked'}{f', {format_shutter(frame.shutter_s)}' if frame.shutter_s else ''}"
    return Spell("frame", begins, begins + lasts, label, numbers.get(frame.planned_key or "", 0))


def _planned(plan: RecordedPlan) -> list[Spell]:
    start = plan.starts_utc
    if start is None:
        return []
    found = []
    for frame in plan.frames.values():
        begins = start + timedelta(seconds=frame.start_s)
        label = f"frame {frame.number}, {format_shutter(frame.shutter_s)}"
        found.append(Spell("frame", begins, begins + timedelta(seconds=frame.shutter_s), label, frame.number))
    arrives = start - timedelta(minutes=plan.set_up_min) if plan.set_up_min else None
    leaves = arrives - timedelta(minutes=plan.walk_min) if plan.walk_min and arrives is not None else None
    return sorted((*found, *_way(leaves, arrives, start)), key=lambda item: item.begins_utc)


def _way(left: datetime | None, arrived: datetime | None, ready: datetime | None) -> list[Spell]:
    legs: tuple[tuple[SpellKind, str, datetime | None, datetime | None], ...] = (
        ("way", "on the way", left, arrived),
        ("set up", "setting up", arrived, ready),
    )
    return [
        Spell(kind, begins, ends, label)
        for kind, label, begins, ends in legs
        if begins is not None and ends is not None and ends > begins
    ]
