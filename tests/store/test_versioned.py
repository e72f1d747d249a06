"""Nested values in JSON columns: checked when written, wrapped with the version of their schema, older rows brought
along.
"""

import pytest
from alembic import command
from sqlalchemy import create_engine, text
from sqlalchemy.exc import StatementError

from lucid_ridge.operations.accounts.photographers import local_photographer
from lucid_ridge.store.database import alembic_config, make_engine, make_sessions, migrate
from lucid_ridge.store.places import Element, Location, Viewpoint


@pytest.fixture
def sessions(migrated_database):
    engine = make_engine(migrated_database)
    yield make_sessions(engine)
    engine.dispose()


def _viewpoint(session, **values):
    owner = local_photographer(session)
    location = Location(
        owner_id=owner.id, name="Here", latitude_deg=54.0, longitude_deg=-3.0, elevation_m=0.0, zone="Europe/London"
    )
    point = Viewpoint(name="Mark", location=location, **values)
    session.add(point)
    session.flush()
    return point.id


def test_a_value_is_kept_with_its_version_and_comes_back_alone(sessions):
    standing = {"corners": [(-1.0, 0.0), (1.0, 0.0), (0.0, 1.0)], "drops": [1]}
    with sessions() as session, session.begin():
        number = _viewpoint(session, skyline=[(0.0, 1.5), (180, 2)], standing=standing)
        session.add(Element(viewpoint_id=number, name="Post", bearing_deg=0, distance_m=1, width_m=1, height_m=1))
    with sessions() as session:
        raw = session.execute(text("select skyline, standing, (select course from element) from viewpoint")).one()
        assert raw[0] == {"version": 1, "value": [[0.0, 1.5], [180.0, 2.0]]}
        assert raw[1] == {"version": 1, "value": {"corners": [[-1.0, 0.0], [1.0, 0.0], [0.0, 1.0]], "drops": [1]}}
        assert raw[2] == {"version": 1, "value": []}
        assert session.get_one(Viewpoint, number).skyline == [[0.0, 1.5], [180.0, 2.0]]


@pytest.mark.parametrize("wrong", [{"skyline": [[0.0]]}, {"skyline": "level"}, {"standing": {"corners": [[0, 0]]}}])
def test_what_has_another_schema_is_refused(sessions, wrong):
    with sessions() as session, pytest.raises(StatementError, match="schema of its column"):
        _viewpoint(session, **wrong)


def test_a_version_that_is_not_known_is_not_guessed_at(sessions):
    with sessions() as session, session.begin():
        _viewpoint(session, skyline=[(0.0, 1.5)])
        session.execute(text("update viewpoint set skyline = jsonb_set(skyline, '{version}', '2')"))
    with sessions() as session, pytest.raises(RuntimeError, match="version 2"):
        session.query(Viewpoint).one()


def test_older_values_are_brought_along_and_back(empty_database):
    config = alembic_config(empty_database)
    command.upgrade(config, "0011")
    engine = create_engine(empty_database)
    with engine.begin() as connection:
        connection.execute(text("insert into photographer (id, name, theme) values (1, 'One', 'graphite')"))
        connection.execute(
            text(
                "insert into location (id, owner_id, name, latitude_deg, longitude_deg, elevation_m, zone, "
                "notes) values (1, 1, 'Here', 54, -3, 0, 'UTC', '')"
            )
        )
        connection.execute(
            text(
                "insert into viewpoint (id, location_id, name, notes, skyline) values (1, 1, 'Mark', '', "
                "'[[0, 1.5], [90, 2]]'), (2, 1, 'Two', '', null)"
            )
        )
    migrate(empty_database)
    with make_sessions(engine)() as session:
        assert [point.skyline for point in session.query(Viewpoint).order_by(Viewpoint.id)] == [
            [[0, 1.5], [90, 2]],
            None,
        ]
    command.downgrade(config, "0011")
    with engine.connect() as connection:
        assert connection.execute(text("select skyline from viewpoint order by id")).scalars().all() == [
            [[0, 1.5], [90, 2]],
            None,
        ]
    engine.dispose()
