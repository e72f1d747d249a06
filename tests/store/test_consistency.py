"""The whole notebook looked through, and what the application says of a database's schema."""

import pytest
from sqlalchemy import make_url, text

from lucid_ridge.operations.notebook.consistency import look_through
from lucid_ridge.store.database import make_engine, make_sessions, migrate, schema_state


@pytest.fixture
def session(demo_engine):
    with (
        demo_engine.connect() as connection,
        connection.begin() as outer,
        make_sessions(demo_engine)(bind=connection, join_transaction_mode="create_savepoint") as made,
    ):
        yield made
        outer.rollback()


def test_the_demo_is_whole(session):
    found = look_through(session)
    assert found.troubles == []
    assert found.shots == session.scalar(text("select count(*) from shot"))
    assert found.rows > 300
    assert found.tables == session.scalar(
        text(
            "select count(*) from information_schema.tables where table_schema = 'public' and table_name <> 'alembic_version'"
        )
    )


@pytest.mark.parametrize(
    ("statement", "told"),
    [
        (
            'update viewpoint set skyline = \'{"version": 99, "value": []}\' where id = (select min(id) from viewpoint)',
            "viewpoint",
        ),
        ('update shot set frame_groups = \'{"version": 1, "value": [{}]}\' where id = 1', "cannot be planned"),
    ],
)
def test_what_is_broken_is_named(session, statement, told):
    session.execute(text(statement))
    session.flush()
    troubles = look_through(session).troubles
    assert troubles
    assert any(told in item for item in troubles)


def test_a_schema_is_none_behind_current_or_ahead(empty_database):
    assert schema_state(empty_database) == "none"
    migrate(empty_database, "0020")
    assert schema_state(empty_database) == "behind 0020"
    migrate(empty_database)
    assert schema_state(empty_database).startswith("current ")
    engine = make_engine(make_url(empty_database))
    with engine.begin() as connection:
        connection.execute(text("update alembic_version set version_num = '9999'"))
    engine.dispose()
    assert schema_state(empty_database) == "ahead 9999"
