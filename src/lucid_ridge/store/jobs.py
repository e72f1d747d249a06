"""Jobs as rows, so that they survive the process that started them."""

from __future__ import annotations

from datetime import datetime
from enum import StrEnum

from sqlalchemy import DateTime, Float, ForeignKey, Index, Text, func
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Mapped, mapped_column

from .base import Base
from .checks import between, one_of
from .declared import Choice


class JobState(StrEnum):
    WAITING = "waiting"
    RUNNING = "running"
    DONE = "done"
    FAILED = "failed"
    STOPPED = "stopped"


OPEN = (JobState.WAITING, JobState.RUNNING)
_OPEN = f"state IN {tuple(map(str, OPEN))!r} AND NOT stop_wanted"


class Job(Base):
    """A job.

    subject: what it is about; an owner has one job per subject at a time. arguments: of its kind. progress: 0..1.
    message: its result. tries: how often it was started; more than once if a server ended in the middle.
    """

    __tablename__ = "job"
    __table_args__ = (
        between("progress", 0.0, 1.0),
        one_of("state", tuple(JobState)),
        Index("uq_job_owner_subject_open", "owner_id", "subject", unique=True, postgresql_where=_OPEN),
        Index("ix_job_open", "id", postgresql_where=f"state IN {tuple(map(str, OPEN))!r}"),
    )

    id: Mapped[int] = mapped_column(primary_key=True)
    owner_id: Mapped[int] = mapped_column(ForeignKey("photographer.id", ondelete="CASCADE"))
    kind: Mapped[str] = mapped_column(Text)
    label: Mapped[str] = mapped_column(Text)
    subject: Mapped[str] = mapped_column(Text)
    arguments: Mapped[dict[str, int]] = mapped_column(JSONB, default=dict, server_default="{}")
    state: Mapped[JobState] = mapped_column(Choice(JobState), default=JobState.WAITING, server_default=JobState.WAITING)
    progress: Mapped[float] = mapped_column(Float, default=0.0, server_default="0")
    message: Mapped[str] = mapped_column(Text, default="", server_default="")
    stop_wanted: Mapped[bool] = mapped_column(default=False, server_default="false")
    tries: Mapped[int] = mapped_column(default=0, server_default="0")
    asked_at_utc: Mapped[datetime] = mapped_column(DateTime(timezone=True), server_default=func.now())
    ended_at_utc: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))
