"""Checks a whole notebook: reads every row as the application does, and plans every shot."""

from __future__ import annotations

from dataclasses import dataclass, field

from sqlalchemy import func, select, true
from sqlalchemy.exc import DBAPIError
from sqlalchemy.orm import Session

from ...core.planning.plan.shot_plan import plan_shot
from ...store.base import Base
from ...store.file_store import FilesAway
from ...store.ownership import owned_tables
from ...store.shots import Shot
from ..shots.facts import shot_facts

# Rows are fetched in batches of this size.
_AT_ONCE = 200


@dataclass
class Looked:
    """Number of rows read, and a sentence for each problem."""

    rows: int = 0
    tables: int = 0
    shots: int = 0
    troubles: list[str] = field(default_factory=list)


def look_through(session: Session, owner_id: int | None = None) -> Looked:
    """Read every row of every table with its nested values, and plan every shot. Changes nothing.

    owner_id: of an owner's rows; None: of all rows.
    """
    found = Looked()
    theirs = owned_tables(owner_id) if owner_id is not None else {}
    for table in Base.metadata.sorted_tables:
        if owner_id is not None and table.name not in theirs:
            continue
        mine = theirs[table.name][1] if table.name in theirs else true()
        found.tables += 1
        keys = list(table.primary_key.columns)
        told = 0
        try:
            # Fetching a row decodes its values.
            for _ in session.execute(select(table).where(mine).order_by(*keys).execution_options(yield_per=_AT_ONCE)):
                told += 1
            counted = session.scalar(select(func.count()).select_from(table).where(mine)) or 0
            if told != counted:
                found.troubles.append(f"{table.name}: {told} rows were read, {counted} are counted.")
        except (DBAPIError, FilesAway, RuntimeError, TypeError, ValueError, KeyError) as error:
            session.rollback()
            found.troubles.append(f"{table.name}, after {told} rows: {str(error).splitlines()[0][:300]}")
        found.rows += told
    shots = select(Shot.id, Shot.name).order_by(Shot.id)
    for shot_id, name in session.execute(shots if owner_id is None else shots.where(Shot.owner_id == owner_id)).all():
        try:
            plan_shot(shot_facts(session, session.get_one(Shot, shot_id)))
            found.shots += 1
        except Exception as error:
            session.rollback()
            found.troubles.append(
                f"Shot {shot_id}, “{name}”, cannot be planned: {type(error).__name__}: {str(error)[:300]}"
            )
    return found
