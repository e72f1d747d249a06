"""Which place, for large notebooks: computed as a job, and kept until something changes or it is too old."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta

from sqlalchemy import func, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session, sessionmaker

from ...formats.json_values import JsonObject
from ...store.jobs import Job
from ...store.photographer import Photographer
from ...store.shots import Shot
from ...store.summaries import KeptOutlook
from ..platform.jobs import ask_for, open_jobs, stop_job
from .outlooks import Outlook, which_place

# The kind of job, and its subject.
OUTLOOK = "outlook"
# Up to this many shots are ranked while the page waits: about a second of work.
MOST_AT_ONCE = 300
# Chances change with time, so an older answer than this is computed again.
_HOLDS = timedelta(minutes=20)
Present = Callable[[Outlook, date, int], JsonObject]


@dataclass(frozen=True)
class Answer:
    """An answer.

    content: as the API sends it, for these dates; None if there is none. job: that recomputes it; None if it is
    current.
    """

    content: JsonObject | None
    job: Job | None


def answer_which_place(
    session: Session, owner_id: int, first: date, days: int, now_utc: datetime, present: Present
) -> Answer:
    """Return which place: at once for up to MOST_AT_ONCE shots, else the stored answer, with a job if it is
    outdated.
    """
    shots = session.scalar(select(func.count()).select_from(Shot).where(Shot.owner_id == owner_id, ~Shot.archived)) or 0
    if shots <= MOST_AT_ONCE:
        return Answer(present(which_place(session, owner_id, first, days, now_utc), first, days), None)
    kept = session.get(KeptOutlook, owner_id)
    asked = kept is not None and (kept.from_date, kept.days) == (first, days)
    revision = session.get_one(Photographer, owner_id).revision
    if kept is not None and asked and kept.revision == revision and now_utc - kept.made_at_utc < _HOLDS:
        return Answer(kept.content, None)
    arguments = {"from_ordinal": first.toordinal(), "days": days}
    for job in open_jobs(session, owner_id):
        # Another question replaces the job.
        if job.kind == OUTLOOK and job.arguments != arguments:
            stop_job(session, owner_id, job.id)
    job = ask_for(session, owner_id, OUTLOOK, "looking at all places", OUTLOOK, **arguments)
    return Answer(kept.content if kept is not None and asked else None, job)


def carry_out_outlook(
    sessions: sessionmaker[Session],
    owner_id: int,
    arguments: Mapping[str, int],
    tell: Callable[[float], bool],
    present: Present,
) -> str:
    """Compute which place and store the answer. Returns a summary."""
    first, days, now = date.fromordinal(arguments["from_ordinal"]), arguments["days"], datetime.now(UTC)
    with sessions() as session, session.begin():
        revision = session.get_one(Photographer, owner_id).revision
        going = True

        def told(share: float) -> bool:
            nonlocal going
            going = tell(share)
            return going

        found = which_place(session, owner_id, first, days, now, told)
        if not going:
            return "Stopped."
        values = {
            "from_date": first,
            "days": days,
            "revision": revision,
            "made_at_utc": now,
            "content": dict(present(found, first, days)),
        }
        statement = insert(KeptOutlook).values(owner_id=owner_id, **values)
        session.execute(statement.on_conflict_do_update(index_elements=["owner_id"], set_=values))
    return f"{len(found.best) + len(found.fallen)} shots and places looked at."
