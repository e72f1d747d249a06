"""Starts long work as jobs, which a worker of any process carries out (worker.py)."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import timedelta

from sqlalchemy import delete, func, select, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from ...store.jobs import OPEN, Job, JobState
from .errors import NotFound

# The channel that workers listen on.
CHANNEL = "lucid_ridge_job"
_KEPT = timedelta(days=1)


def ask_for(session: Session, owner_id: int, kind: str, label: str, subject: str, **arguments: int) -> Job:
    """Start a job of a kind. A second one for the same subject, while the first is not done, is the same job.

    Workers are notified when the transaction is committed.
    """
    session.execute(delete(Job).where(Job.owner_id == owner_id, Job.ended_at_utc < func.now() - _KEPT))
    asked = insert(Job).values(owner_id=owner_id, kind=kind, label=label, subject=subject, arguments=arguments)
    session.execute(asked.on_conflict_do_nothing())
    session.execute(select(func.pg_notify(CHANNEL, "")))
    query = select(Job).where(Job.owner_id == owner_id, Job.subject == subject).order_by(Job.id.desc()).limit(1)
    return session.scalars(query, execution_options={"populate_existing": True}).one()


def open_jobs(session: Session, owner_id: int) -> Sequence[Job]:
    """Return the owner's jobs that wait or run, oldest first."""
    return session.scalars(select(Job).where(Job.owner_id == owner_id, Job.state.in_(OPEN)).order_by(Job.id)).all()


def get_job(session: Session, owner_id: int, job_id: int) -> Job:
    """Return one of the owner's jobs. Raises NotFound."""
    found = session.scalar(select(Job).where(Job.id == job_id, Job.owner_id == owner_id))
    if found is None:
        raise NotFound("job")
    return found


def stop_job(session: Session, owner_id: int, job_id: int) -> Job:
    """Stop a job; one that has not begun is stopped at once. Raises NotFound."""
    job = get_job(session, owner_id, job_id)
    mine = update(Job).where(Job.id == job.id)
    session.execute(mine.where(Job.state.in_(OPEN)).values(stop_wanted=True))
    stopped = {"state": JobState.STOPPED, "message": "Stopped; nothing was changed.", "ended_at_utc": func.now()}
    session.execute(mine.where(Job.state == JobState.WAITING).values(stopped))
    session.refresh(job)
    return job
