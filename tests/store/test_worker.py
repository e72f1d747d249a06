"""Long work: one at a time for a subject, stopped when asked, and begun again when its process dies."""

from __future__ import annotations

import threading
import time

import pytest
from sqlalchemy import make_url, select, text

from lucid_ridge.core.errors import InputError
from lucid_ridge.core.light.terrain import Cancelled
from lucid_ridge.operations.accounts.photographers import local_photographer
from lucid_ridge.operations.platform.errors import NotFound
from lucid_ridge.operations.platform.jobs import ask_for, get_job, open_jobs, stop_job
from lucid_ridge.operations.platform.worker import Worker
from lucid_ridge.store.database import make_engine, make_sessions
from lucid_ridge.store.jobs import Job, JobState


@pytest.fixture
def sessions(migrated_database):
    engine = make_engine(migrated_database)
    made = make_sessions(engine)
    with made() as session, session.begin():
        local_photographer(session)
    yield made
    engine.dispose()


def _ask(sessions, kind, subject="one", **arguments):
    with sessions() as session, session.begin():
        return ask_for(session, local_photographer(session).id, kind, f"{kind} of {subject}", subject, **arguments).id


def _job(sessions, job_id):
    with sessions() as session:
        return get_job(session, local_photographer(session).id, job_id)


def _until(sessions, job_id, *states):
    for _ in range(1000):
        job = _job(sessions, job_id)
        if job.state in states:
            return job
        time.sleep(0.01)
    raise AssertionError(f"{job.state}, not {states}")


@pytest.fixture
def worker(sessions):
    over = threading.Event()

    def endless(_sessions, _owner_id, _arguments, tell):
        while tell(0.5) and not over.wait(0.005):
            pass
        raise Cancelled

    def refused(*_):
        raise InputError("grid", "That grid ends at 54.0° N.")

    def broken(*_):
        raise ZeroDivisionError

    tasks = {
        "sum": lambda _sessions, _owner_id, arguments, _tell: f"It is {arguments['one'] + arguments['other']}.",
        "endless": endless, "refused": refused, "broken": broken,
    }  # fmt: skip
    made = Worker(sessions, tasks)
    yield made
    over.set()
    made.stop()


def test_work_whose_database_went_away_is_begun_again(sessions):
    begun = []

    def cut_off(own_sessions, *_):
        begun.append(1)
        with own_sessions() as session:
            if len(begun) == 1:
                session.execute(text("select pg_terminate_backend(pg_backend_pid())"))
            return f"At the {len(begun)}nd try it is {session.scalar(text('select 3'))}."

    def always(own_sessions, *_):
        with own_sessions() as session:
            return str(session.execute(text("select pg_terminate_backend(pg_backend_pid())")))

    made = Worker(sessions, {"cut off": cut_off, "always": always})
    made.start()
    try:
        job = _until(sessions, _ask(sessions, "cut off"), JobState.DONE, JobState.FAILED)
        assert (job.state, job.message, job.tries) == (JobState.DONE, "At the 2nd try it is 3.", 2)
        # Where it never comes to an end, that is said.
        job = _until(sessions, _ask(sessions, "always"), JobState.DONE, JobState.FAILED)
        assert (job.state, job.tries) == (JobState.FAILED, 4)
        assert "database ended 3 times" in job.message
    finally:
        made.stop()


def test_work_is_done_and_says_what_came_of_it(sessions, worker):
    worker.start()
    job = _until(sessions, _ask(sessions, "sum", one=3, other=4), JobState.DONE)
    assert (job.message, job.progress, job.tries) == ("It is 7.", 1.0, 1)
    assert job.ended_at_utc >= job.asked_at_utc


@pytest.mark.parametrize(
    ("kind", "message"),
    [
        ("refused", "That grid ends at 54.0° N."),
        ("broken", "It failed on our side; nothing was changed."),
        ("unheard", "This version does not know that kind of work."),
    ],
)
def test_work_that_fails_says_so(sessions, worker, kind, message):
    worker.start()
    assert _until(sessions, _ask(sessions, kind), JobState.FAILED).message == message


def test_asked_twice_is_done_once_and_another_subject_beside_it(sessions, worker):
    first, other = _ask(sessions, "endless"), _ask(sessions, "sum", "another", one=1, other=1)
    assert _ask(sessions, "endless") == first
    worker.start()
    _until(sessions, first, JobState.RUNNING)
    _until(sessions, other, JobState.DONE)
    assert _ask(sessions, "endless") == first


def test_what_is_stopped_ends_before_its_subject_begins_anew(sessions, worker):
    worker.start()
    first = _ask(sessions, "endless")
    _until(sessions, first, JobState.RUNNING)
    with sessions() as session, session.begin():
        owner = local_photographer(session).id
        assert stop_job(session, owner, first).state == JobState.RUNNING
        second = ask_for(session, owner, "sum", "sum of one", "one", one=2, other=2).id
    assert second != first
    done, stopped = _until(sessions, second, JobState.DONE), _job(sessions, first)
    assert (stopped.state, stopped.message) == (JobState.STOPPED, "Stopped; nothing was changed.")
    assert stopped.ended_at_utc <= done.ended_at_utc


def test_what_nobody_has_begun_is_stopped_at_once(sessions):
    job_id = _ask(sessions, "sum")
    with sessions() as session, session.begin():
        owner = local_photographer(session).id
        assert stop_job(session, owner, job_id).state == JobState.STOPPED
        assert list(open_jobs(session, owner)) == []
        # What has ended stays as it ended.
        assert stop_job(session, owner, job_id).stop_wanted is True
        with pytest.raises(NotFound):
            stop_job(session, owner + 1, job_id)


def test_the_work_of_a_process_that_died_is_begun_again(sessions, worker):
    """The lock goes with its connection; a job that is marked as running, and held by nobody, is the oldest there is
    to do.
    """
    job_id = _ask(sessions, "sum", one=5, other=5)
    with sessions() as session, session.begin():
        session.get_one(Job, job_id).state = JobState.RUNNING
        session.get_one(Job, job_id).tries = 1
    engine = sessions.kw["bind"]
    with engine.connect() as holder, engine.connect() as connection:
        holder.execute(text("select pg_advisory_lock(70761, :id)"), {"id": job_id})
        assert worker.work_once(connection) is False
        # The process ends, and its connection with it.
        holder.invalidate()
    worker.start()
    job = _until(sessions, job_id, JobState.DONE)
    assert (job.message, job.tries) == ("It is 10.", 2)


def test_work_that_brings_servers_down_is_given_up(sessions, worker):
    job_id = _ask(sessions, "sum", one=5, other=5)
    with sessions() as session, session.begin():
        session.get_one(Job, job_id).tries = 3
    worker.start()
    assert "3 times" in _until(sessions, job_id, JobState.FAILED).message


def test_waiting_ends_when_there_is_work_and_when_there_will_be_none(sessions, worker, monkeypatch):
    # Neither comes of looking now and then.
    monkeypatch.setattr("lucid_ridge.operations.platform.worker._LOOK_S", 600.0)
    worker.start()
    for number in range(20):
        job = _until(sessions, _ask(sessions, "sum", f"number {number}", one=number, other=1), JobState.DONE)
        assert job.message == f"It is {number + 1}."
    worker.stop()
    assert not any(thread.name.startswith("worker ") for thread in threading.enumerate())


def test_many_workers_do_each_job_once(sessions):
    done, lock = [], threading.Lock()

    def note(_sessions, _owner_id, arguments, _tell):
        with lock:
            done.append(arguments["number"])
        return ""

    workers = [Worker(sessions, {"note": note}, threads=1) for _ in range(3)]
    for worker in workers:
        worker.start()
    ids = [_ask(sessions, "note", str(number), number=number) for number in range(30)]
    for job_id in ids:
        _until(sessions, job_id, JobState.DONE)
    for worker in workers:
        worker.stop()
    assert sorted(done) == list(range(30))


def test_a_worker_outlives_its_connections(sessions, worker, server_url):
    worker.start()
    _until(sessions, _ask(sessions, "sum", one=1, other=1), JobState.DONE)
    name = make_url(str(sessions.kw["bind"].url)).database
    admin = make_engine(server_url)
    with admin.connect() as connection:
        cut = "select count(pg_terminate_backend(pid)) from pg_stat_activity where datname = :name"
        assert connection.scalar(text(cut), {"name": name}) >= 2
    admin.dispose()
    assert _until(sessions, _ask(sessions, "sum", one=2, other=1), JobState.DONE).message == "It is 3."
    with sessions() as session:
        assert session.scalars(select(Job.tries)).all() == [1, 1]
