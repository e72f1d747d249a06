"""What happened: events of the field, log entries with their frames, and what they teach."""

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
    """One event of the field, as it was sent: never changed, only added.

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
    """A time out: what was planned, what was found, what came of it.

    run_id: of the events it was made from. planned: the plan in figures, as it was.

    subject, look, light_kind, lens: what one filters by. promise: of the forecast, 0 to 1; water_speed_mps,
    streak_share: of what moves in the frame that carries the picture.
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
    """A frame that was taken: from a tick, a file, or both; entry_id None: a file that was read in and waits to be
    sorted.

    planned_key: of the planned frame, None where nothing was planned. expected_s: the time that the plan had for it.

    stops_on_lens: what the filters cost as they are labelled. sharp_*: relative sharpness where the plan says near,
    subject and far stand. clipped_*: shares of the pixels.
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
    # Where the plan looks, place by place; null where it clips.
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
    # A streak that was measured on the picture: from and to, x and y as shares of its width and height; and its
    # length as a share of the short side.
    streak_line: Mapped[list[float] | None] = mapped_column(Versioned(Line))
    seen_share: Mapped[float | None]
    stars: Mapped[int | None]
    over_limit_stops: Mapped[float | None]
    # As the camera's clock stood, without a zone; None of a tick, and of a file that does not say.
    clock: Mapped[datetime | None] = mapped_column(DateTime())
    # How far that clock is ahead of UTC, where the file says so.
    utc_offset_min: Mapped[int | None]
    # Which camera: its model and serial number, as each has a clock of its own.
    camera: Mapped[str] = mapped_column(Text, default="", server_default="")
    focus_m: Mapped[float | None]
    # Put away as read in by mistake; its file is forgotten some weeks later.
    removed_at_utc: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))
    curation: Mapped[core.Outcome] = mapped_column(Choice(core.Outcome), default=core.Outcome.OPEN)
    # What the pixels say cell by cell (core/taken/cells.py), from which places of a plan are read later.
    cells: Mapped[dict[str, Any] | None] = mapped_column(JSONB(none_as_null=True), deferred=True)
    preview: Mapped[bytes | None] = mapped_column(KeptFile, deferred=True)


class Calibration(Base, Journaled):
    """What the log taught of one thing.

    subject: what it is of, such as filter:12. value, low, high: with its interval at 95 %. told: what the kit or the
    rule says without it.

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
    """One go at an exercise. score: as the exercise counts; said: what was asked and answered."""

    __tablename__ = "practice_score"

    id: Mapped[int] = mapped_column(primary_key=True)
    owner_id: Mapped[int] = mapped_column(ForeignKey("photographer.id", ondelete="CASCADE"), index=True)
    exercise: Mapped[str] = mapped_column(Text)
    at_utc: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    score: Mapped[float]
    said: Mapped[dict[str, Any]] = mapped_column(JSONB)
