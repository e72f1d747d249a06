"""Backups: when they are due, which are kept, and reading one back, whole or not at all."""

from datetime import datetime, timedelta

import backups
import notebook
import pytest
from backups import Backup, is_due, listed, mend, restore, too_many
from console import SetupError
from hypothesis import given
from hypothesis import strategies as st
from postgres import Cluster

NOW = datetime(2026, 11, 26, 12)


def named(folder, when, why="daily"):
    folder.mkdir(exist_ok=True)
    path = folder / f"{when:%Y-%m-%d-%H%M%S}-{why}.sql"
    path.write_text("--\n-- PostgreSQL database dump complete\n--\n")
    return path


def test_a_day_without_one_is_due(tmp_path):
    assert is_due(NOW, tmp_path / "none")
    named(tmp_path, NOW - timedelta(hours=25))
    (tmp_path / "notes.sql").write_text("mine")
    assert is_due(NOW, tmp_path)
    named(tmp_path, NOW - timedelta(hours=23))
    assert not is_due(NOW, tmp_path)
    assert [item.why for item in listed(tmp_path)] == ["daily", "daily"]
    # A clock that was wrong once does not put an end to backups.
    for path in tmp_path.glob("2026*"):
        path.unlink()
    named(tmp_path, NOW + timedelta(days=900))
    assert is_due(NOW, tmp_path)


def of(*days):
    return [Backup(None, NOW - timedelta(days=age), "daily") for age in sorted(days)]


def test_old_ones_are_thinned_out():
    # Twice a day for forty days, then once a week for three years.
    made = of(*(n / 2 for n in range(80)), *range(41, 1100, 7))
    gone = too_many(made, NOW)
    kept = [item for item in made if item not in gone]
    ages = [(NOW - item.made).days for item in kept]
    # All of three days, one for each day of three weeks, one a month for two years, nothing older.
    assert sum(age <= 2 for age in ages) == 6
    assert [age for age in sorted(set(ages)) if age <= 20] == list(range(21))
    assert max(ages) <= 730
    months = {(item.made.year, item.made.month) for item in kept}
    assert len(months) == 25
    assert len(kept) < 60


@given(st.lists(st.floats(-400, 4000), max_size=40))
def test_the_newest_always_stay_and_thinning_twice_changes_nothing(ages):
    made = of(*set(ages))
    gone = too_many(made, NOW)
    kept = [item for item in made if item not in gone]
    assert kept[:5] == made[:5]
    assert too_many(kept, NOW) == []


@pytest.fixture
def book(made_cluster, tmp_path):
    """A server with a small notebook, and the folder of its backups."""
    cluster = made_cluster
    cluster.start()
    cluster.create_database("book")
    cluster.sql_in(
        "book",
        "create table notebook (token text); insert into notebook values ('first'); create table note (words "
        "text); insert into note values ('kept')",
    )
    return cluster, tmp_path / "backups"


def notes(cluster):
    return cluster.sql_in("book", "select string_agg(words, ',' order by words) from note").strip()


def test_a_backup_comes_back_and_what_it_replaces_is_kept(book):
    cluster, folder = book
    first = backups.make(cluster, "book", "asked-for", folder)
    cluster.sql_in("book", "insert into note values ('later')")
    kept = restore(cluster, "book", first, lambda _: "current 0022", folder)
    assert notes(cluster) == "kept"
    # Pages that were opened on the notebook before cannot write into this one.
    assert cluster.sql_in("book", "select token from notebook").strip() != "first"
    assert kept.name.endswith("-before-restore.sql")
    restore(cluster, "book", kept, lambda _: "current 0022", folder)
    assert notes(cluster) == "kept,later"
    assert cluster._sql("select count(*) from pg_database where datname like 'book%'").strip() == "1"
    # Data that rots on the disk is noticed.
    assert cluster._sql("show data_checksums").strip() == "on"


@pytest.mark.parametrize(
    ("content", "state", "told"),
    [
        (None, "current 1", "There is no backup"), ("create table note (words text);", "current 1", "no whole backup"),
        ("create table;\n-- PostgreSQL database dump complete\n", "current 1", "syntax error"),
        ("select 1;\n-- PostgreSQL database dump complete\n", "none", "holds no notebook"),
        ("select 1;\n-- PostgreSQL database dump complete\n", "ahead 0099", "newer Lucid Ridge"),
    ],
)  # fmt: skip
def test_what_cannot_be_read_back_changes_nothing(book, content, state, told):
    cluster, folder = book
    path = folder.parent / "given.sql"
    if content is not None:
        path.write_text(content)
    with pytest.raises(SetupError, match=told):
        restore(cluster, "book", path, lambda _: state, folder)
    assert notes(cluster) == "kept"
    assert cluster._sql("select count(*) from pg_database where datname like 'book%'").strip() == "1"


def test_an_interrupted_restoring_is_mended(book):
    cluster, _ = book
    # It ended between taking the notebook away and putting the other in its place.
    cluster.rename_database("book", "book_before_restore")
    cluster.create_database("book_being_restored")
    mend(cluster, "book")
    assert notes(cluster) == "kept"
    assert cluster._sql("select count(*) from pg_database where datname like 'book%'").strip() == "1"
    # It ended after that: the new one stays.
    cluster.create_database("book_before_restore")
    mend(cluster, "book")
    assert notes(cluster) == "kept"


def test_a_notebook_of_a_newer_application_is_refused_with_words(book, monkeypatch):
    cluster, folder = book
    monkeypatch.setattr(notebook, "DATABASE", "book")
    made = []
    monkeypatch.setattr(backups, "make", lambda _cluster, _name, why: made.append(why) or folder / "x.sql")
    monkeypatch.setattr(notebook, "schema", lambda *_: "ahead 0099")
    with pytest.raises(SetupError, match="written by a newer Lucid Ridge"):
        notebook.keep_safe(cluster, False)
    assert made == []
    for state, due, asked, why in (
        ("behind 0001", False, False, ["before-upgrade"]),
        ("behind 0001", True, True, ["before-upgrade"]),
        ("current 0022", False, False, []),
        ("current 0022", True, False, ["daily"]),
        ("current 0022", False, True, ["asked-for"]),
    ):
        made.clear()
        monkeypatch.setattr(notebook, "schema", lambda *_, state=state: state)
        monkeypatch.setattr(backups, "is_due", lambda _, due=due: due)
        notebook.keep_safe(cluster, asked)
        assert made == why


def test_what_takes_the_notebooks_place_is_whole_before_it_does(book):
    cluster, folder = book

    def half(name):
        cluster.sql_in(name, "create table notebook (token text)")
        raise SetupError("an archive that cannot be read")

    with pytest.raises(SetupError, match="cannot be read"):
        backups.replace(cluster, "book", half, "before-archive", folder)
    assert notes(cluster) == "kept"
    assert backups.listed(folder) == []

    def whole(name):
        cluster.sql_in(
            name,
            "create table notebook (token text); create table note (words text); insert into note values ('another')",
        )

    kept = backups.replace(cluster, "book", whole, "before-archive", folder)
    assert notes(cluster) == "another"
    restore(cluster, "book", kept, lambda _: "current 0022", folder)
    assert notes(cluster) == "kept"


def test_a_folder_of_another_postgresql_strands_nobody(tmp_path, monkeypatch):
    cluster = Cluster(tmp_path / "data", durable=False)
    assert not cluster.stranded
    cluster.data.mkdir()
    (cluster.data / "PG_VERSION").write_text("9\n")
    assert cluster.stranded
    with pytest.raises(SetupError, match="install postgresql-9"):
        notebook.leave_behind(cluster, None)
    with pytest.raises(SetupError, match="no whole backup"):
        notebook.leave_behind(cluster, tmp_path / "none.sql")
    assert (cluster.data / "PG_VERSION").exists()
    notebook.leave_behind(cluster, named(tmp_path / "backups", NOW))
    assert (tmp_path / "data.9" / "PG_VERSION").exists()
    assert cluster.major is None
