"""The log: events of the field, entries with their frames, calibrations and practice."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from sqlalchemy import DateTime, ForeignKey, Index, Text, UniqueConstraint, func
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column, relationship

from ..core.facts import log as core
from ..core.facts.calibrations import CalibrationKind, CalibrationState
from ..core.field.events import EventKind
from .base import Base, Journaled
from .checks import between, not_blank, one_of
from .declared import Choice, checks_of
from .file_store import KeptFile
from .versioned import Line, Versioned


class FieldEventRow(Base):
    """One event of the field as sent: only added, never changed.

    id: made on the device. image: a photograph of the scene, as JPEG.
    """

    __tablename__ = "field_event"
    __table_args__ = (
        one_of("kind", tuple(EventKind)),
        between("count", 1, 10_000),
        Index("ix_field_event_owner_run", "owner_id", "run_id"),
    )

    owner_id: Mapped[int] = mapped_column(ForeignKey("photographer.id", ondelete="CASCADE"), primary_key=True)
    id: Mapped[str] = mapped_column(Text, primary_key=True)
    run_id: Mapped[str] = mapped_column(Text)
    card_id: Mapped[int | None] = mapped_column(ForeignKey("field_card.id", ondelete="SET NULL"), index=True)
    device: Mapped[str] = mapped_column(Text)
    at_utc: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    received_at_utc: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    kind: Mapped[EventKind] = mapped_column(Choice(EventKind))
    frame: Mapped[str | None] = mapped_column(Text)
    count: Mapped[int] = mapped_column(default=1)
    value: Mapped[float | None]
    text: Mapped[str] = mapped_column(Text, default="")
    refers: Mapped[str | None] = mapped_column(Text)
    f_number: Mapped[float | None]
    shutter_s: Mapped[float | None]
    iso: Mapped[float | None]
    image: Mapped[bytes | None] = mapped_column(KeptFile, deferred=True)


class LogEntry(Base, Journaled):
    """A field session: what was planned, found and achieved. run_id: of its events. planned: the plan's figures at
    that time.

    subject, look, light_kind, lens: for filtering. promise: of the forecast, 0 to 1; water_speed_mps, streak_share: of
    what moves in the frame that carries the picture.
    """

    __tablename__ = "log_entry"
    __table_args__ = (
        *checks_of(core.LogWords),
        UniqueConstraint("owner_id", "run_id"),
        Index("ix_log_entry_owner_taken", "owner_id", "taken_at_utc"),
    )

    id: Mapped[int] = mapped_column(primary_key=True)
    owner_id: Mapped[int] = mapped_column(ForeignKey("photographer.id", ondelete="CASCADE"), index=True)
    shot_id: Mapped[int | None] = mapped_column(ForeignKey("shot.id", ondelete="SET NULL"), index=True)
    location_id: Mapped[int | None] = mapped_column(ForeignKey("location.id", ondelete="SET NULL"), index=True)
    run_id: Mapped[str | None] = mapped_column(Text)
    name: Mapped[str] = mapped_column(Text)
    place: Mapped[str] = mapped_column(Text, default="")
    zone: Mapped[str] = mapped_column(Text, default="UTC")
    taken_at_utc: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    subject: Mapped[str] = mapped_column(Text, default="")
    lens: Mapped[str] = mapped_column(Text, default="")
    light_kind: Mapped[str] = mapped_column(Text, default="")
    look: Mapped[str] = mapped_column(Text, default="")
    planned: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True))
    words: Mapped[str] = mapped_column(Text, default="")
    outcome: Mapped[core.Outcome] = mapped_column(Choice(core.Outcome), default=core.Outcome.OPEN)
    water_stars: Mapped[int | None]
    sharpness_stars: Mapped[int | None]
    light_stars: Mapped[int | None]
    composition_stars: Mapped[int | None]
    joy_stars: Mapped[int | None]
    wind_mps: Mapped[float | None]
    cloud_share: Mapped[float | None]
    temperature_c: Mapped[float | None]
    water_m: Mapped[float | None]
    archived: Mapped[bool] = mapped_column(default=False, server_default="false")
    went_wrong: Mapped[list[str]] = mapped_column(Versioned(list[str]), default=list)

    frames: Mapped[list[LogFrame]] = relationship(
        order_by="LogFrame.taken_at_utc, LogFrame.id", cascade="all, delete-orphan", passive_deletes=True
    )


class LogFrame(Base, Journaled):
    """A frame that was taken: from a tick, a file, or both; entry_id None: a file waiting to be sorted.

    planned_key: of the planned frame, None without a plan. expected_s: its planned time. stops_on_lens: labelled cost
    of its filters. sharp_*: relative sharpness at the plan's near, subject and far places. clipped_*: shares of the
    pixels.
    """

    __tablename__ = "log_frame"
    __table_args__ = (
        between("clipped_red", 0.0, 1.0),
        between("stars", 1, core.MOST_STARS),
        between("seen_share", 0.0, 100.0),
        one_of("curation", tuple(core.Outcome)),
        Index("uq_log_frame_owner_sha256", "owner_id", "sha256", unique=True, postgresql_where="sha256 IS NOT NULL"),
    )

    id: Mapped[int] = mapped_column(primary_key=True)
    owner_id: Mapped[int] = mapped_column(ForeignKey("photographer.id", ondelete="CASCADE"))
    entry_id: Mapped[int | None] = mapped_column(ForeignKey("log_entry.id", ondelete="CASCADE"), index=True)
    planned_key: Mapped[str | None] = mapped_column(Text)
    matched: Mapped[str] = mapped_column(Text, default="")
    taken_at_utc: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    f_number: Mapped[float | None]
    shutter_s: Mapped[float | None]
    iso: Mapped[float | None]
    focal_mm: Mapped[float | None]
    expected_s: Mapped[float | None]
    filters: Mapped[list[str]] = mapped_column(Versioned(list[str]), default=list)
    filter_ids: Mapped[list[int]] = mapped_column(Versioned(list[int]), default=list)
    hold: Mapped[str] = mapped_column(Text, default="")
    look: Mapped[str] = mapped_column(Text, default="")
    streak_share: Mapped[float | None]
    streak_per_s: Mapped[float | None]
    group_kind: Mapped[str] = mapped_column(Text, default="")
    group_number: Mapped[int] = mapped_column(default=0)
    file_name: Mapped[str] = mapped_column(Text, default="")
    sha256: Mapped[str | None] = mapped_column(Text)
    pixels_wide: Mapped[int | None]
    pixels_high: Mapped[int | None]
    linear: Mapped[bool] = mapped_column(default=False)
    mean_linear: Mapped[float | None]
    # Means at the plan's places in order; null where it clips.
    spot_means: Mapped[list[float | None]] = mapped_column(Versioned(list[float | None]), default=list)
    clipped_red: Mapped[float | None]
    clipped_green: Mapped[float | None]
    clipped_blue: Mapped[float | None]
    blocked: Mapped[float | None]
    exposure_error_ev: Mapped[float | None]
    sharp_near: Mapped[float | None]
    sharp_subject: Mapped[float | None]
    sharp_far: Mapped[float | None]
    blur_px: Mapped[float | None]
    blur_kind: Mapped[str] = mapped_column(Text, default="")
    sharp: Mapped[bool | None]
    # A streak measured on the picture: from and to, x and y as shares of width and height; and its length as a
    # share of the short side.
    streak_line: Mapped[list[float] | None] = mapped_column(Versioned(Line))
    seen_share: Mapped[float | None]
    stars: Mapped[int | None]
    over_limit_stops: Mapped[float | None]
    # Camera time without a zone; None for a tick, and for a file without one.
    clock: Mapped[datetime | None] = mapped_column(DateTime())
    # The camera clock's offset from UTC, if the file has it.
    utc_offset_min: Mapped[int | None]
    # The camera: its model and serial number, since each has its own clock.
    camera: Mapped[str] = mapped_column(Text, default="", server_default="")
    focus_m: Mapped[float | None]
    # Removed as read by mistake; deleted some weeks later.
    removed_at_utc: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))
    curation: Mapped[core.Outcome] = mapped_column(Choice(core.Outcome), default=core.Outcome.OPEN)
    # Measurements in cells (core/taken/cells.py), from which places of a plan are read later.
    cells: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True), deferred=True)
    preview: Mapped[bytes | None] = mapped_column(KeptFile, deferred=True)


class Calibration(Base, Journaled):
    """A calibration from the log.

    subject: such as filter:12. value, low, high: with its 95 % interval. told: the value of the kit or the rule
    without it.
    """

    __tablename__ = "calibration"
    __table_args__ = (
        one_of("kind", tuple(CalibrationKind)),
        one_of("state", tuple(CalibrationState)),
        not_blank(),
        UniqueConstraint("owner_id", "kind", "subject"),
    )

    id: Mapped[int] = mapped_column(primary_key=True)
    owner_id: Mapped[int] = mapped_column(ForeignKey("photographer.id", ondelete="CASCADE"), index=True)
    kind: Mapped[CalibrationKind] = mapped_column(Choice(CalibrationKind))
    subject: Mapped[str] = mapped_column(Text)
    name: Mapped[str] = mapped_column(Text)
    told: Mapped[float]
    value: Mapped[float]
    low: Mapped[float]
    high: Mapped[float]
    frames: Mapped[int]
    state: Mapped[CalibrationState] = mapped_column(Choice(CalibrationState), default=CalibrationState.PROPOSED)
    evidence: Mapped[list[int]] = mapped_column(Versioned(list[int]), default=list)
    found_at_utc: Mapped[datetime] = mapped_column(DateTime(timezone=True))


class PracticeScore(Base):
    """One answer to an exercise. score: by the exercise's rule; said: question and answer."""

    __tablename__ = "practice_score"

    id: Mapped[int] = mapped_column(primary_key=True)
    owner_id: Mapped[int] = mapped_column(ForeignKey("photographer.id", ondelete="CASCADE"), index=True)
    exercise: Mapped[str] = mapped_column(Text)
    at_utc: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    score: Mapped[float]
    said: Mapped[dict[str, Any]] = mapped_column(JSONB)
