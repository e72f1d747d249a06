"""Workers: threads that wait for PostgreSQL's notification of a new job, and carry it out.

An advisory lock is held while a job runs. It ends with the connection, so a job whose process died is found and
restarted by the next worker. A task library would bring its own queues, schedules and tables; what is needed here is
progress, stopping, and one job at a time for a subject, which would still be rows of our own.
"""

from __future__ import annotations

import logging
import selectors
import socket
import threading
import time
from collections.abc import Callable, Mapping
from types import MappingProxyType

from sqlalchemy import Connection, Engine, NullPool, create_engine, func, select, text, update
from sqlalchemy.exc import DBAPIError, SQLAlchemyError
from sqlalchemy.orm import Session, aliased, sessionmaker

from ...core.errors import InputError
from ...core.light.terrain import Cancelled
from ...core.units.spelling import spelled
from ...store.jobs import OPEN, Job, JobState
from ...store.photographer import Photographer
from .errors import NotFound, Refused
from .jobs import CHANNEL

_LOG = logging.getLogger(__name__)
# The first key of the jobs' advisory locks; the second is the job's id.
_LOCKS = 70_761
_TRIES = 3
# Progress is written this often; an idle worker looks this often for jobs whose process died.
_TELL_S, _LOOK_S = 0.2, 5.0
Tell = Callable[[float], bool]
Task = Callable[[sessionmaker[Session], int, Mapping[str, int], Tell], str]


class Worker:
    """A worker.

    tasks: by kind, the function that carries it out, given sessions, owner, the job's arguments, and a function that
    receives the progress and returns whether to go on; it returns a summary.
    """

    def __init__(self, sessions: sessionmaker[Session], tasks: Mapping[str, Task], threads: int = 2) -> None:
        self._sessions, self._tasks = sessions, MappingProxyType(dict(tasks))
        self._over = threading.Event()
        # Readable once the worker is to stop, so that waiting for the database ends with it.
        self._told_over, self._ending = socket.socketpair()
        self._count = threads
        self._threads: list[threading.Thread] = []

    def start(self) -> None:
        # Connections of its own, held for long, so that requests do not wait for them.
        engine = create_engine(self._engine().url, poolclass=NullPool, isolation_level="AUTOCOMMIT")
        self._threads = [
            threading.Thread(target=self._serve, args=[engine], name=f"worker {number}", daemon=True)
            for number in range(self._count)
        ]
        for thread in self._threads:
            thread.start()

    def stop(self, timeout_s: float = 10.0) -> None:
        """Take no more jobs. A running one is left to the next worker, unless it ends within the timeout."""
        self._over.set()
        self._ending.close()
        for thread in self._threads:
            thread.join(timeout_s)
        if not any(thread.is_alive() for thread in self._threads):
            self._told_over.close()

    def _serve(self, engine: Engine) -> None:
        while not self._over.is_set():
            try:
                with engine.connect() as connection:
                    connection.execute(text(f"LISTEN {CHANNEL}"))
                    while not self._over.is_set():
                        if not self.work_once(connection):
                            self._wait(connection)
            except Exception as error:
                # If the database is away, try again until it is back.
                if not isinstance(error, SQLAlchemyError):
                    _LOG.exception("a worker stumbled and goes on")
                self._over.wait(1.0)

    def _engine(self) -> Engine:
        bind = self._sessions.kw["bind"]
        assert isinstance(bind, Engine)
        return bind

    def _wait(self, connection: Connection) -> None:
        driver = connection.connection.driver_connection
        assert driver is not None
        # Notifications that came during the last query are already there.
        if any(True for _ in driver.notifies(timeout=0)):
            return
        with selectors.DefaultSelector() as either:
            either.register(driver.fileno(), selectors.EVENT_READ)
            either.register(self._told_over, selectors.EVENT_READ)
            either.select(_LOOK_S)

    def work_once(self, connection: Connection) -> bool:
        """Carry out the oldest job that no worker holds; return whether there was one."""
        earlier = aliased(Job)
        same = (
            earlier.owner_id == Job.owner_id,
            earlier.subject == Job.subject,
            earlier.id < Job.id,
            earlier.state.in_(OPEN),
        )
        # A job being stopped ends before another for its subject begins.
        waiting = select(Job.id).where(Job.state.in_(OPEN), ~select(earlier.id).where(*same).exists()).order_by(Job.id)
        for job_id in connection.scalars(waiting).all():
            if connection.scalar(select(func.pg_try_advisory_lock(_LOCKS, job_id))):
                try:
                    if self._carry_out(job_id):
                        return True
                finally:
                    connection.scalar(select(func.pg_advisory_unlock(_LOCKS, job_id)))
        return False

    def _carry_out(self, job_id: int) -> bool:
        begun = (
            update(Job).where(Job.id == job_id, Job.state.in_(OPEN)).values(state=JobState.RUNNING, tries=Job.tries + 1)
        )
        with self._sessions() as session, session.begin():
            job = session.scalar(begun.returning(Job))
        if job is None:
            return False
        if job.stop_wanted:
            self._end(job_id, JobState.STOPPED, "Stopped; nothing was changed.")
        elif job.tries > _TRIES:
            self._end(
                job_id,
                JobState.FAILED,
                f"The server or its database ended {_TRIES} times while this was being done; it is not tried again.",
            )
        elif job.kind not in self._tasks:
            self._end(job_id, JobState.FAILED, "This version does not know that kind of work.")
        else:
            self._end(job_id, *self._outcome(job))
        return True

    def _outcome(self, job: Job) -> tuple[JobState, str]:
        try:
            with self._sessions() as session:
                reads = session.get_one(Photographer, job.owner_id).spelling
            with spelled(reads):
                return JobState.DONE, self._tasks[job.kind](
                    self._sessions, job.owner_id, job.arguments, self._teller(job.id)
                )
        except Cancelled:
            return JobState.STOPPED, "Stopped; nothing was changed."
        except (InputError, Refused, NotFound) as error:
            return JobState.FAILED, error.message
        except Exception as error:
            if isinstance(error, DBAPIError) and error.connection_invalidated:
                # Not the job's fault: it is restarted once the database is back, as if this process had died.
                raise
            _LOG.exception("job %d, %s", job.id, job.label)
            return JobState.FAILED, "It failed on our side; nothing was changed."

    def _teller(self, job_id: int) -> Tell:
        told, wanted = 0.0, True

        def tell(progress: float) -> bool:
            nonlocal told, wanted
            if time.monotonic() - told >= _TELL_S:
                with self._sessions() as session, session.begin():
                    said = (
                        update(Job)
                        .where(Job.id == job_id)
                        .values(progress=min(1.0, max(0.0, progress)))
                        .returning(Job.stop_wanted)
                    )
                    wanted = session.scalar(said) is False
                told = time.monotonic()
            return wanted

        return tell

    def _end(self, job_id: int, state: JobState, message: str) -> None:
        ended: dict[str, object] = {"state": state, "message": message, "ended_at_utc": func.now()}
        with self._sessions() as session, session.begin():
            session.execute(
                update(Job)
                .where(Job.id == job_id)
                .values(ended | ({"progress": 1.0} if state is JobState.DONE else {}))
            )
