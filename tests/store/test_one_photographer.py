"""However many requests find an empty notebook at the same moment, there is one photographer."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from threading import Barrier

from sqlalchemy import func, select

from lucid_ridge.operations.accounts.photographers import local_photographer
from lucid_ridge.store.database import make_engine, make_sessions
from lucid_ridge.store.photographer import Photographer

_AT_ONCE = 4


def test_requests_at_the_same_moment_make_one_photographer(migrated_database):
    engine = make_engine(migrated_database)
    sessions = make_sessions(engine)
    together = Barrier(_AT_ONCE)

    def first_request() -> int:
        with sessions() as session:
            # All have seen that nobody is there before anyone is made.
            assert session.scalar(select(func.count()).select_from(Photographer)) == 0
            together.wait(timeout=20)
            found = local_photographer(session).id
            session.commit()
            return found

    with ThreadPoolExecutor(_AT_ONCE) as hands:
        ids = [made.result(timeout=60) for made in [hands.submit(first_request) for _ in range(_AT_ONCE)]]
    with sessions() as session:
        assert session.scalar(select(func.count()).select_from(Photographer)) == 1
    assert len(set(ids)) == 1
    engine.dispose()
