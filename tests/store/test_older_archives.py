"""Archives of earlier versions: their rows are brought up to date and read, with the values of today."""

import io
import json
import zipfile

import pytest
from alembic import command
from sqlalchemy import create_engine, text

from lucid_ridge.formats.archive import ArchiveWriter
from lucid_ridge.formats.errors import FormatError
from lucid_ridge.operations.accounts.photographers import local_photographer
from lucid_ridge.operations.notebook.archive import LEFT_OUT, read_archive
from lucid_ridge.store.database import alembic_config, make_engine, make_sessions, migrate
from lucid_ridge.store.ownership import owned_tables
from lucid_ridge.store.places import Element, Hazard, SeasonNote
from lucid_ridge.store.shots import Shot

# The schema of version 0.20.0.
OLD = "0027"


def _archive_of(database_url):
    """Return an archive of a notebook as the version of its schema wrote it."""
    engine, target = create_engine(database_url), io.BytesIO()
    writer = ArchiveWriter(target)
    with engine.connect() as connection:
        for name in [name for name in owned_tables(1) if name not in LEFT_OUT]:
            if connection.execute(text("select to_regclass(:name)"), {"name": name}).scalar() is None:
                continue
            found = connection.execute(text(f"select to_jsonb(it) from {name} it")).scalars().all()
            writer.table(name, [_as_written(row, writer, f"{name}-{at}") for at, row in enumerate(found)])
        revision = connection.execute(text("select version_num from alembic_version")).scalar_one()
    engine.dispose()
    writer.manifest({"application": "0.20.0", "schema": revision, "notebook": "a", "preferences": {"theme": "paper"}})
    target.seek(0)
    return target, revision


def _as_written(row, writer, name):
    said = {}
    for key, value in row.items():
        if isinstance(value, dict) and set(value) == {"version", "value"}:
            value = value["value"]
        elif isinstance(value, str) and value.startswith("\\x"):
            value = writer.file(f"{name}-{key}.bin", bytes.fromhex(value[2:]))
        if key != "owner_id":
            said[key] = value
    return said


@pytest.fixture
def old_archive(demo_database):
    engine = create_engine(demo_database)
    with engine.begin() as connection:
        connection.execute(text("update shot set hold = 'bean_bag', bracket = 'land_and_sky' where id = 1"))
    engine.dispose()
    command.downgrade(alembic_config(demo_database), OLD)
    return _archive_of(demo_database)


def _read_into_an_empty_notebook(url, source):
    migrate(url)
    engine = make_engine(url)
    with make_sessions(engine)() as session, session.begin():
        found = read_archive(session, local_photographer(session).id, source)
        shot = session.get_one(Shot, 1)
        values = {
            "shots": session.query(Shot).count(),
            "hold": shot.frame.hold.value,
            "bracket": shot.exposure.bracket.value,
            "materials": {str(item.material) for item in session.query(Element) if item.material},
            "hazards": {str(item.kind) for item in session.query(Hazard)},
            "seasons": {str(item.kind) for item in session.query(SeasonNote)},
        }
        left = session.execute(text("select count(*) from pg_namespace where nspname like 'earlier%'")).scalar_one()
    engine.dispose()
    return found, values, left


def test_an_archive_of_an_earlier_version_is_read_with_the_values_of_today(old_archive, empty_database):
    source, revision = old_archive
    assert revision == OLD
    with zipfile.ZipFile(source) as archive:
        shots = json.loads(archive.read("tables/shot.json"))
    assert next(row for row in shots if row["id"] == 1)["hold"] == "bean bag"
    source.seek(0)
    found, values, left = _read_into_an_empty_notebook(empty_database, source)
    assert values["shots"] == len(shots) == found.shots
    assert (values["hold"], values["bracket"]) == ("bean_bag", "land_and_sky")
    assert not any(" " in word for word in values["materials"] | values["hazards"] | values["seasons"])
    assert "slippery_rock" in values["hazards"]
    assert "leaf_colour" in values["seasons"]
    assert left == 0


def test_a_schema_that_is_not_known_is_refused(empty_database):
    target = io.BytesIO()
    ArchiveWriter(target).manifest({"application": "9.0", "schema": "9999", "notebook": "a", "preferences": {}})
    target.seek(0)
    with pytest.raises(FormatError, match=r"'9999'.*and earlier ones are read here"):
        _read_into_an_empty_notebook(empty_database, target)


def test_rows_that_do_not_fit_their_schema_are_refused(empty_database):
    for rows, words in (([{"id": 1, "mood": "blue"}], "lens.mood"), ([{"id": 1, "name": "A"}], "cannot be used")):
        target = io.BytesIO()
        writer = ArchiveWriter(target)
        writer.table("lens", rows)
        writer.manifest({"application": "0.20.0", "schema": OLD, "notebook": "a", "preferences": {}})
        target.seek(0)
        with pytest.raises(FormatError, match=words):
            _read_into_an_empty_notebook(empty_database, target)
