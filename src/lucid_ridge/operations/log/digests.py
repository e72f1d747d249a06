"""Digests of log entries: what each contributes to calibrations.

Stored, and recomputed only when the entry or its frames change.
"""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import asdict, dataclass
from datetime import datetime
from typing import Any

from sqlalchemy import BigInteger, Select, Text, cast, func, literal_column, select
from sqlalchemy import Row as SqlRow
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from ...core.facts.choices import IN_HAND, Hold
from ...core.field.recorded_light import RecordedLight
from ...core.learning.digests import (
    DIGEST_VERSION,
    Digest,
    FilterCost,
    HeldTaken,
    LightError,
    Predicted,
    StreakTaken,
    TakenFrame,
    digest,
    predicted,
)
from ...store.log import LogEntry, LogFrame
from ...store.rows import Row
from ...store.summaries import LogDigest

# Entries recomputed while a page waits: about a second of work.
MOST_AT_ONCE = 600
_AT_A_TIME = 200


@dataclass(frozen=True)
class Taught:
    """Digests of an owner's entries, earliest first.

    behind: number of changed entries that were too many to recompute in one answer.
    """

    digests: list[Digest]
    behind: int


def taught_by_log(session: Session, owner_id: int) -> Taught:
    """Return the digests of an owner's entries.

    Recomputes at most MOST_AT_ONCE changed entries; further calls recompute more.
    """
    behind = renew(session, owner_id)
    query = (
        select(cast(LogDigest.content, Text))
        .join(LogEntry, LogEntry.id == LogDigest.entry_id)
        .where(LogEntry.owner_id == owner_id, LogEntry.archived.is_(False))
        .order_by(LogEntry.taken_at_utc, LogEntry.id)
    )
    # Parsed in one call: a log of years has thousands.
    return Taught([_read(item) for item in json.loads(f"[{','.join(session.scalars(query))}]")], behind)


def renew(session: Session, owner_id: int) -> int:
    """Recompute missing or outdated digests, at most MOST_AT_ONCE. Returns how many remain."""
    stale = [(entry_id, stamp) for entry_id, stamp, kept in session.execute(_stamps(owner_id)) if stamp != kept]
    now = stale[:MOST_AT_ONCE]
    for begin in range(0, len(now), _AT_A_TIME):
        part = dict(now[begin : begin + _AT_A_TIME])
        frames = taken_frames(session, owner_id, list(part))
        rows = [_row(entry_id, stamp, frames.get(entry_id, [])) for entry_id, stamp in part.items()]
        statement = insert(LogDigest).values(rows)
        new = {name: statement.excluded[name] for name in ("stamp", "content", "errors", "errors_count")}
        session.execute(statement.on_conflict_do_update(index_elements=["entry_id"], set_=new))
    return len(stale) - len(now)


def _row(entry_id: int, stamp: str, frames: Sequence[TakenFrame]) -> Row:
    errors = predicted(frames)
    return {
        "entry_id": entry_id,
        "stamp": stamp,
        "content": asdict(digest(frames)),
        "errors": errors,
        "errors_count": len(errors),
    }


def newest_predicted(session: Session, owner_id: int, least: int) -> tuple[list[Predicted], int]:
    """Return the newest frames with predicted light, at least `least` of them if there are, and the number of earlier
    ones.
    """
    mine = (LogEntry.owner_id == owner_id, LogEntry.archived.is_(False))
    count = func.sum(LogDigest.errors_count).over(order_by=(LogEntry.taken_at_utc.desc(), LogEntry.id.desc()))
    ranked = (
        select(LogDigest.entry_id, (count - LogDigest.errors_count).label("newer"))
        .join(LogEntry, LogEntry.id == LogDigest.entry_id)
        .where(*mine)
        .subquery()
    )
    query = (
        select(cast(LogDigest.errors, Text))
        .join(ranked, ranked.c.entry_id == LogDigest.entry_id)
        .where(ranked.c.newer < least)
    )
    found = [Predicted(*item) for entry in json.loads(f"[{','.join(session.scalars(query))}]") for item in entry]
    total = (
        session.scalar(
            select(func.sum(LogDigest.errors_count)).join(LogEntry, LogEntry.id == LogDigest.entry_id).where(*mine)
        )
        or 0
    )
    return found, total - len(found)


def _stamps(owner_id: int) -> Select[Any]:
    """Return the query for the state of each entry: the last transactions that wrote it and its frames."""
    frame_written = cast(cast(literal_column("log_frame.xmin"), Text), BigInteger)
    frames = (
        select(LogFrame.entry_id, func.count().label("count"), func.sum(frame_written).label("written"))
        .where(LogFrame.owner_id == owner_id, LogFrame.entry_id.is_not(None))
        .group_by(LogFrame.entry_id)
        .subquery()
    )
    parts = (
        str(DIGEST_VERSION),
        cast(literal_column("log_entry.xmin"), Text),
        cast(func.coalesce(frames.c.count, 0), Text),
        cast(func.coalesce(frames.c.written, 0), Text),
    )
    return (
        select(LogEntry.id, func.concat_ws(":", *parts), LogDigest.stamp)
        .outerjoin(frames, frames.c.entry_id == LogEntry.id)
        .outerjoin(LogDigest, LogDigest.entry_id == LogEntry.id)
        .where(LogEntry.owner_id == owner_id, LogEntry.archived.is_(False))
        .order_by(LogEntry.id)
    )


def _read(kept: dict[str, Any]) -> Digest:
    return Digest(
        kept["location_id"],
        tuple(FilterCost(*item) for item in kept["filters"]),
        LightError(*kept["light"]) if kept["light"] is not None else None,
        tuple(map(StreakTaken._make, kept["streaks"])),
        tuple(map(HeldTaken._make, kept["held"])),
        tuple(kept["standing"]),
    )


def taken_frames(session: Session, owner_id: int, entry_ids: Sequence[int]) -> dict[int, list[TakenFrame]]:
    """Return frames by entry, in the order taken, as lessons read them."""
    entries = _entries(session, owner_id, entry_ids)
    query = (
        select(
            LogFrame.id,
            LogFrame.entry_id,
            LogFrame.taken_at_utc,
            LogFrame.f_number,
            LogFrame.shutter_s,
            LogFrame.iso,
            LogFrame.focal_mm,
            LogFrame.spot_means,
            LogFrame.filter_ids,
            LogFrame.planned_key,
            LogFrame.exposure_error_ev,
            LogFrame.streak_share,
            LogFrame.seen_share,
            LogFrame.stars,
            LogFrame.hold,
            LogFrame.over_limit_stops,
            LogFrame.sharp,
            LogFrame.sha256,
            LogFrame.matched,
        )
        .where(LogFrame.owner_id == owner_id, LogFrame.entry_id.in_(entry_ids))
        .order_by(LogFrame.taken_at_utc, LogFrame.id)
    )
    found: dict[int, list[TakenFrame]] = {}
    in_hand = frozenset(map(str, IN_HAND))
    for row in session.execute(query):
        entry = entries.get(row.entry_id)
        if entry is None:
            continue
        # Frames with an open question are left out.
        sure = row.planned_key is not None and row.matched != "asked"
        found.setdefault(row.entry_id, []).append(
            TakenFrame(
                id=row.id,
                entry_id=row.entry_id,
                location_id=entry.place,
                taken_at_utc=row.taken_at_utc,
                f_number=row.f_number,
                shutter_s=row.shutter_s,
                iso=row.iso,
                focal_mm=row.focal_mm,
                means=_matt_means(entry, row.spot_means) if row.sha256 else (),
                filter_ids=frozenset(row.filter_ids) if sure else None,
                error_ev=row.exposure_error_ev if sure else None,
                predicted=bool(entry.predicted),
                offset_used=entry.offset or 0.0,
                light_gain_stops=_light_gain_stops(entry, row.taken_at_utc, row.shutter_s),
                streak_share=row.streak_share,
                wanted_look=entry.wanted or "",
                stars=row.stars,
                seen_share=row.seen_share,
                moving_id=entry.moving,
                speed_used=entry.speed or 0.0,
                from_sun_deg=entry.from_sun,
                cover=entry.cover,
                by_hand=row.hold in in_hand,
                boat=row.hold == Hold.BOAT,
                over_limit=row.over_limit_stops,
                sharp=row.sharp if row.sha256 else None,
            )
        )
    return found


def _matt_means(entry: SqlRow[Any], means: Sequence[float | None]) -> tuple[float | None, ...]:
    """Return the light of the places of a file, None for moving water: it mirrors the sky, so a polariser changes it by
    more than its cost.
    """
    moving = [place.get("moves", False) for place in entry.places or ()]
    return tuple(None if moves else mean for mean, moves in zip(means, moving or [False] * len(means), strict=False))


def _light_gain_stops(entry: SqlRow[Any], taken_at_utc: datetime, shutter_s: float | None) -> float:
    if entry.start is None:
        return 0.0
    after_s = (taken_at_utc - datetime.fromisoformat(entry.start)).total_seconds()
    return RecordedLight(entry.light or (), entry.drift or 0.0).mean_gain_stops(after_s, shutter_s or 0.0)


def _entries(session: Session, owner_id: int, entry_ids: Sequence[int]) -> dict[int, SqlRow[Any]]:
    """Return the data of entries that their frames are read with.

    A plan is large, so it is parsed once for all frames.
    """
    record = LogEntry.planned
    query = select(
        LogEntry.id,
        LogEntry.location_id.label("place"),
        record["predicted"].as_boolean().label("predicted"),
        record["drift_stops_per_min"].as_float().label("drift"),
        record["light_stops"].label("light"),
        record["places"].label("places"),
        record["start_utc"].as_string().label("start"),
        record["wanted_look"].as_string().label("wanted"),
        record["light_offset_stops"].as_float().label("offset"),
        record["moving_id"].as_integer().label("moving"),
        record["speed_stops"].as_float().label("speed"),
        record["from_sun_deg"].as_float().label("from_sun"),
        func.coalesce(LogEntry.cloud_share, record["cloud_share"].as_float()).label("cover"),
    ).where(LogEntry.owner_id == owner_id, LogEntry.id.in_(entry_ids))
    return {row.id: row for row in session.execute(query)}
