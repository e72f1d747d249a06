"""Engine, sessions and migrations for one database address."""

from __future__ import annotations

from pathlib import Path

from alembic import command
from alembic.config import Config
from alembic.runtime.migration import MigrationContext
from alembic.script import ScriptDirectory
from sqlalchemy import Engine, create_engine
from sqlalchemy.orm import Session, sessionmaker

from .file_store import FileStore, keep_files_in

MIGRATIONS = Path(__file__).parent / "migrations"


def make_engine(database_url: str, files: FileStore | None = None) -> Engine:
    """Return an engine whose connections are checked before use, so that a restarted server causes no error. User
    input is kept out of its errors.

    files: where large files are stored outside the database; None: inside it.
    """
    engine = create_engine(database_url, pool_pre_ping=True, pool_size=8, hide_parameters=True)
    keep_files_in(engine.dialect, files)
    return engine


def open_store(database_url: str, files_address: str = "") -> sessionmaker[Session]:
    """Return sessions on a notebook.

    files_address: where large files are kept outside the database (file_store.py); empty: in it.
    """
    return make_sessions(make_engine(database_url, FileStore(files_address) if files_address else None))


def make_sessions(engine: Engine) -> sessionmaker[Session]:
    return sessionmaker(engine, expire_on_commit=False)


def alembic_config(database_url: str) -> Config:
    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS).replace("%", "%%"))
    config.attributes["database_url"] = database_url
    return config


def migrate(database_url: str, revision: str = "head") -> None:
    """Migrate the database to a revision. Called by commands, never by the application."""
    command.upgrade(alembic_config(database_url), revision)


def schema_state(database_url: str) -> str:
    """Return the state of the database's schema with its revision: none, behind, current, or ahead (unknown here)."""
    scripts = ScriptDirectory.from_config(alembic_config(database_url))
    engine = create_engine(database_url)
    try:
        with engine.connect() as connection:
            revision = MigrationContext.configure(connection).get_current_revision()
    finally:
        engine.dispose()
    if revision is None:
        return "none"
    if revision == scripts.get_current_head():
        return f"current {revision}"
    return f"{'behind' if revision in known_revisions() else 'ahead'} {revision}"


def known_revisions() -> set[str]:
    """Return the revisions of the schema, from the first to this application's."""
    return {script.revision for script in ScriptDirectory.from_config(alembic_config("")).walk_revisions()}
