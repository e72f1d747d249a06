"""Backups of the notebook: made before whatever could lose it and once a day, thinned out with age, and read back
whole or not at all.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from pathlib import Path

from console import LOCAL, SetupError, say
from postgres import Cluster, ends_as_a_backup

FOLDER = LOCAL / "backups"
_NAME = re.compile(r"(\d{4}-\d{2}-\d{2}-\d{6})(?:-([a-z-]+))?\.sql")
_STAMP = "%Y-%m-%d-%H%M%S"
EVERY = timedelta(days=1)
# What stays: the newest whatever their age, all of some days, then one a day, then one a month.
_NEWEST, _ALL_FOR, _DAILY_FOR, _MONTHLY_FOR = 5, timedelta(days=3), timedelta(days=21), timedelta(days=730)
_ASIDE, _BEING_READ = "_before_restore", "_being_restored"


@dataclass(frozen=True)
class Backup:
    """why: before what it was made, or that it was the day's."""

    path: Path
    made: datetime
    why: str


def listed(folder: Path = FOLDER) -> list[Backup]:
    """Return the backups of a folder, the newest first; other files are left alone."""
    found = []
    for path in folder.glob("*.sql"):
        match = _NAME.fullmatch(path.name)
        if match:
            found.append(Backup(path, datetime.strptime(match[1], _STAMP), match[2] or ""))
    return sorted(found, key=lambda item: item.made, reverse=True)


def make(cluster: Cluster, database: str, why: str, folder: Path = FOLDER) -> Path:
    """Make a backup and thin out the old ones. Raises SetupError where it could not be made; then nothing is lost."""
    now = datetime.now()
    target = folder / f"{now:{_STAMP}}-{why}.sql"
    cluster.dump(database, target)
    for old in too_many(listed(folder), now):
        old.path.unlink(missing_ok=True)
    return target


def is_due(now: datetime, folder: Path = FOLDER) -> bool:
    """Whether there is no backup of the last day; what is dated in the future, by a clock that was wrong, counts for
    none.
    """
    return not any(timedelta(0) <= now - item.made < EVERY for item in listed(folder))


def too_many(backups: Sequence[Backup], now: datetime) -> list[Backup]:
    """Return which backups, the newest first, are not kept any longer. What is dated in the future is kept."""
    kept_days: set[object] = set()
    kept_months: set[object] = set()
    gone = []
    for at, item in enumerate(backups):
        age = now - item.made
        day, month = item.made.date(), (item.made.year, item.made.month)
        stays = (
            at < _NEWEST
            or age <= _ALL_FOR
            or (age <= _DAILY_FOR and day not in kept_days)
            or (age <= _MONTHLY_FOR and month not in kept_months)
        )
        kept_days.add(day)
        kept_months.add(month)
        if not stays:
            gone.append(item)
    return gone


def mend(cluster: Cluster, database: str) -> None:
    """Finish or take back a restoring that was interrupted."""
    aside = database + _ASIDE
    if not cluster.has_database(database) and cluster.has_database(aside):
        cluster.rename_database(aside, database)
        say("A restoring had been interrupted; the notebook is as it was before it.")
    for leftover in (aside, database + _BEING_READ):
        cluster.drop_database(leftover)


def restore(
    cluster: Cluster, database: str, path: Path, schema_of: Callable[[str], str], folder: Path = FOLDER
) -> Path | None:
    """Put a backup in the notebook's place; return where the notebook that it replaces is kept.

    schema_of: says of a database whether it is current, behind, ahead or none.

    Raises SetupError where anything of that fails; then the notebook is as it was.
    """
    if not path.is_file():
        raise SetupError(f"There is no backup {path}. These there are:\n{words(listed(folder))}")
    if not ends_as_a_backup(path):
        raise SetupError(f"{path} is no whole backup: its end is missing. Nothing was changed.")

    def read(name: str) -> None:
        cluster.read_in(name, path)
        state = schema_of(name)
        if state.startswith("ahead"):
            raise SetupError(
                f"{path.name} was made by a newer Lucid Ridge ({state}). Restore it with that one. Nothing was changed."
            )
        if state.startswith("none"):
            raise SetupError(f"{path.name} holds no notebook of Lucid Ridge. Nothing was changed.")

    return replace(cluster, database, read, "before-restore", folder)


# A token of its own, and whose it was: the application notes of each row that it came from there, and forgets this.
ANOTHER_TOKEN = "update notebook set token = concat_ws(' was ', gen_random_uuid()::text, token)"


def replace(
    cluster: Cluster, database: str, fill: Callable[[str], None], why: str, folder: Path = FOLDER
) -> Path | None:
    """Fill a database of its own and put it in the notebook's place; the notebook it replaces is kept as a backup,
    whose path is returned, None where there was none.

    fill: takes the name of that database, which is empty. Raises SetupError where anything of that fails; then the
    notebook is as it was.
    """
    made, aside = database + _BEING_READ, database + _ASIDE
    cluster.drop_database(made)
    cluster.create_database(made)
    try:
        fill(made)
        # Pages that are open still were opened on another notebook than this one.
        cluster.sql_in(made, ANOTHER_TOKEN)
        kept = make(cluster, database, why, folder) if cluster.has_database(database) else None
    except SetupError:
        cluster.drop_database(made)
        raise
    if kept is not None:
        cluster.rename_database(database, aside)
    cluster.rename_database(made, database)
    cluster.drop_database(aside)
    return kept


def is_whole(path: Path) -> bool:
    """Whether a file is a backup that was written to its end."""
    return path.is_file() and ends_as_a_backup(path)


def words(backups: Sequence[Backup]) -> str:
    """Return a list of backups to be read, the newest first."""
    if not backups:
        return "  none yet"
    return "\n".join(
        f"  {item.path}  {item.path.stat().st_size / 1e6:.1f} MB{f', {item.why}' if item.why else ''}"
        for item in backups
    )
