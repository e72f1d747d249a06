"""The notebook's database before it is served: made, brought up to date, replaced by another, and never without a
backup.
"""

from __future__ import annotations

import argparse
import subprocess
from datetime import datetime
from pathlib import Path

import backups
from console import ROOT, SetupError, run, say
from environment import PYTHON, application_environment
from postgres import Cluster

DATABASE = "lucid_ridge"


def prepare(cluster: Cluster, options: argparse.Namespace) -> None:
    """Have the notebook that the options ask for, with the schema of this application."""
    backups.mend(cluster, DATABASE)
    if (options.check or options.save or options.merge) and not cluster.has_database(DATABASE):
        raise SetupError("There is no notebook yet.")
    replaced = None
    if options.restore:
        replaced = backups.restore(cluster, DATABASE, options.restore, lambda name: schema(cluster, name))
        say(f"{options.restore.name} is the notebook now.")
    elif options.archive:
        replaced = backups.replace(
            cluster, DATABASE, lambda name: _read_archive(cluster, name, options.archive), "before-archive"
        )
    elif options.fresh:
        replaced = backups.replace(
            cluster, DATABASE, lambda name: _fill(cluster, name, options.no_demo), "before-fresh"
        )
    if replaced:
        say(f"The old notebook is kept. To get it back: ./start --restore {near(replaced)}")
    if cluster.has_database(DATABASE):
        keep_safe(cluster, options.backup or options.merge is not None)
    else:
        cluster.create_database(DATABASE)
    # An archive of an empty notebook is meant to be empty.
    _fill(cluster, DATABASE, options.no_demo or options.archive is not None)


def leave_behind(cluster: Cluster, restored: Path | None) -> None:
    """Set a data folder aside that no PostgreSQL of this machine can read; only where a backup is to take its place."""
    told = f"The notebook was kept by PostgreSQL {cluster.major}, whose programs are not on this machine any more."
    if restored is None:
        raise SetupError(
            f"{told} Nothing was changed.\nEither install postgresql-{cluster.major} and run this again, or "
            "go on from a backup:"
            f" ./start --restore FILE keeps the old folder aside. The backups:\n{backups.words(backups.listed())}"
        )
    if not backups.is_whole(restored):
        raise SetupError(f"{restored} is no whole backup. Nothing was changed.")
    say(f"{told} Its folder is kept as {near(cluster.set_aside())}.")


def keep_safe(cluster: Cluster, asked_for: bool) -> None:
    """Make a backup before a migration, where one is asked for, and where the day's is due; refuse a notebook that a
    newer application wrote.
    """
    state = schema(cluster, DATABASE)
    if state.startswith("ahead"):
        raise SetupError(
            f"This notebook was written by a newer Lucid Ridge ({state}). Nothing was changed.\n"
            "Start that one, or put a backup of before in its place with ./start --restore FILE. The backups:\n"
            + backups.words(backups.listed())
        )
    if state.startswith("behind") or asked_for:
        say(
            "A backup was made: "
            f"{near(backups.make(cluster, DATABASE, 'before-upgrade' if state.startswith('behind') else 'asked-for'))}"
        )
    elif backups.is_due(datetime.now()):
        backups.make(cluster, DATABASE, "daily")


def daily(cluster: Cluster) -> None:
    """Make the day's backup where it is due; a day without one is said, and no reason to stop."""
    if backups.is_due(datetime.now()):
        try:
            backups.make(cluster, DATABASE, "daily")
        except (SetupError, OSError) as error:
            say(f"The day's backup could not be made; it is tried again.\n{error}")


def command(cluster: Cluster, *arguments: str) -> int:
    """Run a command of the application on the notebook; return how it ended."""
    return subprocess.run(
        [str(PYTHON), "-m", "lucid_ridge", *arguments], cwd=ROOT, env=environment(cluster), check=False
    ).returncode


def environment(cluster: Cluster, name: str = DATABASE) -> dict[str, str]:
    """Return the environment in which the application finds a database."""
    return application_environment(cluster.url(name))


def schema(cluster: Cluster, name: str) -> str:
    """Return the state of a database's schema by the application: none, behind, current or ahead, with the revision."""
    return _application(cluster, name, "schema").splitlines()[-1]


def near(path: Path) -> Path:
    """Return a path as it is named from the checkout, where it lies within."""
    return path.relative_to(ROOT) if path.is_relative_to(ROOT) else path


def _fill(cluster: Cluster, name: str, no_demo: bool) -> None:
    _application(cluster, name, "prepare", *(["--no-demo"] if no_demo else []))


def _read_archive(cluster: Cluster, name: str, path: Path) -> None:
    if not path.is_file():
        raise SetupError(f"There is no archive {path}. Nothing was changed.")
    _fill(cluster, name, no_demo=True)
    say(_application(cluster, name, "archive", "in", str(path)))


def _application(cluster: Cluster, name: str, *arguments: str) -> str:
    """Run a command of the application on a database; return its output. Raises SetupError where it fails."""
    return run([PYTHON, "-m", "lucid_ridge", *arguments], cwd=ROOT, env=environment(cluster, name)).stdout.strip()
